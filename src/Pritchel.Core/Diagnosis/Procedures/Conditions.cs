using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Simulation.Devices;
using Pritchel.Core.Units;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>A setting in which readings are taken, after the duty has been tried once.</summary>
/// <param name="Setting">Positions of the controls.</param>
/// <param name="IsDuty">Whether this is the failing setting itself.</param>
/// <param name="MayTurnEngine">Whether a sound machine's engine would turn in it.</param>
/// <param name="Words">In words, for the test card.</param>
/// <param name="Held">Controls to be held.</param>
public sealed record Condition(
    ControlSetting Setting,
    bool IsDuty,
    bool MayTurnEngine,
    string Words,
    IReadOnlyList<string> Held
)
{
    /// <summary>What is read in it.</summary>
    public Quantity Quantity { get; init; }

    /// <summary>Speed that the engine is turned at.</summary>
    public DutySpeed Speed { get; init; }

    /// <summary>What is off: wire ends ("wire@from") and couplings, by id.</summary>
    public IReadOnlyList<string> Off { get; init; } = [];

    /// <summary>Pairs of nodes that are read, each red node once; null where any two may be.</summary>
    public IReadOnlyList<(int Red, int Black)>? Pairs { get; init; }

    /// <summary>Where a spark tester sits.</summary>
    public SparkTesterAt Tester { get; init; }

    /// <summary>Two points joined for it, and with what; null where nothing is put in.</summary>
    public Jump? Jump { get; init; }

    /// <summary>Whether every pair of points may be read in it.</summary>
    public bool IsFree => Pairs is null;
}

/// <summary>
/// The settings worth measuring in for one duty: the duty's own, the same with its many-way control (a key) in each
/// other working position, and everything at rest; for an ignition its kill leads by ohms and its spark with them off;
/// for a battery what leaves it. Derived from the machine; no family is known by name.
/// </summary>
public static partial class Conditions
{
    /// <summary>Conditions of a duty; the duty's own is always the first.</summary>
    public static IReadOnlyList<Condition> Of(Circuit circuit, Duty duty)
    {
        var own = circuit.Setting(duty.Setting);
        var hasBattery = circuit.Machine.Parts.Any(p => PartKinds.IsBattery(p.Kind));
        var first = Describe(circuit, own, true) with { Speed = duty.Speed };
        if (duty.Speed != DutySpeed.Rest)
        {
            first = first with { MayTurnEngine = true, Words = $"{first.Words} · {SpeedWords(duty.Speed)}" };
        }

        var conditions = new List<Condition> { hasBattery ? first : first with { Pairs = [] } };
        if (hasBattery)
        {
            conditions.AddRange(
                Settings(circuit, duty, own)
                    .Distinct()
                    .Where(s => duty.Speed != DutySpeed.Rest || !s.Equals(own))
                    .Select(s => Describe(circuit, s, false))
            );
        }

        var sign = EffectOf(circuit, duty);
        if (sign == EffectKind.Sparks)
        {
            conditions.AddRange(OfIgnition(circuit, own, duty));
            conditions.AddRange(OfPeaks(circuit, own));
        }

        if (hasBattery && !duty.Refuses && PredictionTable.NeedsWaves(circuit, duty))
        {
            conditions.AddRange(OfWaves(circuit, own, duty, sign));
        }

        if (sign == EffectKind.Charges && duty.Refuses)
        {
            conditions.AddRange(OfDrain(circuit, duty));
        }

        if (hasBattery && !duty.Refuses)
        {
            conditions.AddRange(OfFuses(circuit, own, duty));
        }

        if (hasBattery && !duty.Refuses && duty.Speed == DutySpeed.Rest)
        {
            conditions.AddRange(OfLines(circuit, own, duty));
            conditions.AddRange(OfJumps(circuit, own, duty));
        }

        if (sign is EffectKind.Sparks or EffectKind.Charges || !hasBattery)
        {
            conditions.AddRange(OfWindings(circuit, own));
            conditions.AddRange(OfLeads(circuit, own, duty));
        }

        if (!hasBattery && sign is EffectKind.Works or EffectKind.Glows)
        {
            conditions.AddRange(OfDeadLoads(circuit, own, duty));
        }

        conditions.AddRange(OfNeighbours(circuit));
        return [.. OnceEach(conditions)];
    }

