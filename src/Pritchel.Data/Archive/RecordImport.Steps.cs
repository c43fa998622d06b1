using System.IO.Compression;
using Microsoft.EntityFrameworkCore;

namespace Pritchel.Data.Archive;

/// <content>What is kept step by step beside the jobs, the meter and the pictures.</content>
public sealed partial class RecordImport
{
    private async Task PartTestsAsync(List<ArchivedPartTest> incoming, CancellationToken cancel)
    {
        var last = Last(await context.PartTests.MaxAsync(x => (int?)x.Number, cancel), incoming.Select(x => x.Number));
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
                        By = s.By,
                    }
                );
            }

            context.PartTests.Add(row);
        }
    }

    private async Task RewiresAsync(List<ArchivedRewire> incoming, CancellationToken cancel)
    {
        var last = Last(await context.Rewires.MaxAsync(x => (int?)x.Number, cancel), incoming.Select(x => x.Number));
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
                        By = s.By,
                    }
                );
            }

            context.Rewires.Add(row);
        }
    }

    private async Task DraftsAsync(List<ArchivedDraft> incoming, CancellationToken cancel)
    {
        var last = Last(await context.Drafts.MaxAsync(x => (int?)x.Id, cancel), incoming.Select(x => x.Id));
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
                        By = s.By,
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
        var last = Last(await context.Pictures.MaxAsync(x => (int?)x.Id, cancel), incoming.Select(x => x.Id));
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
                    By = p.By,
                }
            );
            if (keep)
            {
                written.Add(await pictures.KeepAsync(id, bytes, cancel));
            }
        }
    }
}
