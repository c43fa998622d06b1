using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace Pritchel.Core.Machines.Files;

/// <summary>One thing wrong with a machine file.</summary>
/// <param name="Pointer">JSON place, as an RFC 6901 pointer: "/wires/3/from/at".</param>
/// <param name="Message">What is wrong and what is allowed.</param>
/// <param name="Unfinished">Whether nothing is wrong but only missing yet: an end not joined, a battery not drawn.</param>
public sealed record MachineProblem(string Pointer, string Message, bool Unfinished = false)
{
    /// <inheritdoc/>
    public override string ToString() => $"{Pointer}: {Message}";
}

/// <summary>What reading a machine file gave: a machine, or the reasons it was refused.</summary>
/// <param name="Machine">The machine when there are no problems.</param>
/// <param name="Problems">Every problem found; empty when the file is good.</param>
public sealed record MachineReading(Machine? Machine, IReadOnlyList<MachineProblem> Problems)
{
    internal static MachineReading Refused(string pointer, string message) =>
        new(null, [new MachineProblem(pointer, message)]);
}

/// <summary>Reads and writes machine files (JSON, format 1). A file written by <see cref="Write"/> reads back to itself.</summary>
public static class MachineFile
{
    /// <summary>Largest file read, in bytes.</summary>
    public const int LargestBytes = 2 * 1024 * 1024;

