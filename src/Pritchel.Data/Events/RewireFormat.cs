using System.Text.Json;
using System.Text.Json.Serialization;
using Pritchel.Core.Identity;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Units;

namespace Pritchel.Data.Events;

/// <summary>One step of a rewire as the record keeps it.</summary>
/// <param name="Sketch">How it stands after the step; null where the step takes the last one back.</param>
/// <param name="Words">What was done.</param>
public sealed record RewireStep(RewireSketch? Sketch, string Words);

/// <summary>
/// Steps of rewires as the record keeps them: versioned records of their own, apart from the domain's types. Written once, read
/// for ever.
/// </summary>
public static class RewireFormat
{
    // What an older program would take for another plan (jumpers, lengths as built) is of format 2; all else stays of format 1.
    private const int First = 1;
    private const int Version = 2;

    private static readonly JsonSerializerOptions Options = new()
    {
        PropertyNamingPolicy = JsonNamingPolicy.CamelCase,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <summary>A step as kept.</summary>
    public static string Write(RewireStep step) =>
        JsonSerializer.Serialize(
            new Stored
            {
                Format =
                    step.Sketch is { } kept && (kept.AsBuilt.Count > 0 || kept.Joins.Any(j => j.IsTemporary))
                        ? Version
                        : First,
                Words = step.Words,
                Undone = step.Sketch is null ? true : null,
                Host = Keep(step.Sketch?.Host),
                Donor = Keep(step.Sketch?.Donor),
                Joins = step.Sketch is null
                    ? null
                    :
                    [
                        .. step.Sketch.Joins.Select(j => new StoredJoin
                        {
                            Ends = [.. j.Ends.Select(e => e.Text)],
                            Onto = j.Onto?.At.Text,
                            OntoSide = j.Onto is null ? null : Name(j.Onto.Side),
                            Temporary = j.IsTemporary ? true : null,
                        }),
                    ],
                Made = step.Sketch is null ? null : [.. step.Sketch.Made.Select(e => e.Text)],
                AsBuiltMetres = step.Sketch is { AsBuilt.Count: > 0 } built
                    ? built.AsBuilt.ToDictionary(l => l.Key.Text, l => l.Value.Value, StringComparer.Ordinal)
                    : null,
            },
            Options
        );

    /// <summary>A step from what was kept.</summary>
    /// <exception cref="FormatException">It is of a newer format, or no step.</exception>
    public static RewireStep Read(string body)
    {
        var stored =
            JsonSerializer.Deserialize<Stored>(body, Options)
            ?? throw new FormatException("An empty step of a rewire.");
        if (stored.Format is < First or > Version)
        {
            throw new FormatException(
                $"A step of a rewire in format {stored.Format}; this version reads up to {Version}."
            );
        }

        if (stored.Undone == true)
        {
            return new RewireStep(null, stored.Words ?? "");
        }

        return new RewireStep(
            new RewireSketch(
                Side(stored.Host) ?? throw new FormatException("A step of a rewire without its host."),
                Side(stored.Donor),
                [
                    .. (stored.Joins ?? []).Select(j => new Join(
                        [.. (j.Ends ?? []).Select(End)],
                        j.Onto is null
                            ? null
                            : new Landing(
                                j.OntoSide == Name(SideKey.Donor) ? SideKey.Donor : SideKey.Host,
                                TerminalAddress.Of(j.Onto)
                            )
                    )
                    {
                        IsTemporary = j.Temporary == true,
                    }),
                ],
                [.. (stored.Made ?? []).Select(End)]
            )
            {
                AsBuilt = (stored.AsBuiltMetres ?? new Dictionary<string, double>()).ToDictionary(
                    l => End(l.Key),
                    l => new Metres(l.Value)
                ),
            },
            stored.Words ?? ""
        );
    }

    private static string Name(SideKey side) => side == SideKey.Host ? "host" : "donor";

    private static EndKey End(string text) =>
        EndKey.Parse(text) ?? throw new FormatException($"“{text}” is not an end of a rewire.");

    private static StoredSide? Keep(SideSketch? side) =>
        side is null
            ? null
            : new StoredSide { Keeps = [.. side.Keeps.Select(k => k.Text)], Cuts = [.. side.Cuts.Select(c => c.Text)] };

    private static SideSketch? Side(StoredSide? side) =>
        side is null
            ? null
            : new SideSketch(
                [.. (side.Keeps ?? []).Select(k => new PartId(k))],
                [.. (side.Cuts ?? []).Select(c => new WireId(c))]
            );

    private sealed record Stored
    {
        public int Format { get; init; }
        public string? Words { get; init; }
        public bool? Undone { get; init; }
        public StoredSide? Host { get; init; }
        public StoredSide? Donor { get; init; }
        public IReadOnlyList<StoredJoin>? Joins { get; init; }
        public IReadOnlyList<string>? Made { get; init; }
        public IReadOnlyDictionary<string, double>? AsBuiltMetres { get; init; }
    }

    private sealed record StoredSide
    {
        public IReadOnlyList<string>? Keeps { get; init; }
        public IReadOnlyList<string>? Cuts { get; init; }
    }

    private sealed record StoredJoin
    {
        public IReadOnlyList<string>? Ends { get; init; }
        public string? Onto { get; init; }
        public string? OntoSide { get; init; }
        public bool? Temporary { get; init; }
    }
}
