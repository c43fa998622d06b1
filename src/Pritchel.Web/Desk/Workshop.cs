using System.Collections.Concurrent;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;
using Pritchel.Data;

namespace Pritchel.Web.Desk;

/// <summary>
/// Keeps what is slow to work out and never changes: compiled machines and their predictions, by machine version;
/// and the last few jobs' beliefs, by how far their history goes.
/// </summary>
public sealed class Workshop
{
    // A kit of a large machine holds tens of megabytes.
    private const int MostKits = 10;
    private const int MostSketches = 40;
    private const int MostDiagnoses = 64;
    private const int MostTries = 64;
    private const int MostDesigns = 200;

    private readonly ConcurrentDictionary<(string Id, int Version), Circuit> circuits = new();
    private readonly ConcurrentDictionary<(string Id, int Version), IReadOnlyList<Symptom>> symptoms = new();
    private readonly Kept<DutyTries> tries = new(MostTries);
    private readonly Kept<StoredCodes> codes = new(MostTries);
    private readonly Kept<DesignCheck> designs = new(MostDesigns);
    private readonly Kept<DiagnosisKit> sketches = new(MostSketches);
    private readonly Kept<DiagnosisKit> coarse = new(MostKits);
    private readonly Kept<DiagnosisKit> kits = new(MostKits);
    private readonly ConcurrentDictionary<(int Job, int Sequence, Meter Meter, Grain Grain), JobDiagnosis> diagnoses =
        new();

    /// <summary>A machine version, compiled.</summary>
    public Circuit Circuit(string id, int version, string json) =>
        circuits.GetOrAdd(
            (id, version),
            _ =>
                Core.Simulation.Circuit.Compile(
                    MachineFile.Read(json).Machine
                        ?? throw new InvalidDataException($"Machine {id} in the record is damaged.")
                )
        );

    /// <summary>What a machine version can be complained of.</summary>
    public IReadOnlyList<Symptom> Symptoms(string id, int version, Circuit circuit) =>
        symptoms.GetOrAdd((id, version), _ => Core.Diagnosis.Complaints.Symptoms.Of(circuit));

    /// <summary>A duty of a machine version by its id, or null.</summary>
    public Duty? Duty(string id, int version, Circuit circuit, string duty) =>
        Symptoms(id, version, circuit)
            .FirstOrDefault(s => string.Equals(s.Duty.Id, duty, StringComparison.Ordinal))
            ?.Duty;

    /// <summary>
    /// Whether a sound machine does what is complained of in the setting it happened in, or as it was altered; null when that
    /// is the duty's own and nothing was altered, or what was does not matter to it.
    /// </summary>
    public DesignCheck? Design(string id, int version, Circuit circuit, Complaint complaint)
    {
        if (
            complaint is { Setting: null, Speed: null, Bridged.Count: 0 }
            || Duty(id, version, circuit, complaint.Duty) is not { } duty
        )
        {
            return null;
        }

        var found = AsFound(circuit, duty, complaint);
        if (found == duty && complaint.Bridged.Count == 0)
        {
            return null;
        }

        var check = designs.Get(
            Key(id, version, found, complaint.Bridged),
            _ =>
                DesignCheck.Of(
                    circuit,
                    duty with
                    {
                        Speed = found.Speed,
                    },
                    circuit.Setting(found.Setting),
                    complaint.Bridged
                )
        );
        return found == duty && !check.AsDesigned ? null : check;
    }

    /// <summary>A duty in the setting and at the speed that it failed in.</summary>
    private static Duty AsFound(Circuit circuit, Duty duty, Complaint complaint)
    {
        var own = circuit.Setting(duty.Setting);
        var found = circuit.Setting(complaint.Setting ?? duty.Setting);
        var speed = complaint.Speed ?? duty.Speed;
        return found.Equals(own) && speed == duty.Speed
            ? duty
            : duty with
            {
                Setting = found.Equals(own) ? duty.Setting : found.Named(circuit.Machine),
                Speed = speed,
            };
    }

    /// <summary>
    /// Predictions for a complaint of a machine version: its duty, in the setting it failed in unless a sound machine fails
    /// there too, with what was found bridged.
    /// </summary>
    public DiagnosisKit Kit(string id, int version, Circuit circuit, Complaint complaint)
    {
        var duty = Failing(id, version, circuit, complaint);
        return kits.Get(
            Key(id, version, duty, complaint.Bridged),
            cancel => DiagnosisKit.Build(circuit, duty, complaint.Bridged, cancel)
        );
    }

    /// <summary>The kit when it is there, or null; nothing is worked out for it.</summary>
    public DiagnosisKit? KitInHand(string id, int version, Circuit circuit, Complaint complaint) =>
        kits.InHand(Key(id, version, Failing(id, version, circuit, complaint), complaint.Bridged));