    private static readonly JsonSerializerOptions Options = new()
    {
        PropertyNamingPolicy = JsonNamingPolicy.CamelCase,
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
        RespectNullableAnnotations = true,
        RespectRequiredConstructorParameters = true,
        AllowDuplicateProperties = false,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        WriteIndented = true,
        NewLine = "\n",
        MaxDepth = 16,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <summary>Reads and validates a machine file.</summary>
    /// <param name="stream">The file; at most <see cref="LargestBytes"/> are read.</param>
    /// <param name="parents">Finds the machine that a variant names as its parent; without it, variants are refused.</param>
    public static MachineReading Read(Stream stream, Func<string, Machine?>? parents = null)
    {
        var buffer = new byte[LargestBytes + 1];
        var length = stream.ReadAtLeast(buffer, buffer.Length, throwOnEndOfStream: false);
        return length > LargestBytes
            ? MachineReading.Refused(
                "",
                $"The file is larger than {LargestBytes / 1024 / 1024} MB, the most a machine file may be."
            )
            : Read(buffer.AsSpan(0, length), parents);
    }

    /// <summary>Reads and validates a machine file held as text.</summary>
    public static MachineReading Read(string json, Func<string, Machine?>? parents = null) =>
        Read(Encoding.UTF8.GetBytes(json), parents);

    /// <summary>Reads and validates a machine file held as UTF-8 bytes.</summary>
    public static MachineReading Read(ReadOnlySpan<byte> utf8, Func<string, Machine?>? parents = null)
    {
        if (utf8.Length > LargestBytes)
        {
            return MachineReading.Refused(
                "",
                $"The file is larger than {LargestBytes / 1024 / 1024} MB, the most a machine file may be."
            );
        }

        var reader = new Utf8JsonReader(utf8, new JsonReaderOptions { MaxDepth = 16 });
        try
        {
            using var document = JsonDocument.ParseValue(ref reader);
            if (EarlyProblem(document.RootElement) is { } refused)
            {
                return refused;
            }

            if (!VariantFile.Is(document.RootElement))
            {
                return Checked(JsonSerializer.Deserialize<Machine>(utf8, Options));
            }

            var variant = VariantFile.Of(document.RootElement, parents);
            return variant.Whole is { } whole
                ? Whole(variant, whole.ToJsonString())
                : new MachineReading(null, variant.Problems);
        }
        catch (JsonException e)
        {
            return MachineReading.Refused(Pointer(e.Path), Reason(e));
        }
    }

    /// <summary>Id of the parent that a variant names; null for a whole machine and for what is no machine file.</summary>
    public static string? ParentOf(ReadOnlySpan<byte> utf8)
    {
        var reader = new Utf8JsonReader(utf8, new JsonReaderOptions { MaxDepth = 16 });
        try
        {
            return
                JsonDocument.TryParseValue(ref reader, out var document)
                && document.RootElement.ValueKind == JsonValueKind.Object
                && document.RootElement.TryGetProperty(VariantFile.Parent, out var parent)
                && parent.ValueKind == JsonValueKind.String
                ? parent.GetString()
                : null;
        }
        catch (JsonException)
        {
            return null;
        }
    }

    private static MachineReading Whole(VariantFile variant, string json)
    {
        try
        {
            var reading = Checked(JsonSerializer.Deserialize<Machine>(json, Options));
            return reading with { Problems = [.. reading.Problems.Select(variant.AtItsPlace)] };
        }
        catch (JsonException e)
        {
            return new MachineReading(null, [variant.AtItsPlace(new MachineProblem(Pointer(e.Path), Reason(e)))]);
        }
    }

    private static MachineReading Checked(Machine? machine)
    {
        if (machine is null)
        {
            return MachineReading.Refused("", "The file holds null; a machine object is wanted.");
        }

        var problems = MachineValidator.Check(machine);
        if (problems.Count > 0)
        {
            return new MachineReading(null, problems);
        }

        // What is kept is what is written, and that must be read again.
        return Encoding.UTF8.GetByteCount(Write(machine)) > LargestBytes
            ? MachineReading.Refused(
                "",
                $"Written out in full it is larger than {LargestBytes / 1024 / 1024} MB, the most a machine file may be."
            )
            : new MachineReading(machine, []);
    }

    /// <summary>Reads a machine that this program wrote and that may have loose ends yet: nothing is checked again.</summary>
    public static Machine ReadDraft(string json) => JsonSerializer.Deserialize<Machine>(json, Options)!;

    /// <summary>Writes a machine as canonical JSON with line feeds and a final newline.</summary>
    public static string Write(Machine machine) => JsonSerializer.Serialize(machine, Options) + "\n";

    /// <summary>A newer format, and null anywhere, are told apart before fields are looked at one by one.</summary>
    private static MachineReading? EarlyProblem(JsonElement root)
    {
        if (root.ValueKind != JsonValueKind.Object)
        {
            return MachineReading.Refused("", "A machine file is one JSON object.");
        }

        if (
            root.TryGetProperty("format", out var format)
            && format.ValueKind == JsonValueKind.Number
            && format.TryGetInt32(out var number)
            && number > Machine.CurrentFormat
        )
        {
            return MachineReading.Refused(
                "/format",
                $"The file is of format {number}, from a newer version; this one reads format {Machine.CurrentFormat}."
            );
        }

        return NullPlace(root, "") is { } place
            ? MachineReading.Refused(place, "null is not allowed here; leave the field out or give a value.")
            : null;
    }

    private static string? NullPlace(JsonElement element, string at) =>
        element.ValueKind switch
        {
            JsonValueKind.Null => at,
            JsonValueKind.Object => element
                .EnumerateObject()
                .Select(p => NullPlace(p.Value, $"{at}/{p.Name}"))
                .FirstOrDefault(p => p is not null),
            JsonValueKind.Array => element
                .EnumerateArray()
                .Select((e, i) => NullPlace(e, $"{at}/{i}"))
                .FirstOrDefault(p => p is not null),
            _ => null,
        };

    private static string Reason(JsonException e)
    {
        // The serializer's own text names .NET types, which mean nothing to the person who wrote the file.
        var text = e.Message.Split(" Path:", 2)[0];
        if (text.Contains("could not be mapped", StringComparison.Ordinal))
        {
            return "This field is not known in format 1; docs/machine-format.md lists the fields.";
        }

        if (text.Contains("missing required properties", StringComparison.Ordinal))
        {
            var at = text.IndexOf("including:", StringComparison.Ordinal);
            return "Missing " + (at < 0 ? "a required field." : text[(at + 10)..].Trim().Replace('\'', '"'));
        }

        if (text.Contains("could not be converted", StringComparison.Ordinal))
        {
            return "The value is of the wrong type here (text, number, true/false or list); docs/machine-format.md says which.";
        }

        return $"Not readable as JSON: {text}";
    }

    private static string Pointer(string? path) =>
        path is null
            ? ""
            : path.Replace("$", "", StringComparison.Ordinal)
                .Replace('.', '/')
                .Replace("[", "/", StringComparison.Ordinal)
                .Replace("]", "", StringComparison.Ordinal);
}
