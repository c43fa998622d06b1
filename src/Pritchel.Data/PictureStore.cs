using Microsoft.EntityFrameworkCore;
using SkiaSharp;

namespace Pritchel.Data;

/// <summary>A picture that cannot be taken in, and why.</summary>
public sealed class PictureRefusedException(string message) : Exception(message)
{
    /// <summary>Refuses a picture.</summary>
    public PictureRefusedException()
        : this("This picture cannot be taken in.") { }

    /// <summary>Refuses a picture.</summary>
    public PictureRefusedException(string message, Exception inner)
        : this(message + " " + inner.Message) { }
}

/// <summary>
/// Pictures of machines, kept as files beside the record. A picture is decoded and drawn again as a plain JPEG, so that
/// nothing else in the file, such as where it was taken, is kept.
/// </summary>
public sealed class PictureStore(PritchelContext context, string folder, TimeProvider clock)
{
    /// <summary>Largest file taken in, in bytes.</summary>
    public const int LargestBytes = 20 * 1024 * 1024;

    /// <summary>Most pixels that a picture may unfold to before it is decoded at all.</summary>
    public const long MostPixels = 60_000_000;

    private const int LongestSide = 2000;
    private const int Quality = 85;

    /// <summary>Pictures of a machine that are shown, oldest first.</summary>
    public async Task<IReadOnlyList<PictureRow>> ListAsync(string machineId, CancellationToken cancel = default) =>
        await context
            .Pictures.AsNoTracking()
            .Where(p => p.MachineId == machineId && p.PutAwayUtc == null)
            .OrderBy(p => p.Id)
            .ToListAsync(cancel);

    /// <summary>File of a picture, or null when there is none.</summary>
    public string? FileOf(int id) => File.Exists(PathOf(id)) ? PathOf(id) : null;

    /// <summary>Takes a picture in.</summary>
    /// <param name="machineId">Machine it shows.</param>
    /// <param name="partId">Part it shows, or null.</param>
    /// <param name="words">What it shows.</param>
    /// <param name="file">The file as it came.</param>
    /// <param name="cancel">Stops waiting.</param>
    /// <exception cref="PictureRefusedException">It is no picture, or too large, packed or unpacked.</exception>
    public async Task<PictureRow> AddAsync(
        string machineId,
        string? partId,
        string words,
        Stream file,
        CancellationToken cancel = default
    )
    {
        var buffer = new byte[LargestBytes + 1];
        var length = await file.ReadAtLeastAsync(buffer, buffer.Length, throwOnEndOfStream: false, cancel);
        if (length > LargestBytes)
        {
            throw new PictureRefusedException(
                $"The picture is larger than {LargestBytes / 1024 / 1024} MB; send a smaller one."
            );
        }

        var (jpeg, width, height) = Redrawn(buffer.AsSpan(0, length));
        var row = new PictureRow
        {
            MachineId = machineId,
            PartId = partId,
            Words = words,
            Width = width,
            Height = height,
            AddedUtc = clock.GetUtcNow().UtcDateTime,
        };
        context.Pictures.Add(row);
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        await context.SaveChangesAsync(cancel);
        var kept = await KeepAsync(row.Id, jpeg, cancel);
        try
        {
            await transaction.CommitAsync(cancel);
        }
        catch
        {
            // A file that no row names is nobody's.
            File.Delete(kept);
            throw;
        }

        return row;
    }

    /// <summary>Writes a picture's file and has the disk take it before anything says that it is kept.</summary>
    /// <returns>The file.</returns>
    internal async Task<string> KeepAsync(int id, byte[] jpeg, CancellationToken cancel)
    {
        RecordFile.OwnersOnly(folder);
        var (file, unfinished) = (PathOf(id), PathOf(id) + ".new");
        try
        {
            await using (var stream = File.Create(unfinished))
            {
                await stream.WriteAsync(jpeg, cancel);
                stream.Flush(flushToDisk: true);
            }

            File.Move(unfinished, file, overwrite: true);
        }
        catch
        {
            File.Delete(unfinished);
            throw;
        }

        return file;
    }

