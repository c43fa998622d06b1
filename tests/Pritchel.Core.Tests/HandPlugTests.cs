using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Rewiring.Plugs;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Plugs drawn by hand are machines like any other.</summary>
public class HandPlugTests
{
    private static readonly HandLead[] All =
    [
        Lead("1", LeadFunction.BatteryFeed),
        Lead("2", LeadFunction.IgnitionFeed),
        Lead("3", LeadFunction.StartFeed),
        Lead("4", LeadFunction.Ground),
        Lead("5", LeadFunction.Kill),
        Lead("6", LeadFunction.ChargeWinding),
        Lead("7", LeadFunction.ChargeWinding),
        Lead("8", LeadFunction.OilSwitch),
        Lead("9", LeadFunction.Sender),
        Lead("10", LeadFunction.FuelFeed),
        Lead("11", LeadFunction.LightingWinding),
        Lead("12", LeadFunction.Unknown),
        Lead("A", LeadFunction.Pickup),
        Lead("B", LeadFunction.Kill),
    ];

    /// <summary>By hand: a machine's half gives feeds, grounds and what stops; it waits for what an engine makes.</summary>
    [Theory]
    [InlineData("1", EndKind.BatteryFeed, true)]
    [InlineData("2", EndKind.SwitchedFeed, true)]
    [InlineData("3", EndKind.StartFeed, true)]
    [InlineData("4", EndKind.Ground, true)]
    [InlineData("5", EndKind.GroundToKill, true)]
    [InlineData("6", EndKind.Alternating, false)]
    [InlineData("7", EndKind.Alternating, false)]
    [InlineData("10", EndKind.SwitchedFeed, true)]
    [InlineData("11", EndKind.Alternating, false)]
    [InlineData("12", EndKind.Signal, false)]
    [InlineData("A", EndKind.Signal, false)]
    [InlineData("B", EndKind.GroundToKill, true)]
    public void What_its_leads_are_for_is_found_by_solving_it(string cavity, EndKind kind, bool ofMachine)
    {
        foreach (var half in Enum.GetValues<PlugHalf>())
        {
            var function = Functions(half).Single(f => CavityOf(half, f) == cavity);
            Assert.Equal(kind, function.Kind);
            if (kind is not (EndKind.Ground or EndKind.Signal))
            {
                Assert.Equal(half == PlugHalf.OfMachine ? ofMachine : !ofMachine, function.Gives);
            }
        }
    }

    [Theory]
    [InlineData(PlugHalf.OfMachine)]
    [InlineData(PlugHalf.OfEngine)]
    public void It_is_a_sound_machine_that_its_file_keeps(PlugHalf half)
    {
        var machine = new HandPlug(half, All).Machine(new MachineId("plug-1"), "a plug");
        Assert.Empty(MachineValidator.Check(machine));
        var text = MachineFile.Write(machine);
        Assert.Equal(text, MachineFile.Write(MachineFile.Read(text).Machine!));

        // Whole as it was, it works as such machines do.
        var circuit = Circuit.Compile(machine);
        var start = Shipped.Setting(circuit, ("key", "START"));
        var outcome = Outcome.Of(new Case { Circuit = circuit, Settings = [circuit.Setting(null), start] });
        Assert.True(Assert.Single(outcome.Cranks).Value > 0.7);
    }

    /// <summary>Its two halves fit each other lead by lead, whatever the colours say, and its strap is not forgotten.</summary>
    [Fact]
    public void Its_halves_marry_each_other()
    {
        var leads = All.Where(l => l.Function is not (LeadFunction.FuelFeed or LeadFunction.Unknown)).ToArray();
        var other = leads.Select(l => l with { Cavity = "x" + l.Cavity, Colours = ["pink"] }).Reverse().ToArray();
        var plan = RewireSketch
            .Start(Of(PlugHalf.OfMachine, leads, "host"), Of(PlugHalf.OfEngine, other, "donor"))
            .On(Of(PlugHalf.OfMachine, leads, "host"), Of(PlugHalf.OfEngine, other, "donor"));
        var functions = EndFunction.Of(plan);
        var suggested = JoinAdvice.Suggest(plan, PlanFunctions.Of(plan));
        foreach (var join in suggested.Where(s => s.Join.Onto is null).Select(s => s.Join.Ends))
        {
            var kinds = join.Select(e => functions.Single(f => f.End == e).Kind).Distinct();
            Assert.Single(kinds);
        }

        // Feeds, start, ground, charge and pickup are one of each; two kills fit alike, and nobody can tell which is which.
        Assert.True(suggested.Count >= 6, $"{suggested.Count} joins");
    }

