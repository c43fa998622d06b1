using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Complaints;

/// <summary>The independent circuits that complaints are split into first.</summary>
public enum CircuitGroup
{
    /// <summary>What turns the engine.</summary>
    Starting,

    /// <summary>Ignition and kill.</summary>
    Ignition,

    /// <summary>Fuel cut and stop.</summary>
    Fuel,

    /// <summary>Charging, and what flattens the battery.</summary>
    Charging,

    /// <summary>Lamps, clutches, pumps, outlets, gauges.</summary>
    Accessories,

    /// <summary>What warns.</summary>
    Alarms,

    /// <summary>Fuses that blow, breakers that trip.</summary>
    Protection,
}

/// <summary>Something that can be complained of: a duty of the machine and the circuit it belongs to.</summary>
/// <param name="Group">Its circuit.</param>
/// <param name="Duty">What should be done, or refused, and in which setting at which speed.</param>
public sealed record Symptom(CircuitGroup Group, Duty Duty);

/// <summary>
/// What a machine can be complained of, found by solving it sound: for every part that shows itself, the setting nearest
/// to rest in which it does so; for every way of stopping, the setting that must stop it. No family is known by name.
/// </summary>
public sealed partial class Symptoms
{
    private const int MostMoved = 3;
    private const int MostTriedTurning = 40;
    private const double Shows = 0.8;
    private const double ChargesFromAmps = 0.1;

    private readonly Circuit circuit;
    private readonly CircuitState state;
    private readonly CircuitState turning;
    private readonly Feeding feeding;
    private readonly List<ControlSetting> settings;
    private readonly List<Symptom> found = [];
    private IReadOnlyList<ControlSetting>? running;
    private readonly Dictionary<ControlSetting, Dictionary<PartId, double>> atWork = [];

    private Symptoms(Circuit circuit)
    {
        this.circuit = circuit;
        feeding = new Feeding(circuit);
        state = new CircuitState(circuit) { FollowsWaves = false };
        turning = new CircuitState(circuit) { Tolerance = DutyWaves.BeliefTolerance };
        settings = [.. circuit.SettingsNearRest(MostMoved)];
    }

    /// <summary>Every complaint of a machine, the file's own duties first.</summary>
    public static IReadOnlyList<Symptom> Of(Circuit circuit)
    {
        var symptoms = new Symptoms(circuit);
        symptoms.Find();
        return symptoms.found;
    }

    /// <summary>A duty of a machine by its id, the file's own or one found.</summary>
    public static Duty Duty(Circuit circuit, DutyId id) =>
        circuit.Machine.Index.Duty(id) ?? Of(circuit).First(s => s.Duty.Id == id).Duty;

    /// <summary>What may be heard when a duty is tried, by how its part shows itself.</summary>
    public static IReadOnlyList<Heard> MayBeHeard(EffectKind effect, Duty duty) =>
        (effect, duty.Refuses) switch
        {
            (EffectKind.Turns, false) => [Heard.Nothing, Heard.OneClick, Heard.Chatter, Heard.Slow, Heard.Works],
            (EffectKind.Sparks, false) when duty.GoesOn => [Heard.Nothing, Heard.Works],
            (EffectKind.Sparks, false) => [Heard.Nothing, Heard.Slow, Heard.WillNotStart, Heard.Works],
            (EffectKind.LetsRun, false) => [Heard.Nothing, Heard.WillNotStart, Heard.Works],
            (EffectKind.Charges, false) => [Heard.Nothing, Heard.Slow, Heard.TooMuch, Heard.Works],
            (EffectKind.Reads, _) => [Heard.Nothing, Heard.Slow, Heard.TooMuch, Heard.Works],
            (EffectKind.Holds, _) => [Heard.Nothing, Heard.Works],
            (_, true) => [Heard.Nothing, Heard.Works],
            _ => [Heard.Nothing, Heard.Chatter, Heard.Slow, Heard.Works],
        };

    /// <summary>More than this out of a battery at rest flattens it in days: from memory.</summary>
    public const double DrainAmps = 0.03;

