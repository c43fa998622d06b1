using Pritchel.Core.PartTests;
using Pritchel.Core.PartTests.Leads;
using Pritchel.Data;

namespace Pritchel.Workshop;

/// <summary>Leads that nobody knows, laid out for work.</summary>
/// <param name="Entry">As listed.</param>
/// <param name="State">What they stand at.</param>
public sealed record OpenLeads(PartTestEntry Entry, SheetState State)
{
    /// <summary>What is known of them.</summary>
    public UnknownLeads Known { get; } = LeadSheet.Of(State);

    /// <summary>Colour of each.</summary>
    public IReadOnlyList<string> Colours { get; } = LeadSheet.Colours(State);
}

/// <summary>Brings unknown leads and the meter together for the pages and the API.</summary>
public sealed class LeadDesk(PartTestStore tests, MeterStore meters)
{
    /// <summary>Begins on some leads.</summary>
    /// <returns>Their number, or what was wrong.</returns>
    public async Task<(int? Number, string Why)> BeginAsync(
        string? name,
        string? leads,
        CancellationToken cancel = default
    ) =>
        LeadSheet.Begin(name, leads, out var error) is { } began
            ? (await tests.BeginAsync(began, cancel), "")
            : (null, error);

    /// <summary>Leads laid out; null when there are none of that number.</summary>
    public async Task<OpenLeads?> OpenAsync(int number, CancellationToken cancel = default) =>
        await tests.FindAsync(number, cancel) is var (entry, state) && state.Began.Sheet == LeadSheet.Key
            ? new OpenLeads(entry, state)
            : null;

    /// <summary>Enters what two leads read.</summary>
    /// <returns>What was wrong; null when it was kept.</returns>
    public async Task<string?> ReadAsync(
        OpenLeads open,
        int after,
        LeadPair pair,
        string? typed,
        CancellationToken cancel = default
    ) =>
        LeadSheet.Answered(open.Known, pair, typed, await meters.GetAsync(cancel), out var error) is { } read
            ? await tests.EnterAsync(open.Entry, after, read, cancel)
            : error;

    /// <summary>Takes the last reading back.</summary>
    /// <returns>What was wrong; null when it was taken back.</returns>
    public Task<string?> UndoAsync(OpenLeads open, int after, CancellationToken cancel = default) =>
        tests.TakeBackAsync(open.Entry, after, open.State.Undoable, cancel);
}
