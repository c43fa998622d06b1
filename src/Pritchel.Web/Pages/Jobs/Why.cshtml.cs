using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Web.Desk;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>Why: for each suspect the readings for and against, for each cleared one what cleared it.</summary>
public sealed class WhyModel(JobDesk desk) : JobPageModel(desk)
{
    /// <summary>The reasons.</summary>
    public Explanation Explanation { get; private set; } = null!;

    /// <summary>Shows the reasons.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        if (await LoadToldAsync() is { } elsewhere)
        {
            return elsewhere;
        }

        Explanation = Explanation.Of(Open.Diagnosis.Beliefs);
        return Page();
    }

    /// <summary>A factor in words: "12 times likelier", "1/30 as likely".</summary>
    public static string Said(double factor) =>
        factor >= 1.05 ? $"{Round(factor)} times likelier"
        : factor > 0.95 ? "says nothing"
        : $"1/{Round(1 / factor)} as likely";

    /// <summary>What was read, as typed.</summary>
    public string Read(ProbePair at) =>
        string.Join(", ", Open.Diagnosis.Readings.Where(r => r.At == at).Select(r => TestWords.Typed(r.Taken)));

    /// <summary>Title of the test that was read.</summary>
    public string Title(ProbePair at) => TestWords.Title(Open.Kit.Plan.Plan(at, Open.Diagnosis.Situation, 0), Open.Kit);

    private static string Round(double factor) =>
        factor > 999 ? "over 1000"
        : factor < 10 ? factor.ToString("0.0", CultureInfo.InvariantCulture)
        : factor.ToString("0", CultureInfo.InvariantCulture);
}
