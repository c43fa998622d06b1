using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <summary>What is heard and seen of a duty that has been tried. Borders are judgement: common practice, no source.</summary>
internal static class Hearing
{
    private const double SlowShare = 0.8;
    private const double WeakSpark = 0.5;
    private const double Idle = 0.4;
    private const double ChargesShare = 0.5;
    private const double LeastCharge = 0.05;

    // A needle is told dead, low or high by shares of where it should stand; nobody tells less.
    private const double DeadNeedle = 0.2;
    private const double LowNeedle = 0.75;
    private const double HighNeedle = 1.3;
    private const double SlightlyHigh = 1.1;

    // Over 15 V a 12 V battery is overcharged and bulbs blow: common practice, no source.
    private const double MostVolts = 15;

    /// <summary>What is heard in a state whose last move settled so.</summary>
    public static Heard Of(PredictionTable table, CircuitState state, Settlement settlement)
    {
        var circuit = state.Circuit;

        if (table.Conditions[0].Speed != DutySpeed.Rest)
        {
            state.Fire();
        }

        var shown = circuit.DeviceOf(table.Duty.Load).Effect(state);
        if (table.Duty.Refuses)
        {
            var idles = shown.Kind switch
            {
                EffectKind.Charges => shown.Level > -Symptoms.DrainAmps,
                EffectKind.Sparks => shown.Level < 1,
                EffectKind.LetsRun => shown.Level <= 0,
                EffectKind.Glows => shown.Level < Filament.GlowsFrom,
                _ => shown.Level < Idle,
            };
            return idles ? Heard.Works : Heard.Nothing;
        }

        if (shown.Kind == EffectKind.Holds)
        {
            return shown.Level >= 1 ? Heard.Works : Heard.Nothing;
        }

        if (settlement == Settlement.Chatters && Flutters(table, state, shown))
        {
            return OfFlutter(shown.Kind, table.Duty);
        }

        return shown.Kind switch
        {
            EffectKind.Turns when shown.Level > 0 => shown.Level >= SlowShare ? Heard.Works : Heard.Slow,
            EffectKind.Glows when shown.Level >= Filament.BrightFrom => Heard.Works,
            EffectKind.Glows when shown.Level >= Filament.GlowsFrom => Heard.Slow,
            EffectKind.Works when shown.Level >= 1 => Heard.Works,
            EffectKind.Works when shown.Level >= WeakSpark => Heard.Slow,
            EffectKind.Sounds when shown.Level >= Filament.GlowsFrom => Heard.Works,
            EffectKind.Sparks when shown.Level >= 1 => Heard.Works,
            EffectKind.Sparks when shown.Level >= WeakSpark => table.Duty.GoesOn ? Heard.Works : Heard.Slow,
            EffectKind.LetsRun when shown.Level > 0 => Heard.Works,
            EffectKind.Reads when IsHigh(shown.Level, table.HealthyLevel) => Heard.TooMuch,
            EffectKind.Reads when shown.Level >= LowNeedle * table.HealthyLevel => Heard.Works,
            EffectKind.Reads when shown.Level >= DeadNeedle * table.HealthyLevel => Heard.Slow,
            EffectKind.Charges when PostVolts(table, state) > MostVolts => Heard.TooMuch,
            EffectKind.Charges when shown.Level >= ChargesShare * table.HealthyLevel => Heard.Works,
            EffectKind.Charges when shown.Level >= LeastCharge * table.HealthyLevel => Heard.Slow,
            _ => Commands(table, state) ? Heard.OneClick : Heard.Nothing,
        };
    }

    /// <summary>Nobody calls a spark, a charge or an engine chattering: a charge and a spark are weak by it, an engine dies.</summary>
    private static Heard OfFlutter(EffectKind kind, Duty duty) =>
        kind switch
        {
            EffectKind.Charges => Heard.Slow,
            EffectKind.Sparks when !duty.GoesOn => Heard.Slow,
            EffectKind.Sparks or EffectKind.LetsRun => Heard.Nothing,
            _ => Heard.Chatter,
        };

    /// <summary>Whether what chatters is heard of the duty itself: its load or what commands it comes and goes with it.</summary>
    private static bool Flutters(PredictionTable table, CircuitState state, Effect shown)
    {
        const double Little = 0.1;
        if (shown.Kind is EffectKind.Sparks or EffectKind.LetsRun or EffectKind.Charges)
        {
            // Judged over a turn, which a round of chatter is no part of.
            return true;
        }

        bool ComesAndGoes(PartId part)
        {
            var (least, most) = state.OverRound(() => Math.Abs(state.Circuit.DeviceOf(part).Effect(state).Level));
            return most > 0 && least < (1 - Little) * most;
        }

        return ComesAndGoes(table.Duty.Load) || (table.Duty.Control is { } control && ComesAndGoes(control));
    }

    /// <summary>Whether a needle stands plainly higher than it should, or against its stop where it should not.</summary>
    private static bool IsHigh(double level, double healthy) =>
        healthy < 1 / SlightlyHigh && level >= Math.Min(1, HighNeedle * healthy);

    private static double PostVolts(PredictionTable table, CircuitState state)
    {
        var battery = state.Circuit.Machine.Index.Part(table.Duty.Load)!;
        return state.Drop(state.Circuit.NodeOf(battery.At("+")), state.Circuit.NodeOf(battery.At("-")));
    }

    private static bool Commands(PredictionTable table, CircuitState state) =>
        table.Duty.Control is { } control && state.Circuit.DeviceOf(control).Effect(state).Level > 0;
}
