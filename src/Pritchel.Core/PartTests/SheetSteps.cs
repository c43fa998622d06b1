using Pritchel.Core.Machines;
using Pritchel.Core.Rewiring.Tracing;

namespace Pritchel.Core.PartTests;

/// <summary>Something that happened on a sheet. Steps are only ever added; undoing is itself a step.</summary>
public abstract record SheetStep;

/// <summary>The sheet was begun.</summary>
/// <param name="Sheet">Key of the sheet.</param>
/// <param name="Tested">The part.</param>
/// <param name="Machine">Machine that it is of, with the version; null for a loose part.</param>
/// <param name="Job">Job that it belongs to; null for none.</param>
public sealed record SheetBegan(string Sheet, TestedPart Tested, (string Id, int Version)? Machine, string? Job)
    : SheetStep;

/// <summary>How the part stands was told.</summary>
/// <param name="Celsius">Its temperature.</param>
/// <param name="IsNew">Whether it is new or was just renewed.</param>
/// <param name="Seen">What was seen, felt or smelt, in words; may be empty.</param>
public sealed record SheetTold(double Celsius, bool IsNew, string Seen) : SheetStep;

/// <summary>Something was looked for.</summary>
/// <param name="Look">Which look of the sheet.</param>
/// <param name="Seen">Whether it was there.</param>
public sealed record SheetLooked(string Look, bool Seen) : SheetStep;

/// <summary>The ends and switches of an unknown loom were listed.</summary>
/// <param name="Loom">As listed.</param>
public sealed record LoomListed(Loom Loom) : SheetStep;

/// <summary>Two ends of an unknown loom were read.</summary>
/// <param name="Answer">Which, and what they read.</param>
/// <param name="Typed">As typed, or the answer's own word.</param>
public sealed record LoomProbed(LoomAnswer Answer, string Typed) : SheetStep;

/// <summary>An end of an unknown loom was followed to a part.</summary>
/// <param name="End">Its number.</param>
/// <param name="To">What it goes to, in words.</param>
public sealed record LoomFollowed(int End, string To) : SheetStep;

/// <summary>A figure was entered.</summary>
/// <param name="Reading">Which reading.</param>
/// <param name="Typed">As typed.</param>
/// <param name="Figure">As understood, in its unit; infinite for OL, not a number where it wavered.</param>
/// <param name="Meter">Name of the meter it was read with.</param>
public sealed record SheetRead(string Reading, string Typed, double Figure, string Meter) : SheetStep
{
    /// <summary>How it came and went; null where it stood still.</summary>
    public Wavering? Wavers { get; init; }
}

/// <summary>An earlier step was taken back.</summary>
/// <param name="Sequence">Which.</param>
public sealed record SheetUndone(int Sequence) : SheetStep;

/// <summary>A step with its place.</summary>
/// <param name="Sequence">1 for the first.</param>
/// <param name="At">When, in UTC.</param>
/// <param name="Step">What.</param>
public sealed record RecordedStep(int Sequence, DateTimeOffset At, SheetStep Step);

/// <summary>What a sheet stands at, worked out from its steps.</summary>
public sealed class SheetState
{
    /// <summary>Usual temperature of a bench.</summary>
    public const double UsualCelsius = 20;

    // A new part is wrong once in so many of the times that an old one is: common practice, no source. Never none.
    private const double NewSuspicion = 0.15;

    private readonly HashSet<int> undone;

    private SheetState(IReadOnlyList<RecordedStep> history)
    {
        History = history;
        undone = [.. history.Select(h => h.Step).OfType<SheetUndone>().Select(u => u.Sequence)];
    }

    /// <summary>All that happened.</summary>
    public IReadOnlyList<RecordedStep> History { get; }

    /// <summary>Sequence of the last step.</summary>
    public int Sequence => History.Count == 0 ? 0 : History[^1].Sequence;

    /// <summary>How it began.</summary>
    public SheetBegan Began => History.Select(h => h.Step).OfType<SheetBegan>().First();

    /// <summary>What was told last; usual where nothing was.</summary>
    public SheetTold Told =>
        Standing.Select(h => h.Step).OfType<SheetTold>().LastOrDefault() ?? new SheetTold(UsualCelsius, false, "");

    /// <summary>What was looked for, and whether it was there; the last look of each.</summary>
    public IReadOnlyDictionary<string, bool> Looked =>
        Standing
            .Select(h => h.Step)
            .OfType<SheetLooked>()
            .GroupBy(l => l.Look, StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.Last().Seen, StringComparer.Ordinal);

    /// <summary>How many times likelier a state of the part is by what was looked for.</summary>
    public double FactorOf(PartSheet sheet, PartState state) =>
        sheet.Looks.Aggregate(
            1.0,
            (f, look) => Looked.TryGetValue(look.Id, out var seen) ? f * look.Factor(state, seen) : f
        );

    /// <summary>Figures that stand, the last of each reading.</summary>
    public IReadOnlyList<SheetRead> Read =>
        [
            .. Standing
                .Select(h => h.Step)
                .OfType<SheetRead>()
                .GroupBy(r => r.Reading, StringComparer.Ordinal)
                .Select(g => g.Last()),
        ];

    /// <summary>How many times running a reading was last read alike, in a twentieth or a tenth of its unit.</summary>
    public int TimesAlike(string reading)
    {
        const double Share = 0.05;
        const double Least = 0.1;
        var figures = Standing
            .Select(h => h.Step)
            .OfType<SheetRead>()
            .Where(r => r.Reading == reading)
            .Select(r => r.Figure)
            .Reverse()
            .ToList();
        return figures
            .TakeWhile(f => f.Equals(figures[0]) || Math.Abs(f - figures[0]) <= Math.Max(Least, Share * figures[0]))
            .Count();
    }

    /// <summary>How much likelier than usual something is wrong with it.</summary>
    public double Suspicion => Told.IsNew ? NewSuspicion : 1;

    /// <summary>The last step that can be taken back, or null.</summary>
    public RecordedStep? Undoable => Standing.LastOrDefault(h => h.Step is not SheetBegan);

    /// <summary>Steps of a kind that stand, in order.</summary>
    public IEnumerable<T> Stand<T>()
        where T : SheetStep => Standing.Select(h => h.Step).OfType<T>();

    private IEnumerable<RecordedStep> Standing =>
        History.Where(h => h.Step is not SheetUndone && !undone.Contains(h.Sequence));

    /// <summary>Works it out.</summary>
    public static SheetState Of(IReadOnlyList<RecordedStep> history) => new(history);
}
