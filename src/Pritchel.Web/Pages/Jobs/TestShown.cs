using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Web.Desk;
using Pritchel.Web.Drawings;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>What the page of a job's next test shows: the test, what to stir or look at first, and the line it lies on.</summary>
public sealed class TestShown
{
    // A place is named when a look at it finds something in one case of fifty.
    private const double WorthALook = 0.02;
    private const string Loom = "loom";
    private readonly OpenJob open;

    /// <summary>For a job.</summary>
    /// <param name="open">The job.</param>
    /// <param name="wanted">Test asked for instead of the best one, or null.</param>
    /// <param name="stir">What is asked to be moved, warmed or wetted instead, or null.</param>
    /// <param name="through">Line asked for: a part, "loom" for none, or null for the most suspect.</param>
    public TestShown(OpenJob open, PlannedTest? wanted, PlannedWiggle? stir, string? through)
    {
        this.open = open;
        var diagnosis = open.Diagnosis;
        Stir = wanted is null ? stir ?? diagnosis.WiggleFirst : null;
        Test = Stir is null ? wanted ?? diagnosis.Next : Stir.Watch;
        Outlook = Test is null ? null : Outlook.Of(diagnosis.Beliefs, Test.At);
        LookFirst = Looking.Places(diagnosis.Beliefs, diagnosis.Situation, 1).FirstOrDefault(p => p.Finds > WorthALook);
        if (through != Loom)
        {
            var view = new OpenJobView(open.Machine, diagnosis);
            var lines = open.Kit.Lines.Select(l => LineDrawing.Of(view, l, Test)).ToList();
            Line = lines.Find(l => l.Path.Part?.Text == through) ?? lines.MaxBy(l => l.Suspicions().Sum(s => s.Share));
        }
    }

    /// <summary>Test shown, or null when none is left.</summary>
    public PlannedTest? Test { get; }

    /// <summary>What is to be moved, warmed or wetted while that test is watched; null where the test is the card itself.</summary>
    public PlannedWiggle? Stir { get; }

    /// <summary>What its results would point to.</summary>
    public Outlook? Outlook { get; }

    /// <summary>The place most worth a look now, when it tells more in a minute than the test would.</summary>
    public PlaceToLook? LookFirst { get; }

    /// <summary>Line drawn; null for the loom, where no line leads through what is complained of.</summary>
    public LineDrawing? Line { get; }

    /// <summary>Place to give up on when the test cannot be reached: the harder of the two.</summary>
    public string HarderPlace =>
        open.Kit.Plan.Places(Test!.At)
            .OrderBy(p => open.Diagnosis.Situation.Opened.Contains(p.Id))
            .ThenByDescending(p => p.Minutes)
            .FirstOrDefault()
            ?.Id.Text
        ?? "";
}
