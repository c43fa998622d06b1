using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>What the tests of an ignition share: its kill leads, what comes off at the coil, where a tester sits.</summary>
internal sealed class KillWiring
{
    private readonly TestedDuty tested;

    public KillWiring(TestedDuty tested)
    {
        this.tested = tested;
        Leads = tested.Circuit.KillLeads;
        AtCoil = tested.Circuit.EndsAtNodes(Leads.Select(l => l.Kill).ToHashSet());
        Loose = [.. AtCoil.Select(e => tested.Circuit.NodeOf(e)).Distinct()];
    }

    /// <summary>Kill terminals of the machine's coils.</summary>
    public IReadOnlyList<KillTerminal> Leads { get; }

    /// <summary>Wire ends on those terminals: off at the coil.</summary>
    public IReadOnlyList<Disconnection> OffAtCoil => [.. AtCoil.Select(e => (Disconnection)e)];

    /// <summary>Wire ends on those terminals.</summary>
    public List<WireEndId> AtCoil { get; }

    /// <summary>Their own metal, loose.</summary>
    public List<int> Loose { get; }

    /// <summary>What kill leads are read to.</summary>
    public int Ground => Leads[0].Ground;

    /// <summary>A spark on a tester in the plug's place.</summary>
    public Condition Sparking(IReadOnlyList<Disconnection> off, string words)
    {
        var load = tested.Circuit.NodeOf(tested.Load.At(tested.Load.Terminals[0]));
        return tested.Turning(
            tested.Own,
            DutySpeed.Crank,
            SparkSeen.Instance,
            [(load, Leads.Count > 0 ? Ground : tested.Circuit.Reference)],
            words
        ) with
        {
            Off = off,
            Tester = SparkTesterAt.PlugLead,
        };
    }

    /// <summary>Ohms to ground.</summary>
    public Condition Ohms(
        ControlSetting setting,
        IReadOnlyList<Disconnection> off,
        IEnumerable<int> reds,
        string words
    ) =>
        tested.Dead(
            setting,
            off,
            [.. reds.Where(r => r != Ground).Select(r => (r, Ground))],
            $"{words} · {setting.Words(tested.Machine)}"
        );

    /// <summary>Couplings that the kill leads pass and switches they end at: each apart, or its wire pulled off.</summary>
    public IEnumerable<(Disconnection Off, string Words)> Halves()
    {
        var (circuit, machine) = (tested.Circuit, tested.Machine);
        var metal = circuit.Topology.KillMetal().ToHashSet();
        foreach (
            var coupling in circuit.Couplings().Where(p => p.Addresses.Any(a => metal.Contains(circuit.NodeOf(a))))
        )
        {
            yield return (coupling.Id, $"{coupling.Name} apart");
        }

        foreach (var wire in machine.Wires)
        {
            foreach (var (end, at) in wire.Ends)
            {
                if (circuit.Is(at.Part, Wiring.Contacts) && metal.Contains(circuit.NodeOf(at)) && !AtCoil.Contains(end))
                {
                    yield return (end, Wiring.Pulled(wire, machine.Index.PartAt(at)!)[2..]);
                }
            }
        }
    }
}

/// <summary>A spark on a tester in the plug's place: as things are, with every kill wire off at its coil, and with half of them off.</summary>
public sealed class SparkOnTester : Procedure
{
    /// <inheritdoc/>
    public override string Key => "spark-on-tester";

    /// <inheritdoc/>
    public override string Why =>
        "a tester's gap takes the plug out of the question, a kill wire off takes the kill out";

    /// <inheritdoc/>
    public override int Rank => 100;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        if (tested.Effect != EffectKind.Sparks)
        {
            yield break;
        }

        var kill = new KillWiring(tested);
        yield return kill.Sparking([], "spark tester on the plug lead");
        if (tested.Circuit.Opening.Replaced(SparkTesterAt.PlugLead).Any())
        {
            // What sparks on a tester and not on its own plug is the plug, however near to weak it was when first looked at.
            yield return kill.Sparking([], "its own plug out, held to the block in its cap") with
            {
                Tester = SparkTesterAt.Nowhere,
            };
        }

