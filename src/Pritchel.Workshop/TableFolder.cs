using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Microsoft.Extensions.Logging;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;

namespace Pritchel.Workshop;

/// <summary>
/// Prediction tables kept on disk beside the record, so that nothing is worked out twice. They are no part of the record:
/// each can be made again, and the least used are dropped when there is no more room.
/// </summary>
public sealed class TableFolder
{
    // A table of another build of the core may mean something else.
    private static readonly string Code = typeof(Circuit).Module.ModuleVersionId.ToString("N");
    private readonly string folder;
    private readonly long mostBytes;
    private readonly ILogger<TableFolder> log;
    private readonly Lock door = new();

    /// <summary>Opens the folder, and drops what another build of the program left in it.</summary>
    public TableFolder(WorkshopOptions options, ILogger<TableFolder> log)
    {
        (folder, mostBytes, this.log) = (options.TableFolder, options.TableMegabytes * 1024L * 1024L, log);
    }

    /// <summary>What a table is known by: all that it depends on.</summary>
    public static string KeyOf(MachineVersion machine, Duty duty, IReadOnlyList<AlterationId> altered, Meter meter)
    {
        var told = string.Join(
            '\n',
            duty.Setting.OrderBy(s => s.Key.Text, StringComparer.Ordinal)
                .Select(s => $"{s.Key}={s.Value}")
                .Concat(altered.Select(a => $"{a.By} {a.Text}").Order(StringComparer.Ordinal))
                .Prepend(MeterFile.Write(meter))
                .Concat(
                    (duty.From ?? new Dictionary<ControlId, PositionId>())
                        .OrderBy(s => s.Key.Text, StringComparer.Ordinal)
                        .Select(s => $"from {s.Key}={s.Value}")
                )
                .Concat(duty.Brought.Select(b => "brought " + b.Text))
                .Prepend($"{duty.Id} {duty.Speed} {duty.Refuses} {duty.Load} {duty.Control}")
                .Prepend(machine.Content)
        );
        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(told)))[..40];
    }

    /// <summary>Whether a table is there.</summary>
    public bool Has(string key) => File.Exists(PathOf(key));

    /// <summary>A table, or null when it is not there or cannot be used.</summary>
    public PredictionTable? Find(
        string key,
        Circuit circuit,
        Duty duty,
        IReadOnlyList<AlterationId> altered,
        Meter meter
    )
    {
        var path = PathOf(key);
        if (!File.Exists(path))
        {
            return null;
        }

        try
        {
            // Rows are read a few bytes at a time, and the whole of it unpacked would be tens of megabytes in one piece.
            using var file = File.OpenRead(path);
            using var unpacking = new BrotliStream(file, CompressionMode.Decompress);
            using var buffered = new BufferedStream(unpacking, 1 << 16);
            var table = PredictionTable.Read(buffered, circuit, duty, altered, meter);
            File.SetLastWriteTimeUtc(path, DateTime.UtcNow);
            return table;
        }
        catch (Exception e) when (e is IOException or InvalidDataException or UnauthorizedAccessException)
        {
            log.LogWarning(e, "Table {Key} cannot be used and is worked out again.", key);
            return null;
        }
    }

    /// <summary>What a machine can be complained of, kept once it has been worked out.</summary>
    /// <param name="content">Digest of the machine's file.</param>
    /// <param name="work">Works it out.</param>
    public IReadOnlyList<Symptom> Symptoms(string content, Func<IReadOnlyList<Symptom>> work)
    {
        var path = Path.Combine(folder, $"{Code}-{content}.symptoms");
        try
        {
            if (File.Exists(path) && JsonSerializer.Deserialize<List<KeptSymptom>>(File.ReadAllText(path)) is { } kept)
            {
                return [.. kept.Select(k => k.Restored())];
            }
        }
        catch (Exception e) when (e is IOException or JsonException or UnauthorizedAccessException)
        {
            log.LogWarning(e, "{Path} cannot be used and is worked out again.", path);
        }

        var made = work();
        try
        {
            lock (door)
            {
                Directory.CreateDirectory(folder);
                File.WriteAllText(path + ".new", JsonSerializer.Serialize(made.Select(KeptSymptom.Of)));
                File.Move(path + ".new", path, overwrite: true);
            }
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            log.LogWarning(e, "{Path} could not be kept.", path);
        }

        return made;
    }

    /// <summary>Keeps a table, and drops the least used where there is no more room. One that cannot be kept is let go.</summary>
    public void Keep(string key, PredictionTable table)
    {
        try
        {
            lock (door)
            {
                Directory.CreateDirectory(folder);
                var unfinished = PathOf(key) + ".new";
                using (var file = File.Create(unfinished))
                using (var packing = new BrotliStream(file, CompressionLevel.Fastest))
                using (var buffered = new BufferedStream(packing, 1 << 16))
                {
                    table.Write(buffered);
                }

                File.Move(unfinished, PathOf(key), overwrite: true);
                Drop();
            }
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            log.LogWarning(e, "Table {Key} could not be kept; it will be worked out again when it is wanted.", key);
        }
    }

    private void Drop()
    {
        var files = new DirectoryInfo(folder)
            .EnumerateFiles()
            .OrderByDescending(f => f.Name.StartsWith(Code, StringComparison.Ordinal))
            .ThenByDescending(f => f.LastWriteTimeUtc)
            .ToList();
        var kept = 0L;
        foreach (var file in files)
        {
            kept += file.Length;
            if (kept > mostBytes || !file.Name.StartsWith(Code, StringComparison.Ordinal))
            {
                file.Delete();
            }
        }
    }

    private string PathOf(string key) => Path.Combine(folder, $"{Code}-{key}.table");

    /// <summary>A symptom with what a machine file does not say of its duty.</summary>
    private sealed record KeptSymptom(
        CircuitGroup Group,
        Duty Duty,
        DutySpeed Speed,
        string? Complaint,
        bool Refuses,
        bool Warns,
        bool GoesOn,
        bool LetsGo,
        IReadOnlyDictionary<ControlId, PositionId>? From,
        IReadOnlyList<DutyId> OnTheWay
    )
    {
        public static KeptSymptom Of(Symptom symptom)
        {
            var duty = symptom.Duty;
            return new(
                symptom.Group,
                duty,
                duty.Speed,
                duty.Complaint,
                duty.Refuses,
                duty.Warns,
                duty.GoesOn,
                duty.LetsGo,
                duty.From,
                duty.OnTheWay
            );
        }

        public Symptom Restored() =>
            new(
                Group,
                Duty with
                {
                    Speed = Speed,
                    Complaint = Complaint,
                    Refuses = Refuses,
                    Warns = Warns,
                    GoesOn = GoesOn,
                    LetsGo = LetsGo,
                    From = From,
                    OnTheWay = OnTheWay,
                }
            );
    }
}
