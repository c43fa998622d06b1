using System.Text.Json;
using System.Text.Json.Serialization;

namespace Pritchel.Core.Identity;

/// <summary>
/// What something is known by. Two are the same when they are of one kind and their text is the same, letter by letter;
/// nothing else is to be read out of the text. Texts are made and read where files, records and addresses are, and nowhere
/// else.
/// </summary>
/// <typeparam name="T">The kind.</typeparam>
public interface IIdentity<T>
    where T : struct, IIdentity<T>
{
    /// <summary>The identity that a text stands for. Never fails: whether there is such a thing is for its owner to say.</summary>
    static abstract T Of(string text);

    /// <summary>As written in files, records and addresses.</summary>
    string Text { get; }
}

/// <summary>Writes identities as their text, as values and as names of fields.</summary>
/// <typeparam name="T">The kind.</typeparam>
public sealed class IdentityConverter<T> : JsonConverter<T>
    where T : struct, IIdentity<T>
{
    /// <inheritdoc/>
    public override T Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        reader.TokenType == JsonTokenType.String ? T.Of(reader.GetString()!) : throw new JsonException();

    /// <inheritdoc/>
    public override T ReadAsPropertyName(
        ref Utf8JsonReader reader,
        Type typeToConvert,
        JsonSerializerOptions options
    ) => T.Of(reader.GetString()!);

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter writer, T value, JsonSerializerOptions options) =>
        writer.WriteStringValue(value.Text);

    /// <inheritdoc/>
    public override void WriteAsPropertyName(Utf8JsonWriter writer, T value, JsonSerializerOptions options) =>
        writer.WritePropertyName(value.Text);
}