    /// <summary>Conditions without the pairs that one before them reads just so, under another name.</summary>
    private static IEnumerable<Condition> OnceEach(IEnumerable<Condition> conditions)
    {
        var read = new HashSet<(ControlSetting, Quantity, DutySpeed, string Off, (int, int))>();
        foreach (var condition in conditions)
        {
            if (condition.Pairs is not { Count: > 0 } pairs)
            {
                yield return condition;
                continue;
            }

            var off = string.Join(' ', condition.Off);
            var anew = pairs.Where(p => read.Add((condition.Setting, condition.Quantity, condition.Speed, off, p)));
            foreach (var hand in Apart(anew))
            {
                yield return condition with
                {
                    Pairs = hand,
                };
            }
        }
    }

    /// <summary>A speed in words.</summary>
    public static string SpeedWords(DutySpeed speed) =>
        speed switch
        {
            DutySpeed.Crank => "engine turned over",
            DutySpeed.Idle => "at idle",
            DutySpeed.Work => "at working speed",
            _ => "engine at rest",
        };

    /// <summary>How the part of a duty shows itself.</summary>
    internal static EffectKind EffectOf(Circuit circuit, Duty duty)
    {
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(circuit.Setting(null));
        return circuit.DeviceOf(duty.Load).Effect(state).Kind;
    }

    private static IEnumerable<ControlSetting> Settings(Circuit circuit, Duty duty, ControlSetting own)
    {
        yield return own;
        for (var c = 0; c < own.Count; c++)
        {
            var control = circuit.Machine.Controls[c];
            if (!duty.Setting.ContainsKey(control.Id) || control.Positions.Count <= 2)
            {
                continue;
            }

            for (var p = 0; p < control.Positions.Count; p++)
            {
                if (p != own[c] && control.Positions[p] != control.Rest)
                {
                    yield return own.With(c, p);
                }
            }
        }

        yield return circuit.Setting(null);
    }

