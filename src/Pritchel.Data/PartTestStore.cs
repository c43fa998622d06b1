using Microsoft.EntityFrameworkCore;
using Pritchel.Core.PartTests;
using Pritchel.Data.Events;

namespace Pritchel.Data;

/// <summary>A part test of the record. What it stands at is in its steps.</summary>
public sealed class PartTestRow
{
    /// <summary>Database key.</summary>
    public int Id { get; init; }

    /// <summary>Number, as written on the paper.</summary>
    public required int Number { get; init; }

    /// <summary>Key of its sheet, for lists.</summary>
    public required string Sheet { get; init; }

    /// <summary>What the part is called, for lists.</summary>
    public required string Name { get; init; }

    /// <summary>Machine that it is of, or null.</summary>
    public string? MachineId { get; init; }

    /// <summary>Part of that machine, or null.</summary>
    public string? PartId { get; init; }

    /// <summary>Tag of the job that it belongs to, or null.</summary>
    public string? Job { get; init; }

    /// <summary>When it was begun, UTC.</summary>
    public required DateTime BegunUtc { get; init; }

    /// <summary>Its steps.</summary>
    public ICollection<PartTestStepRow> Steps { get; } = new List<PartTestStepRow>();
}

/// <summary>One step of a part test. Rows are added, never removed.</summary>
public sealed class PartTestStepRow : IAuthored
{
    /// <summary>Part test.</summary>
    public int PartTestId { get; init; }

    /// <summary>1 for the first; unique within the test, so that two tabs cannot both write the same place.</summary>
    public required int Sequence { get; init; }

    /// <summary>When, UTC.</summary>
    public required DateTime AtUtc { get; init; }

    /// <summary>The step as JSON, in the record's own format.</summary>
    public required string Body { get; init; }

    /// <inheritdoc/>
    public string? By { get; set; }
}

/// <summary>A part test as listed.</summary>
/// <param name="Number">Its number.</param>
/// <param name="Sheet">Key of its sheet.</param>
/// <param name="Name">What the part is called.</param>
/// <param name="MachineId">Machine that it is of; null for a loose part.</param>
/// <param name="PartId">Part of that machine; null for a loose part.</param>
/// <param name="Job">Job that it belongs to; null for none.</param>
/// <param name="BegunUtc">When it was begun.</param>
public sealed record PartTestEntry(
    int Number,
    string Sheet,
    string Name,
    string? MachineId,
    string? PartId,
    string? Job,
    DateTime BegunUtc
)
{
    /// <summary>As written on the paper: P-0012.</summary>
    public string Tag => PartTestStore.TagOf(Number);
}

/// <summary>Part tests in the record.</summary>
public sealed class PartTestStore(PritchelContext context, TimeProvider clock)
{
    /// <summary>Tag of a number: P-0012.</summary>
    public static string TagOf(int number) => RecordTag.Of('P', number);

    /// <summary>Number of a tag, or null when it is not one.</summary>
    public static int? NumberOf(string tag) => RecordTag.NumberOf('P', tag);

    /// <summary>All, newest first.</summary>
    public async Task<IReadOnlyList<PartTestEntry>> ListAsync(CancellationToken cancel = default) =>
        await context
            .PartTests.AsNoTracking()
            .OrderByDescending(t => t.Number)
            .Select(t => new PartTestEntry(t.Number, t.Sheet, t.Name, t.MachineId, t.PartId, t.Job, t.BegunUtc))
            .ToListAsync(cancel);

    /// <summary>Earlier ones of the same part of the same machine by the same sheet, newest first.</summary>
    /// <param name="of">The one that they are earlier than.</param>
    /// <param name="most">At most so many.</param>
    /// <param name="cancel">Stops it.</param>
    public async Task<IReadOnlyList<PartTestEntry>> EarlierAsync(
        PartTestEntry of,
        int most,
        CancellationToken cancel = default
    ) =>
        of is not { MachineId: { } machine, PartId: { } part }
            ? []
            : await context
                .PartTests.AsNoTracking()
                .Where(t => t.MachineId == machine && t.PartId == part && t.Sheet == of.Sheet && t.Number < of.Number)
                .OrderByDescending(t => t.Number)
                .Take(most)
                .Select(t => new PartTestEntry(t.Number, t.Sheet, t.Name, t.MachineId, t.PartId, t.Job, t.BegunUtc))
                .ToListAsync(cancel);

    /// <summary>Begins one.</summary>
    /// <returns>Its number.</returns>
    public async Task<int> BeginAsync(SheetBegan began, CancellationToken cancel = default)
    {
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        var number = (await context.PartTests.MaxAsync(t => (int?)t.Number, cancel) ?? 0) + 1;
        var row = new PartTestRow
        {
            Number = number,
            Sheet = began.Sheet,
            Name = began.Tested.Part.Name,
            MachineId = began.Machine?.Id,
            PartId = began.Machine is null ? null : began.Tested.Part.Id.Text,
            Job = began.Job,
            BegunUtc = clock.GetUtcNow().UtcDateTime,
        };
        row.Steps.Add(Step(0, 1, began));
        context.PartTests.Add(row);
        await context.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return number;
    }

    /// <summary>One with all that happened on it, or null.</summary>
    /// <exception cref="FormatException">A step of it cannot be read by this version of the program.</exception>
    public async Task<(PartTestEntry Entry, SheetState State)?> FindAsync(
        int number,
        CancellationToken cancel = default
    )
    {
        var row = await context
            .PartTests.AsNoTracking()
            .Include(t => t.Steps)
            .FirstOrDefaultAsync(t => t.Number == number, cancel);
        return row is null
            ? null
            : (
                new PartTestEntry(row.Number, row.Sheet, row.Name, row.MachineId, row.PartId, row.Job, row.BegunUtc),
                SheetState.Of([
                    .. row
                        .Steps.OrderBy(s => s.Sequence)
                        .Select(s => new RecordedStep(
                            s.Sequence,
                            new DateTimeOffset(DateTime.SpecifyKind(s.AtUtc, DateTimeKind.Utc)),
                            SheetFormat.Read(s.Body)
                        )),
                ])
            );
    }

    /// <summary>Adds a step, if nobody else has added any since.</summary>
    /// <param name="number">Number of the test.</param>
    /// <param name="after">Sequence of the last step its author had seen.</param>
    /// <param name="step">The step.</param>
    /// <param name="cancel">Stops waiting.</param>
    /// <returns>False, with nothing written, when it has moved on.</returns>
    public async Task<bool> AppendAsync(int number, int after, SheetStep step, CancellationToken cancel = default)
    {
        var id = await context.PartTests.Where(t => t.Number == number).Select(t => t.Id).FirstAsync(cancel);
        if (await context.PartTestSteps.Where(s => s.PartTestId == id).MaxAsync(s => s.Sequence, cancel) != after)
        {
            return false;
        }

        context.PartTestSteps.Add(Step(id, after + 1, step));
        return await context.TrySaveAsync(cancel);
    }

    private PartTestStepRow Step(int test, int sequence, SheetStep step) =>
        new()
        {
            PartTestId = test,
            Sequence = sequence,
            AtUtc = clock.GetUtcNow().UtcDateTime,
            Body = SheetFormat.Write(step),
        };
}
