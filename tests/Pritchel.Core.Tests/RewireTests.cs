using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Machines cut and joined: what comes of it, what is suggested, and what a proof finds in it.</summary>
public class RewireTests
{
    private static readonly string[] TractorEngine =
    [
        "starter",
        "magneto",
        "fuel-cut",
        "winding",
        "rectifier",
        "oil-switch",
        "P3",
        "block",
    ];

    private static readonly string[] TwinEngine =
    [
        "starter",
        "magneto1",
        "diode1",
        "magneto2",
        "diode2",
        "stator",
        "regulator",
        "fuel-cut",
        "oil-switch",
        "block",
        "SP5",
    ];

    // Rows by hand for the tractor with the other family's engine: its own key, seat, brake and blades rule as before.
    private static readonly string[] TractorWithTwin =
    [
        "key=START brake=down | 0 | cranks, sparks",
        "key=START brake=up | 0 | no cranks",
        "key=START brake=down blades=engaged | 0 | no cranks",
        "key=RUN seat=occupied brake=up | 3200 | sparks, runs, charges",
        "key=RUN seat=empty brake=up | 3200 | no sparks, no runs",
        "key=RUN seat=empty brake=down | 3200 | sparks, runs",
        "key=OFF seat=occupied | 3200 | no sparks, no fuel, no runs",
        "key=OFF seat=occupied brake=down | 3200 | no sparks, no runs",
        "key=RUN | 0 | lit oil-lamp",
    ];

    private static RewireSide Without(SideKey key, string machine, params string[] gone) =>
        Shipped.Circuit(machine).Machine is var m
            ? new RewireSide(key, m, m.Parts.Select(p => p.Id).Where(p => !gone.Contains(p.Text)), [])
            : null!;

    private static RewirePlan Repower { get; } =
        new(
            Without(SideKey.Host, "orchard-tractor-4", TractorEngine),
            new RewireSide(
                SideKey.Donor,
                Shipped.Circuit("orchard-zero-turn-7").Machine,
                TwinEngine.Select(p => new PartId(p)),
                []
            ),
            []
        );

    private static RewirePlan Suggested(RewirePlan plan)
    {
        var functions = PlanFunctions.Of(plan);
        return JoinAdvice.Suggest(plan, functions).Aggregate(plan, (p, s) => p.With(s.Join));
    }

    private static RewirePlan Joined(RewirePlan plan, params string[] ends) =>
        plan.With(new Join([.. ends.Select(e => EndKey.Parse(e)!.Value)]));

    private static RewirePlan Whole => Joined(Suggested(Repower), "host:44@from", "donor:54@to");

    private static DesignProof Prove(RewirePlan plan) =>
        DesignProof.Of(
            Circuit.Compile(Marriage.Of(plan).Machine),
            Circuit.Compile(plan.Host.Whole),
            donor: plan.Donor is { } donor ? Circuit.Compile(donor.Whole) : null
        );

    [Fact]
    public void Another_familys_engine_married_by_function_does_what_the_tractor_did()
    {
        var machine = Marriage.Of(Whole).Machine;
        Assert.Empty(MachineValidator.Check(machine));
        var circuit = Circuit.Compile(machine);
        Assert.Empty(TractorWithTwin.SelectMany(row => MachineTruthTests.Wrong(circuit, row)));
        Assert.Contains(machine.Duties, d => d.Id.Text == "cranks");

        var proof = Prove(Whole);
        Assert.True(proof.IsSound, string.Join('\n', proof.Findings.Select(f => f.Words)));
        Assert.Equal(64, proof.Settings);
    }

    [Fact]
    public void Suggestions_go_by_function_and_not_by_colour()
    {
        // The donor's colours turned round among its wires: nothing changes.
        var donor = Repower.Donor!;
        var colours = donor.Machine.Wires.Select(w => w.Colours).Reverse().ToList();
        var painted = donor.Machine with
        {
            Wires = [.. donor.Machine.Wires.Select((w, i) => w with { Colours = colours[i] })],
        };
        var other = Repower with { Donor = new RewireSide(SideKey.Donor, painted, donor.Keeps, []) };
        static string[] Joins(RewirePlan plan) =>
            [.. plan.Joins.Select(j => string.Join('+', j.Ends)).Order(StringComparer.Ordinal)];
        Assert.Equal(Joins(Suggested(Repower)), Joins(Suggested(other)));
        Assert.Contains("host:24@from+donor:34@to", Joins(Suggested(Repower)));
    }

