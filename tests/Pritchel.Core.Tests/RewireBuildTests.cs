using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Rewiring.Templates;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Tests;

/// <summary>What is told from the bay and cut off spools; jumpers that come out again; ways weighed before the first cut.</summary>
public class RewireBuildTests
{
    private static readonly CircuitTemplate Relay = CircuitTemplate.Named("accessory-relay")!;

    private static RewirePlan Added { get; } =
        Suggested(
            new RewirePlan(
                new RewireSide(
                    SideKey.Host,
                    Shipped.Tractor.Machine,
                    Shipped.Tractor.Machine.Parts.Select(p => p.Id),
                    []
                ),
                new RewireSide(SideKey.Donor, Relay.Machine(), Relay.Keeps(), []),
                []
            )
        );

    private static RewirePlan Suggested(RewirePlan plan) =>
        JoinAdvice.Suggest(plan, PlanFunctions.Of(plan)).Aggregate(plan, (p, s) => p.With(s.Join));

    private static IReadOnlyList<FlaggedEnd> Ends(RewirePlan plan) => FlaggedEnd.Of(plan, EndFunction.Of(plan));

    /// <summary>
    /// By hand from the template's own drawing: each new lead as long as drawn, a twentieth and 15 cm more, up to the centimetre.
    /// </summary>
    [Fact]
    public void A_cut_list_has_every_new_wire_with_its_slack_and_what_comes_off_each_spool()
    {
        var list = CutList.Of(Added, Marriage.Of(Added), Ends(Added));
        Assert.Contains(list.Pieces, p => p is { Spool: ("2.5 mm²", "red-white"), Laid.Value: 1.5, Cut.Value: 1.73 });
        Assert.Contains(list.Pieces, p => p is { Spool: ("2.5 mm²", "orange"), Laid.Value: 1, Cut.Value: 1.2 });
        Assert.Contains(list.Spools, s => s is { Gauge: "2.5 mm²", Colours: "orange", Metres.Value: 1.5 });
        Assert.All(list.Pieces, p => Assert.Equal(2, p.Ends.Count));
        Assert.Equal(
            list.Pieces.Select(p => p.Wire),
            Marriage
                .Of(Added)
                .Machine.Wires.Select(w => w.Id.Text)
                .Where(w => Shipped.Tractor.Machine.Index.Wire(new WireId(w)) is null)
        );
    }

    /// <summary>
    /// By hand: a tractor's engine on the stand. Its own two leads cut apart by the plug that stays behind are joined on the bench; then metal and
    /// cables; then leads, what is longest to reach first. Every join comes once, and none before a hold.
    /// </summary>
    [Fact]
    public void Joins_are_made_on_the_bench_first_then_metal_then_what_is_longest_to_reach()
    {
        var (stand, tractor) = (Shipped.Circuit("run-stand-1").Machine, Shipped.Tractor.Machine);
        string[] comes = ["starter", "magneto", "fuel-cut", "winding", "rectifier", "oil-switch", "block"];
        string[] goes = ["starter", "magneto", "fuel-cut", "winding", "rectifier", "block", "P2"];
        var bare = new RewirePlan(
            new RewireSide(SideKey.Host, stand, stand.Parts.Select(p => p.Id).Where(p => !goes.Contains(p.Text)), []),
            new RewireSide(SideKey.Donor, tractor, comes.Select(p => new PartId(p)), [new WireId("42")]),
            []
        );
        var plan = Suggested(bare)
            .With(new Join([EndKey.Parse("donor:42a@to")!.Value, EndKey.Parse("donor:42b@from")!.Value]));
        var lines = SpliceTable.Of(plan, Ends(plan));
        var order = BuildOrder.Of(plan, lines);
        Assert.Equal(lines.OrderBy(l => l.Number), order.Lines.OrderBy(l => l.Number));
        Assert.Null(order.Stages[0].Place);
        Assert.All(order.Stages[0].Lines.SelectMany(l => l.Ends), e => Assert.Equal(SideKey.Donor, e.End.Side));
        static bool IsHeavy(SpliceLine line) =>
            line.Ends.Any(e => e.End.Mount is not null || e.Gauge is "25 mm²" or "16 mm²");
        var heavy = order.Stages.Skip(1).Select(s => s.Lines.Any(IsHeavy)).ToList();
        Assert.Contains(true, heavy);
        Assert.Equal(heavy.OrderDescending(), heavy);
        var minutes = order.Stages.Skip(1).Where(s => !s.Lines.Any(IsHeavy)).Select(s => s.Place!.Minutes).ToList();
        Assert.Equal(minutes.OrderDescending(), minutes);
        var steps = SpliceTable.Steps(plan, lines, Ends(plan)).ToList();
        var hold = steps.FindIndex(s => s.StartsWith("HOLD", StringComparison.Ordinal));
        Assert.True(hold < steps.FindIndex(s => s.StartsWith("Join ", StringComparison.Ordinal)));
        Assert.Contains(steps, s => s.StartsWith("Pass through frame and grommet", StringComparison.Ordinal));
    }

