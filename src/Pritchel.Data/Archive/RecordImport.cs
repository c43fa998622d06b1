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
public sealed class RecordImport(PritchelContext context, PictureStore pictures)
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
                }
            );
        }
    }

    private async Task JobsAsync(List<ArchivedJob> incoming, CancellationToken cancel)
    {
        var last = Math.Max(
            await context.Jobs.MaxAsync(j => (int?)j.Number, cancel) ?? 0,
            incoming.Select(j => j.Number).DefaultIfEmpty(0).Max()
        );
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
                    }
                );
            }

            row.IsClosed = JobStore.IsClosed(row.Events);
            context.Jobs.Add(row);
        }
    }

    private async Task PartTestsAsync(List<ArchivedPartTest> incoming, CancellationToken cancel)
    {
        var last = Math.Max(
            await context.PartTests.MaxAsync(t => (int?)t.Number, cancel) ?? 0,
            incoming.Select(t => t.Number).DefaultIfEmpty(0).Max()
        );
        foreach (var t in incoming.OrderBy(t => t.Number))
        {
            var what = $"Part test {PartTestStore.TagOf(t.Number)}";
            if (Whole(what, t.Steps.Select(s => s.Sequence), from: 1) is { } broken)
            {
                told.Add(broken);
                continue;
            }

            var here = await context
                .PartTests.AsNoTracking()
                .Include(x => x.Steps)
                .FirstOrDefaultAsync(x => x.Number == t.Number, cancel);
            if (here is not null && Begins(here.Steps.OrderBy(s => s.Sequence).Select(s => s.Body), t.Steps))
            {
                told.Add(new(what, Fate.Same));
                continue;
            }

            var number = here is null ? t.Number : ++last;
            Renamed(what, t.Number, number, PartTestStore.TagOf);
            var row = new PartTestRow
            {
                Number = number,
                Sheet = t.Sheet,
                Name = t.Name,
                MachineId = t.MachineId,
                PartId = t.PartId,
                Job = t.Job is null ? null : jobs.GetValueOrDefault(t.Job, t.Job),
                BegunUtc = t.BegunUtc,
            };
            foreach (var s in t.Steps)
            {
                row.Steps.Add(
                    new PartTestStepRow
                    {
                        Sequence = s.Sequence,
                        AtUtc = s.AtUtc,
                        Body = s.Step.Text,
                    }
                );
            }

            context.PartTests.Add(row);
        }
    }

    private async Task RewiresAsync(List<ArchivedRewire> incoming, CancellationToken cancel)
    {
        var last = Math.Max(
            await context.Rewires.MaxAsync(r => (int?)r.Number, cancel) ?? 0,
            incoming.Select(r => r.Number).DefaultIfEmpty(0).Max()
        );
        foreach (var r in incoming.OrderBy(r => r.Number))
        {
            var what = $"Rewire {RewireStore.TagOf(r.Number)}";
            if (Whole(what, r.Steps.Select(s => s.Sequence), from: 1) is { } broken)
            {
                told.Add(broken);
                continue;
            }

            var here = await context
                .Rewires.AsNoTracking()
                .Include(x => x.Steps)
                .FirstOrDefaultAsync(x => x.Number == r.Number, cancel);
            if (here is not null && Begins(here.Steps.OrderBy(s => s.Sequence).Select(s => s.Body), r.Steps))
            {
                told.Add(new(what, Fate.Same));
                continue;
            }

            var number = here is null ? r.Number : ++last;
            Renamed(what, r.Number, number, RewireStore.TagOf);
            var row = new RewireRow
            {
                Number = number,
                Name = r.Name,
                HostId = r.HostId,
                HostVersion = versions.GetValueOrDefault((r.HostId, r.HostVersion), r.HostVersion),
                DonorId = r.DonorId,
                DonorVersion = r is { DonorId: { } donor, DonorVersion: { } version }
                    ? versions.GetValueOrDefault((donor, version), version)
                    : r.DonorVersion,
                BegunUtc = r.BegunUtc,
            };
            foreach (var s in r.Steps)
            {
                row.Steps.Add(
                    new RewireStepRow
                    {
                        Sequence = s.Sequence,
                        AtUtc = s.AtUtc,
                        Body = s.Step.Text,
                    }
                );
            }

            context.Rewires.Add(row);
        }
    }

    private async Task DraftsAsync(List<ArchivedDraft> incoming, CancellationToken cancel)
    {
        var last = Math.Max(
            await context.Drafts.MaxAsync(d => (int?)d.Id, cancel) ?? 0,
            incoming.Select(d => d.Id).DefaultIfEmpty(0).Max()
        );
        foreach (var d in incoming.OrderBy(d => d.Id))
        {
            var what = $"Draft {d.Id} of {d.MachineId}";
            if (Whole(what, d.Steps.Select(s => s.Sequence), from: 0) is { } broken)
            {
                told.Add(broken);
                continue;
            }

            var here = await context
                .Drafts.AsNoTracking()
                .Include(x => x.Steps)
                .FirstOrDefaultAsync(x => x.Id == d.Id, cancel);
            if (
                here is not null
                && here.Steps.Count == d.Steps.Count
                && here.Steps.OrderBy(s => s.Sequence).Zip(d.Steps).All(s => s.Second.Machine.Is(s.First.Json))
            )
            {
                told.Add(new(what, Fate.Same));
                continue;
            }

            var id = here is null ? d.Id : ++last;
            Renamed(what, d.Id, id, n => $"draft {n}");
            var row = new DraftRow
            {
                Id = id,
                MachineId = d.MachineId,
                At = Math.Clamp(d.At, 0, d.Steps.Count - 1),
            };
            foreach (var s in d.Steps)
            {
                row.Steps.Add(
                    new DraftStepRow
                    {
                        Sequence = s.Sequence,
                        Words = s.Words,
                        Json = s.Machine.File,
                        AtUtc = s.AtUtc,
                    }
                );
            }

            context.Drafts.Add(row);
        }
    }

    private async Task MeterAsync(RawJson? meter, CancellationToken cancel)
    {
        if (meter is not { } incoming)
        {
            return;
        }

        var here = await MeterStore.KeptTextAsync(context, cancel);
        if (here is null)
        {
            MeterStore.Adopt(context, incoming.Text);
        }

        told.Add(
            here is null ? new("Meter in use", Fate.New)
            : incoming.Is(here) ? new("Meter in use", Fate.Same)
            : new("Meter in use", Fate.Refused, "the one in use here stays; say on the Meter page if it is another")
        );
    }

    private async Task PicturesAsync(
        ZipArchive zip,
        List<ArchivedPicture> incoming,
        bool keep,
        CancellationToken cancel
    )
    {
        var last = Math.Max(
            await context.Pictures.MaxAsync(p => (int?)p.Id, cancel) ?? 0,
            incoming.Select(p => p.Id).DefaultIfEmpty(0).Max()
        );
        foreach (var p in incoming.OrderBy(p => p.Id))
        {
            var what = $"Picture {p.Id} of {p.MachineId}";
            var here = await context.Pictures.AsNoTracking().FirstOrDefaultAsync(x => x.Id == p.Id, cancel);
            if (here is not null && (here.MachineId, here.Words, here.AddedUtc) == (p.MachineId, p.Words, p.AddedUtc))
            {
                told.Add(new(what, Fate.Same));
                continue;
            }

            if (await ArchiveFile.PictureAsync(zip, p, cancel) is not { } bytes)
            {
                told.Add(new(what, Fate.Refused, "its file is missing, damaged or larger than is taken in"));
                continue;
            }

            var id = here is null ? p.Id : ++last;
            Renamed(what, p.Id, id, n => $"picture {n}");
            context.Pictures.Add(
                new PictureRow
                {
                    Id = id,
                    MachineId = p.MachineId,
                    PartId = p.PartId,
                    Words = p.Words,
                    Width = p.Width,
                    Height = p.Height,
                    AddedUtc = p.AddedUtc,
                    PutAwayUtc = p.PutAwayUtc,
                }
            );
            if (keep)
            {
                written.Add(await pictures.KeepAsync(id, bytes, cancel));
            }
        }
    }

    /// <summary>A version of a machine as it is called here; null where it neither came in nor is here.</summary>
    private async Task<int?> VersionAsync(string id, int version, CancellationToken cancel) =>
        versions.TryGetValue((id, version), out var mapped) ? mapped
        : await context.Machines.AnyAsync(m => m.MachineId == id && m.Version == version, cancel) ? version
        : null;

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
