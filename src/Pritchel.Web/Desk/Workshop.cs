using System.Collections.Concurrent;
using Pritchel.Core.Circuits;
using Pritchel.Core.Diagnosis;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Meters;
using Pritchel.Data;

namespace Pritchel.Web.Desk;

/// <summary>
/// Keeps what is slow to work out and never changes: compiled machines and their predictions, by machine version;
/// and the last few jobs' beliefs, by how far their history goes.
/// </summary>
public sealed class Workshop
{
    private const int MostKits = 12;
    private const int MostDiagnoses = 64;

    private readonly ConcurrentDictionary<(string Id, int Version), Circuit> circuits = new();
    private readonly ConcurrentDictionary<(string Id, int Version), IReadOnlyList<Symptom>> symptoms = new();
    private readonly ConcurrentDictionary<string, Lazy<DiagnosisKit>> kits = new(StringComparer.Ordinal);
    private readonly ConcurrentDictionary<(int Job, int Sequence, Meter Meter), JobDiagnosis> diagnoses = new();

    /// <summary>A machine version, compiled.</summary>
    public Circuit Circuit(string id, int version, string json) =>
        circuits.GetOrAdd(
            (id, version),
            _ =>
                Core.Circuits.Circuit.Compile(
                    MachineFile.Read(json).Machine
                        ?? throw new InvalidDataException($"Machine {id} in the record is damaged.")
                )
        );

    /// <summary>What a machine version can be complained of.</summary>
    public IReadOnlyList<Symptom> Symptoms(string id, int version, Circuit circuit) =>
        symptoms.GetOrAdd((id, version), _ => Core.Diagnosis.Symptoms.Of(circuit));

    /// <summary>Predictions for a duty of a machine version, with certain contacts bridged.</summary>
    public DiagnosisKit Kit(string id, int version, Circuit circuit, string duty, IReadOnlyList<string> bridged)
    {
        var key = string.Join('|', bridged.Order(StringComparer.Ordinal).Prepend(duty).Prepend($"{id}#{version}"));
        if (kits.Count > MostKits)
        {
            kits.Clear();
        }

        return kits.GetOrAdd(key, _ => new Lazy<DiagnosisKit>(() => DiagnosisKit.Build(circuit, duty, bridged))).Value;
    }

    /// <summary>Beliefs of a job, weighed once for each length of its history.</summary>
    public JobDiagnosis Diagnosis(Job job, DiagnosisKit kit, Meter meter)
    {
        if (diagnoses.Count > MostDiagnoses)
        {
            diagnoses.Clear();
        }

        return diagnoses.GetOrAdd((job.Number, job.State.Sequence, meter), _ => JobDiagnosis.Of(job.State, kit, meter));
    }
}