    /// <summary>A kill and a start lead meet in one key: that one was guessed says nothing of the other that was followed.</summary>
    [Fact]
    public void A_guess_is_the_lead_s_own_and_not_that_of_the_key_behind_it()
    {
        HandLead[] machine =
        [
            Lead("2", LeadFunction.StartFeed),
            Lead("1", LeadFunction.Kill) with
            {
                Known = HowKnown.ByColour,
            },
        ];
        HandLead[] engine = [Lead("1", LeadFunction.Kill), Lead("2", LeadFunction.StartFeed)];
        var (host, donor) = (Of(PlugHalf.OfMachine, machine, "host"), Of(PlugHalf.OfEngine, engine, "donor"));
        var plan = RewireSketch.Start(host, donor).On(host, donor);
        var functions = EndFunction.Of(plan);
        plan = JoinAdvice.Suggest(plan, PlanFunctions.Of(plan)).Aggregate(plan, (p, s) => p.With(s.Join));
        var guessed = Assert.Single(
            JoinAdvice.Flags(plan, PlanFunctions.Of(plan)),
            f => f.Words.Contains("guessed by its colour", StringComparison.Ordinal)
        );
        Assert.True(guessed.Grave);
        Assert.All(guessed.Join!.Ends, e => Assert.Equal(EndKind.GroundToKill, functions.Single(f => f.End == e).Kind));
    }

    /// <summary>A winding's lead left over is no dead stub: it is live whenever the engine turns.</summary>
    [Fact]
    public void A_winding_left_over_is_said_to_be_live()
    {
        var engine = Of(PlugHalf.OfEngine, [Lead("1", LeadFunction.ChargeWinding)], "donor");
        var plan = RewireSketch.Start(Shipped.Tractor.Machine, engine).On(Shipped.Tractor.Machine, engine);
        Assert.Contains(
            JoinAdvice.Flags(plan, PlanFunctions.Of(plan)),
            f => f.Words.Contains("live whenever the engine turns", StringComparison.Ordinal)
        );
    }

    [Theory]
    [InlineData("", "red", LeadFunction.Kill, "Cavity")]
    [InlineData("1 b", "red", LeadFunction.Kill, "Cavity")]
    [InlineData("١", "red", LeadFunction.Kill, "Cavity")]
    [InlineData("1", "crimson", LeadFunction.Kill, "colour")]
    [InlineData("2", "red", LeadFunction.Kill, "told 2 times")]
    [InlineData("1", "red", LeadFunction.StartFeed, "1 at most")]
    public void What_cannot_be_drawn_is_refused(string cavity, string colour, LeadFunction function, string says)
    {
        var plug = new HandPlug(
            PlugHalf.OfEngine,
            [new HandLead(cavity, [colour], function), Lead("2", LeadFunction.StartFeed)]
        );
        Assert.Contains(plug.Check(), p => p.Message.Contains(says, StringComparison.Ordinal));
    }

    /// <summary>
    /// By hand: coupling P3 of the tractor has four cavities with a wire on both halves (13 and 14 in the first). Cut off, each half
    /// is four leads to cap; joined through, the first goes to its join; from the other face the row runs the other way.
    /// </summary>
    [Fact]
    public void What_is_cut_at_a_plug_is_mapped_from_both_faces()
    {
        var tractor = Shipped.Read("orchard-tractor-4");
        var keeps = tractor.Parts.Select(p => p.Id).Where(p => p != new PartId("P3"));
        var plan = new RewirePlan(new RewireSide(SideKey.Host, tractor, keeps, []), null, []);
        IReadOnlyList<CutPlug> Map(RewirePlan of)
        {
            var ends = FlaggedEnd.Of(of, EndFunction.Of(of));
            return CutMap.Of(of, ends, SpliceTable.Of(of, ends));
        }

        var apart = Map(plan);
        Assert.Equal(2, apart.Count);
        Assert.All(apart, h => Assert.Equal(["1", "2", "3", "4"], h.FromTheWires.Single().Select(l => l.Cavity)));
        Assert.All(apart, h => Assert.Equal(["4", "3", "2", "1"], h.IntoItsFace.Single().Select(l => l.Cavity)));
        Assert.All(apart.SelectMany(h => h.Leads), l => Assert.Equal(LeadFate.Capped, l.Fate));

        EndKey End(string wire) => plan.Flags.Select(f => f.End).Single(e => e.Wire?.Wire == new WireId(wire));
        var joined = Map(plan.With(new Join([End("13"), End("14")])));
        Assert.All(
            joined,
            h =>
            {
                Assert.Equal((LeadFate.Joined, 1), (h.Leads[0].Fate, h.Leads[0].Join));
                Assert.All(h.Leads.Skip(1), l => Assert.Equal(LeadFate.Capped, l.Fate));
            }
        );
    }

    private static HandLead Lead(string cavity, LeadFunction function) => new(cavity, ["red"], function);

    private static Machine Of(PlugHalf half, IReadOnlyList<HandLead> leads, string id) =>
        new HandPlug(half, leads).Machine(new MachineId(id), id);

    private static string? CavityOf(PlugHalf half, EndFunction function) =>
        function.End.Wire is { } wire
        && Of(half, All, "plug").Index.TerminalOf(wire) is { } at
        && at.Part == new PartId("plug")
            ? Cavity.NameOf(at.Terminal)
            : null;

    private static IReadOnlyList<EndFunction> Functions(PlugHalf half)
    {
        var machine = Of(half, All, "plug");
        return EndFunction.Of(
            new RewirePlan(new RewireSide(SideKey.Host, machine, HandPlug.Own(machine)!, []), null, [])
        );
    }
}
