using System.Text.Json;
using System.Text.Json.Serialization;

namespace Pritchel.Data.Archive;

/// <summary>
/// JSON carried as it stands, to the last character; text of the record that is no JSON is carried under a name of its own, so
/// that what cannot be read here is not lost either.
/// </summary>
/// <param name="Text">As the record has it.</param>
[JsonConverter(typeof(Converter))]
internal readonly record struct RawJson(string Text)
{
    /// <summary>As a file of its own: with the line end that JSON inside other JSON has lost.</summary>
    public string File => Text + "\n";

    /// <summary>Whether the record has just this, blanks about it aside.</summary>
    public bool Is(string kept) => Text.AsSpan().Trim().SequenceEqual(kept.AsSpan().Trim());

    private const string Unreadable = "unreadable";

    private sealed class Converter : JsonConverter<RawJson>
    {
        public override RawJson Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            using var read = JsonDocument.ParseValue(ref reader);
            var root = read.RootElement;
            return
                root.ValueKind == JsonValueKind.Object
                && root.EnumerateObject().Count() == 1
                && root.TryGetProperty(Unreadable, out var kept)
                && kept.ValueKind == JsonValueKind.String
                ? new RawJson(kept.GetString()!)
                : new RawJson(root.GetRawText());
        }

        public override void Write(Utf8JsonWriter writer, RawJson value, JsonSerializerOptions options)
        {
            try
            {
                using var _ = JsonDocument.Parse(value.Text);
                writer.WriteRawValue(value.Text.Trim(), skipInputValidation: true);
            }
            catch (JsonException)
            {
                writer.WriteStartObject();
                writer.WriteString(Unreadable, value.Text);
                writer.WriteEndObject();
            }
        }
    }
}
