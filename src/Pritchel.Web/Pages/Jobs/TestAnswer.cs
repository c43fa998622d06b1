using Microsoft.AspNetCore.Mvc.ModelBinding.Validation;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Observables;
using Pritchel.Web.Desk;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>What the form of a job's next test answers, as typed: a figure, what would not be read, what was stirred.</summary>
[ValidateNever]
public sealed class TestAnswer
{
    /// <summary>Reading as typed; kept when refused.</summary>
    public string? Typed { get; set; }

    /// <summary>Whether the symptom was there, as chosen.</summary>
    public string? Symptom { get; set; }

    /// <summary>Condition of the test answered.</summary>
    public int? Condition { get; set; }

    /// <summary>Address under the red probe.</summary>
    public string? Red { get; set; }

    /// <summary>Address under the black probe.</summary>
    public string? Black { get; set; }

    /// <summary>What was moved, warmed or wetted: "place;how" or "place;how;repair".</summary>
    public string? Stirring { get; set; }

    /// <summary>The test answered; null where the form names none.</summary>
    public TestAsked? Test =>
        Condition is { } condition ? new TestAsked(condition, PointId.Of(Red ?? ""), PointId.Of(Black ?? "")) : null;

    /// <summary>Whether the symptom was there; null where what was chosen is none of the answers.</summary>
    public SymptomNow? Watched =>
        string.IsNullOrEmpty(Symptom) ? SymptomNow.Present
        : Enum.TryParse<SymptomNow>(Symptom, out var watched) && Enum.IsDefined(watched) ? watched
        : null;

    /// <summary>The figure typed.</summary>
    public Entered Reading(OpenJob open) =>
        At(
            open,
            (at, watched) =>
                ObservableCatalogue.Named(at.Condition.Observable)!.Read(Typed, out var error) is { } figure
                    ? Entered.Yes(new ReadingTaken(at, Typed!.Trim(), figure.Value, watched))
                    : Entered.No("Reading: " + error)
        );

    /// <summary>A figure that would not stand still.</summary>
    public Entered Jumps(OpenJob open) =>
        At(open, (at, watched) => Entered.Yes(new ReadingTaken(at, "jumps", null, watched)));

    /// <summary>A reading that cannot be taken, or not be trusted.</summary>
    /// <param name="open">The job.</param>
    /// <param name="place">Place that cannot be reached; null where it is the reading that is not trusted.</param>
    public Entered PassedBy(OpenJob open, string? place) =>
        At(
            open,
            (at, _) =>
                Entered.Yes(
                    place is null
                        ? new TestPassedOver(at, null, PassedOver.NotSure)
                        : new TestPassedOver(at, new PlaceId(place), PassedOver.CannotReach)
                )
        );

    /// <summary>Something moved, warmed or wetted, while the test answered was watched.</summary>
    public Entered Stirred(OpenJob open, bool? changed) =>
        WiggleWords.Read(open.Kit.WiggleTests, Stirring) is { } stirred && changed is { } came
            ? Entered.Yes(
                new Wiggled(
                    stirred.Reach.Place.Id,
                    stirred.Reach.Alone?.Id,
                    stirred.By,
                    came,
                    Test?.PairIn(open) is { } at ? open.Kit.Told(at) : null
                )
            )
            : Entered.No("What was stirred: choose a place of this machine, how, and whether anything changed.");

    /// <summary>A place to be stirred that cannot be reached.</summary>
    public Entered CannotStir(OpenJob open, string? place)
    {
        var ground = open.Kit.Points.Grounds[0].Node;
        return open.Kit.WiggleTests.Find(new PlaceId(place ?? ""), null) is null
            ? Entered.No("Place: not one of this machine's.")
            : Entered.Yes(
                new TestPassedOver(
                    open.Kit.Told(Test?.PairIn(open) ?? new ProbePair(0, ground, ground)),
                    new PlaceId(place!),
                    PassedOver.CannotReach
                )
            );
    }

    /// <summary>What the page was asked to have stirred, or what was sent and refused; null for none.</summary>
    public PlannedWiggle? Stir(OpenJob open, string? wanted) =>
        WiggleWords.Read(open.Kit.WiggleTests, wanted ?? Stirring) is { } asked
            ? open.Kit.WiggleTests.Plan(open.Diagnosis.Beliefs, open.Diagnosis.Situation, asked.Reach, asked.By)
            : null;

    private Entered At(OpenJob open, Func<ProbedAt, SymptomNow, Entered> answer) =>
        Test?.PairIn(open) is not { } pair
            ? Entered.No("The test answered is not one of this machine's; the one asked now is below.")
        : Watched is not { } watched ? Entered.No("Symptom there: choose yes, no, or nobody tried.")
        : answer(open.Kit.Told(pair) with { Red = Test.Red, Black = Test.Black }, watched);
}
