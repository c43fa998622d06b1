using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Networks;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Simulation.Devices;
using Pritchel.Core.Units;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>Ohms of windings, by themselves and along their leads, and of what they feed where there is no battery.</summary>
public static partial class Conditions
{
    // Less than this on the sound machine, and a point lies on the way: from memory.
    private const double OnTheWayOhms = 60;

    /// <summary>Each winding by itself, its wires off: ohms between its terminals.</summary>
    private static IEnumerable<Condition> OfWindings(Circuit circuit, ControlSetting own)
    {
        var machine = circuit.Machine;
        foreach (var part in machine.Parts.Where(p => IsWinding(circuit, p)))
        {
            var ends = EndsAt(machine, part);
            var pairs = NormalReadings
                .Across(machine, part)
                .Select(a => (Red: circuit.NodeOf(a.Red), Black: circuit.NodeOf(a.Black)))
                .Where(a => a.Red != a.Black)
                .ToList();
            if (pairs.Count > 0)
            {
                yield return Describe(circuit, own, false) with
                {
                    Quantity = Quantity.Ohms,
                    Off = ends,
                    MayTurnEngine = false,
                    Pairs = pairs,
                    Words = $"wires off the {part.Name}",
                };
            }
        }
    }

    /// <summary>Ends of the wires on a part.</summary>
    private static List<string> EndsAt(Machine machine, Part part) =>
        [
            .. machine
                .Wires.SelectMany(MachineWords.EndsOf)
                .Where(e => MachineWords.Split(e.At).Part == part.Id)
                .Select(e => e.Name),
        ];

    /// <summary>
    /// Each lead by itself, from its loose end to every coupling on it and to what it ends on beyond; null where there is none.
    /// </summary>
    private static Condition? Along(
        Circuit circuit,
        ControlSetting own,
        List<string> ends,
        List<HashSet<string>> reached,
        string words
    )
    {
        var machine = circuit.Machine;
        var loose = ends.Select(circuit.NodeOf).ToHashSet();
        var pairs = ends.SelectMany(e =>
                (reached.Find(r => r.Contains(AtOf(machine, e))) ?? [])
                    .Where(a => LeadsTo(machine, a, AtOf(machine, e)))
                    .Select(a => (Red: circuit.NodeOf(a), Black: circuit.NodeOf(e)))
            )
            .Where(a => !loose.Contains(a.Red))
            .DistinctBy(a => a.Red)
            .ToList();
        return pairs.Count == 0
            ? null
            : Describe(circuit, own, false) with
            {
                Quantity = Quantity.Ohms,
                Off = ends,
                MayTurnEngine = false,
                Pairs = pairs,
                Words = words + ", along each lead",
            };
    }

    /// <summary>Whether a lead goes on to an address of another part where a probe finds a terminal.</summary>
    private static bool LeadsTo(Machine machine, string address, string from) =>
        MachineWords.PartAt(machine, address) is { Kind: not (PartKinds.Splice or PartKinds.Body) } on
        && on != MachineWords.PartAt(machine, from);

    private static bool IsWinding(Circuit circuit, Part part) =>
        circuit.HasDevice(part.Id)
        && (
            DeviceKinds.Named(part.Kind)!.NeedsEngine
            || circuit.DeviceOf(part.Id).Effect(AtRest(circuit)).Kind == EffectKind.Sparks
        );

