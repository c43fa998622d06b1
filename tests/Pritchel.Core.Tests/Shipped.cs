using System.Collections.Concurrent;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Machines that ship with the program.</summary>
internal static class Shipped
{
    private static readonly ConcurrentDictionary<string, Circuit> Compiled = new(StringComparer.Ordinal);

    private static readonly ConcurrentDictionary<(string Machine, string Duty), Lazy<DiagnosisKit>> Kits = new();
    private static readonly ConcurrentDictionary<(string Machine, string Duty), Lazy<DiagnosisKit>> FewOf = new();

    public static IReadOnlyList<string> Ids { get; } =
    [
        .. Directory
            .EnumerateFiles(Path.Combine(AppContext.BaseDirectory, "machines"), "*.json")
            .Select(f => Path.GetFileNameWithoutExtension(f)!)
            .Where(n => !n.EndsWith(".schema", StringComparison.Ordinal))
            .Order(StringComparer.Ordinal),
    ];

    /// <summary>Variants of those, read through their parents.</summary>
    public static IReadOnlyList<string> Variants { get; } =
    [
        .. Directory
            .EnumerateFiles(Path.Combine(AppContext.BaseDirectory, "machines", "variants"), "*.json")
            .Select(f => Path.GetFileNameWithoutExtension(f)!)
            .Order(StringComparer.Ordinal),
    ];

    public static Circuit Tractor => Circuit("orchard-tractor-4");

    public static Circuit Circuit(string id) => Compiled.GetOrAdd(id, i => Simulation.Circuit.Compile(Read(i)));

    /// <summary>What a kit predicts, told: three tries of three.</summary>
    public static Complaint Told(DiagnosisKit kit, Heard heard = Heard.Nothing) =>
        new()
        {
            Duty = kit.Table.Duty.Id,
            Heard = heard,
            Failed = 3,
            Tried = 3,
        };

    /// <summary>Predictions of a complaint of one of them, worked out once for all tests.</summary>
    public static DiagnosisKit Kit(string machine, string duty) =>
        Kits.GetOrAdd(
            (machine, duty),
            k => new Lazy<DiagnosisKit>(() => DiagnosisKit.Build(Circuit(k.Machine), new DutyId(k.Duty), []))
        ).Value;

    /// <summary>
    /// A few draws of every fault in all conditions: a fraction of the work, the first draws those of the whole, and enough wherever no share
    /// is judged.
    /// </summary>
    public static DiagnosisKit Few(string machine, string duty) =>
        FewOf
            .GetOrAdd(
                (machine, duty),
                k => new Lazy<DiagnosisKit>(() => Few(Circuit(k.Machine), Duty(Circuit(k.Machine), k.Duty)))
            )
            .Value;

    /// <inheritdoc cref="Few(string, string)"/>
    public static DiagnosisKit Few(Circuit circuit, Duty duty) =>
        DiagnosisKit.Of(
            PredictionTable.BuildCoarse(circuit, duty, [], (table, _) => Enumerable.Range(0, table.Conditions.Count))
        );

    /// <summary>A complaint's conditions and what the sound machine shows in them: enough to hide a fault in it.</summary>
    public static DiagnosisKit Sketch(string machine, string duty, int seed = PredictionTable.UsualSeed)
    {
        var circuit = Circuit(machine);
        return DiagnosisKit.Sketch(circuit, Duty(circuit, duty), [], seed: seed);
    }

    private static Duty Duty(Circuit circuit, string duty) =>
        Diagnosis.Complaints.Symptoms.Duty(circuit, new DutyId(duty));

    public static string Text(string id) =>
        File.ReadAllText(
            Path.Combine(AppContext.BaseDirectory, "machines", Variants.Contains(id) ? "variants" : "", id + ".json")
        );

    public static Machine Read(string id)
    {
        var reading = MachineFile.Read(Text(id), Read);
        Assert.True(reading.Problems.Count == 0, string.Join('\n', reading.Problems));
        return reading.Machine!;
    }

    public static ControlSetting Setting(Circuit circuit, params (string Control, string Position)[] positions) =>
        circuit.Setting(positions.ToDictionary(p => p.Control, p => p.Position));
}
