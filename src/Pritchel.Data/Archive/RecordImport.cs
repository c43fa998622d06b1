using System.IO.Compression;
using Microsoft.EntityFrameworkCore;
using Pritchel.Core.Machines.Files;

namespace Pritchel.Data.Archive;

/// <summary>What becomes of one thing of an archive.</summary>
public enum Fate
{
    /// <summary>It comes in.</summary>
    New,

    /// <summary>It is here already, to the last character.</summary>
    Same,

    /// <summary>Something else has its place here: both are kept, and it comes in under another.</summary>
    Beside,

    /// <summary>It cannot come in.</summary>
    Refused,
}

/// <summary>One thing of an archive, and what becomes of it.</summary>
/// <param name="What">What it is: "Job T-0003", "Machine hill-quad-2, version 1".</param>
/// <param name="Fate">What becomes of it.</param>
/// <param name="Note">Under which name it comes in, or why not; empty where there is nothing to say.</param>
public sealed record Incoming(string What, Fate Fate, string Note = "");

/// <summary>
/// Takes an export of a record into this one. Nothing here is changed or lost: what has the place of something else comes in
/// beside it, under the next free number.
/// </summary>
/// <param name="context">The record.</param>
/// <param name="pictures">Its pictures.</param>
public sealed partial class RecordImport(PritchelContext context, PictureStore pictures)
{
    private readonly List<Incoming> told = [];
    private readonly Dictionary<(string Id, int Version), int> versions = [];
    private readonly Dictionary<string, string> jobs = new(StringComparer.Ordinal);
    private readonly List<string> written = [];

    /// <summary>Says what would become of each thing, and writes nothing.</summary>
    /// <param name="file">The archive.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="ArchiveRefusedException">It is none, is damaged, or unfolds beyond the limits.</exception>
    public Task<IReadOnlyList<Incoming>> PreviewAsync(Stream file, CancellationToken cancel = default) =>
        TakeAsync(file, keep: false, cancel);

    /// <summary>Takes everything in that can be: all of it or, where something breaks on the way, nothing.</summary>
    /// <inheritdoc cref="PreviewAsync"/>
    public Task<IReadOnlyList<Incoming>> ApplyAsync(Stream file, CancellationToken cancel = default) =>
        TakeAsync(file, keep: true, cancel);

    private async Task<IReadOnlyList<Incoming>> TakeAsync(Stream file, bool keep, CancellationToken cancel)
    {
        // What comes in was written by others, named or not.
        context.Author = null;
        using var zip = Open(file);
        var archive = await ArchiveFile.ReadAsync(zip, cancel);
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        try
        {
            await MachinesAsync(archive.Machines, cancel);
            await JobsAsync(archive.Jobs, cancel);
            await PartTestsAsync(archive.PartTests, cancel);
            await RewiresAsync(archive.Rewires, cancel);
            await DraftsAsync(archive.Drafts, cancel);
            await MeterAsync(archive.Meter, cancel);
            await PicturesAsync(zip, archive.Pictures, keep, cancel);
            if (keep)
            {
                await context.SaveChangesAsync(cancel);
                await transaction.CommitAsync(cancel);
                written.Clear();
            }
        }
        finally
        {
            // Nothing of a broken import stays: neither rows nor files.
            foreach (var orphan in written)
            {
                File.Delete(orphan);
            }

            context.ChangeTracker.Clear();
        }

        return told;
    }

    private static ZipArchive Open(Stream file)
    {
        try
        {
            return new ZipArchive(file, ZipArchiveMode.Read, leaveOpen: true);
        }
        catch (InvalidDataException e)
        {
            throw new ArchiveRefusedException("It is no zip file, or only a part of one.", e);
        }
    }

