using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>What a coil that is fed by itself shares: ohms, amps on its own feed, and whether it does its work.</summary>
public abstract class FedCoil : PartSheet
{
    private static readonly Dictionary<ControlId, PositionId> Off = new() { [BenchMachine.Fed] = new("off") };
    private static readonly Dictionary<ControlId, PositionId> On = new() { [BenchMachine.Fed] = new("fed") };

    /// <inheritdoc/>
    public override string Before =>
        "Off its plug. A fused lead to one side, the other to battery minus; the fused lead is joined at the part first, at the battery last.";

    /// <inheritdoc/>
    public override IReadOnlyList<SheetLook> Looks =>
        [
            new("browned", "browned or melted at its plug", FaultKind.HighResistance, FaultKind.ShortedWinding),
            new("lead", "a lead that dangles or is rubbed through", FaultKind.Open),
            new("stiff", "it does not move freely by hand", FaultKind.Stalled),
        ];

    /// <inheritdoc/>
    public override bool IsCopper(SheetReading reading) => reading.Observable is DeadOhms;

    /// <summary>The coil's terminals, plus first.</summary>
    protected abstract (string Plus, string Minus) Coil(TestedPart tested);

    /// <summary>What is seen, heard or felt when it is fed.</summary>
    protected abstract string Works { get; }

    /// <inheritdoc/>
    public override Machine Rig(TestedPart tested)
    {
        var (plus, minus) = Coil(tested);
        return new BenchMachine(tested).Feed(tested.Part, plus, minus).Build();
    }

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested)
    {
        var (plus, minus) = Coil(tested);
        return
        [
            new("ohms", $"Ohms, {plus} to {minus}", DeadOhms.Instance, At(tested, plus), At(tested, minus))
            {
                How = "its feed off; leads taken off",
                Setting = Off,
            },
            new("works", Works, ActionSeen.Instance, At(tested, plus), At(tested, minus))
            {
                How = "fed three times, the worst counts",
                Setting = On,
                Caution = Caution,
            },
            new(
                "amps",
                "Amps, the meter in series on the 10 A jack",
                DirectAmps.Instance,
                TerminalAddress.Of(BenchMachine.SwitchId + ".1"),
                TerminalAddress.Of(BenchMachine.SwitchId + ".2")
            )
            {
                How = "seconds; red lead back to the volts jack at once after; OL where the fuse goes",
                Setting = Off,
                Caution = "The red lead in the amp jack across a battery is a blown fuse or a fire: in series only.",
            },
        ];
    }

    /// <inheritdoc/>
    public override IEnumerable<ArithmeticLine> Arithmetic(
        TestedPart tested,
        IReadOnlyDictionary<string, double> read,
        double celsius
    )
    {
        const double FeedVolts = 12.5;
        if (read.TryGetValue("amps", out var amps) && double.IsFinite(amps) && amps > 0)
        {
            yield return new(
                $"{FeedVolts:0.0} V ÷ {Units.Engineering.Format(amps, "A")}: ohms at work, more than cold where it warms",
                Units.Engineering.Format(FeedVolts / amps, "Ω")
            );
        }
    }
}

/// <summary>A fuel or stop solenoid: coil, plunger seen fed and unfed.</summary>
public sealed class EngineSolenoidSheet : FedCoil
{
    /// <inheritdoc/>
    public override string Key => "engine-solenoid";

    /// <inheritdoc/>
    public override string Name => "Fuel or stop solenoid";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => kind.Name is "fuel-cut-solenoid" or "run-solenoid" or "stop-solenoid";

    /// <inheritdoc/>
    public override string Caution =>
        "Seconds only: a pull-in winding left fed burns. Know which kind it is first, fed to run or fed to stop. Fuel about: the fused lead is joined at the solenoid first, sparks away from it.";

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "Nothing here tests its feed: read volts at its unplugged connector through key on and key off before a relay or timer is blamed. A plunger that moves in the hand may stick in its bore, hot.";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        ["Pulls in by 7 to 8 V, holds to 2 to 4 V: common practice, no source."];

    /// <inheritdoc/>
    protected override (string Plus, string Minus) Coil(TestedPart tested) =>
        tested.Part.Terminals.Any(t => t.Text == "in") ? ("in", "case") : ("+", "-");

    /// <inheritdoc/>
    protected override string Works => "Its plunger, coil fed: does it move all the way?";
}

/// <summary>An electric blade clutch: coil, pull, amps, and the gap that no meter sees.</summary>
public sealed class ElectricClutchSheet : FedCoil
{
    /// <inheritdoc/>
    public override string Key => "electric-clutch";

    /// <inheritdoc/>
    public override string Name => "Electric clutch";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => kind.Name == "load";

    /// <inheritdoc/>
    public override string Caution =>
        "Engine stopped, key out, plug leads off. It snatches as it is fed: blades, belt, fingers and rags clear.";

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "A clutch that pulls cold may slip or drop out hot: read it again at once after work. Its gap, its brake and what its wires leave it under load are not in these readings; a kill or relay that drops it is another circuit.";

    /// <inheritdoc/>
    public override IReadOnlyList<SheetLook> Looks =>
        [
            new("gap", "gap at a feeler window over about 0.5 mm, or not alike in all three", FaultKind.Stalled),
            new("blue", "rotor blue, lining burnt, a smell of it", FaultKind.ShortedWinding, FaultKind.Stalled),
            new(
                "turns",
                "its field turns with the pulley: the stop that holds it is gone, its lead torn",
                FaultKind.Open
            ),
            .. base.Looks.Where(l => l.Id == "browned"),
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        [
            "Coil 2 to 4 ohm, 3.5 to 5 A; gap 0.3 to 0.5 mm, set alike at each window by its nuts: from memory; the maker's figure goes first.",
        ];

    /// <inheritdoc/>
    protected override (string Plus, string Minus) Coil(TestedPart tested) => ("+", "-");

    /// <inheritdoc/>
    protected override string Works => "Fed: does it pull in with a clear knock, at once?";
}

/// <summary>A pump, an injector, a glow plug, a trim motor, any other load: ohms, amps, and that it works.</summary>
public sealed class FedLoad : FedCoil
{
    /// <inheritdoc/>
    public override string Key => "fed-load";

    /// <inheritdoc/>
    public override string Name => "Pump, injector, glow plug, other load: fed";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => kind.Name is "load" or "buzzer";

    /// <inheritdoc/>
    public override string Caution =>
        "Blades and belts clear and the engine stopped before a clutch is fed; a glow plug glows red in seconds; an injector is fed through a bulb, for a tick, with no fuel about.";

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "What works on the bench at a full battery may not at what its wires leave it: read volts at its plug while it is fed on the machine. A clutch that pulls cold may slip hot: its gap is not in these readings.";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        [
            "Electric clutch 2 to 4 ohm, glow plug 0.4 to 1.5, high-ohm injector 11 to 16: from memory; the maker's figure, or the sister part's, goes first.",
        ];

    /// <inheritdoc/>
    protected override (string Plus, string Minus) Coil(TestedPart tested) => ("+", "-");

    /// <inheritdoc/>
    protected override string Works => "Fed: does it pull, turn, tick or glow as it should?";
}
