using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Metering;

/// <summary>A reading that the machine gives in good order.</summary>
/// <param name="Where">Where the probes go.</param>
/// <param name="Value">Volts or ohms.</param>
public sealed record NormalReading(string Where, double Value);

/// <summary>A reading of a machine that runs, or stands.</summary>
/// <param name="Where">Where the probes go.</param>
/// <param name="At">How fast the engine turns, in words.</param>
/// <param name="Value">Volts.</param>
/// <param name="Kind">"V", "V AC" or "V peak".</param>
public sealed record RunningReading(string Where, string At, double Value, string Kind);

/// <summary>Readings of a machine that does a duty.</summary>
/// <param name="Duty">The duty.</param>
/// <param name="Setting">In which setting, in words.</param>
/// <param name="Volts">Volts above battery negative along its line.</param>
public sealed record DutyReadings(Duty Duty, string Setting, IReadOnlyList<NormalReading> Volts);

/// <summary>What a machine reads in good order, worked out from its drawing by solving it.</summary>
public static class NormalReadings
{
    // What is less than an ordinary meter's leads is read as them; above, an ohmmeter shows leakage: from memory.
    private const double LeastOhms = 0.2;
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
            var state = Settled(circuit, setting, DutySpeed.Rest);
            var below = Below(circuit, state);
            readings.Add(
                new DutyReadings(
                    duty,
                    setting.AllWords(machine),
                    [
                        .. line
                            .Nodes.Where(circuit.IsTerminal)
                            .Select(n => new NormalReading(
                                MachineWords.Terminal(machine, circuit.TerminalsAt(n).First()),
                                state.Drop(n, below)
                            )),
                    ]
                )
            );
        }

        return readings;
    }

    /// <summary>Negative post of the battery that gives most: with two engines, that of the one in question.</summary>
    private static int Below(Circuit circuit, CircuitState state) =>
        circuit.NodeOf(
            circuit.PartsThat(PartTraits.StoresCharge).MinBy(p => circuit.DeviceOf(p.Id).Effect(state).Level)!.At("-")
        );

    /// <summary>
    /// What a mechanic looks up: the battery at rest and charged, charge windings' alternating volts with their plug apart,
    /// peaks of ignition windings, outlets.
    /// </summary>
    /// <param name="circuit">The machine's circuit.</param>
    /// <param name="running">A setting in which its engine runs.</param>
    public static IReadOnlyList<RunningReading> OfRunning(Circuit circuit, ControlSetting running)
    {
        var readings = new List<RunningReading>();
        var rest = Settled(circuit, circuit.Setting(null), DutySpeed.Rest);
        foreach (var battery in circuit.PartsThat(PartTraits.StoresCharge))
        {
            readings.Add(Across(rest, battery, "+", "-", "at rest"));
        }

        if (circuit.Engines is not [var first, ..])
        {
            return readings;
        }

        foreach (var (speed, rpm) in new[] { (DutySpeed.Idle, first.IdleRpm), (DutySpeed.Work, first.WorkRpm) })
        {
            var (state, words) = (Settled(circuit, running, speed), $"{rpm:0} rpm");
            readings.AddRange(
                circuit.PartsThat(PartTraits.StoresCharge).Select(b => Across(state, b, "+", "-", words))
            );
            foreach (var part in circuit.Machine.Parts)
            {
                if (
                    DeviceKinds.Named(part.Kind) is { FollowsWave: true }
                    && !circuit.Is(part.Id, PartTraits.MakesMains)
                )
                {
                    var alone = Alone(circuit.Machine, part);
                    var turned = Settled(alone, alone.Setting(null), speed);
                    readings.AddRange(Alternating(turned, part, words + ", its plug apart"));
                }
                else if (circuit.Is(part.Id, PartTraits.MakesMains))
                {
                    readings.AddRange(Alternating(state, part, words));
                }
            }
        }

        var pulled = Settled(circuit, running, DutySpeed.Crank);
        foreach (var part in circuit.Machine.Parts.Where(p => Pulses(circuit, p)))
        {
            var ends = part.Addresses.ToList();
            readings.Add(
                new RunningReading(
                    Named(part, ends[0], ends[^1]),
                    $"{first.CrankRpm:0} rpm, cranking",
                    pulled.Fire(circuit.NodeOf(ends[0]), circuit.NodeOf(ends[^1])),
                    "V peak"
                )
            );
        }

        return readings;
    }

    // Below this an AC range shows its own noise.
    private const double LeastAlternating = 0.5;

    private static CircuitState Settled(Circuit circuit, ControlSetting setting, DutySpeed speed)
    {
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(circuit.Setting(null));
        state.Move(setting);
        if (speed != DutySpeed.Rest)
        {
            state.SetSpeeds(speed);
            state.Move(setting);
        }

        return state;
    }

    private static RunningReading Across(CircuitState state, Part part, string red, string black, string at) =>
        new(part.Name, at, state.Drop(state.Circuit.NodeOf(part.At(red)), state.Circuit.NodeOf(part.At(black))), "V");

    private static string Named(Part part, TerminalAddress red, TerminalAddress black) =>
        $"{part.Name} {Letter(red)} to {Letter(black)}";

    private static IEnumerable<RunningReading> Alternating(CircuitState state, Part part, string at) =>
        Pairs(state.Circuit, part)
            .Select(p => new RunningReading(
                Named(part, p.Red, p.Black),
                at,
                state.Alternating(state.Circuit.NodeOf(p.Red), state.Circuit.NodeOf(p.Black)),
                "V AC"
            ))
            .Where(r => r.Value >= LeastAlternating);

    /// <summary>Whether it is a winding of the ignition's own: it turns, shows nothing of itself and is no charge winding.</summary>
    private static bool Pulses(Circuit circuit, Part part) =>
        circuit.HasDevice(part.Id)
        && DeviceKinds.Named(part.Kind) is { FollowsWave: false, NeedsEngine: true }
        && circuit.DeviceOf(part.Id) is { IsRotating: true };

    private static IEnumerable<(TerminalAddress Red, TerminalAddress Black)> Pairs(Circuit circuit, Part part)
    {
        var ends = part.Addresses.Where(a => circuit.HasNode(a)).ToList();
        return ends.SelectMany((red, i) => ends.Skip(i + 1).Select(black => (red, black)));
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
        var alone = Alone(machine, part);
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

    private static Circuit Alone(Machine machine, Part part) =>
        Circuit.Compile(
            machine with
            {
                Parts = [part, Metal],
                Wires = [],
                Mounts = [],
                Duties = [],
                Controls = part.Contacts is null ? [] : machine.Controls,
            }
        );

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
        && DeviceKinds.Named(part.Kind) is not { HidesInside: true }
        && part.Kind
            is not (PartKinds.Body or PartKinds.Coupling or PartKinds.Splice or PartKinds.Switch or PartKinds.Fuse);
}