    private async Task MachinesAsync(List<ArchivedMachine> machines, CancellationToken cancel)
    {
        var known = await context.Machines.Select(m => m.MachineId).Distinct().ToListAsync(cancel);
        foreach (var id in machines.Where(m => m.PutAway).Select(m => m.Id).Distinct().Except(known))
        {
            MachineStore.AdoptPutAway(context, id);
        }

        foreach (var m in machines.OrderBy(m => m.Id, StringComparer.Ordinal).ThenBy(m => m.Version))
        {
            var what = $"Machine {m.Id}, version {m.Version}";
            if (MachineFile.Read(m.Machine.Text) is { Machine: null } reading)
            {
                told.Add(new(what, Fate.Refused, reading.Problems[0].ToString()));
                continue;
            }

            var here = await context
                .Machines.AsNoTracking()
                .Where(x => x.MachineId == m.Id)
                .Select(x => new { x.Version, x.Json })
                .ToListAsync(cancel);
            if (here.Find(x => m.Machine.Is(x.Json)) is { } same)
            {
                versions[(m.Id, m.Version)] = same.Version;
                told.Add(new(what, Fate.Same, same.Version == m.Version ? "" : $"here as version {same.Version}"));
                continue;
            }

            var taken = here.Select(x => x.Version)
                .Concat(versions.Where(v => v.Key.Id == m.Id).Select(v => v.Value))
                .ToHashSet();
            var free = taken.Contains(m.Version) ? taken.Max() + 1 : m.Version;
            versions[(m.Id, m.Version)] = free;
            told.Add(
                free == m.Version
                    ? new(what, Fate.New)
                    : new(what, Fate.Beside, $"another is version {m.Version} here; comes in as version {free}")
            );
            context.Machines.Add(
                new MachineRow
                {
                    MachineId = m.Id,
                    Version = free,
                    Name = m.Name,
                    Kind = m.Kind,
                    Json = m.Machine.File,
                    AddedUtc = m.AddedUtc,
                    By = m.By,
                }
            );
        }
    }

    private async Task JobsAsync(List<ArchivedJob> incoming, CancellationToken cancel)
    {
        var last = Last(await context.Jobs.MaxAsync(x => (int?)x.Number, cancel), incoming.Select(x => x.Number));
        foreach (var j in incoming.OrderBy(j => j.Number))
        {
            var what = $"Job {JobStore.TagOf(j.Number)}";
            if (Whole(what, j.Events.Select(e => e.Sequence), from: 1) is { } broken)
            {
                told.Add(broken);
                continue;
            }

            if (await VersionAsync(j.MachineId, j.MachineVersion, cancel) is not { } version)
            {
                told.Add(new(what, Fate.Refused, $"its machine {j.MachineId} is not in the file and not here"));
                continue;
            }

            var here = await context
                .Jobs.AsNoTracking()
                .Include(x => x.Events)
                .FirstOrDefaultAsync(x => x.Number == j.Number, cancel);
            if (
                here is not null
                && (here.MachineId, here.MachineVersion) == (j.MachineId, version)
                && Begins(here.Events.OrderBy(e => e.Sequence).Select(e => e.Body), j.Events)
            )
            {
                told.Add(new(what, Fate.Same, here.Events.Count > j.Events.Count ? "and has gone on here" : ""));
                continue;
            }

            var number = here is null ? j.Number : ++last;
            Renamed(what, j.Number, number, JobStore.TagOf);
            jobs[JobStore.TagOf(j.Number)] = JobStore.TagOf(number);
            var row = new JobRow
            {
                Number = number,
                MachineId = j.MachineId,
                MachineVersion = version,
                OpenedUtc = j.OpenedUtc,
            };
            foreach (var e in j.Events)
            {
                row.Events.Add(
                    new JobEventRow
                    {
                        Sequence = e.Sequence,
                        AtUtc = e.AtUtc,
                        Body = e.Step.Text,
                        By = e.By,
                    }
                );
            }

            row.IsClosed = JobStore.IsClosed(row.Events);
            context.Jobs.Add(row);
        }
    }

    /// <summary>A version of a machine as it is called here; null where it neither came in nor is here.</summary>
    private async Task<int?> VersionAsync(string id, int version, CancellationToken cancel) =>
        versions.TryGetValue((id, version), out var mapped) ? mapped
        : await context.Machines.AnyAsync(m => m.MachineId == id && m.Version == version, cancel) ? version
        : null;

    /// <summary>The last number taken, here or in the archive: what comes in beside something else follows it.</summary>
    private static int Last(int? here, IEnumerable<int> incoming) => incoming.Append(here ?? 0).Max();

    private void Renamed(string what, int was, int becomes, Func<int, string> called) =>
        told.Add(
            was == becomes
                ? new(what, Fate.New)
                : new(what, Fate.Beside, $"another has that number here; comes in as {called(becomes)}")
        );

    /// <summary>Refuses a history that does not run on from its first step.</summary>
    private static Incoming? Whole(string what, IEnumerable<int> sequences, int from)
    {
        var all = sequences.ToList();
        return all.Count > 0 && all.SequenceEqual(Enumerable.Range(from, all.Count))
            ? null
            : new Incoming(what, Fate.Refused, $"its steps do not run from {from} on without a gap");
    }

    private static bool Begins(IEnumerable<string> here, IReadOnlyList<ArchivedStep> incoming) =>
        here.ToList() is var kept
        && kept.Count >= incoming.Count
        && kept.Zip(incoming).All(s => s.Second.Step.Is(s.First));
}