    /// <summary>
    /// Spark on a tester in the plug's place, as things are and with every kill wire off at its coil; kill leads to ground by
    /// ohms, off at the coil and on.
    /// </summary>
    private static IEnumerable<Condition> OfIgnition(Circuit circuit, ControlSetting own, Duty duty)
    {
        var leads = circuit.KillLeads;
        var load = circuit.NodeOf($"{duty.Load}.{circuit.Machine.Parts.First(p => p.Id == duty.Load).Terminals[0]}");
        Condition Sparking(IReadOnlyList<string> off, string words) =>
            Describe(circuit, own, false) with
            {
                Quantity = Quantity.Spark,
                Speed = DutySpeed.Crank,
                MayTurnEngine = true,
                Off = off,
                Tester = SparkTesterAt.PlugLead,
                Pairs = [(load, leads.Count > 0 ? leads[0].Ground : circuit.Reference)],
                Words = words + SpeedWords(DutySpeed.Crank),
            };
        yield return Sparking([], "spark tester on the plug lead · ");
        if (OfLeadOff(circuit, Sparking([], "spark tester at the coil, plug lead off · "), duty) is { } leadOff)
        {
            yield return leadOff;
        }

        if (leads.Count == 0)
        {
            yield break;
        }

        var ends = circuit
            .Machine.Wires.SelectMany(MachineWords.EndsOf)
            .Where(e => leads.Any(l => circuit.NodeOf(e.At) == l.Kill))
            .Select(e => e.Name)
            .ToList();
        yield return Sparking(ends, "kill wire off at the coil, spark tester on the plug lead · ");

        var ground = leads[0].Ground;
        var loose = ends.Select(circuit.NodeOf).Distinct().ToList();
        var along = circuit
            .KillMetal()
            .Concat(leads.SelectMany(l => Killing(circuit, own, l)))
            .Except(leads.Select(l => l.Kill))
            .Concat(loose)
            .Distinct()
            .Order()
            .ToList();
        Condition Ohms(ControlSetting setting, IReadOnlyList<string> off, IEnumerable<int> reds, string words) =>
            Describe(circuit, setting, false) with
            {
                Quantity = Quantity.Ohms,
                Off = off,
                MayTurnEngine = false,
                Pairs = [.. reds.Where(r => r != ground).Select(r => (r, ground))],
                Words = $"{words} · {setting.Words(circuit.Machine)}",
            };
        foreach (var setting in new[] { own, circuit.Setting(null) }.Distinct())
        {
            yield return Ohms(setting, ends, along, "kill wire off at the coil");
            yield return Beeping(Ohms(setting, ends, along, "kill wire off at the coil"));
            yield return Ohms(setting, [], leads.Select(l => l.Kill).Distinct(), "kill wire left on");
        }

        // A module that has lost its ground is dead with everything else whole.
        foreach (var grounds in OfUnitGrounds(circuit, leads))
        {
            yield return grounds;
        }

        foreach (var (part, near, far, off) in KillContacts(circuit))
        {
            var across = Describe(circuit, own, false) with
            {
                Quantity = Quantity.Ohms,
                Off = off,
                MayTurnEngine = false,
                Pairs = [(near, far)],
                Words = $"kill wire off at the {part.Name} · {own.Words(circuit.Machine)}",
            };
            yield return across;
            yield return Beeping(across);
        }

        // Where a kill goes through a diode, ohms are silent and only the diode range shows it whole.
        var diodes = circuit.KillDiodes().SelectMany(d => d);
        yield return Ohms(own, ends, loose.Concat(diodes).Distinct(), "kill wire off at the coil") with
        {
            Quantity = Quantity.Diode,
        };
        foreach (var (off, words) in Halving(circuit, ends))
        {
            yield return Ohms(own, [.. ends, off], loose, "kill wire off at the coil" + words);

            // Damp that only the ignition's hundreds of volts cross is seen by the spark alone.
            yield return Sparking([off], words[2..] + ", spark tester on the plug lead · ");
            if (circuit.Machine.Parts.FirstOrDefault(p => p.Id == off) is { } coupling)
            {
                // Quicker than at the coil, and as good for all that lies on this side of it.
                var sides = coupling.Terminals.Select(t => circuit.NodeOf($"{off}.{t}")).Intersect(circuit.KillMetal());
                yield return Ohms(own, [off], sides, $"{coupling.Name} apart");
                yield return Beeping(Ohms(own, [off], sides, $"{coupling.Name} apart"));
                yield return Ohms(circuit.Setting(null), [off], sides, $"{coupling.Name} apart");
            }
        }
    }

    /// <summary>
    /// The spark before lead and cap have had their share: where the coil has a tower that the lead comes off, and someone can
    /// be there while the engine turns.
    /// </summary>
    private static Condition? OfLeadOff(Circuit circuit, Condition sparking, Duty duty)
    {
        var part = circuit.Machine.Parts.First(p => string.Equals(p.Id, duty.Load, StringComparison.Ordinal));
        var tower = $"{part.Id}.ht";
        return
            part.Terminals.Contains("ht", StringComparer.Ordinal)
            && !string.Equals(part.Kind, Magneto.Kind.Name, StringComparison.Ordinal)
            && MachineWords.PlaceOf(circuit.Machine, part).EngineMayTurn
            ? sparking with
            {
                Tester = SparkTesterAt.Coil,
                Pairs = [(circuit.NodeOf(tower), sparking.Pairs![0].Black)],
            }
            : null;
    }

    /// <summary>From each ignition unit's ground terminal to battery negative, or to the block without a battery, wire by wire.</summary>
    private static IEnumerable<Condition> OfUnitGrounds(Circuit circuit, IReadOnlyList<KillTerminal> leads)
    {
        var rest = circuit.Setting(null);
        var state = AtRest(circuit);
        var nodes = leads
            .Where(l => l.Ground != circuit.Reference)
            .SelectMany(l => LinePath.Between(state, "", l.Ground, circuit.Reference).Nodes)
            .Where(n => n != circuit.Reference)
            .Distinct()
            .ToList();
        if (nodes.Count > 0)
        {
            yield return Describe(circuit, rest, false) with
            {
                Quantity = Quantity.Ohms,
                MayTurnEngine = false,
                Pairs = [.. nodes.Select(n => (n, circuit.Reference))],
                Words = "along the ignition unit's ground · " + rest.Words(circuit.Machine),
            };
        }
    }

