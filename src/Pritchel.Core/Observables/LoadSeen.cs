using Pritchel.Core.Handbook;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Observables;

/// <summary>Whether what the complaint is about shows itself as things stand now: 0 not, 1 weakly, 2 as it does.</summary>
public sealed class LoadSeen : SeenObservable
{
    /// <summary>The one there is.</summary>
    public static LoadSeen Instance { get; } = new();

    /// <inheritdoc/>
    public override string Key => "shows";

    /// <inheritdoc/>
    public override string Name => "Take off, and see";

    /// <summary>It is watched from where one stands: nothing is touched for it but what is taken off.</summary>
    public override bool IsProbed => false;

    /// <summary>What is seen or heard of an effect, in three steps.</summary>
    /// <param name="shown">The effect.</param>
    public static double Of(Effect shown)
    {
        var (well, weak) = Steps(shown.Kind);
        return shown.Level > 0 && shown.Level >= well ? 2
            : shown.Level > 0 && shown.Level >= weak ? 1
            : 0;
    }

    // A starter below this share of its healthy speed turns slowly; a clutch, a pump below that of its volts does little.
    private const double SlowShare = 0.75;
    private const double Weakly = 0.5;

    // A needle against its stop, and one that left its rest.
    private const double Pegged = 0.95;
    private const double Moved = 0.1;

    /// <summary>Levels from which an effect is as it should be, and from which it is anything: common practice, no source.</summary>
    public static (double Well, double Weak) Steps(EffectKind kind) =>
        kind switch
        {
            EffectKind.Turns => (SlowShare, 0),
            EffectKind.Works => (1, Weakly),
            EffectKind.Reads => (Pegged, Moved),
            EffectKind.LetsRun or EffectKind.Clicks => (0, 0),
            _ => (Filament.BrightFrom, Filament.GlowsFrom),
        };

    /// <inheritdoc/>
    protected override double Predict(IPredictedCase @case, int red, int black) => Of(@case.Load.Effect(@case.State));

    /// <inheritdoc/>
    public override double? Simulate(ISimulatedCase @case, int red, int black)
    {
        var wired = @case.Case.Wired;
        var state = new CircuitState(wired);
        @case.Case.Settle(state);
        return Scaled(Of(wired.DeviceOf(@case.Load).Effect(state)));
    }

    /// <inheritdoc/>
    public override string HowToSet(Meter meter, Jump? jump) =>
        "what comes off is insulated and held clear of metal; look and listen as for the complaint";

    /// <inheritdoc/>
    public override IReadOnlyList<(string Typed, string Words)> Answers =>
        [("2", "It still does it"), ("1", "Weakly now"), ("0", "It stops")];
}
