using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace Pritchel.Data.Archive;

/// <summary>One step of a history, as an archive has it.</summary>
internal sealed record ArchivedStep(
    int Sequence,
    DateTime AtUtc,
    RawJson Step,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? By = null
);

/// <summary>One version of a machine.</summary>
internal sealed record ArchivedMachine(
    string Id,
    int Version,
    string Name,
    string Kind,
    DateTime AddedUtc,
    RawJson Machine,
    bool PutAway = false,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? By = null
);

/// <summary>A job.</summary>
internal sealed record ArchivedJob(
    int Number,
    string MachineId,
    int MachineVersion,
    DateTime OpenedUtc,
    IReadOnlyList<ArchivedStep> Events
);

/// <summary>A part test.</summary>
internal sealed record ArchivedPartTest(
    int Number,
    string Sheet,
    string Name,
    string? MachineId,
    string? PartId,
    string? Job,
    DateTime BegunUtc,
    IReadOnlyList<ArchivedStep> Steps
);

/// <summary>A rewire.</summary>
internal sealed record ArchivedRewire(
    int Number,
    string Name,
    string HostId,
    int HostVersion,
    string? DonorId,
    int? DonorVersion,
    DateTime BegunUtc,
    IReadOnlyList<ArchivedStep> Steps
);

/// <summary>One step of a draft.</summary>
internal sealed record ArchivedDraftStep(
    int Sequence,
    string Words,
    DateTime AtUtc,
    RawJson Machine,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? By = null
);

/// <summary>A machine being drawn.</summary>
internal sealed record ArchivedDraft(int Id, string MachineId, int At, IReadOnlyList<ArchivedDraftStep> Steps);

/// <summary>A picture; its file lies beside under the same number.</summary>
internal sealed record ArchivedPicture(
    int Id,
    string MachineId,
    string? PartId,
    string Words,
    int Width,
    int Height,
    DateTime AddedUtc,
    DateTime? PutAwayUtc,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? By = null
);

/// <summary>What an archive says of itself.</summary>
internal sealed record Manifest(string What, int Version, DateTime TakenUtc)
{
    public const string Name = "pritchel record";
    public const int Current = 1;
}

/// <summary>Names of what lies in an archive, and how its JSON is written.</summary>
internal static class Layout
{
    public const string Manifest = "manifest.json";
    public const string Meter = "meter.json";
    public const string Readings = "readings.csv";
    public const string Lost = "lost.txt";
    public const string Machines = "machines/";
    public const string Jobs = "jobs/";
    public const string PartTests = "part-tests/";
    public const string Rewires = "rewires/";
    public const string Drafts = "drafts/";
    public const string Pictures = "pictures/";

    public static JsonSerializerOptions Json { get; } =
        new(JsonSerializerDefaults.Web)
        {
            Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
            UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
            RespectNullableAnnotations = true,
            RespectRequiredConstructorParameters = true,
            Converters = { new Utc() },
        };

    /// <summary>The record's times are UTC, whatever the database gives them back as.</summary>
    private sealed class Utc : JsonConverter<DateTime>
    {
        public override DateTime Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            reader.GetDateTime().ToUniversalTime();

        public override void Write(Utf8JsonWriter writer, DateTime value, JsonSerializerOptions options) =>
            writer.WriteStringValue(DateTime.SpecifyKind(value, DateTimeKind.Utc));
    }
}