    /// <summary>
    /// A winding, or the coil that is to spark, as seen from along its leads: each coupling on the way apart, then the wires off what it feeds. From lead to
    /// lead where it has several, to its case where it has one.
    /// </summary>
    private static IEnumerable<Condition> OfLeads(Circuit circuit, ControlSetting own, Duty duty)
    {
        var machine = circuit.Machine;
        var coil = EffectOf(circuit, duty) == EffectKind.Sparks ? duty.Load : null;
        foreach (
            var part in machine.Parts.Where(p => p.Id == coil || DeviceKinds.Named(p.Kind) is { NeedsEngine: true })
        )
        {
            var terminals = part
                .Terminals.Where(t => !string.Equals(t, "case", StringComparison.Ordinal))
                .Select(t => $"{part.Id}.{t}")
                .ToList();
            var ground = part.Terminals.Contains("case", StringComparer.Ordinal)
                ? circuit.NodeOf(part.Id + ".case")
                : circuit.Reference;
            Condition Read(IReadOnlyList<string> off, IReadOnlyList<(int Red, int Black)> pairs, string words) =>
                Describe(circuit, own, false) with
                {
                    Quantity = Quantity.Ohms,
                    Off = off,
                    MayTurnEngine = false,
                    Pairs = pairs,
                    Words = words,
                };
            IEnumerable<Condition> Seen(IReadOnlyList<string> off, IReadOnlyList<int> leads, string words) =>
                Pairs(leads, ground).Select(pairs => Read(off, pairs, words));
            var reached = terminals.Select(t => Reached(machine, t, apart: null)).ToList();
            foreach (
                var coupling in machine.Parts.Where(p =>
                    p.Kind == PartKinds.Coupling && p.Terminals.Any(t => reached.Any(r => r.Contains($"{p.Id}.{t}")))
                )
            )
            {
                var side = terminals
                    .Select(t => Reached(machine, t, coupling.Id))
                    .SelectMany(r => coupling.Terminals.Select(t => $"{coupling.Id}.{t}").Where(r.Contains).Take(1))
                    .Select(circuit.NodeOf)
                    .Distinct()
                    .ToList();
                foreach (var seen in Seen([coupling.Id], side, $"{coupling.Name} apart, engine stopped"))
                {
                    yield return seen;
                }

                // Joints at the winding, or at what it feeds, come off with the wires: read from here they are in.
                var fed = FarEnds(machine, part, reached).SelectMany(f => f.Ends.Select(e => AtOf(machine, e)));
                foreach (
                    var (ends, words) in new[]
                    {
                        (terminals, $"{coupling.Name} apart, each lead to the {part.Name}"),
                        (fed.ToList(), $"{coupling.Name} apart, each lead of the {part.Name} to what it feeds"),
                    }
                )
                {
                    if (Joined(circuit, coupling, ends) is { Count: > 0 } joined)
                    {
                        yield return Read([coupling.Id], joined, words);
                    }
                }
            }

            // The quickest look at a lead with all its joints: what else joins its ends has more ohms than they.
            var along = terminals
                .Zip(reached)
                .SelectMany(t =>
                    t.Second.Where(a => LeadsTo(machine, a, t.First))
                        .Select(a => (Red: circuit.NodeOf(a), Black: circuit.NodeOf(t.First)))
                )
                .Where(p => p.Red != p.Black)
                .DistinctBy(p => p.Red)
                .ToList();
            if (along.Count > 0)
            {
                yield return Read([], along, $"engine stopped, along each lead of the {part.Name}, all joined");
            }

            var near = EndsAt(machine, part);
            if (Along(circuit, own, near, reached, $"wires off the {part.Name}, engine stopped") is { } nearAlong)
            {
                yield return nearAlong;
            }

            foreach (var (fed, ends) in FarEnds(machine, part, reached))
            {
                var words = $"wires of the {part.Name} off the {fed.Name}, engine stopped";
                foreach (var seen in Seen(ends, [.. ends.Select(circuit.NodeOf).Distinct()], words))
                {
                    yield return seen;
                }

                if (Along(circuit, own, ends, reached, words) is { } farAlong)
                {
                    yield return farAlong;
                }
            }
        }
    }

    /// <summary>From a coupling's cavities to the terminals that each side of it leads to.</summary>
    private static List<(int Red, int Black)> Joined(Circuit circuit, Part coupling, IEnumerable<string> terminals) =>
        [
            .. terminals
                .SelectMany(t =>
                    coupling
                        .Terminals.Select(c => $"{coupling.Id}.{c}")
                        .Where(Reached(circuit.Machine, t, coupling.Id).Contains)
                        .Take(1)
                        .Select(c => (Red: circuit.NodeOf(c), Black: circuit.NodeOf(t)))
                )
                .DistinctBy(p => p.Red),
        ];

