using System.Security.Cryptography;
using System.Text;
using BitFaster.Caching;
using BitFaster.Caching.Lru;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Simulation;

namespace Pritchel.Workshop;

/// <summary>One version of a machine, compiled.</summary>
public sealed class MachineVersion
{
    private const int MostDesigns = 32;
    private const int MostFitted = 8;

    private readonly Lazy<IReadOnlyList<Symptom>> symptoms;
    private readonly ICache<string, DesignCheck> designs = new ConcurrentLruBuilder<string, DesignCheck>()
        .WithCapacity(MostDesigns)
        .WithAtomicGetOrAdd()
        .Build();

    private readonly TableFolder? tables;
    private readonly MachineVersion? drawn;
    private readonly ICache<string, MachineVersion> fitted = new ConcurrentLruBuilder<string, MachineVersion>()
        .WithCapacity(MostFitted)
        .WithAtomicGetOrAdd()
        .Build();

    private MachineVersion(
        string id,
        int version,
        Circuit circuit,
        string content,
        TableFolder? tables,
        MachineVersion? drawn = null
    )
    {
        (Id, Version, Circuit, Content) = (id, version, circuit, content);
        (this.tables, this.drawn) = (tables, drawn);
        IReadOnlyList<Symptom> Find() => Core.Diagnosis.Complaints.Symptoms.Of(circuit);
        symptoms = drawn?.symptoms ?? new Lazy<IReadOnlyList<Symptom>>(() => tables?.Symptoms(content, Find) ?? Find());
    }

    /// <summary>Machine.</summary>
    public string Id { get; }

    /// <summary>Its version, from 1.</summary>
    public int Version { get; }

    /// <summary>Its circuit.</summary>
    public Circuit Circuit { get; }

    /// <summary>Its drawing.</summary>
    public Machine Machine => Circuit.Machine;

    /// <summary>Digest of its file (SHA-256): machines of one content have one set of predictions.</summary>
    public string Content { get; }

    /// <summary>What it can be complained of.</summary>
    public IReadOnlyList<Symptom> Symptoms => symptoms.Value;

    /// <summary>A setting in which its engine runs: in which it charges, or sparks; everything at rest where it does neither.</summary>
    public ControlSetting RunningSetting =>
        new[] { CircuitGroup.Charging, CircuitGroup.Ignition }
            .Select(group => Symptoms.FirstOrDefault(s => s.Group == group && !s.Duty.Refuses))
            .Select(symptom => symptom is null ? null : Circuit.Setting(symptom.Duty.Setting))
            .FirstOrDefault(setting => setting is not null)
        ?? Circuit.Setting(null);

    /// <summary>A duty of it, or null.</summary>
    public Duty? Duty(DutyId duty) => Machine.Index.Duty(duty) ?? Symptoms.FirstOrDefault(s => s.Duty.Id == duty)?.Duty;

    /// <summary>Compiles a version as the record has it.</summary>
    /// <param name="id">Machine.</param>
    /// <param name="version">Its version.</param>
    /// <param name="json">Its file.</param>
    /// <param name="tables">Where what was worked out of it is kept; null for nowhere.</param>
    /// <exception cref="UnreadableMachineException">Its file cannot be read here.</exception>
    public static MachineVersion Compile(string id, int version, string json, TableFolder? tables = null)
    {
        if (MachineFile.Read(json).Machine is not { } machine)
        {
            throw new UnreadableMachineException(id, version);
        }

        return new MachineVersion(id, version, Circuit.Compile(machine), DigestOf(json), tables);
    }

    private static string DigestOf(string json) =>
        Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(json)));

    /// <summary>
    /// The machine with its batteries as a complaint tells them: another machine to solve, of the same wiring. As drawn where
    /// nothing is told.
    /// </summary>
    public MachineVersion Fitted(Complaint? complaint)
    {
        var asDrawn = drawn ?? this;
        if (complaint is null or { Batteries.Count: 0 })
        {
            return asDrawn;
        }

        var json = MachineFile.Write(BatteryAsFound.Fit(asDrawn.Machine, complaint.Batteries));
        var content = DigestOf(json);
        return asDrawn.fitted.GetOrAdd(
            content,
            _ => new MachineVersion(
                asDrawn.Id,
                asDrawn.Version,
                Circuit.Compile(MachineFile.Read(json).Machine ?? asDrawn.Machine),
                content,
                asDrawn.tables,
                asDrawn
            )
        );
    }

    /// <summary>
    /// Whether a sound machine does what is complained of in the setting it happened in, or as it was altered; null when that
    /// is the duty's own and nothing was altered, or what was does not matter to it.
    /// </summary>
    public DesignCheck? Design(Complaint complaint)
    {
        if (complaint is { Setting: null, Speed: null, Bridged.Count: 0 } || Duty(complaint.Duty) is not { } duty)
        {
            return null;
        }

        var found = AsFound(duty, complaint);
        if (found == duty && complaint.Bridged.Count == 0)
        {
            return null;
        }

        var check = designs.GetOrAdd(
            string.Join(
                '|',
                complaint
                    .Bridged.Select(b => $"{b.By} {b}")
                    .Prepend(Circuit.Setting(found.Setting).Named(Machine).ToString())
                    .Prepend($"{duty.Id} {found.Speed}")
            ),
            _ =>
                DesignCheck.Of(
                    Circuit,
                    duty with
                    {
                        Speed = found.Speed,
                    },
                    Circuit.Setting(found.Setting),
                    complaint.Bridged
                )
        );
        return found == duty && !check.AsDesigned ? null : check;
    }

    /// <summary>A duty in the setting and at the speed that it failed in.</summary>
    public Duty AsFound(Duty duty, Complaint complaint)
    {
        var own = Circuit.Setting(duty.Setting);
        var found = Circuit.Setting(complaint.Setting ?? duty.Setting);
        var speed = complaint.Speed ?? duty.Speed;
        return found.Equals(own) && speed == duty.Speed
            ? duty
            : duty with
            {
                Setting = found.Equals(own) ? duty.Setting : found.Named(Machine),
                Speed = speed,
            };
    }
}

/// <summary>A machine in the record cannot be read by this version of the program.</summary>
public sealed class UnreadableMachineException : Exception
{
    /// <summary>Some machine.</summary>
    public UnreadableMachineException()
        : base("A machine in the record cannot be read.") { }

    /// <summary>Some machine.</summary>
    public UnreadableMachineException(string message)
        : base(message) { }

    /// <summary>Some machine.</summary>
    public UnreadableMachineException(string message, Exception inner)
        : base(message, inner) { }

    /// <summary>A version of a machine.</summary>
    public UnreadableMachineException(string id, int version)
        : base($"Version {version} of machine {id} in the record cannot be read. It is kept as it is.") { }
}
