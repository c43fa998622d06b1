using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A field alternator excited through a charge lamp: D+ feeds the field, from the lamp until it builds up and from itself
/// after. Up it is a source that holds its regulator's volts at B+ as long as the amps it can give at its speed suffice,
/// I = I∞·√(1 − (ω₀/ω)²). Without lamp current it builds up from residual magnetism only, at a burst of speed. Waves are
/// left out: batteries and lamps see its mean.
/// </summary>
internal sealed class Alternator(Part part, PartFigures figures) : Device, INamedDevice, INeedsEngine, IFeedsItsField
{
    private const int Asleep = 0;
    private const int Holding = 1;
    private const int Limited = 2;
    private const double Milliseconds = 200;

    // Source resistance while it holds, and what stands for a current source when it gives all it can.
    private const double HoldingOhms = 0.01;
    private const double LimitedOhms = 100;

    // Its own diodes stand between the windings and D+ as the main ones do before B+: the two differ by some tenths of a
    // volt at most, and the lamp stays dark. Common practice, no source.
    private const double TrioOhms = 0.05;

    public static DeviceKind Kind { get; } =
        new(
            "alternator",
            ["B+", "D+", "case"],
            "exactly \"B+\", \"D+\" and \"case\" (DIN 72552)",
            [
                new ValueRule("ratedAmps", 5, 300, 55),
                new ValueRule("setVolts", 12.5, 16, 14.2) { Differs = 0.05 },
                new ValueRule("cutInRpm", 100, 5000, 700),
                // Field, lamp current and residual build-up of a small marine alternator: from memory.
                new ValueRule("fieldOhms", 0.5, 50, 4),
                new ValueRule("excitesAtAmps", 0.01, 2, 0.1),
                new ValueRule("residualRpm", 500, 20_000, 2600),
            ],
            (part, figures) => new Alternator(part, figures)
        );

    private int engine;
    private Resistance field = null!;
    private Resistance trio = null!;
    private ParameterId rated;
    private ParameterId setVolts;
    private ParameterId drain;
    private SourceId output;
    private BranchId drainBranch;
    private StateId up;

    public override bool IsActive => true;

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        engine = declaration.Engine(part);
        field = new Resistance(declaration, part, "fieldOhms", "D+", "case", figures["fieldOhms"], Spread.Winding);
        trio = new Resistance(declaration, part, "trioOhms", "B+", "D+", TrioOhms, Spread.None);
        rated = declaration.Parameter(part.Element(), "ratedAmps", figures["ratedAmps"], Spread.Winding);
        setVolts = declaration.Parameter(part.Element(), "setVolts", figures["setVolts"], new Spread(0.01, 0, 0));
        drain = declaration.Parameter(part.Element(), "drainOhms", double.PositiveInfinity, Spread.None);
        output = declaration.Source(part.Element(), part.At("B+"), part.At("case"));
        drainBranch = declaration.Branch(part.Element("drain"), part.At("B+"), part.At("case"));
        up = declaration.State(part.Element());
    }

    public override void Stamp(CircuitState state)
    {
        field.Stamp(state);
        trio.Stamp(state, state[up] != Asleep);
        state.SetOhms(drainBranch, state[drain]);
        switch (state[up])
        {
            case Holding:
                state.SetSource(output, state[setVolts], HoldingOhms);
                break;
            case Limited:
                state.SetSource(output, MostAmps(state) * LimitedOhms, LimitedOhms);
                break;
            default:
                state.SetSource(output, 0, double.PositiveInfinity);
                break;
        }
    }

    public override Change Step(CircuitState state)
    {
        var wanted = Wanted(state);
        return wanted == state[up] ? Change.None : Change.Switch(up, wanted, Milliseconds);
    }

    public override string? WhyNot(CircuitState state) =>
        state.Rpm(engine) <= 0 || state[up] != Asleep ? null
        : field.IsOpen(state) ? $"{part.Name}: its field is open"
        : Math.Abs(state.Through(field.Branch)) >= figures["excitesAtAmps"]
            ? $"{part.Name} turns too slowly to charge: from {figures["cutInRpm"]:0} rpm on"
        : $"{part.Name} is not excited: {Math.Abs(state.Through(field.Branch)) * 1000:0} mA through its field";

    public override IEnumerable<Fault> Faults()
    {
        Fault Of(string id, FaultKind kind, string words, double rate, ParameterChange change) =>
            PartFault.Of(part, id, kind, words, rate, field.Nodes, change);

        yield return field.Gone("field-open", "brushes worn or field open", 3) with
        {
            ComesAndGoes = true,
        };
        yield return trio.Gone("trio-open", "field diodes open", 1);
        yield return Of(
            "phase-open",
            FaultKind.Feeble,
            "one phase or diode open",
            1.5,
            new(rated, ChangeRule.MultiplyBySeverity)
        ) with
        {
            Severity = new Severity(0.65, 0.35),
        };
        yield return Of(
            "overcharging",
            FaultKind.Overcharging,
            "does not hold its volts",
            1.5,
            new(setVolts, ChangeRule.MultiplyBySeverity)
        ) with
        {
            Severity = new Severity(1.08, 1.3),
        };
        yield return Of(
            "drains",
            FaultKind.Drain,
            "a diode leaks: drains the battery at rest",
            1,
            new(drain, ChangeRule.SetToSeverity)
        ) with
        {
            Severity = new Severity(60, 2),
        };
    }

    private int Wanted(CircuitState state)
    {
        // Lamp current alone magnetises too little to give anything: without its own diodes it never comes up.
        if (field.IsOpen(state) || trio.IsOpen(state) || MostAmps(state) <= 0)
        {
            return Asleep;
        }

        var volts = state.Across(output);
        switch (state[up])
        {
            case Holding:
                return state.Through(output) > MostAmps(state) ? Limited : Holding;
            case Limited:
                return volts > state[setVolts] ? Holding : Limited;
            default:
                var excited =
                    Math.Abs(state.Through(field.Branch)) >= figures["excitesAtAmps"]
                    || state.Rpm(engine) >= figures["residualRpm"];
                return excited ? Limited : Asleep;
        }
    }

    private double MostAmps(CircuitState state)
    {
        var share = figures["cutInRpm"] / Math.Max(state.Rpm(engine), 1);
        return share >= 1 ? 0 : state[rated] * Math.Sqrt(1 - (share * share));
    }
}
