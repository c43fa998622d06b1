using Microsoft.EntityFrameworkCore;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Machines.Making;

namespace Pritchel.Data;

/// <summary>A draft as it stands.</summary>
/// <param name="Id">Its number.</param>
/// <param name="MachineId">Id the machine will be saved under.</param>
/// <param name="At">The step it stands at.</param>
/// <param name="Draft">What it began from and what it is now.</param>
/// <param name="Last">The change that undoing would take back, or null.</param>
/// <param name="Next">The change that redoing would make again, or null.</param>
public sealed record OpenDraft(int Id, string MachineId, int At, MachineDraft Draft, string? Last, string? Next);

/// <summary>A draft as listed.</summary>
/// <param name="Id">Its number.</param>
/// <param name="MachineId">Id the machine will be saved under.</param>
/// <param name="Words">The change made last.</param>
/// <param name="AtUtc">When.</param>
public sealed record DraftEntry(int Id, string MachineId, string Words, DateTime AtUtc);

/// <summary>Machines being drawn or changed. Every change is kept at once, so that nothing is lost with the page.</summary>
public sealed class DraftStore(PritchelContext context, MachineStore machines, TimeProvider clock)
{
    /// <summary>Drafts, the one changed last first.</summary>
    public async Task<IReadOnlyList<DraftEntry>> ListAsync(CancellationToken cancel = default) =>
        await context
            .DraftSteps.Join(
                context.Drafts,
                s => new { Id = s.DraftId, s.Sequence },
                d => new { d.Id, Sequence = d.At },
                (s, d) => new { s, d }
            )
            .OrderByDescending(x => x.s.AtUtc)
            .Select(x => new DraftEntry(x.d.Id, x.d.MachineId, x.s.Words, x.s.AtUtc))
            .ToListAsync(cancel);

    /// <summary>Begins a draft.</summary>
    /// <param name="machine">What it begins from; its id is the one it will be saved under.</param>
    /// <param name="words">How it began, in words.</param>
    /// <param name="cancel">Stops waiting.</param>
    /// <returns>Its number.</returns>
    public async Task<int> BeginAsync(Machine machine, string words, CancellationToken cancel = default)
    {
        var row = new DraftRow { MachineId = machine.Id.Text, At = 0 };
        row.Steps.Add(Step(0, 0, words, machine));
        context.Drafts.Add(row);
        await context.SaveChangesAsync(cancel);
        return row.Id;
    }

    /// <summary>A draft, or null.</summary>
    public async Task<OpenDraft?> FindAsync(int id, CancellationToken cancel = default)
    {
        if (await context.Drafts.AsNoTracking().FirstOrDefaultAsync(d => d.Id == id, cancel) is not { } row)
        {
            return null;
        }

        var words = await context
            .DraftSteps.Where(s => s.DraftId == id)
            .OrderBy(s => s.Sequence)
            .Select(s => s.Words)
            .ToListAsync(cancel);
        var kept = await context
            .DraftSteps.Where(s => s.DraftId == id && (s.Sequence == 0 || s.Sequence == row.At))
            .OrderBy(s => s.Sequence)
            .Select(s => s.Json)
            .ToListAsync(cancel);
        return new OpenDraft(
            id,
            row.MachineId,
            row.At,
            new MachineDraft(MachineFile.ReadDraft(kept[0]), MachineFile.ReadDraft(kept[^1])),
            row.At > 0 ? words[row.At] : null,
            row.At + 1 < words.Count ? words[row.At + 1] : null
        );
    }

    /// <summary>
    /// Keeps a change, if nobody has made another since its author looked; changes that were undone before it are forgotten.
    /// </summary>
    /// <param name="id">Draft.</param>
    /// <param name="after">The step that its author saw.</param>
    /// <param name="change">The change.</param>
    /// <param name="cancel">Stops waiting.</param>
    /// <returns>False, with nothing kept, when the draft has moved on or is ended.</returns>
    public async Task<bool> ChangeAsync(int id, int after, MachineChange change, CancellationToken cancel = default)
    {
        // One writer at a time from here to the commit: SQLite takes the write lock as the transaction begins.
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        var kept = await AtAsync(id, cancel) == after;
        if (kept)
        {
            await context.DraftSteps.Where(s => s.DraftId == id && s.Sequence > after).ExecuteDeleteAsync(cancel);
            await context
                .Drafts.Where(d => d.Id == id)
                .ExecuteUpdateAsync(d => d.SetProperty(r => r.At, after + 1), cancel);
            context.DraftSteps.Add(Step(id, after + 1, change.Words, change.Machine));
            await context.SaveChangesAsync(cancel);
        }

        await transaction.CommitAsync(cancel);
        context.ChangeTracker.Clear();
        return kept;
    }

    /// <summary>Takes the last change back, or makes the next one again. Nothing happens at either end.</summary>
    /// <param name="id">Draft.</param>
    /// <param name="after">The step that whoever asks saw.</param>
    /// <param name="steps">−1 to undo, 1 to redo.</param>
    /// <param name="cancel">Stops waiting.</param>
    /// <returns>False, with nothing done, when the draft has moved on or is ended.</returns>
    public async Task<bool> MoveAsync(int id, int after, int steps, CancellationToken cancel = default)
    {
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        var stands = await AtAsync(id, cancel) == after;
        if (stands && await context.DraftSteps.AnyAsync(s => s.DraftId == id && s.Sequence == after + steps, cancel))
        {
            await context
                .Drafts.Where(d => d.Id == id)
                .ExecuteUpdateAsync(d => d.SetProperty(r => r.At, after + steps), cancel);
        }

        await transaction.CommitAsync(cancel);
        return stands;
    }

    /// <summary>Saves a draft as a machine, or as the next version of one, and ends it.</summary>
    /// <returns>The machine; null when the draft was saved or ended meanwhile.</returns>
    /// <exception cref="InvalidOperationException">It lacks something yet.</exception>
    public async Task<MachineEntry?> SaveAsync(int id, CancellationToken cancel = default)
    {
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        if (await FindAsync(id, cancel) is not { } open)
        {
            return null;
        }

        if (open.Draft.Lacks.Count > 0)
        {
            throw new InvalidOperationException("The draft lacks something yet: " + open.Draft.Lacks[0]);
        }

        var entry = await machines.AddAsync(open.Draft.Now, cancel);
        await DropAsync(id, cancel);
        await transaction.CommitAsync(cancel);
        return entry;
    }

    /// <summary>Ends a draft without saving it.</summary>
    public async Task DropAsync(int id, CancellationToken cancel = default)
    {
        await context.DraftSteps.Where(s => s.DraftId == id).ExecuteDeleteAsync(cancel);
        await context.Drafts.Where(d => d.Id == id).ExecuteDeleteAsync(cancel);
        context.ChangeTracker.Clear();
    }

    private async Task<int?> AtAsync(int id, CancellationToken cancel) =>
        await context.Drafts.Where(d => d.Id == id).Select(d => (int?)d.At).FirstOrDefaultAsync(cancel);

    private DraftStepRow Step(int draft, int sequence, string words, Machine machine) =>
        new()
        {
            DraftId = draft,
            Sequence = sequence,
            Words = words,
            Json = MachineFile.Write(machine),
            AtUtc = clock.GetUtcNow().UtcDateTime,
        };
}