    /// <summary>
    /// The one lead to ground, or every lead to every other, in lists in which no point is under red here and under black
    /// there.
    /// </summary>
    private static IEnumerable<List<(int Red, int Black)>> Pairs(IReadOnlyList<int> leads, int ground) =>
        leads.Count == 1
            ?
            [
                [(leads[0], ground)],
            ]
            : Enumerable
                .Range(1, Math.Max(0, leads.Count - 1))
                .Select(i => leads.Take(i).Select(l => (l, leads[i])).ToList());

    /// <summary>What a winding's leads end at, with the wire ends to pull off there.</summary>
    private static IEnumerable<(Part Fed, List<string> Ends)> FarEnds(
        Machine machine,
        Part winding,
        List<HashSet<string>> reached
    )
    {
        var ends = machine
            .Wires.SelectMany(MachineWords.EndsOf)
            .Where(e => reached.Any(r => r.Contains(e.At)))
            .Select(e => (e.Name, Part: MachineWords.PartAt(machine, e.At)));
        return ends.Where(e =>
                e.Part.Id != winding.Id && e.Part.Kind is not (PartKinds.Coupling or PartKinds.Splice or PartKinds.Body)
            )
            .GroupBy(e => e.Part)
            .Select(g => (g.Key, g.Select(e => e.Name).ToList()));
    }

    /// <summary>Terminal that a wire's end belongs on.</summary>
    private static string AtOf(Machine machine, string end)
    {
        var wire = machine.Wires.First(w => string.Equals(w.Id, end.Split('@')[0], StringComparison.Ordinal));
        return end.EndsWith("from", StringComparison.Ordinal) ? wire.From.At : wire.To.At;
    }

    /// <summary>Terminals that wires, couplings and splices alone join to one, not through a coupling taken apart.</summary>
    private static HashSet<string> Reached(Machine machine, string from, string? apart)
    {
        var reached = new HashSet<string>(StringComparer.Ordinal) { from };
        var open = new Queue<string>([from]);
        while (open.TryDequeue(out var at))
        {
            var next = machine
                .Wires.Where(w => w.From.At == at || w.To.At == at)
                .Select(w => w.From.At == at ? w.To.At : w.From.At)
                .ToList();
            var (part, terminal) = MachineWords.Split(at);
            if (part != apart && MachineWords.PartAt(machine, at).Kind == PartKinds.Coupling)
            {
                next.Add($"{part}.{terminal[..^1]}{(terminal[^1] == 'a' ? 'b' : 'a')}");
            }

            foreach (var address in next.Where(reached.Add))
            {
                // A body joins everything that is bolted to it: a lead ends there.
                if (MachineWords.PartAt(machine, address).Kind is PartKinds.Coupling or PartKinds.Splice)
                {
                    open.Enqueue(address);
                }
            }
        }

        return reached;
    }

    /// <summary>
    /// What a load of a machine without a battery is fed through, engine stopped: ohms from its far terminal to every point of
    /// the loop, which a break cuts in two.
    /// </summary>
    private static IEnumerable<Condition> OfDeadLoads(Circuit circuit, ControlSetting own, Duty duty)
    {
        var load = circuit.Machine.Parts.First(p => string.Equals(p.Id, duty.Load, StringComparison.Ordinal));
        if (load.Terminals.Count < 2)
        {
            yield break;
        }

        var black = circuit.NodeOf($"{load.Id}.{load.Terminals[1]}");
        var @case = new Case { Circuit = circuit, Settings = [own] };
        var reds = Enumerable
            .Range(0, circuit.Network.NodeCount)
            .Where(n =>
                n != black
                && circuit.NodeAddresses[n].Any(a => a.Contains('.', StringComparison.Ordinal))
                && Bench.Read(@case, Meter.Ordinary, MeterFunction.Ohms, n, black)
                    is { OverRange: false, Value: < OnTheWayOhms }
            )
            .ToList();
        yield return Describe(circuit, own, false) with
        {
            Quantity = Quantity.Ohms,
            MayTurnEngine = false,
            Pairs = [.. reds.Select(n => (n, black))],
            Words = $"engine stopped · {own.Words(circuit.Machine)}",
        };
    }
}
