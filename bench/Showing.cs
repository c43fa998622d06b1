using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Faults;
using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Hunts;

/// <summary>
/// Where a fault can be seen at all: what every part does in every moment that can be complained of and in every setting near rest, held
/// against the sound machine. It knows nothing of complaints' own borders: a fault that gives none, and is seen somewhere, can be told of
/// that moment or is a complaint that is wanting.
/// </summary>
internal sealed class Showing
{
    // Two controls moved from rest; what takes three is among the complaints' own moments.
    private const int MostMoved = 2;
    private const int MostSettings = 250;

    // Worst, middling and mild, as shares of how bad a fault may be.
    private static readonly double[] Severities = [1, 0.5, 0.05];

    private readonly Circuit circuit;
    private readonly IReadOnlyList<Duty> duties;
    private readonly List<Moment> moments;
    private readonly Dictionary<Moment, Effect[]> sound = [];
    private readonly List<PartId> parts;

    /// <summary>A setting, come to from another, at a speed; its charge windings followed along their waves or not.</summary>
    private sealed record Moment(ControlSetting? From, ControlSetting Setting, DutySpeed Speed, bool Waves = false);

    /// <summary>What is seen of a fault.</summary>
    /// <param name="Words">Where, and of what part.</param>
    /// <param name="Told">The complaint that tells it, of that moment; null for none.</param>
    /// <param name="ByDegrees">Whether that is seen by degrees: a lamp, a needle; not done or not done.</param>
    public sealed record Sight(string Words, Duty? Told, bool ByDegrees);

    public Showing(Circuit circuit)
    {
        this.circuit = circuit;
        duties = [.. Symptoms.Of(circuit).Select(s => s.Duty)];
        parts = [.. circuit.Machine.Parts.Select(p => p.Id).Where(circuit.HasDevice)];
        var told = duties.Select(d => new Moment(
            d.From is { } from ? circuit.Setting(from) : null,
            circuit.Setting(d.Setting),
            d.Speed,
            d.Speed == DutySpeed.Work
        ));
        var near = circuit
            .SettingsNearRest(MostMoved)
            .Take(MostSettings)
            .SelectMany(s => new[] { new Moment(null, s, DutySpeed.Rest), new Moment(null, s, DutySpeed.Idle) });
        var (still, turning) = States(circuit);
        moments = [.. told.Concat(near).Concat(Idling(still)).Distinct()];
        foreach (var moment in moments)
        {
            sound[moment] = Seen(still, turning, moment, circuit.NominalParameters());
        }
    }

    /// <summary>How many moments are looked at.</summary>
    public int Moments => moments.Count;

    /// <summary>The first moment in which some part plainly does otherwise with a fault; null when none does.</summary>
    public Sight? Of(Fault fault)
    {
        var wired = circuit.With([fault]);
        var (still, turning) = States(wired);
        Sight? untold = null;
        foreach (var severity in Severities)
        {
            var values = wired.NominalParameters();
            wired.Plant(fault, fault.Severity.At(severity), values);
            foreach (var moment in moments)
            {
                var seen = Seen(still, turning, moment, values);
                for (var p = 0; p < parts.Count; p++)
                {
                    if (Differ(sound[moment][p], seen[p], moment))
                    {
                        var sight = new Sight(
                            $"{parts[p]} {sound[moment][p].Level:0.00} to {seen[p].Level:0.00} [{moment.Setting.AllWords(circuit.Machine)}, {moment.Speed}]",
                            Told(parts[p], sound[moment][p], moment),
                            sound[moment][p].Kind
                                is EffectKind.Glows
                                    or EffectKind.Sounds
                                    or EffectKind.Reads
                                    or EffectKind.Turns
                        );
                        if (sight.Told is not null)
                        {
                            return sight;
                        }

                        untold ??= sight;
                    }
                }
            }
        }

        return untold;
    }

