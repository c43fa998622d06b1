using Pritchel.Core.Jobs;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>What a form of a job's page comes to.</summary>
/// <param name="Happened">What is to be written into the job; null for nothing.</param>
/// <param name="Why">Why it is not entered, in words with the field and what is allowed; null where it is.</param>
public readonly record struct Entered(JobEvent? Happened, string? Why = null)
{
    /// <summary>There is nothing to write, and nothing wrong.</summary>
    public static Entered Nothing => default;

    /// <summary>It is not entered.</summary>
    public static Entered No(string why) => new(null, why);

    /// <summary>It is entered.</summary>
    public static Entered Yes(JobEvent happened) => new(happened);
}
