using Microsoft.EntityFrameworkCore;
using Pritchel.Core.Rewiring;
using Pritchel.Data.Events;

namespace Pritchel.Data;

/// <summary>A rewire of the record. How it stands is in its steps.</summary>
public sealed class RewireRow
{
    /// <summary>Database key.</summary>
    public int Id { get; init; }

    /// <summary>Number, as written on the paper.</summary>
    public required int Number { get; init; }

    /// <summary>What it is called.</summary>
    public required string Name { get; init; }

    /// <summary>Machine that is rewired.</summary>
    public required string HostId { get; init; }

    /// <summary>Its version when the rewire was begun.</summary>
    public required int HostVersion { get; init; }

    /// <summary>Machine that something comes from, or null.</summary>
    public string? DonorId { get; init; }

    /// <summary>Its version, or null.</summary>
    public int? DonorVersion { get; init; }

    /// <summary>When it was begun, UTC.</summary>
    public required DateTime BegunUtc { get; init; }

    /// <summary>Its steps.</summary>
    public ICollection<RewireStepRow> Steps { get; } = new List<RewireStepRow>();
}

/// <summary>One step of a rewire. Rows are added, never removed.</summary>
public sealed class RewireStepRow : IAuthored
{
    /// <summary>Rewire.</summary>
    public int RewireId { get; init; }

    /// <summary>1 for the first; unique within the rewire, so that two tabs cannot both write the same place.</summary>
    public required int Sequence { get; init; }

    /// <summary>When, UTC.</summary>
    public required DateTime AtUtc { get; init; }

    /// <summary>The step as JSON, in the record's own format.</summary>
    public required string Body { get; init; }

    /// <inheritdoc/>
    public string? By { get; set; }
}

/// <summary>A rewire as listed.</summary>
/// <param name="Number">Its number.</param>
/// <param name="Name">What it is called.</param>
/// <param name="Host">Machine that is rewired, with its version.</param>
/// <param name="Donor">Machine that something comes from, with its version; null for none.</param>
/// <param name="BegunUtc">When it was begun.</param>
public sealed record RewireEntry(
    int Number,
    string Name,
    (string Id, int Version) Host,
    (string Id, int Version)? Donor,
    DateTime BegunUtc
)
{
    /// <summary>As written on the paper: R-0012.</summary>
    public string Tag => RewireStore.TagOf(Number);
}

/// <summary>A rewire as it stands.</summary>
/// <param name="Sequence">Sequence of its last step.</param>
/// <param name="Sketch">How it stands.</param>
/// <param name="Last">What the last step that stands did; null when only the first is left.</param>
public sealed record RewireState(int Sequence, RewireSketch Sketch, string? Last);

/// <summary>Rewires in the record.</summary>
public sealed class RewireStore(PritchelContext context, TimeProvider clock)
{
    /// <summary>Tag of a number: R-0012.</summary>
    public static string TagOf(int number) => RecordTag.Of('R', number);

    /// <summary>Number of a tag, or null when it is not one.</summary>
    public static int? NumberOf(string tag) => RecordTag.NumberOf('R', tag);

    /// <summary>All, newest first.</summary>
    public async Task<IReadOnlyList<RewireEntry>> ListAsync(CancellationToken cancel = default) =>
        [.. (await context.Rewires.AsNoTracking().OrderByDescending(r => r.Number).ToListAsync(cancel)).Select(Entry)];

    /// <summary>Begins one.</summary>
    /// <returns>Its number.</returns>
    public async Task<int> BeginAsync(
        string name,
        (string Id, int Version) host,
        (string Id, int Version)? donor,
        RewireSketch start,
        CancellationToken cancel = default
    )
    {
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        var number = (await context.Rewires.MaxAsync(r => (int?)r.Number, cancel) ?? 0) + 1;
        var row = new RewireRow
        {
            Number = number,
            Name = name,
            HostId = host.Id,
            HostVersion = host.Version,
            DonorId = donor?.Id,
            DonorVersion = donor?.Version,
            BegunUtc = clock.GetUtcNow().UtcDateTime,
        };
        row.Steps.Add(Step(0, 1, new RewireStep(start, "begun")));
        context.Rewires.Add(row);
        await context.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return number;
    }

    /// <summary>One as it stands, or null.</summary>
    /// <exception cref="FormatException">A step of it cannot be read by this version of the program.</exception>
    public async Task<(RewireEntry Entry, RewireState State)?> FindAsync(int number, CancellationToken cancel = default)
    {
        var row = await context
            .Rewires.AsNoTracking()
            .Include(r => r.Steps)
            .FirstOrDefaultAsync(r => r.Number == number, cancel);
        if (row is null)
        {
            return null;
        }

        var standing = new Stack<RewireStep>();
        foreach (var step in row.Steps.OrderBy(s => s.Sequence).Select(s => RewireFormat.Read(s.Body)))
        {
            if (step.Sketch is not null)
            {
                standing.Push(step);
            }
            else if (standing.Count > 1)
            {
                standing.Pop();
            }
        }

        return (
            Entry(row),
            new RewireState(
                row.Steps.Max(s => s.Sequence),
                standing.Peek().Sketch!,
                standing.Count > 1 ? standing.Peek().Words : null
            )
        );
    }

    /// <summary>Adds a step, if nobody else has added any since.</summary>
    /// <param name="number">Number of the rewire.</param>
    /// <param name="after">Sequence of the last step its author had seen.</param>
    /// <param name="step">The step.</param>
    /// <param name="cancel">Stops waiting.</param>
    /// <returns>False, with nothing written, when it has moved on.</returns>
    public async Task<bool> AppendAsync(int number, int after, RewireStep step, CancellationToken cancel = default)
    {
        var id = await context.Rewires.Where(r => r.Number == number).Select(r => r.Id).FirstAsync(cancel);
        if (await context.RewireSteps.Where(s => s.RewireId == id).MaxAsync(s => s.Sequence, cancel) != after)
        {
            return false;
        }

        context.RewireSteps.Add(Step(id, after + 1, step));
        return await context.TrySaveAsync(cancel);
    }

    private static RewireEntry Entry(RewireRow row) =>
        new(
            row.Number,
            row.Name,
            (row.HostId, row.HostVersion),
            row.DonorId is { } donor ? (donor, row.DonorVersion ?? 1) : null,
            row.BegunUtc
        );

    private RewireStepRow Step(int rewire, int sequence, RewireStep step) =>
        new()
        {
            RewireId = rewire,
            Sequence = sequence,
            AtUtc = clock.GetUtcNow().UtcDateTime,
            Body = RewireFormat.Write(step),
        };
}