    /// <summary>
    /// Switch contacts that a kill lead can find ground through, one behind another, each with its wires off on the coil's
    /// side: read by itself, it tells which of several side by side is made.
    /// </summary>
    private static IEnumerable<(Part Part, int Near, int Far, IReadOnlyList<string> Off)> KillContacts(Circuit circuit)
    {
        var machine = circuit.Machine;
        var grounds = circuit.MetalOf(circuit.KillLeads.Select(l => l.Ground).Append(circuit.Reference));
        var reached = circuit.KillMetal().ToHashSet();
        var left = machine
            .Parts.SelectMany(p => p.Contacts ?? [], (Part, Contact) => (Part, Contact))
            .Select(x =>
                (x.Part, Ends: x.Contact.Between.Select(t => (t, circuit.NodeOf($"{x.Part.Id}.{t}"))).ToArray())
            )
            .ToList();
        while (left.Find(x => x.Ends.Any(e => reached.Contains(e.Item2))) is { Part: { } part } found)
        {
            left.Remove(found);
            var ((nearTerminal, near), (_, far)) = reached.Contains(found.Ends[0].Item2)
                ? (found.Ends[0], found.Ends[1])
                : (found.Ends[1], found.Ends[0]);
            reached.UnionWith(grounds.Contains(far) ? [] : circuit.MetalOf([far]));
            var at = $"{part.Id}.{nearTerminal}";
            yield return (
                part,
                near,
                far,
                [.. machine.Wires.SelectMany(MachineWords.EndsOf).Where(e => e.At == at).Select(e => e.Name)]
            );
        }
    }

    /// <summary>Couplings that the kill leads pass and switches they end at: each apart, or its wire pulled off.</summary>
    private static IEnumerable<(string Off, string Words)> Halving(Circuit circuit, List<string> ends)
    {
        var machine = circuit.Machine;
        var metal = circuit.KillMetal().ToHashSet();
        foreach (
            var coupling in machine.Parts.Where(p =>
                p.Kind == PartKinds.Coupling && p.Terminals.Any(t => metal.Contains(circuit.NodeOf($"{p.Id}.{t}")))
            )
        )
        {
            yield return (coupling.Id, $", {coupling.Name} apart");
        }

        foreach (var wire in machine.Wires)
        {
            foreach (var (end, at) in MachineWords.EndsOf(wire))
            {
                var part = MachineWords.PartAt(machine, at);
                if (
                    part.Kind is PartKinds.Switch or PartKinds.Relay
                    && metal.Contains(circuit.NodeOf(at))
                    && !ends.Contains(end)
                )
                {
                    yield return (end, Pulled(wire, part));
                }
            }
        }
    }

    /// <summary>Terminals on the way that a kill lead takes to ground in a setting.</summary>
    private static IEnumerable<int> Killing(Circuit circuit, ControlSetting setting, KillTerminal lead)
    {
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(setting);
        var part = MachineWords.Split(circuit.NodeAddresses[lead.Kill][0]).Part;
        return LinePath
            .Between(state, part, lead.Kill, lead.Ground)
            .Nodes.Where(n =>
                n != lead.Ground && circuit.NodeAddresses[n].Any(a => a.Contains('.', StringComparison.Ordinal))
            );
    }

    /// <summary>
    /// Ohms from every point of the duty's line to battery negative with the battery off: the way on from places where
    /// nobody probes while an engine may turn, and by one person alone.
    /// </summary>
    private static IEnumerable<Condition> OfLines(Circuit circuit, ControlSetting own, Duty duty)
    {
        if (EffectOf(circuit, duty) is EffectKind.Sparks or EffectKind.Charges)
        {
            yield break;
        }

        var nodes = new[] { duty.Load, duty.Control }
            .OfType<string>()
            .SelectMany(p => LinePath.Through(circuit, own, p).Nodes)
            .Where(n => n != circuit.Reference)
            .Distinct()
            .ToList();
        var rest = circuit.Setting(null);
        if (nodes.Count == 0)
        {
            yield break;
        }

        var toNegative = nodes.Select(n => (n, circuit.Reference)).ToList();
        foreach (var pairs in Within(circuit, nodes).Prepend(toNegative))
        {
            yield return Describe(circuit, rest, false) with
            {
                Quantity = Quantity.Ohms,
                MayTurnEngine = false,
                Pairs = pairs,
                Words = rest.Words(circuit.Machine),
            };
        }
    }

