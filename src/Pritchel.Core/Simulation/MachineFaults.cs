using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation;

/// <summary>
/// Faults that lie between things rather than in them: insulation chafed to the metal it runs along, wet tracks, pins that
/// touch or are swapped, couplings left apart.
/// </summary>
internal static class MachineFaults
{
    // What ignition's hundreds of volts jump and an ohmmeter calls open: from memory.
    private const double TrackVolts = 60;

    // How much oftener a stop lead is found bare than another wire: common practice, no source.
    private const double StopLeadsChafe = 3;

    public static IEnumerable<Fault> Of(Machine machine, Circuit circuit) =>
        [
            .. machine.Wires.SelectMany(w => Chafes(machine, circuit, w)),
            .. machine.Parts.Where(p => p.Kind == PartKinds.Coupling).SelectMany(p => InCoupling(circuit, p)),
        ];

    /// <summary>Whether a device's own fault can be on a machine: not in a cavity that no wire is in.</summary>
    public static bool CanBe(Machine machine, Fault fault) =>
        fault.Id.Of.Owner.Part is not { } id
        || machine.Index.Part(id) is not { Kind: PartKinds.Coupling } coupling
        || Cavity.Of(coupling).Any(c => coupling.Element(c.Name) == fault.Id.Of && HasWires(machine, c));

    private static bool HasWires(Machine machine, Cavity cavity) =>
        machine.Index.EndsAt(cavity.A).Any() && machine.Index.EndsAt(cavity.B).Any();

