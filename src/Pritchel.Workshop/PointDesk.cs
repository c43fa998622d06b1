using Pritchel.Core.Metering;
using Pritchel.Core.PartTests;
using Pritchel.Core.PartTests.Points;
using Pritchel.Data;

namespace Pritchel.Workshop;

/// <summary>A sheet of somebody's own points, laid out for work.</summary>
/// <param name="Entry">As listed.</param>
/// <param name="State">What it stands at.</param>
/// <param name="Meter">The meter in use.</param>
public sealed record OpenPoints(PartTestEntry Entry, SheetState State, Meter Meter)
{
    /// <summary>Its points, with what was read of each.</summary>
    public IReadOnlyList<PointRead> Points { get; } = PointSheet.Of(State, Meter);
}

/// <summary>Brings sheets of one's own points and the meter together for the pages and the API.</summary>
public sealed class PointDesk(PartTestStore tests, MeterStore meters)
{
    /// <summary>Begins a sheet.</summary>
    /// <returns>Its number, or what was wrong.</returns>
    public async Task<(int? Number, string Why)> BeginAsync(string? name, CancellationToken cancel = default) =>
        PointSheet.Begin(name, out var error) is { } began
            ? (await tests.BeginAsync(began, cancel), "")
            : (null, error);

    /// <summary>A sheet laid out; null when there is none of that number.</summary>
    public async Task<OpenPoints?> OpenAsync(int number, CancellationToken cancel = default) =>
        await tests.FindAsync(number, cancel) is var (entry, state) && state.Began.Sheet == PointSheet.Key
            ? new OpenPoints(entry, state, await meters.GetAsync(cancel))
            : null;

    /// <summary>Puts a point on it.</summary>
    /// <param name="open">The sheet.</param>
    /// <param name="after">Sequence of the last step that its author had seen.</param>
    /// <param name="words">Where the probes go.</param>
    /// <param name="reads">Key of what is read.</param>
    /// <param name="wanted">What it should come to, as typed.</param>
    /// <param name="cancel">Stops waiting.</param>
    /// <returns>What was wrong; null when it was kept.</returns>
    public async Task<string?> PlaceAsync(
        OpenPoints open,
        int after,
        string? words,
        string? reads,
        string? wanted,
        CancellationToken cancel = default
    ) =>
        PointSheet.Placed(open.State, words, reads, wanted, out var error) is { } placed
            ? await tests.EnterAsync(open.Entry, after, placed, cancel)
            : error;

    /// <summary>Enters what was read of a point.</summary>
    /// <returns>What was wrong; null when it was kept.</returns>
    public async Task<string?> ReadAsync(
        OpenPoints open,
        int after,
        string? point,
        string? typed,
        CancellationToken cancel = default
    ) =>
        PointSheet.Answered(open.State, point, typed, open.Meter, out var error) is { } read
            ? await tests.EnterAsync(open.Entry, after, read, cancel)
            : error;

    /// <summary>Takes the last step back.</summary>
    /// <returns>What was wrong; null when it was taken back.</returns>
    public Task<string?> UndoAsync(OpenPoints open, int after, CancellationToken cancel = default) =>
        tests.TakeBackAsync(open.Entry, after, open.State.Undoable, cancel);
}
