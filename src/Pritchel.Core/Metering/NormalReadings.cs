using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Metering;

/// <summary>A reading that the machine gives in good order.</summary>
/// <param name="Where">Where the probes go.</param>
/// <param name="Value">Volts or ohms.</param>
public sealed record NormalReading(string Where, double Value);

/// <summary>Readings of a machine that does a duty.</summary>
/// <param name="Duty">The duty.</param>
/// <param name="Setting">In which setting, in words.</param>
/// <param name="Volts">Volts above battery negative along its line.</param>
public sealed record DutyReadings(Duty Duty, string Setting, IReadOnlyList<NormalReading> Volts);

/// <summary>What a machine reads in good order, worked out from its drawing by solving it.</summary>
public static class NormalReadings
{
    // Wires, joints and closed contacts read as the leads do; above, an ohmmeter shows leakage: from memory.
    private const double LeastOhms = 0.05;
    private const double MostOhms = 200_000;

    private static readonly Meter Exact = new()
    {
        Name = "exact",
        Leads = new Ohms(0),
        LeadsNulled = true,
    };

    /// <summary>Volts at the terminals along each duty's line, from battery positive on.</summary>
    public static IReadOnlyList<DutyReadings> OfDuties(Circuit circuit)
    {
        if (!circuit.PartsThat(PartTraits.StoresCharge).Any())
        {
            return [];
        }

        var machine = circuit.Machine;
        var readings = new List<DutyReadings>();
        foreach (var duty in machine.Duties)
        {
            var setting = circuit.Setting(duty.Setting);
            var line = LinePath.Through(circuit, setting, duty.Load);
            var state = new CircuitState(circuit);
            state.Begin(circuit.NominalParameters());
            state.Move(circuit.Setting(null));
            state.Move(setting);
            readings.Add(
                new DutyReadings(
                    duty,
                    setting.AllWords(machine),
                    [
                        .. line
                            .Nodes.Where(circuit.IsTerminal)
                            .Select(n => new NormalReading(
                                MachineWords.Terminal(machine, circuit.TerminalsAt(n).First()),
                                state.Drop(n, circuit.Reference)
                            )),
                    ]
                )
            );
        }

        return readings;
    }

    /// <summary>Ohms between the terminals of each part by itself, everything else off: coils, windings, filaments.</summary>
    public static IReadOnlyList<NormalReading> OfParts(Machine machine) =>
        [
            .. machine
                .Parts.Where(Wound)
                .SelectMany(p => Across(machine, p).Select(a => (Part: p, Across: a)))
                .Select(x => new NormalReading(
                    $"{x.Part.Name} {Letter(x.Across.Red)} to {Letter(x.Across.Black)}",
                    x.Across.Ohms
                )),
        ];

    /// <summary>Pairs of a part's terminals that an ohmmeter shows something between, the part by itself.</summary>
    internal static IEnumerable<(TerminalAddress Red, TerminalAddress Black, double Ohms)> Across(
        Machine machine,
        Part part
    )
    {
        var alone = Circuit.Compile(
            machine with
            {
                Parts = [part, Metal],
                Wires = [],
                Mounts = [],
                Duties = [],
                Controls = part.Contacts is null ? [] : machine.Controls,
            }
        );
        var @case = new Case { Circuit = alone, Settings = [alone.Setting(null)] };
        var terminals = part.Addresses.Where(a => alone.HasNode(a)).ToList();
        for (var a = 0; a < terminals.Count; a++)
        {
            for (var b = a + 1; b < terminals.Count; b++)
            {
                var shown = Bench.Read(
                    @case,
                    Exact,
                    MeterFunction.Ohms,
                    alone.NodeOf(terminals[a]),
                    alone.NodeOf(terminals[b])
                );
                if (
                    shown is { Refusal: null, OverRange: false, Value: { } ohms }
                    && ohms is >= LeastOhms and <= MostOhms
                )
                {
                    yield return (terminals[a], terminals[b], ohms);
                }
            }
        }
    }

    private static string Letter(TerminalAddress address) => MachineWords.Letter(address.Terminal);

    private static Part Metal { get; } =
        new()
        {
            Id = new PartId("metal-alone"),
            Name = "metal",
            Kind = PartKinds.Body,
            Place = new PlaceId(""),
            Terminals = [new TerminalId("1")],
        };

    private static bool Wound(Part part) =>
        !PartKinds.IsBattery(part.Kind)
        && part.Kind
            is not (PartKinds.Body or PartKinds.Coupling or PartKinds.Splice or PartKinds.Switch or PartKinds.Fuse);
}
