using Pritchel.Core.Rewiring;

namespace Pritchel.Web.Pages.Machines.Making;

/// <summary>What a step on a draft came to: where to go on, or why not.</summary>
/// <param name="Next">Address to go on at; null where the draft's page says what follows.</param>
/// <param name="Refused">Why nothing was changed.</param>
/// <param name="Found">What the proof found that must be looked at before it is saved.</param>
public sealed record DraftOutcome(string? Next, IReadOnlyList<DraftProblem> Refused, IReadOnlyList<ProofFinding> Found)
{
    /// <summary>No step was taken.</summary>
    public static DraftOutcome None { get; } = new(null, [], []);

    /// <summary>It was kept.</summary>
    public static DraftOutcome Kept(string next) => None with { Next = next };

    /// <summary>It was not.</summary>
    public static DraftOutcome No(params IReadOnlyList<DraftProblem> why) => None with { Refused = why };
}
