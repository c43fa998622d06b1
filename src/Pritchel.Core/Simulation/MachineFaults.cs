using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation.Devices;

namespace Pritchel.Core.Simulation;

/// <summary>
/// Faults that lie between things rather than in them: insulation chafed to the metal it runs along, wet tracks, pins that
/// touch or are swapped, couplings left apart.
/// </summary>
internal static class MachineFaults
{
    // What ignition's hundreds of volts jump and an ohmmeter calls open: from memory.
    private const double TrackVolts = 60;

    public static IEnumerable<Fault> Of(Machine machine, Circuit circuit) =>
        [
            .. machine.Wires.SelectMany(w => Chafes(machine, circuit, w)),
            .. machine
                .Parts.Where(p => string.Equals(p.Kind, PartKinds.Coupling, StringComparison.Ordinal))
                .SelectMany(p => InCoupling(circuit, p)),
        ];

    private static IEnumerable<Fault> Chafes(Machine machine, Circuit circuit, Wire wire)
    {
        var body = wire.ChafesOn is { } named
            ? machine.Parts.First(p => string.Equals(p.Id, named, StringComparison.Ordinal))
            : MachineWords.FirstBody(machine);
        if (body is null)
        {
            yield break;
        }

        var (near, metal) = (wire.Id + "@from", $"{body.Id}.{body.Terminals[0]}");
        var nodes = (circuit.NodeOf(near), circuit.NodeOf(metal));
        if (nodes.Item1 == nodes.Item2)
        {
            yield break;
        }

        Fault Of(string id, string words, double rate, Severity severity, double breaksDownAt = 0) =>
            new()
            {
                Id = $"{wire.Id}/{id}",
                Kind = FaultKind.Chafed,
                Words = $"{MachineWords.WireRun(machine, wire)}: {words}",
                Repair = Insulation(machine, wire),
                Rate = rate,
                Severity = severity,
                Changes = [],
                Nodes = nodes,
                ComesAndGoes = true,
                Weakness = Weakness.Vibration | Weakness.Rodents | Weakness.RecentWork,
                Paths = [new LaidPath(near, metal, BreaksDownAt: breaksDownAt)],
            };

        // Longer wires lie against more edges.
        yield return Of("chafed", $"bare on {body.Name}", 0.2 + (0.2 * wire.LengthM), new Severity(0.02, 3));
        yield return Of(
            "damp",
            $"damp track to {body.Name}",
            0.1 + (0.1 * wire.LengthM),
            new Severity(100, 50_000)
        ) with
        {
            Weakness = Weakness.Damp | Weakness.Salt | Weakness.Age,
        };
        if (circuit.CarriesIgnition(near))
        {
            yield return Of("track", $"jumps to {body.Name} when running", 0.3, new Severity(1, 300), TrackVolts);
        }
    }

    /// <summary>
    /// What has worn through is found by opening the loom, and wires that meet in a splice cannot be told apart until it
    /// is open: they are one repair.
    /// </summary>
    private static Repair Insulation(Machine machine, Wire wire)
    {
        var met = Meeting(machine, wire);
        if (met.Count == 1)
        {
            return MachineWords.RepairOf(machine, wire);
        }

        var place = MachineWords.PartAt(machine, Splices(machine, met)[0] + ".x").Place;
        var ids = met.Select(w => w.Id).ToList();
        return new Repair(
            "loom:" + ids[0],
            $"insulation of wires {string.Join(", ", ids.SkipLast(1))} and {ids[^1]}, which meet in {string.Join(" and ", Splices(machine, met))}",
            $"insulation about {Splices(machine, met)[0]}",
            RepairKind.RenewWire,
            place
        );
    }