    /// <summary>A lead that is 0.4 m short of its joint wants 0.4 m and slack: 0.42 + 0.15 m.</summary>
    [Fact]
    public void A_lead_that_turns_out_short_gets_an_extension_and_is_sized_by_what_was_built()
    {
        var host = Shipped.Tractor.Machine;
        var cut = new RewirePlan(
            new RewireSide(SideKey.Host, host, host.Parts.Select(p => p.Id), [new WireId("2")]),
            null,
            []
        );
        var (a, b) = (EndKey.Parse("host:2a@to")!.Value, EndKey.Parse("host:2b@from")!.Value);
        var joined = cut.With(new Join([a, b])) with { AsBuilt = new Dictionary<EndKey, Metres> { [a] = new(1.0) } };
        var piece = Assert.Single(CutList.Of(joined, Marriage.Of(joined), Ends(joined)).Pieces);
        Assert.Equal((0.4, 0.57), (Math.Round(piece.Laid.Value, 6), piece.Cut.Value));
        Assert.Equal(1.0, Marriage.Of(joined).Machine.Index.Wire(new WireId("2a"))!.LengthM, 6);
    }

    /// <summary>A jumper past the seat switch lets it run with nobody on it; out again, the machine is as it was.</summary>
    [Fact]
    public void A_jumper_is_proved_in_and_the_machine_without_it()
    {
        var host = Shipped.Tractor.Machine;
        var seat = host.Index.Part(new PartId("seat"))!;
        var cuts = host.Wires.Where(w => w.Ends.Any(e => e.At.Part == seat.Id)).Select(w => w.Id).ToList();
        var plan = new RewirePlan(
            new RewireSide(SideKey.Host, host, host.Parts.Select(p => p.Id).Where(p => p != seat.Id), []),
            null,
            []
        );
        var loose = plan.Flags.Select(f => f.End).ToList();
        Assert.Equal(cuts.Count, loose.Count);
        var jumped = plan.With(new Join(loose) { IsTemporary = true });
        Assert.True(jumped.HasJumpers);
        Assert.Empty(jumped.ForWork.Joins);
        Assert.NotEqual(
            Marriage.Of(jumped).Machine.Wires.Select(w => w.Id),
            Marriage.Of(jumped.ForWork).Machine.Wires.Select(w => w.Id)
        );
        var steps = SpliceTable.Steps(jumped, SpliceTable.Of(jumped, Ends(jumped)), Ends(jumped)).ToList();
        Assert.True(
            steps.FindIndex(s => s.StartsWith("Jumper 1", StringComparison.Ordinal))
                > steps.FindIndex(s => s.StartsWith("Try every stop", StringComparison.Ordinal))
        );
        Assert.DoesNotContain(steps, s => s.StartsWith("Join 1", StringComparison.Ordinal));
    }

    /// <summary>An adapter wants both plugs; a template has none, so that its leads are landed and cut to length.</summary>
    [Fact]
    public void Ways_are_weighed_and_what_cannot_be_done_says_why()
    {
        var ways = JoiningWays.Of(Added, []);
        Assert.Equal(4, ways.Count);
        Assert.NotNull(ways[0].Cannot);
        Assert.Null(ways[2].Cannot);
        Assert.Equal(0, ways[2].Permanent);

        var host = Shipped.Tractor.Machine;
        var plug = new PartId("P1");
        var cut = new RewirePlan(
            new RewireSide(SideKey.Host, host, host.Parts.Select(p => p.Id).Where(p => p != plug), []),
            null,
            []
        );
        var leads = JoiningWays.Of(cut, [new SuggestedJoin(new Join([.. cut.Flags.Take(2).Select(f => f.End)]), "")]);
        Assert.Equal((1, false), (leads[2].Permanent, leads[2].ComesApart));
        Assert.Empty(JoiningWays.Of(cut, []));
    }
}