    private void Find()
    {
        foreach (var duty in circuit.Machine.Duties)
        {
            found.Add(new Symptom(GroupOf(duty), duty));
            if (GroupOf(duty) == CircuitGroup.Starting && duty is { Refuses: false, From: null })
            {
                FindOtherStarts(duty);
            }
        }

        var parts = circuit.Machine.Parts.Where(p => circuit.HasDevice(p.Id)).ToList();
        var sparking = parts.Where(p => KindOf(p) == EffectKind.Sparks).ToList();
        foreach (var part in sparking)
        {
            FindSpark(part, sparking);
        }

        foreach (var part in parts.Where(p => KindOf(p) == EffectKind.Turns))
        {
            FindStill(part);
        }

        foreach (var part in parts.Where(p => KindOf(p) == EffectKind.LetsRun))
        {
            FindFuel(part);
        }

        foreach (var part in parts.Where(p => KindOf(p) == EffectKind.Charges))
        {
            FindCharge(part);
        }

        foreach (var part in parts.Where(p => KindOf(p) is EffectKind.Glows or EffectKind.Sounds or EffectKind.Works))
        {
            if (circuit.Machine.Duties.Any(d => d.Load == part.Id))
            {
                FindOff(part);
            }
            else
            {
                FindLoad(part);
            }
        }

        foreach (var part in parts.Where(p => KindOf(p) == EffectKind.Reads))
        {
            FindGauge(part);
        }

        foreach (var part in parts.Where(p => KindOf(p) == EffectKind.Holds))
        {
            FindOverloads(part);
        }
    }

    private void Add(
        CircuitGroup group,
        string id,
        string name,
        ControlSetting setting,
        Part load,
        DutySpeed speed,
        string complaint,
        bool refuses = false,
        ControlSetting? from = null,
        bool warns = false,
        IReadOnlyList<DutyId>? onTheWay = null,
        bool goesOn = false,
        bool letsGo = false
    ) =>
        found.Add(
            new Symptom(
                group,
                new Duty(new DutyId(id), name, setting.Moved(circuit.Machine), load.Id)
                {
                    Speed = speed,
                    Refuses = refuses,
                    Complaint = complaint,
                    From = from?.Moved(circuit.Machine),
                    Warns = warns,
                    OnTheWay = onTheWay ?? [],
                    GoesOn = goesOn,
                    LetsGo = letsGo,
                }
            )
        );

    private ControlSetting? First(Func<ControlSetting, bool> shows) => settings.FirstOrDefault(shows);

    private double Level(Part part, ControlSetting setting, DutySpeed speed, ControlSetting? from = null)
    {
        state.Begin(circuit.NominalParameters());
        state.SetSpeeds(speed);
        if (from is not null)
        {
            state.Move(from);
        }

        state.Move(setting);
        if (speed != DutySpeed.Rest)
        {
            state.Fire();
        }

        return circuit.DeviceOf(part.Id).Effect(state).Level;
    }

    /// <summary>
    /// Settings in which its engines would go on running, nearest to rest first: what is seen at speed is seen in one of those.
    /// All, where none of those tried runs: a generator's engine may be another machine's.
    /// </summary>
    private IReadOnlyList<ControlSetting> Running =>
        running ??= settings.Where(EngineRuns).ToList() is { Count: > 0 } some ? some : settings;

    /// <summary>Whether its engines would go on running in a setting.</summary>
    private bool EngineRuns(ControlSetting setting)
    {
        state.Begin(circuit.NominalParameters());
        state.SetSpeeds(DutySpeed.Idle);

        var settlement = state.Move(setting);
        return Outcome.Of(state, settlement) is { FuelOn: true } outcome
            && (outcome.AllSpark || outcome.Sparks.Count == 0);
    }

    /// <summary>How much a part does at work, waves of the charge windings followed: once for all parts, since that takes long.</summary>
    private double LevelAtWork(Part part, ControlSetting setting)
    {
        if (!atWork.TryGetValue(setting, out var levels))
        {
            turning.Begin(circuit.NominalParameters());
            turning.Move(setting);
            turning.SetSpeeds(DutySpeed.Work);

            turning.Move(setting);
            levels = circuit
                .Machine.Parts.Where(p => circuit.HasDevice(p.Id))
                .ToDictionary(p => p.Id, p => circuit.DeviceOf(p.Id).Effect(turning).Level);
            atWork.Add(setting, levels);
        }

        return levels[part.Id];
    }

    private EffectKind KindOf(Part part)
    {
        state.Begin(circuit.NominalParameters());
        state.Move(settings[0]);
        return circuit.DeviceOf(part.Id).Effect(state).Kind;
    }

    private CircuitGroup GroupOf(Duty duty) =>
        circuit.HasDevice(duty.Load) && KindOf(circuit.Machine.Index.Part(duty.Load)!) == EffectKind.Turns
            ? CircuitGroup.Starting
            : CircuitGroup.Accessories;
}