    /// <summary>A bare engine onto a stand, through studs, straps and a plug of the stand's own that is cut out.</summary>
    [Fact]
    public void A_bare_engine_on_the_stand_is_married_by_function_alone()
    {
        var plan = Suggested(
            new RewirePlan(
                Without(
                    SideKey.Host,
                    "run-stand-1",
                    "starter",
                    "magneto",
                    "fuel-cut",
                    "winding",
                    "rectifier",
                    "block",
                    "P2"
                ),
                new RewireSide(
                    SideKey.Donor,
                    Shipped.Tractor.Machine,
                    TractorEngine.Where(p => p != "P3").Select(p => new PartId(p)),
                    []
                ),
                []
            )
        );
        Assert.DoesNotContain(JoinAdvice.Flags(plan, PlanFunctions.Of(plan)), f => f.Grave);
        var circuit = Circuit.Compile(Marriage.Of(plan).Machine);
        string[] rows =
        [
            "start=pressed kill=RUN fuel=on | 0 | cranks, sparks",
            "kill=RUN fuel=on | 3200 | sparks, runs, charges, no cranks",
            "kill=STOP fuel=on | 3200 | no sparks, no runs",
            "kill=RUN fuel=off | 3200 | sparks, no runs",
        ];
        Assert.Empty(rows.SelectMany(row => MachineTruthTests.Wrong(circuit, row)));
        var proof = Prove(plan);
        Assert.True(proof.IsSound, string.Join('\n', proof.Findings.Select(f => f.Words)));

        // The stand's ground cable forgotten: the start cannot come back to the battery.
        var forgotten = plan.Without(EndKey.Parse("host:C3@to")!.Value);
        Assert.Contains(
            Prove(forgotten).Findings,
            f => f.Kind == FindingKind.Lost && f.Words.StartsWith("Cranks", StringComparison.Ordinal)
        );
    }

    public static TheoryData<string, string, string> Couplings
    {
        get
        {
            var data = new TheoryData<string, string, string>();
            foreach (
                var (machine, coupling) in new[]
                {
                    ("orchard-tractor-4", "P1"),
                    ("orchard-tractor-4", "P3"),
                    ("hill-quad-2", "P1"),
                    ("quay-scooter-3", "P3"),
                    ("tide-outboard-3", "P1"),
                    ("harbour-launch-1", "P1"),
                    ("sound-cruiser-2", "p-P1"),
                }
            )
            {
                data.Add(machine, coupling, "as it was");
            }

            return data;
        }
    }

    /// <summary>What is cut at a coupling and joined again, wire to wire, is the machine that it was.</summary>
    [Theory]
    [MemberData(nameof(Couplings))]
    public void A_coupling_cut_out_and_joined_through_changes_nothing(string machine, string coupling, string _)
    {
        var plan = Through(machine, coupling, cavities => cavities);
        var made = Circuit.Compile(Marriage.Of(plan).Machine);
        var rows = MachineTruthTests.Rows(machine).Where(r => !r.Contains("with ", StringComparison.Ordinal));
        Assert.Empty(rows.SelectMany(row => MachineTruthTests.Wrong(made, row)));
        var proof = DesignProof.Of(made, Shipped.Circuit(machine));
        Assert.DoesNotContain(proof.Rows, r => r.IsWrong && r.Before!.Opened.Count == 0);
        Assert.True(proof.IsSound, string.Join('\n', proof.Findings.Select(f => f.Words)));

        // And that is what is suggested, cavity by cavity.
        static IEnumerable<string> Joins(RewirePlan of) =>
            of
                .Joins.Select(j => string.Join('+', j.Ends.Select(e => e.Text).Order(StringComparer.Ordinal)))
                .Order(StringComparer.Ordinal);
        Assert.Equal(Joins(plan), Joins(Suggested(plan with { Joins = [] })));
        Assert.DoesNotContain(JoinAdvice.Flags(plan, PlanFunctions.Of(plan)), f => f.Grave);
    }

    /// <summary>The classic mistake: the drawing of a plug mirrored.</summary>
    [Theory]
    [InlineData("orchard-tractor-4", "P3")]
    [InlineData("orchard-tractor-4", "P1")]
    [InlineData("hill-quad-2", "P1")]
    [InlineData("tide-outboard-3", "P1")]
    public void A_mirrored_plug_is_caught(string machine, string coupling)
    {
        var plan = Through(machine, coupling, cavities => [.. cavities.Reverse()]);
        var proof = DesignProof.Of(Circuit.Compile(Marriage.Of(plan).Machine), Shipped.Circuit(machine));
        Assert.False(proof.IsSound);
    }

    private static RewirePlan Through(
        string machine,
        string coupling,
        Func<IReadOnlyList<string>, IReadOnlyList<string>> order
    )
    {
        var side = Without(SideKey.Host, machine, coupling);
        var part = side.Machine.Index.Part(new PartId(coupling))!;
        var ends = side.LooseEnds.ToLookup(e => side.Machine.Index.TerminalOf(e.Wire!.Value)!.Value.Terminal);
        var cavities = Cavity
            .Of(part)
            .Where(c => ends[c.A.Terminal].Any() && ends[c.B.Terminal].Any())
            .Select(c => c.Name)
            .ToList();
        var others = order(cavities);
        return cavities
            .Select((c, i) => new Join([.. ends[Cavity.Terminal(c, 0)], .. ends[Cavity.Terminal(others[i], 1)]]))
            .Aggregate(new RewirePlan(side, null, []), (plan, join) => plan.With(join));
    }

