using System.IO.Compression;
using System.Text.Json;
using Pritchel.Core.Units;
using SkiaSharp;

namespace Pritchel.Data.Archive;

/// <summary>A zip that cannot be taken in, and why.</summary>
public sealed class ArchiveRefusedException(string message) : Exception(message)
{
    /// <summary>Refuses one.</summary>
    public ArchiveRefusedException()
        : this("This file cannot be taken in.") { }

    /// <summary>Refuses one.</summary>
    public ArchiveRefusedException(string message, Exception inner)
        : this(message + " " + inner.Message) { }
}

/// <summary>
/// What lies in an archive, read with limits: a zip from elsewhere may unfold to anything. Nothing of it is written anywhere
/// under a name that it gives.
/// </summary>
internal sealed class ArchiveFile
{
    private const int MostEntries = 200_000;
    private const long LargestJson = 64 * 1024 * 1024;
    private const long LargestWhole = 4L * 1024 * 1024 * 1024;

    private ArchiveFile() { }

    public List<ArchivedMachine> Machines { get; } = [];

    public List<ArchivedJob> Jobs { get; } = [];

    public List<ArchivedPartTest> PartTests { get; } = [];

    public List<ArchivedRewire> Rewires { get; } = [];

    public List<ArchivedDraft> Drafts { get; } = [];

    public List<ArchivedPicture> Pictures { get; } = [];

    public RawJson? Meter { get; private set; }

    /// <summary>Reads one; pictures' own bytes are left in it until they are wanted.</summary>
    /// <exception cref="ArchiveRefusedException">It is no export of a record, is damaged, or unfolds beyond the limits.</exception>
    public static async Task<ArchiveFile> ReadAsync(ZipArchive zip, CancellationToken cancel)
    {
        if (zip.Entries.Count > MostEntries || zip.Entries.Sum(e => e.Length) > LargestWhole)
        {
            throw new ArchiveRefusedException(
                $"It holds {zip.Entries.Count} files, or unfolds to more than {LargestWhole >> 30} GB; at most {MostEntries} files are taken in."
            );
        }

        if (zip.GetEntry(Layout.Manifest) is not { } first)
        {
            throw new ArchiveRefusedException("It is no export of a record: it has no manifest.json.");
        }

        var manifest = await JsonAsync<Manifest>(first, cancel);
        if (manifest.What != Manifest.Name || manifest.Version > Manifest.Current)
        {
            throw new ArchiveRefusedException(
                $"Its manifest says “{Excerpt.Of(manifest.What)}”, version {manifest.Version}; this program reads “{Manifest.Name}” up to version {Manifest.Current}."
            );
        }

        var read = new ArchiveFile();
        foreach (var entry in zip.Entries)
        {
            await read.TakeAsync(entry, cancel);
        }

        Once(read.Machines.Select(m => $"machine {m.Id}, version {m.Version}"));
        Once(read.Jobs.Select(j => JobStore.TagOf(j.Number)));
        Once(read.PartTests.Select(t => PartTestStore.TagOf(t.Number)));
        Once(read.Rewires.Select(r => RewireStore.TagOf(r.Number)));
        Once(read.Drafts.Select(d => $"draft {d.Id}"));
        Once(read.Pictures.Select(p => $"picture {p.Id}"));
        return read;
    }

    private static void Once(IEnumerable<string> names)
    {
        if (names.GroupBy(n => n, StringComparer.Ordinal).FirstOrDefault(g => g.Count() > 1) is { } twice)
        {
            throw new ArchiveRefusedException($"It holds {Excerpt.Of(twice.Key)} twice.");
        }
    }

    /// <summary>The bytes of a picture; null when its file is not there, is no JPEG, or unfolds to more than is taken in.</summary>
    public static async Task<byte[]?> PictureAsync(ZipArchive zip, ArchivedPicture picture, CancellationToken cancel)
    {
        if (zip.GetEntry($"{Layout.Pictures}{picture.Id}.jpg") is not { Length: <= PictureStore.LargestBytes } entry)
        {
            return null;
        }

        var bytes = new byte[entry.Length];
        await using (var from = await entry.OpenAsync(cancel))
        {
            if (await from.ReadAtLeastAsync(bytes, bytes.Length, throwOnEndOfStream: false, cancel) < bytes.Length)
            {
                return null;
            }
        }

        using var data = SKData.CreateCopy(bytes);
        using var codec = SKCodec.Create(data);
        return
            codec is { EncodedFormat: SKEncodedImageFormat.Jpeg }
            && (long)codec.Info.Width * codec.Info.Height <= PictureStore.MostPixels
            ? bytes
            : null;
    }

    private async Task TakeAsync(ZipArchiveEntry entry, CancellationToken cancel)
    {
        var name = entry.FullName;
        bool In(string folder) =>
            name.StartsWith(folder, StringComparison.Ordinal) && name.EndsWith(".json", StringComparison.Ordinal);
        if (In(Layout.Machines))
        {
            Machines.Add(await JsonAsync<ArchivedMachine>(entry, cancel));
        }
        else if (In(Layout.Jobs))
        {
            Jobs.Add(await JsonAsync<ArchivedJob>(entry, cancel));
        }
        else if (In(Layout.PartTests))
        {
            PartTests.Add(await JsonAsync<ArchivedPartTest>(entry, cancel));
        }
        else if (In(Layout.Rewires))
        {
            Rewires.Add(await JsonAsync<ArchivedRewire>(entry, cancel));
        }
        else if (In(Layout.Drafts))
        {
            Drafts.Add(await JsonAsync<ArchivedDraft>(entry, cancel));
        }
        else if (In(Layout.Pictures))
        {
            Pictures.Add(await JsonAsync<ArchivedPicture>(entry, cancel));
        }
        else if (name == Layout.Meter)
        {
            Meter = await JsonAsync<RawJson>(entry, cancel);
        }
    }

    private static async Task<T> JsonAsync<T>(ZipArchiveEntry entry, CancellationToken cancel)
    {
        if (entry.Length > LargestJson)
        {
            throw new ArchiveRefusedException(
                $"{Excerpt.Of(entry.FullName)} is larger than {LargestJson >> 20} MB, the most that one file of it may be."
            );
        }

        try
        {
            await using var stream = await entry.OpenAsync(cancel);
            return await JsonSerializer.DeserializeAsync<T>(stream, Layout.Json, cancel)
                ?? throw new JsonException("It is empty.");
        }
        catch (Exception e) when (e is JsonException or InvalidDataException or FormatException)
        {
            throw new ArchiveRefusedException($"{Excerpt.Of(entry.FullName)} in it cannot be read.", e);
        }
    }
}
