using System.Text.Json;
using System.Text.Json.Serialization;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.PartTests;
using Pritchel.Core.PartTests.Points;
using Pritchel.Core.Rewiring.Tracing;

namespace Pritchel.Data.Events;

/// <summary>
/// Steps of part tests as the record keeps them: versioned records of their own, apart from the domain's types. Written once,
/// read for ever.
/// </summary>
public static class SheetFormat
{
    private const int Version = 1;
    private const string OverRange = "OL";
    private const string Wavers = "wavers";

    private static readonly JsonSerializerOptions Options = new()
    {
        PropertyNamingPolicy = JsonNamingPolicy.CamelCase,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <summary>A step as kept.</summary>
    public static string Write(SheetStep step) =>
        JsonSerializer.Serialize(
            step switch
            {
                SheetBegan began => new Stored
                {
                    Format = Version,
                    Kind = "began",
                    Sheet = began.Sheet,
                    Part = Keep(began.Tested),
                    Machine = began.Machine?.Id,
                    MachineVersion = began.Machine?.Version,
                    Job = began.Job,
                },
                SheetTold told => new Stored
                {
                    Format = Version,
                    Kind = "told",
                    Celsius = told.Celsius,
                    IsNew = told.IsNew,
                    Seen = told.Seen,
                },
                SheetLooked looked => new Stored
                {
                    Format = Version,
                    Kind = "looked",
                    Look = looked.Look,
                    Found = looked.Seen,
                },
                PointPlaced { Point: var point } => new Stored
                {
                    Format = Version,
                    Kind = "placed",
                    Reading = point.Id,
                    Seen = point.Words,
                    Reads = point.Reads.Key,
                    Shows = point.Wanted == Wanted.Open ? OverRange : null,
                    Least = double.IsFinite(point.Wanted.Least) ? point.Wanted.Least : null,
                    Most = double.IsFinite(point.Wanted.Most) ? point.Wanted.Most : null,
                },
                LoomListed listed => new Stored
                {
                    Format = Version,
                    Kind = "listed",
                    Loom = LoomFormat.Keep(listed.Loom),
                },
                LoomProbed { Answer: var answer, Typed: var typed } => new Stored
                {
                    Format = Version,
                    Kind = "probed",
                    Ends = [answer.Question.One, answer.Question.Other],
                    Position = [answer.Question.Setting.Control, answer.Question.Setting.Position],
                    Typed = typed,
                    Figure = double.IsInfinity(answer.Ohms) ? null : answer.Ohms,
                    Shows = double.IsInfinity(answer.Ohms) ? OverRange : null,
                },
                LoomFollowed followed => new Stored
                {
                    Format = Version,
                    Kind = "followed",
                    Ends = [followed.End],
                    Seen = followed.To,
                },
                SheetRead read => new Stored
                {
                    Format = Version,
                    Kind = "read",
                    Reading = read.Reading,
                    Typed = read.Typed,
                    Figure = double.IsFinite(read.Figure) ? read.Figure : null,
                    Shows =
                        read.Wavers is not null ? Wavers
                        : double.IsInfinity(read.Figure) ? OverRange
                        : null,
                    Right = read.Wavers?.Right,
                    Tried = read.Wavers?.Tried,
                    Meter = read.Meter,
                },
                SheetUndone undone => new Stored
                {
                    Format = Version,
                    Kind = "undone",
                    Sequence = undone.Sequence,
                },
                _ => throw new ArgumentException($"{step.GetType().Name} is not kept.", nameof(step)),
            },
            Options
        );

    /// <summary>A step as it was kept.</summary>
    /// <exception cref="FormatException">It cannot be read by this version of the program.</exception>
    public static SheetStep Read(string body)
    {
        Stored stored;
        try
        {
            stored = JsonSerializer.Deserialize<Stored>(body, Options) ?? throw new FormatException("it holds nothing");
        }
        catch (JsonException e)
        {
            throw new FormatException("it is not readable as JSON", e);
        }

        if (stored.Format > Version)
        {
            throw new FormatException("it was written by a newer version");
        }

        return stored.Kind switch
        {
            "began" => new SheetBegan(
                Needed(stored.Sheet),
                Restore(stored.Part ?? throw new FormatException("it names no part")),
                stored is { Machine: { } id, MachineVersion: { } version } ? (id, version) : null,
                stored.Job
            ),
            "told" => new SheetTold(
                stored.Celsius ?? SheetState.UsualCelsius,
                stored.IsNew ?? false,
                stored.Seen ?? ""
            ),
            "placed" => new PointPlaced(
                new Point(
                    Needed(stored.Reading),
                    Needed(stored.Seen),
                    ObservableCatalogue.Named(Needed(stored.Reads))
                        ?? throw new FormatException($"“{stored.Reads}” is nothing that a meter reads"),
                    stored.Shows == OverRange
                        ? Wanted.Open
                        : new Wanted(stored.Least ?? double.NegativeInfinity, stored.Most ?? double.PositiveInfinity)
                )
            ),
            "listed" => new LoomListed(LoomFormat.Restore(stored.Loom)),
            "probed" when stored is { Ends: [var one, var other], Position: [var control, var position] } =>
                new LoomProbed(
                    new LoomAnswer(
                        new LoomQuestion(new LoomSetting(control, position), one, other),
                        stored.Shows == OverRange
                            ? double.PositiveInfinity
                            : stored.Figure ?? throw new FormatException("it holds no figure")
                    ),
                    stored.Typed ?? ""
                ),
            "followed" when stored is { Ends: [var end] } => new LoomFollowed(end, Needed(stored.Seen)),
            "looked" => new SheetLooked(Needed(stored.Look), stored.Found ?? false),
            "read" => new SheetRead(
                Needed(stored.Reading),
                stored.Typed ?? "",
                stored.Shows switch
                {
                    OverRange => double.PositiveInfinity,
                    Wavers => double.NaN,
                    _ => stored.Figure ?? throw new FormatException("it holds no figure"),
                },
                stored.Meter ?? ""
            )
            {
                Wavers = stored.Shows == Wavers ? new Wavering(stored.Right ?? 0, stored.Tried ?? 0) : null,
            },
            "undone" => new SheetUndone(stored.Sequence ?? 0),
            _ => throw new FormatException($"“{stored.Kind}” is no step of a part test"),
        };
    }

    private static string Needed(string? text) => text ?? throw new FormatException("something is missing in it");

    private static StoredPart Keep(TestedPart tested) =>
        new(
            tested.Part.Id.Text,
            tested.Part.Name,
            tested.Part.Kind,
            [.. tested.Part.Terminals.Select(t => t.Text)],
            tested.Part.Values is { } values ? new Dictionary<string, double>(values, StringComparer.Ordinal) : null,
            tested.FiguresKnown,
            [
                .. (tested.Part.Contacts ?? []).Select(c => new StoredContact(
                    c.Id.Text,
                    [.. c.Between.Select(b => b.Text)],
                    c.Control.Text,
                    [.. c.ClosedIn.Select(p => p.Text)]
                )),
            ],
            [
                .. tested.Controls.Select(c => new StoredControl(
                    c.Id.Text,
                    c.Name,
                    [.. c.Positions.Select(p => p.Text)],
                    c.Rest.Text,
                    [.. c.Held.Select(p => p.Text)],
                    c.Says?.ToDictionary(s => s.Key.Text, s => s.Value, StringComparer.Ordinal),
                    c.Sensed
                )),
            ]
        );

    private static TestedPart Restore(StoredPart stored) =>
        new(
            new Part
            {
                Id = new PartId(stored.Id),
                Name = stored.Name,
                Kind = stored.Kind,
                Place = BenchMachine.Place,
                Terminals = [.. stored.Terminals.Select(TerminalId.Of)],
                Values = stored.Values,
                Contacts =
                    stored.Contacts.Count == 0
                        ? null
                        :
                        [
                            .. stored.Contacts.Select(c => new Contact(
                                new ContactId(c.Id),
                                [.. c.Between.Select(TerminalId.Of)],
                                new ControlId(c.Control),
                                [.. c.ClosedIn.Select(p => new PositionId(p))]
                            )),
                        ],
            },
            [
                .. stored.Controls.Select(c => new Control(
                    new ControlId(c.Id),
                    c.Name,
                    [.. c.Positions.Select(p => new PositionId(p))],
                    new PositionId(c.Rest),
                    [.. c.Held.Select(p => new PositionId(p))],
                    c.Says?.ToDictionary(s => new PositionId(s.Key), s => s.Value),
                    c.Sensed
                )),
            ],
            stored.FiguresKnown
        );

    private sealed record Stored
    {
        public int Format { get; init; }
        public string Kind { get; init; } = "";
        public string? Sheet { get; init; }
        public StoredPart? Part { get; init; }
        public string? Machine { get; init; }
        public int? MachineVersion { get; init; }
        public string? Job { get; init; }
        public double? Celsius { get; init; }
        public bool? IsNew { get; init; }
        public string? Seen { get; init; }
        public string? Reading { get; init; }
        public string? Typed { get; init; }
        public double? Figure { get; init; }
        public string? Shows { get; init; }
        public string? Meter { get; init; }
        public int? Sequence { get; init; }
        public string? Look { get; init; }
        public bool? Found { get; init; }

        public int? Right { get; init; }

        public int? Tried { get; init; }
        public string? Reads { get; init; }
        public double? Least { get; init; }
        public double? Most { get; init; }
        public StoredLoom? Loom { get; init; }
        public IReadOnlyList<int>? Ends { get; init; }
        public IReadOnlyList<int>? Position { get; init; }
    }

    private sealed record StoredPart(
        string Id,
        string Name,
        string Kind,
        IReadOnlyList<string> Terminals,
        Dictionary<string, double>? Values,
        bool FiguresKnown,
        IReadOnlyList<StoredContact> Contacts,
        IReadOnlyList<StoredControl> Controls
    );

    private sealed record StoredContact(
        string Id,
        IReadOnlyList<string> Between,
        string Control,
        IReadOnlyList<string> ClosedIn
    );

    private sealed record StoredControl(
        string Id,
        string Name,
        IReadOnlyList<string> Positions,
        string Rest,
        IReadOnlyList<string> Held,
        Dictionary<string, string>? Says,
        bool? Sensed = null
    );
}