        if (kill.Leads.Count > 0)
        {
            yield return kill.Sparking(kill.OffAtCoil, "kill wire off at the coil, spark tester on the plug lead");

            // Damp that only the ignition's hundreds of volts cross is seen by the spark alone.
            foreach (var (off, words) in kill.Halves())
            {
                yield return kill.Sparking([off], words + ", spark tester on the plug lead");
            }
        }
    }
}

/// <summary>
/// The spark before lead and cap have had their share: where the coil has a tower that the lead comes off, and someone can
/// be there while the engine turns.
/// </summary>
public sealed class SparkAtCoil : Procedure
{
    /// <inheritdoc/>
    public override string Key => "spark-at-coil";

    /// <inheritdoc/>
    public override string Why => "a spark at the tower that the lead does not bring on is lost in lead or cap";

    /// <inheritdoc/>
    public override int Rank => 101;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        var tower = new TerminalId("ht");
        if (
            tested.Effect == EffectKind.Sparks
            && tested.Load.Terminals.Contains(tower)
            && !tested.Circuit.Is(tested.Load.Id, PartTraits.LeadMouldedIn)
            && MachineWords.PlaceOf(tested.Machine, tested.Load).EngineMayTurn
        )
        {
            var sparking = new KillWiring(tested).Sparking([], "spark tester at the coil, plug lead off");
            yield return sparking with
            {
                Tester = SparkTesterAt.Coil,
                Pairs = [(tested.Circuit.NodeOf(tested.Load.At(tower)), sparking.Pairs![0].Black)],
            };
        }
    }
}

/// <summary>Kill leads to ground by ohms and by ear: off at the coil and on, half by half, and where they go through a diode.</summary>
public sealed class KillLeadToGround : Procedure
{
    /// <inheritdoc/>
    public override string Key => "kill-lead-to-ground";

    /// <inheritdoc/>
    public override string Why => "a kill lead finds ground where it must stop the engine, and nowhere else";

    /// <inheritdoc/>
    public override int Rank => 102;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        var (circuit, kill) = (tested.Circuit, new KillWiring(tested));
        if (tested.Effect != EffectKind.Sparks || kill.Leads.Count == 0)
        {
            yield break;
        }

        const string Off = "kill wire off at the coil";
        var along = circuit
            .Topology.KillMetal()
            .Concat(kill.Leads.SelectMany(l => OnTheWay(tested, l)))
            .Except(kill.Leads.Select(l => l.Kill))
            .Concat(kill.Loose)
            .Distinct()
            .Order()
            .ToList();
        foreach (var setting in new[] { tested.Own, tested.Rest }.Distinct())
        {
            var off = kill.Ohms(setting, kill.OffAtCoil, along, Off);
            yield return off;
            yield return TestedDuty.ByEar(off);
            yield return kill.Ohms(setting, [], kill.Leads.Select(l => l.Kill).Distinct(), "kill wire left on");
        }

        // Where a kill goes through a diode, ohms are silent and only the diode range shows it whole.
        var diodes = circuit.Topology.KillDiodes().SelectMany(d => d);
        yield return kill.Ohms(tested.Own, kill.OffAtCoil, kill.Loose.Concat(diodes).Distinct(), Off) with
        {
            Observable = DiodeVolts.Instance,
        };
        foreach (var (half, words) in kill.Halves())
        {
            yield return kill.Ohms(tested.Own, [.. kill.OffAtCoil, half], kill.Loose, $"{Off}, {words}");
            if (half.Coupling is { } apart)
            {
                // Quicker than at the coil, and as good for all that lies on this side of it.
                var coupling = tested.Machine.Index.Part(apart)!;
                var sides = coupling
                    .Addresses.Select(a => circuit.NodeOf(a))
                    .Intersect(circuit.Topology.KillMetal())
                    .ToList();
                var seen = kill.Ohms(tested.Own, [half], sides, words);
                yield return seen;
                yield return TestedDuty.ByEar(seen);
                yield return kill.Ohms(tested.Rest, [half], sides, words);
            }
        }
    }

    /// <summary>Terminals on the way that a kill lead takes to ground in the duty's setting.</summary>
    private static IEnumerable<int> OnTheWay(TestedDuty tested, KillTerminal lead)
    {
        var circuit = tested.Circuit;
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(tested.Own);
        var part = circuit.TerminalsAt(lead.Kill).First().Part;
        return LinePath
            .Between(state, part, lead.Kill, lead.Ground)
            .Nodes.Where(n => n != lead.Ground && circuit.IsTerminal(n));
    }
}