    /// <summary>
    /// Terminals of the parts of a line that lie in one place where nobody probes while an engine may turn, each to each
    /// other: nothing else has to be opened for them.
    /// </summary>
    private static IEnumerable<List<(int Red, int Black)>> Within(Circuit circuit, List<int> line)
    {
        var machine = circuit.Machine;
        return machine
            .Parts.Where(p => p.Kind is not (PartKinds.Body or PartKinds.Splice))
            .Select(p => (Part: p, Nodes: p.Terminals.Select(t => circuit.NodeOf($"{p.Id}.{t}")).ToList()))
            .Where(p => p.Nodes.Exists(line.Contains))
            .GroupBy(p => MachineWords.PlaceOf(machine, p.Part))
            .Where(g => !g.Key.EngineMayTurn)
            .Select(g => g.SelectMany(p => p.Nodes).Distinct().ToList())
            .SelectMany(nodes => Pairs(nodes, circuit.Reference));
    }

    /// <summary>
    /// What may have blown a fuse, by ohms with the fuse out and the battery off: its load side to ground, everything
    /// joined and with each coupling apart.
    /// </summary>
    private static IEnumerable<Condition> OfFuses(Circuit circuit, ControlSetting own, Duty duty)
    {
        var machine = circuit.Machine;
        var pairs = machine
            .Parts.Where(p => p.Kind == PartKinds.Fuse)
            .Select(p => (Part: p, Node: circuit.NodeOf($"{p.Id}.{p.Terminals[^1]}")))
            .Where(p => p.Node != circuit.Reference)
            .DistinctBy(p => p.Node)
            .ToList();
        if (pairs.Count == 0)
        {
            yield break;
        }

        var feeds = machine
            .Wires.SelectMany(MachineWords.EndsOf)
            .Where(e =>
                MachineWords.PartAt(machine, e.At) is { Kind: PartKinds.Fuse } fuse
                && MachineWords.Split(e.At).Terminal == fuse.Terminals[0]
            )
            .Select(e => e.Name)
            .ToList();
        Condition Out(ControlSetting setting, IReadOnlyList<string> off, string words) =>
            Describe(circuit, setting, false) with
            {
                Quantity = Quantity.Ohms,
                MayTurnEngine = false,
                Off = [.. feeds, .. off],
                Pairs = [.. pairs.Select(p => (p.Node, circuit.Reference))],
                Words = $"fuse out{words} · {setting.Words(machine)}",
            };
        foreach (var setting in Settings(circuit, duty, own).Distinct())
        {
            yield return Out(setting, [], "");
        }

        var fed = Fed(circuit, own);
        foreach (var coupling in machine.Parts.Where(p => p.Kind == PartKinds.Coupling))
        {
            // Each side by itself: what lies to ground beyond it is then on that side or the other.
            var sides = coupling
                .Terminals.Select(t => circuit.NodeOf($"{coupling.Id}.{t}"))
                .Where(fed.Contains)
                .Except(pairs.Select(p => p.Node))
                .Distinct();
            var apart = Out(own, [coupling.Id], $", {coupling.Name} apart");
            yield return apart with
            {
                Pairs = [.. apart.Pairs!, .. sides.Select(n => (n, circuit.Reference))],
            };
        }

        foreach (
            var (end, words) in Leaving(circuit, own, duty).Concat(LeavingFed(circuit, fed)).DistinctBy(l => l.End)
        )
        {
            yield return Out(own, [end], words);
        }
    }

    /// <summary>Wires of whatever else the battery feeds that can be pulled off where they leave a switch or a relay.</summary>
    private static IEnumerable<(string End, string Words)> LeavingFed(Circuit circuit, HashSet<int> fed)
    {
        var machine = circuit.Machine;
        foreach (var wire in machine.Wires.Where(w => w.Cable != true))
        {
            foreach (var (end, at) in MachineWords.EndsOf(wire))
            {
                var part = MachineWords.PartAt(machine, at);
                if (part.Kind is PartKinds.Switch or PartKinds.Relay && fed.Contains(circuit.NodeOf(at)))
                {
                    yield return (end, Pulled(wire, part));
                }
            }
        }
    }

