using System.Buffers.Binary;
using System.IO.Compression;
using System.Net;
using System.Text;
using SkiaSharp;

namespace Pritchel.Web.Tests;

/// <summary>Pictures: kept without what else their files carry, refused when they are none or unfold too far.</summary>
public sealed class PictureTests(Host host) : IClassFixture<Host>
{
    private const string Outboard = "/machines/tide-outboard-3/pictures";
    private const string Quad = "/machines/hill-quad-2/pictures";
    private readonly HttpClient client = host.Browser();

    [Fact]
    public async Task A_picture_is_turned_upright_and_loses_where_it_was_taken()
    {
        var (status, page) = await SendAsync(Outboard, TaggedJpeg(60, 40), "trigger coil plug");
        Assert.Equal(HttpStatusCode.OK, status);
        Assert.Contains("trigger coil plug", page, StringComparison.Ordinal);
        var file = Assert.Single(Directory.EnumerateFiles(Path.Combine(host.Folder, "pictures")));
        if (!OperatingSystem.IsWindows())
        {
            Assert.Equal(
                UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute,
                File.GetUnixFileMode(Path.GetDirectoryName(file)!)
            );
        }

        var kept = await File.ReadAllBytesAsync(file);
        Assert.Equal(-1, kept.AsSpan().IndexOf("Exif"u8));
        Assert.Equal(-1, kept.AsSpan().IndexOf("51.4779"u8));
        using var codec = SKCodec.Create(new MemoryStream(kept));
        Assert.Equal((40, 60), (codec.Info.Width, codec.Info.Height));
        var served = await client.GetAsync(
            Outboard + "?handler=file&picture=" + Path.GetFileNameWithoutExtension(file)
        );
        Assert.Equal("image/jpeg", served.Content.Headers.ContentType!.MediaType);
    }

    [Fact]
    public async Task What_is_no_picture_or_unfolds_without_end_is_refused_and_nothing_is_kept()
    {
        var bomb = Bomb(40_000);
        Assert.True(bomb.Length < 300_000);
        foreach (
            var (file, words, said) in new (byte[], string, string)[]
            {
                (bomb, "a bomb", "unfolds to 40000 × 40000 pixels"),
                (Encoding.UTF8.GetBytes("<svg xmlns='http://www.w3.org/2000/svg'/>"), "a drawing", "not a picture"),
                ([0x50, 0x4b, 3, 4, 0, 0], "an archive", "not a picture"),
                ([], "nothing", "no file was chosen"),
                (TaggedJpeg(10, 10), "", "What it shows: 1 to 200"),
                (new byte[21 * 1024 * 1024], "too large", "larger than 20 MB"),
            }
        )
        {
            var (_, page) = await SendAsync(Quad, file, words);
            Assert.Contains(said, page, StringComparison.Ordinal);
            Assert.Contains("None yet.", page, StringComparison.Ordinal);
        }
    }

    private async Task<(HttpStatusCode Status, string Page)> SendAsync(string at, byte[] file, string words)
    {
        var html = await client.GetStringAsync(at);
        var token = html.Split("name=\"__RequestVerificationToken\" type=\"hidden\" value=\"")[1].Split('"')[0];
        using var form = new MultipartFormDataContent
        {
            { new StringContent(token), "__RequestVerificationToken" },
            { new StringContent(words), "Words" },
            { new ByteArrayContent(file), "file", "picture.jpg" },
        };
        var answer = await client.PostAsync(at, form);
        return (answer.StatusCode, WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()));
    }

    /// <summary>A JPEG that says it lies on its side (tag 0x0112 = 6, Exif 2.3) and, in plain text, where it was taken.</summary>
    private static byte[] TaggedJpeg(int width, int height)
    {
        using var bitmap = new SKBitmap(width, height);
        bitmap.Erase(SKColors.OliveDrab);
        using var plain = bitmap.Encode(SKEncodedImageFormat.Jpeg, 90);
        byte[] exif =
        [
            .. "Exif\0\0"u8,
            .. "MM\0*"u8,
            0,
            0,
            0,
            8,
            0,
            1,
            0x01,
            0x12,
            0,
            3,
            0,
            0,
            0,
            1,
            0,
            6,
            0,
            0,
            0,
            0,
            0,
            0,
            .. "GPS 51.4779 -0.0015"u8,
        ];
        byte[] segment = [0xff, 0xe1, 0, 0, .. exif];
        BinaryPrimitives.WriteUInt16BigEndian(segment.AsSpan(2), (ushort)(exif.Length + 2));
        var jpeg = plain.ToArray();
        return [.. jpeg[..2], .. segment, .. jpeg[2..]];
    }

    /// <summary>A PNG of so many pixels a side, all alike, that packs to almost nothing.</summary>
    private static byte[] Bomb(int side)
    {
        using var packed = new MemoryStream();
        using (var zlib = new ZLibStream(packed, CompressionLevel.SmallestSize, leaveOpen: true))
        {
            var row = new byte[(side / 8) + 1];
            for (var y = 0; y < side; y++)
            {
                zlib.Write(row);
            }
        }

        var header = new byte[13];
        BinaryPrimitives.WriteInt32BigEndian(header, side);
        BinaryPrimitives.WriteInt32BigEndian(header.AsSpan(4), side);
        header[8] = 1;
        return
        [
            0x89,
            .. "PNG\r\n"u8,
            0x1a,
            0x0a,
            .. Chunk("IHDR"u8, header),
            .. Chunk("IDAT"u8, packed.ToArray()),
            .. Chunk("IEND"u8, []),
        ];
    }

    private static byte[] Chunk(ReadOnlySpan<byte> name, byte[] data)
    {
        byte[] chunk = [0, 0, 0, 0, .. name, .. data, 0, 0, 0, 0];
        BinaryPrimitives.WriteInt32BigEndian(chunk, data.Length);
        BinaryPrimitives.WriteUInt32BigEndian(chunk.AsSpan(8 + data.Length), Crc(chunk.AsSpan(4, 4 + data.Length)));
        return chunk;
    }

    /// <summary>CRC-32 as PNG uses it: ISO 3309, polynomial 0xEDB88320.</summary>
    private static uint Crc(ReadOnlySpan<byte> bytes)
    {
        var crc = uint.MaxValue;
        foreach (var b in bytes)
        {
            crc ^= b;
            for (var bit = 0; bit < 8; bit++)
            {
                crc = (crc & 1) != 0 ? (crc >> 1) ^ 0xEDB88320 : crc >> 1;
            }
        }

        return ~crc;
    }
}
