using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A permanent-magnet starter turning an engine. Below its breakaway volts it is its own resistance; above, it
/// turns, and its back-e.m.f. leaves it drawing friction amps plus a share that grows with speed:
/// I = (I₀ + gV) / (1 + gR). docs/method.md derives it.
/// </summary>
internal sealed class Starter(Part part, PartFigures figures) : Device, INamedDevice, ICranks
{
    private const int Turning = 1;
    private const double Milliseconds = 40;

    public static DeviceKind Kind { get; } =
        new(
            "starter",
            ["post", "case"],
            "exactly \"post\" and \"case\"",
            [
                // A starter is made for its engine: what it draws differs from make to make together.
                new ValueRule("stallOhms", 0.002, 1, 0.03) { Differs = 0.4 },
                new ValueRule("frictionAmps", 1, 1000, 55) { Differs = 0.2 },
                new ValueRule("crankAmps", 5, 2000, 85) { Differs = 0.4 },
                new ValueRule("crankVolts", 4, 24, 10.8) { Differs = 0.1 },
            ],
            (part, figures) => new Starter(part, figures)
        );

    private ParameterId armature;
    private ParameterId friction;
    private ParameterId locked;
    private BranchId branch;
    private SourceId backEmf;
    private StateId rotation;
    private (int, int) nodes;

    public override bool IsActive => true;

    /// <summary>g, in siemens: the speed-dependent share, from the healthy cranking point.</summary>
    private double SpeedSiemens
    {
        get
        {
            var (amps, volts) = (figures["crankAmps"], figures["crankVolts"]);
            return (amps - figures["frictionAmps"]) / (volts - (amps * figures["stallOhms"]));
        }
    }

    public override PartId? PartId => part.Id;

    public int Engine { get; private set; }

    public override void Declare(Declaration declaration)
    {
        Engine = declaration.Engine(part);
        armature = declaration.Parameter(part.Element(), "stallOhms", figures["stallOhms"], Spread.Winding);
        friction = declaration.Parameter(
            part.Element(),
            "frictionAmps",
            figures["frictionAmps"],
            new Spread(0.15, 0, 0)
        );
        locked = declaration.Parameter(part.Element(), "locked", 0, Spread.None);
        branch = declaration.Branch(part.Element(), part.At("post"), part.At("case"));
        backEmf = declaration.Source(part.Element(), part.At("post"), part.At("case"));
        rotation = declaration.State(part.Element());
        nodes = (declaration.Node(part.At("post")), declaration.Node(part.At("case")));
    }

    public override void Stamp(CircuitState state)
    {
        var ohms = state[armature];
        if (double.IsInfinity(ohms) || state[rotation] != Turning)
        {
            state.SetOhms(branch, ohms);
            state.SetSource(backEmf, 0, double.PositiveInfinity);
            return;
        }

        // Turning: the line I(V) as a source of −I₀/g behind R + 1/g.
        var g = SpeedSiemens;
        state.SetOhms(branch, double.PositiveInfinity);
        state.SetSource(backEmf, -state[friction] / g, ohms + (1 / g));
    }

    public override Change Step(CircuitState state)
    {
        var breakaway = state[friction] * state[armature];
        var volts = state.Across(branch);
        var turns = volts > breakaway && state[locked] == 0 && !double.IsInfinity(state[armature]);
        return turns == (state[rotation] == Turning)
            ? Change.None
            : Change.Switch(rotation, turns ? Turning : 0, Milliseconds);
    }

    /// <summary>Cranking speed follows back-e.m.f.: what the armature's own resistance leaves of the volts.</summary>
    public override Effect Effect(CircuitState state)
    {
        if (state[rotation] != Turning)
        {
            return new Effect(EffectKind.Turns, 0);
        }

        var (g, ohms, volts) = (SpeedSiemens, state[armature], state.Across(branch));
        var amps = (state[friction] + (g * volts)) / (1 + (g * ohms));
        var healthy = figures["crankVolts"] - (figures["crankAmps"] * figures["stallOhms"]);
        return new Effect(EffectKind.Turns, Math.Max(0, volts - (amps * ohms)) / healthy);
    }

    public override IEnumerable<Fault> Faults()
    {
        // Last among what stops cranking, after battery, joints, contacts and cables: common practice, no source.
        var repair = part.Repaired(RepairKind.ServiceStarter);
        yield return new Fault
        {
            Id = part.Fault("open"),
            Kind = FaultKind.Open,
            Words = part.Name + ": brushes or winding open",
            Repair = repair,
            Rate = 1.5,
            Changes = [new(armature, ChangeRule.Set, double.PositiveInfinity)],
            Nodes = nodes,
            ComesAndGoes = true,
        };
        yield return new Fault
        {
            Id = part.Fault("stalled"),
            Kind = FaultKind.Stalled,
            Words = part.Name + ": fed but locked, or the engine is seized",
            Repair = repair,
            Rate = 0.7,
            Changes = [new(locked, ChangeRule.Set, 1)],
            Nodes = nodes,
        };
        yield return new Fault
        {
            Id = part.Fault("dragging"),
            Kind = FaultKind.Dragging,
            Words = part.Name + ": dragging",
            Repair = repair,
            Rate = 1,
            Severity = new Severity(1.6, 5),
            Changes = [new(friction, ChangeRule.MultiplyBySeverity)],
            Nodes = nodes,
        };
        yield return new Fault
        {
            Id = part.Fault("resistive"),
            Kind = FaultKind.HighResistance,
            Words = part.Name + ": brushes worn",
            Repair = repair,
            Rate = 0.8,
            Severity = new Severity(0.05, 10),
            Changes = [new(armature, ChangeRule.AddSeverity)],
            Nodes = nodes,
            ComesAndGoes = true,
        };
    }
}