/// <summary>From each ignition unit's ground terminal to battery negative, or to the block without a battery, wire by wire.</summary>
public sealed class UnitGrounds : Procedure
{
    /// <inheritdoc/>
    public override string Key => "unit-grounds";

    /// <inheritdoc/>
    public override string Why => "a module that has lost its ground is dead with everything else whole";

    /// <inheritdoc/>
    public override int Rank => 103;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        var reference = tested.Circuit.Reference;
        var nodes =
            tested.Effect != EffectKind.Sparks
                ? []
                : tested
                    .Circuit.KillLeads.Where(l => l.Ground != reference)
                    .SelectMany(l => LinePath.Between(tested.AtRest, null, l.Ground, reference).Nodes)
                    .Where(n => n != reference)
                    .Distinct()
                    .ToList();
        if (nodes.Count > 0)
        {
            yield return tested.Dead(
                tested.Rest,
                [],
                [.. nodes.Select(n => (n, reference))],
                "along the ignition unit's ground · " + tested.Rest.Words(tested.Machine)
            );
        }
    }
}

/// <summary>
/// Switch contacts that a kill lead can find ground through, one behind another, each with its wires off on the coil's
/// side: read by itself, it tells which of several side by side is made.
/// </summary>
public sealed class KillContacts : Procedure
{
    /// <inheritdoc/>
    public override string Key => "kill-contacts";

    /// <inheritdoc/>
    public override string Why => "a contact by itself says whether it is the one that grounds, or fails to";

    /// <inheritdoc/>
    public override int Rank => 104;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        foreach (var (part, near, far, off) in tested.Effect == EffectKind.Sparks ? Found(tested.Circuit) : [])
        {
            var across = tested.Dead(
                tested.Own,
                off,
                [(near, far)],
                $"kill wire off at the {part.Name} · {tested.Own.Words(tested.Machine)}"
            );
            yield return across;
            yield return TestedDuty.ByEar(across);
        }
    }

    private static IEnumerable<(Part Part, int Near, int Far, IReadOnlyList<Disconnection> Off)> Found(Circuit circuit)
    {
        if (circuit.KillLeads.Count == 0)
        {
            yield break;
        }

        var machine = circuit.Machine;
        var grounds = circuit.Topology.MetalOf(circuit.KillLeads.Select(l => l.Ground).Append(circuit.Reference));
        var reached = circuit.Topology.KillMetal().ToHashSet();
        var left = machine
            .Parts.SelectMany(p => p.Contacts ?? [], (Part, Contact) => (Part, Contact))
            .Select(x =>
                (
                    x.Part,
                    Ends: x.Contact.Between.Select(t => (At: x.Part.At(t), Node: circuit.NodeOf(x.Part.At(t))))
                        .ToArray()
                )
            )
            .ToList();
        while (left.Find(x => x.Ends.Any(e => reached.Contains(e.Node))) is { Part: { } part } found)
        {
            left.Remove(found);
            var (near, far) = reached.Contains(found.Ends[0].Node)
                ? (found.Ends[0], found.Ends[1])
                : (found.Ends[1], found.Ends[0]);
            reached.UnionWith(grounds.Contains(far.Node) ? [] : circuit.Topology.MetalOf([far.Node]));
            yield return (
                part,
                near.Node,
                far.Node,
                [.. machine.Index.EndsAt(near.At).Select(e => (Disconnection)e.Name)]
            );
        }
    }
}