    /// <summary>Nodes that the battery feeds on the sound machine in a setting: where a chafe would draw a fuse's current.</summary>
    private static HashSet<int> Fed(Circuit circuit, ControlSetting setting)
    {
        const double FedVolts = 6;
        var state = new CircuitState(circuit) { FollowsWaves = false };
        state.Begin(circuit.NominalParameters());
        state.Move(setting);
        return
        [
            .. Enumerable
                .Range(0, circuit.Network.NodeCount)
                .Where(n => state.Joined(n, circuit.Reference) && state.Drop(n, circuit.Reference) > FedVolts),
        ];
    }

    /// <summary>Wires of the duty's line that can be pulled off where they leave a switch or a relay.</summary>
    private static IEnumerable<(string End, string Words)> Leaving(Circuit circuit, ControlSetting own, Duty duty)
    {
        var machine = circuit.Machine;
        if (EffectOf(circuit, duty) is EffectKind.Sparks or EffectKind.Charges)
        {
            yield break;
        }

        foreach (var piece in LinePath.Through(circuit, own, duty.Control ?? duty.Load).Pieces)
        {
            var wire = machine.Wires.FirstOrDefault(w => string.Equals(w.Id, piece.Name, StringComparison.Ordinal));
            if (wire is null or { Cable: true })
            {
                continue;
            }

            var fromEnd = circuit.NodeOf(wire.Id + "@from") == piece.From;
            var near = MachineWords.PartAt(machine, (fromEnd ? wire.From : wire.To).At);
            if (near.Kind is PartKinds.Switch or PartKinds.Relay)
            {
                yield return (wire.Id + (fromEnd ? "@from" : "@to"), Pulled(wire, near));
            }
        }
    }

    private static string Pulled(Wire wire, Part at) =>
        $", {string.Join('/', wire.Colours)} wire {wire.Id} off the {at.Name}";

    /// <summary>Amps out of a battery with everything off, and with each fuse or coupling out in turn.</summary>
    private static IEnumerable<Condition> OfDrain(Circuit circuit, Duty duty)
    {
        var rest = circuit.Setting(null);
        var pair = (circuit.NodeOf(duty.Load + ".-"), circuit.NodeOf(duty.Load + ".+"));
        Condition Reading(IReadOnlyList<string> off, string words) =>
            Describe(circuit, rest, false) with
            {
                Quantity = Quantity.Amps,
                Off = off,
                Pairs = [pair],
                Words = words,
            };
        yield return Reading([], "in series between the negative post and its cable");

        // What shares the battery's post comes off it one by one.
        var stays = new HashSet<int> { pair.Item2 };
        foreach (var part in circuit.Machine.Parts.Where(p => p.Kind is PartKinds.Coupling))
        {
            yield return Reading([part.Id], $"in series at the negative post, {part.Name} apart");
        }

        foreach (var wire in circuit.Machine.Wires)
        {
            foreach (var (end, at) in MachineWords.EndsOf(wire))
            {
                var part = MachineWords.PartAt(circuit.Machine, at);
                if (part.Kind == PartKinds.Fuse && MachineWords.Split(at).Terminal == part.Terminals[^1])
                {
                    yield return Reading([end], $"in series at the negative post, {part.Name} out");
                }
                else if (part.Kind == PartKinds.Breaker || stays.Contains(circuit.NodeOf(at)))
                {
                    yield return Reading([end], $"in series at the negative post{Pulled(wire, part)}");
                }
            }
        }
    }

    private static CircuitState AtRest(Circuit circuit)
    {
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(circuit.Setting(null));
        return state;
    }

    private static Condition Describe(Circuit circuit, ControlSetting setting, bool isDuty)
    {
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(setting);
        var turns = circuit.Devices.Any(d => d.Effect(state) is { Kind: EffectKind.Turns, Level: > 0 });
        return new Condition(
            setting,
            isDuty,
            turns,
            setting.Words(circuit.Machine),
            [.. setting.Held(circuit.Machine).Select(c => c.Name)]
        );
    }
}