    /// <summary>Wires that splices join to a wire, itself included, in the order of the file.</summary>
    private static List<Wire> Meeting(Machine machine, Wire wire)
    {
        var met = new HashSet<Wire> { wire };
        for (var before = 0; before != met.Count; )
        {
            before = met.Count;
            var splices = Splices(machine, met).Select(s => s + ".x").ToHashSet(StringComparer.Ordinal);
            met.UnionWith(machine.Wires.Where(w => splices.Contains(w.From.At) || splices.Contains(w.To.At)));
        }

        return [.. machine.Wires.Where(met.Contains)];
    }

    private static List<string> Splices(Machine machine, IEnumerable<Wire> wires) =>
        [
            .. wires
                .SelectMany(w => new[] { w.From.At, w.To.At })
                .Select(a => MachineWords.PartAt(machine, a))
                .Where(p => string.Equals(p.Kind, PartKinds.Splice, StringComparison.Ordinal))
                .Select(p => p.Id)
                .Distinct(StringComparer.Ordinal),
        ];

    private static IEnumerable<Fault> InCoupling(Circuit circuit, Part part)
    {
        var cavities = part.Terminals.Where(t => t.EndsWith('a')).Select(t => t[..^1]).ToList();
        for (var i = 0; i + 1 < cavities.Count; i++)
        {
            var (one, two) = (cavities[i], cavities[i + 1]);
            Fault Of(string id, FaultKind kind, string words, double rate, IReadOnlyList<LaidPath> paths) =>
                new()
                {
                    Id = $"{part.Id}/{one}-{two}-{id}",
                    Kind = kind,
                    Words = $"{part.Name}, cavities {one} and {two}: {words}",
                    Repair = new Repair(
                        $"pair:{part.Id}/{one}-{two}",
                        $"{part.Name}, cavities {one} and {two}",
                        $"{part.Name} {one}+{two}",
                        RepairKind.RenewCavity,
                        part.Place
                    ),
                    Rate = rate,
                    Changes = [],
                    Nodes = (circuit.NodeOf($"{part.Id}.{one}a"), circuit.NodeOf($"{part.Id}.{two}a")),
                    Paths = paths,
                };

            yield return Of(
                "touching",
                FaultKind.ShortedToNeighbour,
                "pins touch or bridged by damp",
                0.4,
                [new LaidPath($"{part.Id}.{one}a", $"{part.Id}.{two}a")]
            ) with
            {
                Severity = new Severity(0.05, 20_000),
                ComesAndGoes = true,
                Weakness = Weakness.Damp | Weakness.Salt | Weakness.Age,
            };
            yield return Of(
                "swapped",
                FaultKind.Swapped,
                "wires swapped",
                0.1,
                [
                    new LaidPath($"{part.Id}.{one}a", $"{part.Id}.{two}b", SwappedOhms, Through: part.Id),
                    new LaidPath($"{part.Id}.{two}a", $"{part.Id}.{one}b", SwappedOhms, Through: part.Id),
                ]
            ) with
            {
                Changes = [.. circuit.ParametersNamed($"{part.Id}/{one}/ohms", $"{part.Id}/{two}/ohms").Select(Opened)],
                Weakness = Weakness.RecentWork,
            };
        }

        if (cavities.Count > 1)
        {
            yield return new Fault
            {
                Id = part.Id + "/unplugged",
                Kind = FaultKind.Unplugged,
                Words = part.Name + ": left apart",
                Repair = new Repair("plug:" + part.Id, part.Name, part.Name, RepairKind.CleanJoint, part.Place),
                Rate = 0.3,
                Changes = [.. circuit.ParametersNamed([.. cavities.Select(c => $"{part.Id}/{c}/ohms")]).Select(Opened)],
                Nodes = (circuit.NodeOf($"{part.Id}.{cavities[0]}a"), circuit.NodeOf($"{part.Id}.{cavities[0]}b")),
                Weakness = Weakness.RecentWork | Weakness.Vibration,
            };
        }
    }

    private const double SwappedOhms = 0.004;

    private static ParameterChange Opened(ParameterId parameter) =>
        new(parameter, ChangeRule.Set, double.PositiveInfinity);
}
