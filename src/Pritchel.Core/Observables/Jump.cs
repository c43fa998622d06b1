using Pritchel.Core.Handbook;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Observables;

/// <summary>What is put between two points.</summary>
public enum JumpKind
{
    /// <summary>A fused lead with a button in it.</summary>
    Lead,

    /// <summary>A bulb of twelve volts and 21 watts.</summary>
    Lamp,

    /// <summary>A test lamp of a quarter of an amp: load enough to show up a bad joint that a meter reads full volts through.</summary>
    TestLamp,
}

/// <summary>Two points joined for a test, and with what.</summary>
/// <param name="From">Node that it is fed from.</param>
/// <param name="To">Node that it feeds.</param>
/// <param name="Kind">What joins them.</param>
public sealed record Jump(int From, int To, JumpKind Kind)
{
    // A metre each of 2.5 mm² out and back with clips and a button: from memory.
    private const double LeadOhms = 0.03;

    // Across the studs of a solenoid a heavy lead is used, as for starting from another battery.
    private const double HeavyOhms = 0.003;

    private const double LampVolts = 12;
    private const double LampWatts = 21;

    /// <summary>Ohms, hot, of the bulb that is put in to draw some two amps: 12 V, 21 W.</summary>
    public const double BulbOhms = LampVolts * LampVolts / LampWatts;

    // Three looks do not ask for more.
    private const double NearEnough = 0.02;

    /// <summary>What can hurt with a lead between two points.</summary>
    /// <param name="heavy">Whether it carries a starter's current.</param>
    public static string CautionOf(bool heavy) =>
        heavy
            ? "It goes round interlocks: neutral, brake, blades and belts by hand first, wheels blocked, eyes covered. No petrol vapour about. Touch for a second; take the lead off before anything else."
            : "It goes round switches and interlocks: make sure by hand that nothing can move. Fused lead, seconds only on a stop or pull-in winding; never to a kill wire, a controller or an injector. Take it off before anything else.";

    /// <summary>Whether it carries a starter's current.</summary>
    public bool IsHeavy { get; init; }

    /// <summary>
    /// What is seen: 0 nothing, 1 dim, slow or a click, 2 bright or as it should.
    /// </summary>
    /// <param name="state">A state of a network with a meter between the two points.</param>
    /// <param name="move">Connects the meter as told and moves to where it is tried.</param>
    /// <param name="load">Part whose duty it is.</param>
    /// <param name="control">Part that commands it, if any.</param>
    /// <param name="meter">The meter in use, with the test lamp carried beside it.</param>
    internal double Seen(CircuitState state, Func<double, Settlement> move, Device load, Device? control, Meter meter)
    {
        if (Kind != JumpKind.Lead)
        {
            var share = Filament.ShareOf(
                Kind == JumpKind.Lamp ? BulbOhms : LampVolts / meter.TestLamp.Value,
                ohms =>
                {
                    move(ohms);
                    return Math.Abs(state.Drop(From, To)) / LampVolts;
                },
                NearEnough,
                Filament.GlowsFrom
            );
            return share >= Filament.BrightFrom ? 2
                : share >= Filament.GlowsFrom ? 1
                : 0;
        }

        var settlement = move(IsHeavy ? HeavyOhms : LeadOhms);
        var shown = load.Effect(state);
        var (well, weak) = LoadSeen.Steps(shown.Kind);
        return settlement == Settlement.Chatters ? 1
            : shown.Level > 0 && shown.Level >= well ? 2
            : (shown.Level > 0 && shown.Level >= weak) || control?.Effect(state).Level > 0 ? 1
            : 0;
    }
}
