using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A generator's automatic voltage regulator: rectifies the excitation winding into the rotor, all of it until the winding
/// shows its set volts, then as much as holds them. Build-up is followed turn by turn from the residue, as it happens.
/// </summary>
internal sealed class GeneratorRegulator(Part part, PartFigures figures) : Device, INamedDevice, IHidesInside
{
    // A bridge's mean over r.m.s. is 2√2/π; its two diodes drop 1.4 V.
    private const double MeanOverEffective = 0.9;
    private const double BridgeVolts = 1.4;
    private const double OutputOhms = 0.5;
    private const double Caution = 0.7;

    public static DeviceKind Kind { get; } =
        new(
            "generator-regulator",
            ["ea", "eb", "F+", "F-"],
            "exactly \"ea\", \"eb\", \"F+\" and \"F-\"",
            [
                new ValueRule("setVolts", 10, 300, 110) { Differs = 0.05 },
                new ValueRule("inputOhms", 100, 1_000_000, 20_000),
            ],
            (part, figures) => new GeneratorRegulator(part, figures)
        );

    private Resistance input = null!;
    private ParameterId setVolts;
    private ParameterId works;
    private SourceId output;
    private MemoryId emf;
    private (int, int) outputNodes;

    public override bool IsActive => true;

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        input = new Resistance(declaration, part, "inputOhms", "ea", "eb", figures["inputOhms"], Spread.Winding);
        setVolts = declaration.Parameter(part.Element(), "setVolts", figures["setVolts"], new Spread(0.01, 0, 0));
        works = declaration.Parameter(part.Element(), "works", 1, Spread.None);
        output = declaration.Source(part.Element(), part.At("F+"), part.At("F-"));
        outputNodes = (declaration.Node(part.At("F+")), declaration.Node(part.At("F-")));
        emf = declaration.Memory(0);
    }

    public override void Stamp(CircuitState state)
    {
        input.Stamp(state);
        var gives = state[works] > 0 && state.Moment != Moment.Still ? state[emf] : 0;
        state.SetSource(output, gives, gives > 0 ? OutputOhms : double.PositiveInfinity);
    }

    public override Change Step(CircuitState state)
    {
        if (!state.IsTurning || state[works] == 0)
        {
            state[emf] = 0;
            return Change.None;
        }

        var (seen, now) = (state.Heating(input.Branch), state[emf]);
        var most = Math.Max(0, (MeanOverEffective * seen) - BridgeVolts);
        var error = (state[setVolts] - seen) / state[setVolts];
        var wanted = now <= 0 ? most : Math.Min(most, now * (1 + (Caution * Math.Max(error, -1))));

        // Below its set volts it gives all it has.
        wanted = error > 0 && now < most && error > 0.02 ? most : wanted;
        state[emf] = wanted;
        return Math.Abs(wanted - now) <= 1e-6 + (state.Closeness * 10 * wanted) ? Change.None : Change.Refine;
    }

    public override IEnumerable<Fault> Faults() =>
        [
            PartFault.Of(
                part,
                "dead",
                FaultKind.Open,
                "gives no field",
                3,
                outputNodes,
                new ParameterChange(works, ChangeRule.Set, 0)
            ),
            PartFault.Of(
                part,
                "high",
                FaultKind.Overcharging,
                "holds too high",
                1,
                outputNodes,
                new ParameterChange(setVolts, ChangeRule.MultiplyBySeverity)
            ) with
            {
                Severity = new Severity(1.1, 1.5),
            },
        ];
}