    /// <summary>What an engine charges least by: idling, as it is and with what draws most of what stays where it is put.</summary>
    private IEnumerable<Moment> Idling(CircuitState still) =>
        from duty in duties
        where !duty.Refuses && circuit.Is(duty.Load, PartTraits.StoresCharge) && duty.Speed == DutySpeed.Work
        let go = circuit.Setting(duty.Setting)
        let laden = (
            from c in Enumerable.Range(0, go.Count)
            where circuit.Machine.Controls[c].Sensed != true
            from p in Enumerable.Range(0, circuit.Machine.Controls[c].Positions.Count)
            let other = go.With(c, p)
            where !other.Held(circuit.Machine).Any()
            select other
        ).MinBy(s => LevelAtRest(still, s, duty.Load))
        from setting in new[] { go, laden }
        select new Moment(null, setting, DutySpeed.Idle, Waves: true);

    private double LevelAtRest(CircuitState still, ControlSetting setting, PartId part)
    {
        still.Begin(circuit.NominalParameters());
        still.Move(setting);
        return circuit.DeviceOf(part).Effect(still).Level;
    }

    /// <summary>The complaint of a part that is told of a moment: of one that fails there, or of one that should not do it.</summary>
    private Duty? Told(PartId part, Effect sound, Moment moment)
    {
        var refuses = sound.Kind switch
        {
            EffectKind.Charges => moment.Speed == DutySpeed.Rest,
            EffectKind.LetsRun => sound.Level <= 0,
            EffectKind.Sparks or EffectKind.Holds => sound.Level < 1,
            _ => sound.Level < 0.4,
        };
        return duties.FirstOrDefault(d => d.Load == part && d.Refuses == refuses && !d.GoesOn) is { } duty
            ? duty with
            {
                Setting = moment.Setting.Moved(circuit.Machine),
                From = moment.From?.Moved(circuit.Machine),
                Speed = moment.Speed,
            }
            : null;
    }

    // Waves are followed only where charging is judged: a hundred times the time.
    private static (CircuitState Still, CircuitState Turning) States(Circuit circuit) =>
        (new CircuitState(circuit) { FollowsWaves = false }, new CircuitState(circuit) { Tolerance = 1e-6 });

    private Effect[] Seen(CircuitState still, CircuitState turning, Moment moment, double[] values)
    {
        var state = moment.Waves ? turning : still;
        state.Begin(values);
        state.Move(moment.From ?? circuit.Setting(null));
        if (moment.Waves)
        {
            // As it was started and then brought to speed: what excites itself wants a lamp lit before.
            state.Move(moment.Setting);
        }

        state.SetSpeeds(moment.Speed);
        state.Move(moment.Setting);
        if (moment.Speed != DutySpeed.Rest)
        {
            state.Fire();
        }

        return [.. parts.Select(p => state.Circuit.DeviceOf(p).Effect(state))];
    }

    /// <summary>
    /// Plainly otherwise: done and not done, a lamp bright, dim or dark, a fifth more or less of what turns or reads, or drawn out of a battery that stands. A battery's
    /// charge where waves are followed, by half, as nobody who has a voltmeter alone tells less.
    /// </summary>
    private static bool Differ(Effect sound, Effect seen, Moment moment)
    {
        const double Little = 0.2;
        const double Dark = 0.1;
        const double LeastAmps = 0.1;
        var (was, now) = (sound.Level, seen.Level);
        return sound.Kind switch
        {
            EffectKind.Sparks or EffectKind.Works or EffectKind.Holds => was >= 1 != now >= 1,
            EffectKind.LetsRun => was > 0 != now > 0,
            EffectKind.None or EffectKind.Clicks => false,
            EffectKind.Charges when moment.Speed == DutySpeed.Rest => was > -Symptoms.DrainAmps
                && now <= -Symptoms.DrainAmps,
            EffectKind.Charges => moment.Waves && was > LeastAmps && now < 0.5 * was,
            EffectKind.Sounds => was >= Filament.GlowsFrom != now >= Filament.GlowsFrom,
            EffectKind.Glows => Brightness(was) != Brightness(now),
            _ => Math.Max(was, now) > Dark && Math.Abs(was - now) > Little * Math.Max(was, now),
        };
    }

    private static int Brightness(double level) =>
        level switch
        {
            >= Filament.BrightFrom => 2,
            >= Filament.GlowsFrom => 1,
            _ => 0,
        };
}
