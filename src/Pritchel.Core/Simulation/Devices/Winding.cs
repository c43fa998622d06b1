using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// One coil that magnets pass: e.m.f. in proportion to speed, behind its copper and its inductance. The inductance is
/// carried from step to step by the second-order backward formula (BDF2), which neither rings nor drifts when a diode cuts
/// the current off: L·di/dt ≈ L(3i₀ − 4i₁ + i₂)/2h is an e.m.f. of L(4i₁ − i₂)/2h behind 3L/2h. docs/method.md.
/// </summary>
internal sealed class Winding
{
    private readonly Part part;
    private readonly string name;
    private readonly TerminalAddress near;
    private readonly TerminalAddress far;
    private readonly double lead;
    private readonly ParameterId volts;
    private readonly ParameterId ohms;
    private readonly ParameterId henries;
    private readonly SourceId source;
    private readonly MemoryId last;
    private readonly MemoryId before;
    private readonly (int, int) nodes;

    /// <summary>Declares a coil.</summary>
    /// <param name="declaration">The machine being compiled.</param>
    /// <param name="part">Part it belongs to.</param>
    /// <param name="name">Name within the part; empty for the only one.</param>
    /// <param name="from">Terminal at its positive end.</param>
    /// <param name="to">Terminal at its other end.</param>
    /// <param name="rating">Volts r.m.s. open at 1000 rpm, ohms, millihenries.</param>
    /// <param name="lead">Phase of its wave, in radians.</param>
    public Winding(
        Declaration declaration,
        Part part,
        string name,
        string from,
        string to,
        (double VoltsPer1000, double Ohms, double Millihenries) rating,
        double lead = 0
    )
    {
        (this.part, this.name, this.lead) = (part, name, lead);
        Engine = declaration.Engine(part);
        (near, far) = (part.At(from), part.At(to));
        var (of, a, b) = (part.Element(name), part.At(from), part.At(to));
        volts = declaration.Parameter(of, "voltsPer1000Rpm", rating.VoltsPer1000, Spread.Winding);
        ohms = declaration.Parameter(of, "ohms", rating.Ohms, Spread.Winding);
        henries = declaration.Parameter(of, "henries", rating.Millihenries / 1000, Spread.Winding);
        source = declaration.Source(of, a, b);
        last = declaration.Memory(0);
        before = declaration.Memory(0);
        nodes = (declaration.Node(a), declaration.Node(b));
    }

    /// <summary>Engine that turns it.</summary>
    public int Engine { get; }

    /// <summary>Amps of the last step and of the one before.</summary>
    public IReadOnlyList<MemoryId> Carried => [last, before];

    /// <summary>Share of its magnetism that it turns in, when that is made and not of magnets.</summary>
    public MemoryId? Magnetism { get; init; }

    /// <summary>Figures of a coil that a file may give.</summary>
    public static IReadOnlyList<ValueRule> Values(double voltsPer1000, double ohms, double millihenries) =>
        [
            new ValueRule("voltsPer1000Rpm", 0.1, 1000, voltsPer1000),
            new ValueRule("ohms", 0.01, 1000, ohms),
            new ValueRule("millihenries", 0.001, 1000, millihenries),
        ];

    /// <summary>
    /// Figures of a winding of a kind with more turns than usual, or fewer, in the same slots: volts go with the turns, ohms and
    /// henries with their square.
    /// </summary>
    /// <param name="kind">The kind.</param>
    /// <param name="turns">How many times the usual turns.</param>
    internal static Dictionary<string, double> Wound(DeviceKind kind, double turns) =>
        kind
            .Values.Where(v => v.Name is "voltsPer1000Rpm" or "ohms" or "millihenries")
            .ToDictionary(
                v => v.Name,
                v => v.Default * (v.Name == "voltsPer1000Rpm" ? turns : turns * turns),
                StringComparer.Ordinal
            );

    /// <summary>Its rating as a file gives it.</summary>
    public static (double, double, double) Rating(PartFigures figures) =>
        (figures["voltsPer1000Rpm"], figures["ohms"], figures["millihenries"]);

    public void Stamp(CircuitState state)
    {
        if (state.Moment != Moment.Wave || double.IsInfinity(state[ohms]))
        {
            state.SetSource(source, 0, state[ohms]);
            return;
        }

        var peak = Math.Sqrt(2) * state[volts] * state.Rpm(Engine) / 1000;
        peak *= Magnetism is { } share ? state[share] : 1;
        var (carried, lag) = Inductance(state);
        state.SetSource(source, (peak * Math.Sin(state.Angle + lead)) + carried, state[ohms] + lag);
    }

    /// <summary>Keeps the current of the step just solved.</summary>
    public void Advance(CircuitState state)
    {
        var amps = state.Through(source);
        state[before] = state.FirstStep ? amps : state[last];
        state[last] = amps;
    }

    /// <summary>Open, shorted turns, and to the core if it has one.</summary>
    public IEnumerable<Fault> Faults(string words, TerminalAddress? core)
    {
        // A leg is known by its own terminal, any other winding by both of its ends.
        var (prefix, said) =
            name.Length == 0 ? ("", words)
            : near.Terminal.Text == name ? (name + "-", $"{words} {name}")
            : (name + "-", $"{words} {near.Terminal} to {far.Terminal}");
        yield return PartFault.Of(
            part,
            prefix + "open",
            FaultKind.Open,
            said + " open",
            2,
            nodes,
            new ParameterChange(ohms, ChangeRule.Set, double.PositiveInfinity)
        ) with
        {
            Weakness = Weakness.Age | Weakness.Vibration,
        };
        yield return PartFault.Of(
            part,
            prefix + "turns",
            FaultKind.ShortedWinding,
            said + ": turns shorted",
            1,
            nodes,
            new ParameterChange(ohms, ChangeRule.MultiplyBySeverity),
            new ParameterChange(volts, ChangeRule.MultiplyBySeverity)
        ) with
        {
            Severity = new Severity(0.7, 0.2),
        };
        if (core is not null)
        {
            yield return PartFault.Of(
                part,
                prefix + "to-core",
                FaultKind.ShortedWinding,
                said + ": burnt through to its core",
                1,
                nodes
            ) with
            {
                Severity = new Severity(5, 0.05),
                Paths = [new LaidPath(near, core.Value)],
            };
        }
    }

    private (double Volts, double Ohms) Inductance(CircuitState state)
    {
        var perStep = state[henries] / state.StepSeconds;
        return state.FirstStep ? (0, perStep) : (perStep * ((2 * state[last]) - (0.5 * state[before])), 1.5 * perStep);
    }
}
