using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A flywheel magneto with its coil: sparks unless its kill lead finds ground. What is left of its primary's volts with the
/// kill lead as it is decides, so some ohms kill an inductive primary, and fewer the slower it turns.
/// </summary>
internal sealed class Magneto(Part part, PartFigures figures)
    : Device,
        INamedDevice,
        IKillable,
        IIgnition,
        IPassedAlone,
        ISparkTested
{
    private const double PeakVoltsPer1000 = 60;

    // The coil is the last of plug, stop lead, switch and coil: common practice, no source.
    private const double CoilsFail = 0.35;

    // Turns of the secondary to one of the primary, from memory: what makes twenty kilovolts throws some 250 V on the kill lead.
    private const double Ratio = 80;

    public static DeviceKind Kind { get; } =
        new(
            "magneto",
            ["kill", "case"],
            "\"kill\" and \"case\", and \"ht\" where its lead is on the drawing",
            [
                // Primary 0.2–1.5 ohm: common practice, no source.
                new ValueRule("primaryOhms", 0.05, 50, 0.6),
                // Reactance and kilovolts of a small single: from memory.
                new ValueRule("reactancePer1000Rpm", 0.1, 1000, 5),
                new ValueRule("fullKilovolts", 2, 60, 20),
                new ValueRule("halfAtRpm", 10, 3000, 180),
                .. HighTension.Values,
            ],
            (part, figures) => new Magneto(part, figures)
        )
        {
            OptionalTerminals = ["ht"],
            Traits = PartTraits.LeadMouldedIn,
        };

    private IgnitionWinding primary = null!;
    private HighTension high = null!;
    private MemoryId left;

    public override PartId? PartId => part.Id;

    /// <inheritdoc/>
    public IEnumerable<ParameterId> ReplacedBy(SparkTesterAt at) => high.ReplacedBy(at);

    public override bool IsActive => true;

    public override bool IsRotating => true;

    public override void Declare(Declaration declaration)
    {
        primary = new IgnitionWinding(
            declaration,
            part,
            ("", "kill", "case"),
            PeakVoltsPer1000,
            figures["primaryOhms"],
            figures["reactancePer1000Rpm"]
        );
        high = new HighTension(declaration, part, figures, "case");
        left = declaration.Memory(0);
    }

    public override void Stamp(CircuitState state)
    {
        primary.Stamp(state, IsPassed(state), IsPassed(state) ? Kilovolts(state) * 1000 / Ratio : 0);
        high.Stamp(state);
    }

    public void Observe(CircuitState state)
    {
        if (!IsPassed(state))
        {
            return;
        }

        switch (state.Moment)
        {
            case Moment.Positive:
                state[left] = Math.Abs(primary.Volts(state));
                break;
            case Moment.Negative:
                state[left] = Math.Min(state[left], Math.Abs(primary.Volts(state)));
                break;
            default:
                high.Fire(state, Kilovolts(state));
                break;
        }
    }

    public override Effect Effect(CircuitState state) => high.Effect(state);

    public override string? WhyNot(CircuitState state) =>
        high.WhyNot(state) is not { } said ? null
        : primary.Rpm(state) <= 0 ? $"{part.Name}: the engine does not turn"
        : Left(state) < 0.6 ? $"{part.Name}: its kill lead holds it down to {Left(state):0 %} of its volts"
        : said;

    public KillTerminal Terminal(Circuit circuit) =>
        new(circuit.NodeOf(part.At("kill")), circuit.NodeOf(part.At("case")), Faults().First());

    public override IEnumerable<Fault> Faults() => [.. primary.Faults("", "primary", CoilsFail), .. high.Faults()];

    private bool IsPassed(CircuitState state) => state.Passed is null || ReferenceEquals(state.Passed, this);

    private double Kilovolts(CircuitState state)
    {
        var rpm = primary.Rpm(state);
        var full = figures["fullKilovolts"] * rpm / (rpm + figures["halfAtRpm"]);
        var strength = state[primary.Peak] / PeakVoltsPer1000;
        return rpm > 0 ? full * Math.Min(1.2, strength) * Left(state) : 0;
    }

    private double Left(CircuitState state)
    {
        var open = primary.OpenVolts(state);
        return open > 0 ? state[left] / open : 0;
    }
}