    /// <summary>
    /// The kit when it is there; otherwise its sound machine's part, at once, while the whole is worked out beside it: the
    /// complaint takes longer to write than the predictions to work out.
    /// </summary>
    /// <returns>The kit, and whether it has predictions.</returns>
    public (DiagnosisKit Kit, bool Predicts) Sketch(string id, int version, Circuit circuit, Complaint complaint)
    {
        var duty = Failing(id, version, circuit, complaint);
        var key = Key(id, version, duty, complaint.Bridged);
        return kits.IfReady(key, cancel => CoarseFirst(key, circuit, duty, complaint.Bridged, cancel)) is { } whole
            ? (whole, true)
            : (sketches.Get(key, _ => DiagnosisKit.Sketch(circuit, duty, complaint.Bridged)), false);
    }

    /// <summary>
    /// The kit when it is there; otherwise the coarse one, which says where to measure first while the whole is worked out
    /// beside it: a reading takes longer to take.
    /// </summary>
    public DiagnosisKit KitForFirstTest(string id, int version, Circuit circuit, Complaint complaint)
    {
        var duty = Failing(id, version, circuit, complaint);
        var key = Key(id, version, duty, complaint.Bridged);
        return kits.IfReady(key, cancel => CoarseFirst(key, circuit, duty, complaint.Bridged, cancel), wanted: true)
            ?? Coarse(key, circuit, duty, complaint.Bridged);
    }

    /// <summary>
    /// Begins what a complaint will want while it is still being written: its predictions, and how faults let the other
    /// duties go that were tried. What an earlier wording wanted is given up.
    /// </summary>
    public void Begin(string id, int version, Circuit circuit, Complaint complaint)
    {
        var duty = Failing(id, version, circuit, complaint);
        var key = Key(id, version, duty, complaint.Bridged);
        kits.Begin(key, cancel => CoarseFirst(key, circuit, duty, complaint.Bridged, cancel));
        foreach (var other in complaint.Also)
        {
            _ = Task.Run(() => Tries(id, version, circuit, other.Duty, complaint.Bridged));
        }
    }

    private DiagnosisKit Coarse(string key, Circuit circuit, Duty duty, IReadOnlyList<string> bridged) =>
        coarse.Get(key, cancel => DiagnosisKit.BuildCoarse(circuit, duty, bridged, cancel));

    private DiagnosisKit CoarseFirst(
        string key,
        Circuit circuit,
        Duty duty,
        IReadOnlyList<string> bridged,
        CancellationToken cancel
    )
    {
        _ = Coarse(key, circuit, duty, bridged);
        return DiagnosisKit.Build(circuit, duty, bridged, cancel);
    }

    private Duty Failing(string id, int version, Circuit circuit, Complaint complaint)
    {
        var duty = Duty(id, version, circuit, complaint.Duty)!;
        return Design(id, version, circuit, complaint) is { AsDesigned: false }
            ? AsFound(circuit, duty, complaint)
            : duty;
    }

    /// <summary>How the faults of a machine version let another duty go; null when that is not a quick thing to know.</summary>
    public DutyTries? Tries(string id, int version, Circuit circuit, string duty, IReadOnlyList<string> bridged)
    {
        if (Duty(id, version, circuit, duty) is not { } other || !DutyTries.IsQuick(circuit, other))
        {
            return null;
        }

        return tries.Get(Key(id, version, other, bridged), _ => DutyTries.Build(circuit, other, bridged));
    }

    /// <summary>Codes that the faults of a machine version store; null where nothing stores any.</summary>
    public StoredCodes? Codes(string id, int version, Circuit circuit, string duty) =>
        StoredCodes.HasCodes(circuit) && Duty(id, version, circuit, duty) is { } told
            ? codes.Get(Key(id, version, told, []), cancel => StoredCodes.Build(circuit, told, cancel))
            : null;

    private static string Key(string id, int version, Duty duty, IReadOnlyList<string> bridged) =>
        string.Join(
            '|',
            duty.Setting.OrderBy(s => s.Key, StringComparer.Ordinal)
                .Select(s => $"{s.Key}={s.Value}")
                .Concat(bridged.Order(StringComparer.Ordinal))
                .Prepend(duty.Speed.ToString())
                .Prepend(duty.Id)
                .Prepend($"{id}#{version}")
        );

    /// <summary>Beliefs of a job, weighed once for each length of its history.</summary>
    public JobDiagnosis Diagnosis(Job job, DiagnosisKit kit, Meter meter)
    {
        DutyTries? Other(string duty) =>
            Tries(job.MachineId, job.MachineVersion, kit.Circuit, duty, job.State.Complaint!.Bridged);
        if (diagnoses.Count > MostDiagnoses)
        {
            diagnoses.Clear();
        }

        return diagnoses.GetOrAdd(
            (job.Number, job.State.Sequence, meter, kit.Table.Grain),
            _ =>
                JobDiagnosis.Of(
                    job.State,
                    kit,
                    meter,
                    Other,
                    StoredCodes.HasCodes(kit.Circuit)
                        ? () => Codes(job.MachineId, job.MachineVersion, kit.Circuit, job.State.Complaint!.Duty)!
                        : null
                )
        );
    }
}