    /// <summary>Puts a picture away, or shows it again.</summary>
    public async Task PutAwayAsync(string machineId, int id, bool away, CancellationToken cancel = default)
    {
        if (await context.Pictures.FirstOrDefaultAsync(p => p.Id == id && p.MachineId == machineId, cancel) is { } row)
        {
            row.PutAwayUtc = away ? clock.GetUtcNow().UtcDateTime : null;
            await context.SaveChangesAsync(cancel);
        }
    }

    /// <summary>The picture alone, upright, at most 2000 pixels a side, without anything else its file carried.</summary>
    private static (byte[] Jpeg, int Width, int Height) Redrawn(ReadOnlySpan<byte> file)
    {
        using var data = SKData.CreateCopy(file);
        using var codec =
            SKCodec.Create(data)
            ?? throw new PictureRefusedException("The file is not a picture; allowed: JPEG, PNG, WebP, GIF, BMP.");
        if ((long)codec.Info.Width * codec.Info.Height > MostPixels)
        {
            throw new PictureRefusedException(
                $"The picture unfolds to {codec.Info.Width} × {codec.Info.Height} pixels; at most {MostPixels / 1_000_000} million are allowed."
            );
        }

        using var decoded =
            SKBitmap.Decode(codec) ?? throw new PictureRefusedException("The picture is damaged and cannot be read.");
        var turned =
            codec.EncodedOrigin
            is SKEncodedOrigin.LeftTop
                or SKEncodedOrigin.RightTop
                or SKEncodedOrigin.RightBottom
                or SKEncodedOrigin.LeftBottom;
        var (width, height) = turned ? (decoded.Height, decoded.Width) : (decoded.Width, decoded.Height);
        var scale = Math.Min(1.0, (double)LongestSide / Math.Max(width, height));
        var (w, h) = (Math.Max(1, (int)(width * scale)), Math.Max(1, (int)(height * scale)));
        using var surface = SKSurface.Create(new SKImageInfo(w, h));
        surface.Canvas.Clear(SKColors.White);
        surface.Canvas.Scale((float)w / width, (float)h / height);
        surface.Canvas.Concat(Upright(codec.EncodedOrigin, decoded.Width, decoded.Height));
        using var image = SKImage.FromBitmap(decoded);
        surface.Canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKCubicResampler.Mitchell));
        using var upright = surface.Snapshot();
        using var jpeg = upright.Encode(SKEncodedImageFormat.Jpeg, Quality);
        return (jpeg.ToArray(), w, h);
    }

    /// <summary>Turns a picture upright. Values of the orientation tag: Exif 2.3, tag 0x0112.</summary>
    private static SKMatrix Upright(SKEncodedOrigin origin, int width, int height) =>
        origin switch
        {
            SKEncodedOrigin.TopRight => new SKMatrix(-1, 0, width, 0, 1, 0, 0, 0, 1),
            SKEncodedOrigin.BottomRight => new SKMatrix(-1, 0, width, 0, -1, height, 0, 0, 1),
            SKEncodedOrigin.BottomLeft => new SKMatrix(1, 0, 0, 0, -1, height, 0, 0, 1),
            SKEncodedOrigin.LeftTop => new SKMatrix(0, 1, 0, 1, 0, 0, 0, 0, 1),
            SKEncodedOrigin.RightTop => new SKMatrix(0, -1, height, 1, 0, 0, 0, 0, 1),
            SKEncodedOrigin.RightBottom => new SKMatrix(0, -1, height, -1, 0, width, 0, 0, 1),
            SKEncodedOrigin.LeftBottom => new SKMatrix(0, 1, 0, -1, 0, width, 0, 0, 1),
            _ => SKMatrix.Identity,
        };

    private string PathOf(int id) =>
        Path.Combine(folder, id.ToString(System.Globalization.CultureInfo.InvariantCulture) + ".jpg");
}