    private static IEnumerable<Fault> Chafes(Machine machine, Circuit circuit, Wire wire)
    {
        var body = MachineWords.MetalAlong(machine, wire);
        if (body is null)
        {
            yield break;
        }

        PointId near = wire.Id.From;
        PointId metal = body.At(body.Terminals[0]);
        var nodes = (circuit.NodeOf(near), circuit.NodeOf(metal));
        if (nodes.Item1 == nodes.Item2)
        {
            yield break;
        }

        Fault Of(string id, string words, double rate, Severity severity, double breaksDownAt = 0) =>
            new()
            {
                Id = new FaultId(Owner.Of(wire.Id).Element(), id),
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

        // Longer wires lie against more edges; a stop lead lies on the hot engine, under its shroud and beside its linkage: common
        // practice, no source.
        var often = circuit.Topology.CarriesIgnition(near) ? StopLeadsChafe : 1;
        yield return Of("chafed", $"bare on {body.Name}", often * (0.2 + (0.2 * wire.LengthM)), new Severity(3, 0.02));
        yield return Of(
            "damp",
            $"damp track to {body.Name}",
            0.1 + (0.1 * wire.LengthM),
            new Severity(50_000, 100)
        ) with
        {
            Weakness = Weakness.Damp | Weakness.Salt | Weakness.Age,
        };
        if (circuit.Topology.CarriesIgnition(near))
        {
            yield return Of("track", $"jumps to {body.Name} when running", 0.3, new Severity(300, 1), TrackVolts);
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
            return WireRepair.Of(machine, wire);
        }

        var splices = Splices(machine, met);
        var ids = met.Select(w => w.Id).ToList();
        return new Repair(
            new RepairId(RepairTarget.Loom, ids[0].Text),
            $"insulation of wires {string.Join(", ", ids.SkipLast(1))} and {ids[^1]}, which meet in {string.Join(" and ", splices.Select(p => p.Id))}",
            $"insulation about {splices[0].Id}",
            RepairKind.RenewWire,
            splices[0].Place
        );
    }

    /// <summary>Wires that splices join to a wire, itself included, in the order of the file.</summary>
    private static List<Wire> Meeting(Machine machine, Wire wire)
    {
        var met = new HashSet<Wire> { wire };
        for (var before = 0; before != met.Count; )
        {
            before = met.Count;
            var splices = Splices(machine, met).Select(p => p.Id).ToHashSet();
            met.UnionWith(machine.Wires.Where(w => splices.Contains(w.From.At.Part) || splices.Contains(w.To.At.Part)));
        }

        return [.. machine.Wires.Where(met.Contains)];
    }

    private static List<Part> Splices(Machine machine, IEnumerable<Wire> wires) =>
        [
            .. wires
                .SelectMany(w => new[] { w.From.At, w.To.At })
                .Select(a => MachineWords.PartAt(machine, a))
                .Where(p => p.Kind == PartKinds.Splice)
                .Distinct(),
        ];

    private static IEnumerable<Fault> InCoupling(Circuit circuit, Part part)
    {
        var cavities = Cavity.Of(part).Where(c => HasWires(circuit.Machine, c)).ToList();
        var ohms = ((IComesApart)circuit.DeviceOf(part.Id)).Cavities.ToDictionary(
            c => c.Cavity,
            c => c.Ohms,
            StringComparer.Ordinal
        );
        for (var i = 0; i + 1 < cavities.Count; i++)
        {
            var (one, two) = (cavities[i], cavities[i + 1]);
            Fault Of(string id, FaultKind kind, string words, double rate, IReadOnlyList<LaidPath> paths) =>
                new()
                {
                    Id = part.Fault($"{one.Name}-{two.Name}-{id}"),
                    Kind = kind,
                    Words = $"{part.Name}, cavities {one.Name} and {two.Name}: {words}",
                    Repair = new Repair(
                        new RepairId(RepairTarget.Pair, part.Element($"{one.Name}-{two.Name}").Text),
                        $"{part.Name}, cavities {one.Name} and {two.Name}",
                        $"{part.Name} {one.Name}+{two.Name}",
                        RepairKind.RenewCavity,
                        part.Place
                    ),
                    Rate = rate,
                    Changes = [],
                    Nodes = (circuit.NodeOf(one.A), circuit.NodeOf(two.A)),
                    Paths = paths,
                };

            yield return Of(
                "touching",
                FaultKind.ShortedToNeighbour,
                "pins touch or bridged by damp",
                0.4,
                [new LaidPath(one.A, two.A)]
            ) with
            {
                Severity = new Severity(20_000, 0.05),
                ComesAndGoes = true,
                Weakness = Weakness.Damp | Weakness.Salt | Weakness.Age,
            };
            yield return Crossed(
                circuit,
                Of("swapped", FaultKind.Swapped, "wires swapped", 0.1, []) with
                {
                    Weakness = Weakness.RecentWork,
                },
                one,
                two
            );
        }

        if (cavities.Count > 0 && Cavity.Of(part).Count() > 1)
        {
            yield return new Fault
            {
                Id = part.Fault("unplugged"),
                Kind = FaultKind.Unplugged,
                Words = part.Name + ": left apart",
                Repair = new Repair(
                    new RepairId(RepairTarget.Plug, part.Id.Text),
                    part.Name,
                    part.Name,
                    RepairKind.CleanJoint,
                    part.Place
                ),
                Rate = 0.3,
                Changes = [.. ohms.Values.Select(Opened)],
                Nodes = (circuit.NodeOf(cavities[0].A), circuit.NodeOf(cavities[0].B)),
                Weakness = Weakness.RecentWork | Weakness.Vibration,
            };
        }
    }

    private const double SwappedOhms = 0.004;

    /// <summary>A fault that is the pins of two cavities, on one side of their coupling, in each other's place.</summary>
    /// <param name="circuit">The circuit.</param>
    /// <param name="fault">The fault, without what it changes.</param>
    /// <param name="one">A cavity.</param>
    /// <param name="other">Another of that coupling.</param>
    public static Fault Crossed(Circuit circuit, Fault fault, Cavity one, Cavity other)
    {
        var ohms = ((IComesApart)circuit.DeviceOf(one.A.Part)).Cavities.ToLookup(c => c.Cavity, c => c.Ohms);
        return fault with
        {
            Changes = [.. ohms[one.Name].Concat(ohms[other.Name]).Select(Opened)],
            Paths =
            [
                new LaidPath(one.A, other.B, SwappedOhms, Through: one.A.Part),
                new LaidPath(other.A, one.B, SwappedOhms, Through: one.A.Part),
            ],
        };
    }

    private static ParameterChange Opened(ParameterId parameter) =>
        new(parameter, ChangeRule.Set, double.PositiveInfinity);
}
