using System.Globalization;
using System.IO.Compression;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Pritchel.Core.Exchange;
using Pritchel.Core.Jobs;
using Pritchel.Data.Events;

namespace Pritchel.Data.Archive;

/// <summary>
/// Everything of a record as one zip, taken while it is in use: JSON for each machine, job, part test, rewire and draft, the
/// meter, the pictures, and the readings once more as CSV. Of a damaged record it is what can still be read, one thing at a
/// time, with a list of what cannot.
/// </summary>
/// <param name="context">The record.</param>
/// <param name="pictures">Its pictures.</param>
/// <param name="clock">What time it is.</param>
public sealed class RecordExport(PritchelContext context, PictureStore pictures, TimeProvider clock)
{
    private readonly List<string> lost = [];
    private readonly List<string[]> readings = [];
    private ZipArchive zip = null!;

    /// <summary>Writes it. All is read in one transaction: what changes meanwhile is not in it.</summary>
    /// <param name="stream">Where to; need not be seekable.</param>
    /// <param name="cancel">Stops it.</param>
    public async Task WriteAsync(Stream stream, CancellationToken cancel = default)
    {
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        await using var whole = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true, Encoding.UTF8);
        zip = whole;
        await PutAsync(
            Layout.Manifest,
            new Manifest(Manifest.Name, Manifest.Current, clock.GetUtcNow().UtcDateTime),
            cancel
        );
        await PutMachinesAsync(cancel);
        await EachAsync("Job", context.Jobs.OrderBy(j => j.Number).Select(j => j.Number), PutJobAsync, cancel);
        await PutReadingsAsync(cancel);
        await EachAsync(
            "Part test",
            context.PartTests.OrderBy(t => t.Number).Select(t => t.Number),
            PutPartTestAsync,
            cancel
        );
        await EachAsync("Rewire", context.Rewires.OrderBy(r => r.Number).Select(r => r.Number), PutRewireAsync, cancel);
        await EachAsync("Draft", context.Drafts.OrderBy(d => d.Id).Select(d => d.Id), PutDraftAsync, cancel);
        await TryAsync("The meter in use", () => PutMeterAsync(cancel));
        await EachAsync("Picture", context.Pictures.OrderBy(p => p.Id).Select(p => p.Id), PutPictureAsync, cancel);
        if (lost.Count > 0)
        {
            await using var entry = await zip.CreateEntry(Layout.Lost, CompressionLevel.Fastest).OpenAsync(cancel);
            await entry.WriteAsync(Encoding.UTF8.GetBytes(string.Join('\n', lost) + "\n"), cancel);
        }
    }

    /// <summary>Puts one thing after another; one that lies in a damaged part of the file is named, and the rest goes on.</summary>
    private async Task EachAsync<TKey>(
        string what,
        IQueryable<TKey> keys,
        Func<TKey, CancellationToken, Task> put,
        CancellationToken cancel
    )
    {
        List<TKey> all = [];
        await TryAsync($"{what}s: which there are", async () => all = await keys.ToListAsync(cancel));
        foreach (var key in all)
        {
            await TryAsync($"{what} {key}", () => put(key, cancel));
        }
    }

    private async Task TryAsync(string what, Func<Task> put)
    {
        try
        {
            await put();
        }
        catch (Exception e) when (StorageFault.IsDamage(e))
        {
            lost.Add($"{what} cannot be read: the record's file is damaged there.");
        }
    }

    private async Task PutMachinesAsync(CancellationToken cancel)
    {
        var away = new HashSet<string>(StringComparer.Ordinal);
        await TryAsync(
            "Which machines are put away",
            async () => away.UnionWith(await MachineStore.PutAwayIdsAsync(context, cancel))
        );
        await EachAsync(
            "Machine",
            context
                .Machines.OrderBy(m => m.MachineId)
                .ThenBy(m => m.Version)
                .Select(m => new ValueTuple<string, int>(m.MachineId, m.Version)),
            async (key, stop) =>
            {
                var m = await context
                    .Machines.AsNoTracking()
                    .SingleAsync(m => m.MachineId == key.Item1 && m.Version == key.Item2, stop);
                await PutAsync(
                    $"{Layout.Machines}{m.MachineId}-v{m.Version}.json",
                    new ArchivedMachine(
                        m.MachineId,
                        m.Version,
                        m.Name,
                        m.Kind,
                        m.AddedUtc,
                        new RawJson(m.Json),
                        away.Contains(m.MachineId),
                        m.By
                    ),
                    stop
                );
            },
            cancel
        );
    }

    private async Task PutJobAsync(int number, CancellationToken cancel)
    {
        var j = await context.Jobs.AsNoTracking().Include(j => j.Events).SingleAsync(j => j.Number == number, cancel);
        var events = j.Events.OrderBy(e => e.Sequence).ToList();
        await PutAsync(
            $"{Layout.Jobs}{JobStore.TagOf(j.Number)}.json",
            new ArchivedJob(
                j.Number,
                j.MachineId,
                j.MachineVersion,
                j.OpenedUtc,
                [.. events.Select(e => new ArchivedStep(e.Sequence, e.AtUtc, new RawJson(e.Body), e.By))]
            ),
            cancel
        );
        foreach (var e in events)
        {
            if (EventFormat.Read(e.Body) is ReadingTaken taken)
            {
                readings.Add([
                    JobStore.TagOf(j.Number),
                    j.MachineId,
                    e.Sequence.ToString(CultureInfo.InvariantCulture),
                    e.AtUtc.ToString("yyyy-MM-dd HH:mm:ss", CultureInfo.InvariantCulture),
                    taken.At.Red.Text,
                    taken.At.Black.Text,
                    taken.Typed,
                ]);
            }
        }
    }

    private async Task PutReadingsAsync(CancellationToken cancel)
    {
        await using var csv = await zip.CreateEntry(Layout.Readings, CompressionLevel.Fastest).OpenAsync(cancel);
        await csv.WriteAsync(
            Encoding.UTF8.GetBytes(CsvText.Of("job,machine,sequence,at utc,red,black,typed", readings)),
            cancel
        );
    }

    private async Task PutPartTestAsync(int number, CancellationToken cancel)
    {
        var t = await context
            .PartTests.AsNoTracking()
            .Include(t => t.Steps)
            .SingleAsync(t => t.Number == number, cancel);
        await PutAsync(
            $"{Layout.PartTests}{PartTestStore.TagOf(t.Number)}.json",
            new ArchivedPartTest(
                t.Number,
                t.Sheet,
                t.Name,
                t.MachineId,
                t.PartId,
                t.Job,
                t.BegunUtc,
                [
                    .. t
                        .Steps.OrderBy(s => s.Sequence)
                        .Select(s => new ArchivedStep(s.Sequence, s.AtUtc, new RawJson(s.Body), s.By)),
                ]
            ),
            cancel
        );
    }

    private async Task PutRewireAsync(int number, CancellationToken cancel)
    {
        var r = await context.Rewires.AsNoTracking().Include(r => r.Steps).SingleAsync(r => r.Number == number, cancel);
        await PutAsync(
            $"{Layout.Rewires}{RewireStore.TagOf(r.Number)}.json",
            new ArchivedRewire(
                r.Number,
                r.Name,
                r.HostId,
                r.HostVersion,
                r.DonorId,
                r.DonorVersion,
                r.BegunUtc,
                [
                    .. r
                        .Steps.OrderBy(s => s.Sequence)
                        .Select(s => new ArchivedStep(s.Sequence, s.AtUtc, new RawJson(s.Body), s.By)),
                ]
            ),
            cancel
        );
    }

    private async Task PutDraftAsync(int id, CancellationToken cancel)
    {
        var d = await context.Drafts.AsNoTracking().Include(d => d.Steps).SingleAsync(d => d.Id == id, cancel);
        await PutAsync(
            $"{Layout.Drafts}{d.Id}.json",
            new ArchivedDraft(
                d.Id,
                d.MachineId,
                d.At,
                [
                    .. d
                        .Steps.OrderBy(s => s.Sequence)
                        .Select(s => new ArchivedDraftStep(s.Sequence, s.Words, s.AtUtc, new RawJson(s.Json), s.By)),
                ]
            ),
            cancel
        );
    }

    private async Task PutMeterAsync(CancellationToken cancel)
    {
        if (await MeterStore.KeptTextAsync(context, cancel) is { } meter)
        {
            await PutAsync(Layout.Meter, new RawJson(meter), cancel);
        }
    }

    private async Task PutPictureAsync(int id, CancellationToken cancel)
    {
        var p = await context.Pictures.AsNoTracking().SingleAsync(p => p.Id == id, cancel);
        await PutAsync(
            $"{Layout.Pictures}{p.Id}.json",
            new ArchivedPicture(
                p.Id,
                p.MachineId,
                p.PartId,
                p.Words,
                p.Width,
                p.Height,
                p.AddedUtc,
                p.PutAwayUtc,
                p.By
            ),
            cancel
        );
        if (pictures.FileOf(p.Id) is { } file)
        {
            // A JPEG packs no smaller.
            await using var into = await zip.CreateEntry($"{Layout.Pictures}{p.Id}.jpg", CompressionLevel.NoCompression)
                .OpenAsync(cancel);
            await using var from = File.OpenRead(file);
            await from.CopyToAsync(into, cancel);
        }
    }

    private async Task PutAsync<T>(string name, T what, CancellationToken cancel)
    {
        await using var entry = await zip.CreateEntry(name, CompressionLevel.Fastest).OpenAsync(cancel);
        await JsonSerializer.SerializeAsync(entry, what, Layout.Json, cancel);
    }
}