    [Fact]
    public void A_chewed_wire_cut_out_and_joined_is_as_it_was_and_left_open_is_missed()
    {
        var machine = Shipped.Tractor.Machine;
        var side = new RewireSide(SideKey.Host, machine, machine.Parts.Select(p => p.Id), [new WireId("24")]);
        var open = new RewirePlan(side, null, []);
        Assert.Equal(["host:24a@to", "host:24b@from"], open.Flags.Select(f => f.End.Text));
        Assert.Contains(
            Prove(open).Findings,
            f => f.Kind == FindingKind.Hazard && f.Words.StartsWith("Is not stopped", StringComparison.Ordinal)
        );

        var mended = Joined(open, "host:24a@to", "host:24b@from");
        Assert.True(Prove(mended).IsSound);
    }

    [Fact]
    public void A_kill_joined_to_a_feed_is_flagged_and_proved_to_burn()
    {
        // The tractor's own kill and fuel leads, cut and crossed: no diode stands before this magneto.
        var machine = Shipped.Tractor.Machine;
        var side = new RewireSide(
            SideKey.Host,
            machine,
            machine.Parts.Select(p => p.Id),
            [new WireId("24"), new WireId("13")]
        );
        var crossed = Joined(
            Joined(new RewirePlan(side, null, []), "host:13a@to", "host:24a@to"),
            "host:24b@from",
            "host:13b@from"
        );
        Assert.Contains(
            JoinAdvice.Flags(crossed, PlanFunctions.Of(crossed)),
            f => f is { Grave: true, Join: not null } && f.Words.Contains("kill", StringComparison.Ordinal)
        );
        Assert.Contains(
            Prove(crossed).Findings,
            f =>
                f.Kind == FindingKind.Hazard
                && f.Words.StartsWith("Battery volts on the kill lead of magneto", StringComparison.Ordinal)
        );
    }

    [Theory]
    [InlineData("host:24@from", "Is not stopped", FindingKind.Hazard)]
    [InlineData("host:C4@to", "Cranks no more", FindingKind.Lost)]
    [InlineData("host:C2@to", "Cranks no more", FindingKind.Lost)]
    [InlineData("host:13@to", "Runs no more", FindingKind.Lost)]
    [InlineData("host:44@from", "The battery is not charged", FindingKind.Lost)]
    public void A_join_forgotten_is_told_by_what_it_takes_away(string end, string words, FindingKind kind)
    {
        var forgotten = Whole.Without(EndKey.Parse(end)!.Value);
        Assert.Contains(JoinAdvice.Flags(forgotten, PlanFunctions.Of(forgotten)), f => f.End?.Text == end);
        Assert.Contains(
            Prove(forgotten).Findings,
            f => f.Kind == kind && f.Words.StartsWith(words, StringComparison.Ordinal)
        );
    }

    [Fact]
    public void Feeds_of_two_switches_joined_are_flagged_and_those_of_one_are_not()
    {
        // Key A is live in RUN and LIGHTS and START, key R not in START.
        IReadOnlyList<JoinFlag> Flags(params string[] ends)
        {
            var plan = Joined(Whole, ends);
            return JoinAdvice.Flags(plan, PlanFunctions.Of(plan));
        }

        static bool Both(JoinFlag flag) =>
            flag is { Grave: true, Join: not null } && flag.Words.StartsWith("Both", StringComparison.Ordinal);
        Assert.Contains(Flags("host:13@to", "host:44@from", "donor:14@from"), Both);
        Assert.DoesNotContain(Flags("host:13@to", "donor:14@from"), Both);
    }

    /// <summary>An oil switch of the tractor's becomes a sender with the engine that comes: the lamp would never go out.</summary>
    [Fact]
    public void A_sender_where_a_switch_belongs_is_flagged()
    {
        var donor = Repower.Donor!;
        var sender = donor.Machine with
        {
            Parts = [.. donor.Machine.Parts.Select(p => p.Id.Text == "oil-switch" ? p with { Kind = "sender" } : p)],
        };
        var plan = Suggested(Repower with { Donor = new RewireSide(SideKey.Donor, sender, donor.Keeps, []) });
        Assert.Null(plan.JoinOf(EndKey.Parse("host:21@to")!.Value));
        var joined = Joined(plan, "host:21@to", "donor:27@from");
        Assert.Contains(
            JoinAdvice.Flags(joined, PlanFunctions.Of(joined)),
            f => f is { Grave: true, Join: not null } && f.Words.Contains("sender", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void Flags_are_numbered_once_through_both_sides()
    {
        Assert.Equal(Enumerable.Range(1, 12), Repower.Flags.Select(f => f.Flag));
        Assert.All(Repower.Flags, f => Assert.Equal(f.End, EndKey.Parse(f.End.Text)));
        Assert.Null(EndKey.Parse("nobody:1@to"));
    }
}
