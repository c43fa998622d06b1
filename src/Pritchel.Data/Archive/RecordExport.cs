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
/// meter, the pictures, and the readings once more as CSV.
/// </summary>
/// <param name="context">The record.</param>
/// <param name="pictures">Its pictures.</param>
/// <param name="clock">What time it is.</param>
public sealed class RecordExport(PritchelContext context, PictureStore pictures, TimeProvider clock)
{
    /// <summary>Writes it. All is read in one transaction: what changes meanwhile is not in it.</summary>
    /// <param name="stream">Where to; need not be seekable.</param>
    /// <param name="cancel">Stops it.</param>
    public async Task WriteAsync(Stream stream, CancellationToken cancel = default)
    {
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        await using var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true, Encoding.UTF8);
        await PutAsync(
            zip,
            Layout.Manifest,
            new Manifest(Manifest.Name, Manifest.Current, clock.GetUtcNow().UtcDateTime),
            cancel
        );
        var away = (await MachineStore.PutAwayIdsAsync(context, cancel)).ToHashSet(StringComparer.Ordinal);
        await foreach (
            var m in context
                .Machines.AsNoTracking()
                .OrderBy(m => m.MachineId)
                .ThenBy(m => m.Version)
                .AsAsyncEnumerable()
        )
        {
            await PutAsync(
                zip,
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
                cancel
            );
        }

        await PutJobsAsync(zip, cancel);
        await foreach (
            var t in context.PartTests.AsNoTracking().Include(t => t.Steps).OrderBy(t => t.Number).AsAsyncEnumerable()
        )
        {
            await PutAsync(
                zip,
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

        await foreach (
            var r in context.Rewires.AsNoTracking().Include(r => r.Steps).OrderBy(r => r.Number).AsAsyncEnumerable()
        )
        {
            await PutAsync(
                zip,
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

        await foreach (
            var d in context.Drafts.AsNoTracking().Include(d => d.Steps).OrderBy(d => d.Id).AsAsyncEnumerable()
        )
        {
            await PutAsync(
                zip,
                $"{Layout.Drafts}{d.Id}.json",
                new ArchivedDraft(
                    d.Id,
                    d.MachineId,
                    d.At,
                    [
                        .. d
                            .Steps.OrderBy(s => s.Sequence)
                            .Select(s => new ArchivedDraftStep(
                                s.Sequence,
                                s.Words,
                                s.AtUtc,
                                new RawJson(s.Json),
                                s.By
                            )),
                    ]
                ),
                cancel
            );
        }

        if (await MeterStore.KeptTextAsync(context, cancel) is { } meter)
        {
            await PutAsync(zip, Layout.Meter, new RawJson(meter), cancel);
        }

        await PutPicturesAsync(zip, cancel);
    }

    private async Task PutJobsAsync(ZipArchive zip, CancellationToken cancel)
    {
        var readings = new List<string[]>();
        await foreach (
            var j in context.Jobs.AsNoTracking().Include(j => j.Events).OrderBy(j => j.Number).AsAsyncEnumerable()
        )
        {
            var events = j.Events.OrderBy(e => e.Sequence).ToList();
            await PutAsync(
                zip,
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

        await using var csv = await zip.CreateEntry(Layout.Readings, CompressionLevel.Fastest).OpenAsync(cancel);
        await csv.WriteAsync(
            Encoding.UTF8.GetBytes(CsvText.Of("job,machine,sequence,at utc,red,black,typed", readings)),
            cancel
        );
    }

    private async Task PutPicturesAsync(ZipArchive zip, CancellationToken cancel)
    {
        foreach (var p in await context.Pictures.AsNoTracking().OrderBy(p => p.Id).ToListAsync(cancel))
        {
            await PutAsync(
                zip,
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
                await using var into = await zip.CreateEntry(
                        $"{Layout.Pictures}{p.Id}.jpg",
                        CompressionLevel.NoCompression
                    )
                    .OpenAsync(cancel);
                await using var from = File.OpenRead(file);
                await from.CopyToAsync(into, cancel);
            }
        }
    }

    private static async Task PutAsync<T>(ZipArchive zip, string name, T what, CancellationToken cancel)
    {
        await using var entry = await zip.CreateEntry(name, CompressionLevel.Fastest).OpenAsync(cancel);
        await JsonSerializer.SerializeAsync(entry, what, Layout.Json, cancel);
    }
}
