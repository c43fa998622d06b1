using Microsoft.AspNetCore.Mvc.ModelBinding.Validation;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Faults;
using Pritchel.Core.Jobs;
using Pritchel.Web.Desk;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>What was looked at, or stirred, and what came of it, as chosen.</summary>
[ValidateNever]
public sealed class LookTyped
{
    /// <summary>Repair whose place was looked at, by id.</summary>
    public string? At { get; set; }

    /// <summary>What was found.</summary>
    public string? Found { get; set; }

    /// <summary>Place that was moved, warmed or wetted, by id.</summary>
    public string? Stirred { get; set; }

    /// <summary>How.</summary>
    public string? By { get; set; }

    /// <summary>Whether anything came of it.</summary>
    public bool? Changed { get; set; }

    /// <summary>Every repair of a job's machine, by name.</summary>
    public static IReadOnlyList<Repair> RepairsOf(OpenJob open) =>
        [
            .. open
                .Circuit.Faults.Select(f => f.Repair)
                .DistinctBy(r => r.Id)
                .OrderBy(r => r.Name, StringComparer.Ordinal),
        ];

    /// <summary>A look.</summary>
    public Entered Look(OpenJob open) =>
        RepairsOf(open).FirstOrDefault(r => r.Id.Text == At) is not { } seen
            ? Entered.No("Place: choose one of this machine's places from the list.")
        : !Enum.TryParse<LookFound>(Found, out var found) || !Enum.IsDefined(found)
            ? Entered.No($"What was found: choose one of {string.Join(", ", LookWords.Answers.Select(a => a.Words))}.")
        : Entered.Yes(new LookedAt(seen.Id, found));

    /// <summary>Something moved, warmed or wetted.</summary>
    public Entered Stir(OpenJob open)
    {
        var tests = open.Kit.WiggleTests;
        return WiggleWords.Read(tests, $"{Stirred};{By}") is not { } stirred
                ? Entered.No(
                    tests.Places.Any(r => r.Place.Id.Text == Stirred)
                        ? $"How: choose one of {string.Join(", ", WiggleWords.Ways.Where(w => tests.Ways.Contains(w.By)).Select(w => w.Words))}."
                        : "What was stirred: choose one of this machine's places from the list."
                )
            : Changed is not { } changed
                ? Entered.No("What came of it: choose whether it came or went, or nothing changed.")
            : Entered.Yes(new Wiggled(stirred.Reach.Place.Id, null, stirred.By, changed, null));
    }
}
