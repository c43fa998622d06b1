using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A solenoid that lets the engine run or stops it: one coil that pulls at some volts and holds to fewer.</summary>
internal abstract class EngineSolenoid(Part part, PartFigures figures, string from, string to) : Device
{
    private const double Milliseconds = 25;
    private const int In = 1;
    private Resistance coil = null!;
    private ParameterId seized;
    private StateId plunger;

    private protected static IReadOnlyList<ValueRule> Values(double coilOhms) =>
        [
            new ValueRule("coilOhms", 0.2, 500, coilOhms),
            // Pulls in by 7–8 V, holds to 2–4 V: common practice, no source.
            new ValueRule("pullInVolts", 1, 40, 7.5) { Differs = 0.3 },
            new ValueRule("dropOutVolts", 0.2, 30, 3),
        ];

    /// <summary>Whether the engine runs with the plunger in.</summary>
    private protected abstract bool RunsPulled { get; }

    public override bool IsActive => true;

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        coil = new Resistance(declaration, part, "coilOhms", from, to, figures["coilOhms"], Spread.Winding);
        seized = declaration.Parameter(part.Element(), "seized", 0, Spread.None);
        plunger = declaration.State(part.Element());
    }

    public override void Stamp(CircuitState state) => coil.Stamp(state);

    public override Change Step(CircuitState state)
    {
        var threshold = figures[state[plunger] == In ? "dropOutVolts" : "pullInVolts"];
        var pulls = coil.Drive(state) >= threshold && state[seized] == 0;
        return pulls == (state[plunger] == In) ? Change.None : Change.Switch(plunger, pulls ? In : 0, Milliseconds);
    }

    public override Effect Effect(CircuitState state) =>
        new(EffectKind.LetsRun, state[plunger] == In == RunsPulled ? 1 : 0);

    public override string? WhyNot(CircuitState state) =>
        Effect(state).Level > 0 ? null
        : RunsPulled ? $"{part.Name} is not pulled in: no fuel"
        : $"{part.Name} is pulled in: stopped";

    public override IEnumerable<Fault> Faults() =>
        [
            coil.Gone("open", "winding open", 3),
            coil.Shorted("winding shorted", 0.5),
            PartFault.Of(
                part,
                "seized",
                FaultKind.Stalled,
                "plunger seized",
                1,
                coil.Nodes,
                new ParameterChange(seized, ChangeRule.Set, 1)
            ) with
            {
                Weakness = Weakness.Age | Weakness.Salt | Weakness.Damp,
            },
        ];
}

/// <summary>A fuel-cut solenoid in the carburettor: fed, it lets fuel pass. Its coil ends on its own metal.</summary>
internal sealed class FuelCutSolenoid(Part part, PartFigures figures)
    : EngineSolenoid(part, figures, "in", "case"),
        INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "fuel-cut-solenoid",
            ["in", "case"],
            "exactly \"in\" and \"case\"",
            Values(14),
            (part, figures) => new FuelCutSolenoid(part, figures)
        );

    private protected override bool RunsPulled => true;
}

/// <summary>A diesel's stop solenoid of the kind that is fed to run.</summary>
internal sealed class RunSolenoid(Part part, PartFigures figures)
    : EngineSolenoid(part, figures, "+", "-"),
        INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "run-solenoid",
            ["+", "-"],
            "exactly \"+\" and \"-\"",
            Values(12),
            (part, figures) => new RunSolenoid(part, figures)
        );

    private protected override bool RunsPulled => true;
}

/// <summary>A diesel's stop solenoid of the kind that is fed to stop; left fed, its pull-in winding burns in seconds.</summary>
internal sealed class StopSolenoid(Part part, PartFigures figures)
    : EngineSolenoid(part, figures, "+", "-"),
        INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "stop-solenoid",
            ["+", "-"],
            "exactly \"+\" and \"-\"",
            Values(0.9),
            (part, figures) => new StopSolenoid(part, figures)
        );

    private protected override bool RunsPulled => false;
}
