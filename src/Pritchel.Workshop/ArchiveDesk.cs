using System.Security.Cryptography;
using Pritchel.Data;
using Pritchel.Data.Archive;

namespace Pritchel.Workshop;

/// <summary>Everything of a record out as one file, and such a file taken in: first shown, then done.</summary>
/// <param name="export">Writes a record out.</param>
/// <param name="import">Takes one in.</param>
/// <param name="options">Where the record lies.</param>
/// <param name="clock">What time it is.</param>
public sealed class ArchiveDesk(RecordExport export, RecordImport import, WorkshopOptions options, TimeProvider clock)
{
    /// <summary>Largest export taken in, in bytes.</summary>
    public const long LargestBytes = 1024L * 1024 * 1024;

    private static readonly TimeSpan KeptFor = TimeSpan.FromHours(12);

    private string Folder => Path.Combine(options.DataFolder, "incoming");

    /// <summary>The record as one zip, in a file that is gone when it is closed.</summary>
    /// <exception cref="IOException">The disk is full.</exception>
    public async Task<Stream> ExportAsync(CancellationToken cancel = default)
    {
        var file = Fresh("export");
        var stream = new FileStream(
            file,
            FileMode.CreateNew,
            FileAccess.ReadWrite,
            FileShare.None,
            1 << 16,
            FileOptions.Asynchronous | FileOptions.DeleteOnClose
        );
        try
        {
            await export.WriteAsync(stream, cancel);
            stream.Position = 0;
            return stream;
        }
        catch
        {
            await stream.DisposeAsync();
            throw;
        }
    }

    /// <summary>Keeps a file that came, to be looked through before anything of it is taken.</summary>
    /// <returns>What it is called until then.</returns>
    /// <exception cref="ArchiveRefusedException">It is too large.</exception>
    public async Task<string> ReceiveAsync(Stream incoming, CancellationToken cancel = default)
    {
        var file = Fresh("import");
        try
        {
            await using var kept = File.Create(file);
            var buffer = new byte[1 << 16];
            for (int read; (read = await incoming.ReadAsync(buffer, cancel)) > 0; )
            {
                if (kept.Length + read > LargestBytes)
                {
                    throw new ArchiveRefusedException(
                        $"It is larger than {LargestBytes >> 20} MB, the most that is taken in at once."
                    );
                }

                await kept.WriteAsync(buffer.AsMemory(0, read), cancel);
            }
        }
        catch
        {
            File.Delete(file);
            throw;
        }

        return Path.GetFileNameWithoutExtension(file);
    }

    /// <summary>What would become of each thing in a file received; null when it is there no more.</summary>
    /// <exception cref="ArchiveRefusedException">It cannot be taken in.</exception>
    public Task<IReadOnlyList<Incoming>?> PreviewAsync(string name, CancellationToken cancel = default) =>
        WithAsync(name, import.PreviewAsync, done: false, cancel);

    /// <summary>Takes a file received in; null when it is there no more.</summary>
    /// <inheritdoc cref="PreviewAsync"/>
    public Task<IReadOnlyList<Incoming>?> ApplyAsync(string name, CancellationToken cancel = default) =>
        WithAsync(name, import.ApplyAsync, done: true, cancel);

    private async Task<IReadOnlyList<Incoming>?> WithAsync(
        string name,
        Func<Stream, CancellationToken, Task<IReadOnlyList<Incoming>>> act,
        bool done,
        CancellationToken cancel
    )
    {
        var file = Path.Combine(Folder, name + ".zip");
        if (!Guid.TryParseExact(name.Split('-')[^1], "N", out _) || name.Contains('/') || !File.Exists(file))
        {
            return null;
        }

        IReadOnlyList<Incoming> told;
        try
        {
            await using var stream = File.OpenRead(file);
            told = await act(stream, cancel);
        }
        catch (ArchiveRefusedException)
        {
            File.Delete(file);
            throw;
        }

        if (done)
        {
            File.Delete(file);
        }

        return told;
    }

    /// <summary>A new file's name; what was left behind longer than anybody looks at a preview goes.</summary>
    private string Fresh(string what)
    {
        RecordFile.OwnersOnly(Folder);
        foreach (var old in Directory.EnumerateFiles(Folder))
        {
            if (clock.GetUtcNow().UtcDateTime - File.GetLastWriteTimeUtc(old) > KeptFor)
            {
                File.Delete(old);
            }
        }

        return Path.Combine(Folder, $"{what}-{new Guid(RandomNumberGenerator.GetBytes(16)):N}.zip");
    }
}
