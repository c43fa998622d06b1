using Microsoft.EntityFrameworkCore;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Machines.Making;

namespace Pritchel.Data;

/// <summary>A draft as it stands.</summary>
/// <param name="Id">Its number.</param>
/// <param name="MachineId">Id the machine will be saved under.</param>
/// <param name="Draft">What it began from and what it is now.</param>
/// <param name="Last">The change that undoing would take back, or null.</param>
/// <param name="Next">The change that redoing would make again, or null.</param>
public sealed record OpenDraft(int Id, string MachineId, MachineDraft Draft, string? Last, string? Next);

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
        var row = new DraftRow { MachineId = machine.Id, At = 0 };
        row.Steps.Add(Step(0, words, machine));
        context.Drafts.Add(row);
        await context.SaveChangesAsync(cancel);
        return row.Id;
    }

    /// <summary>A draft, or null.</summary>
    public async Task<OpenDraft?> FindAsync(int id, CancellationToken cancel = default)
    {
        if (await context.Drafts.FirstOrDefaultAsync(d => d.Id == id, cancel) is not { } row)
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
            new MachineDraft(MachineFile.ReadDraft(kept[0]), MachineFile.ReadDraft(kept[^1])),
            row.At > 0 ? words[row.At] : null,
            row.At + 1 < words.Count ? words[row.At + 1] : null
        );
    }

    /// <summary>Keeps a change; changes that were undone before it are forgotten.</summary>
    public async Task ChangeAsync(int id, MachineChange change, CancellationToken cancel = default)
    {
        var row = await context.Drafts.FirstAsync(d => d.Id == id, cancel);
        context.DraftSteps.RemoveRange(context.DraftSteps.Where(s => s.DraftId == id && s.Sequence > row.At));
        await context.SaveChangesAsync(cancel);
        row.At++;
        row.Steps.Add(Step(row.At, change.Words, change.Machine));
        await context.SaveChangesAsync(cancel);
    }

    /// <summary>Takes the last change back, or makes the next one again. Nothing happens at either end.</summary>
    /// <param name="id">Draft.</param>
    /// <param name="steps">−1 to undo, 1 to redo.</param>
    /// <param name="cancel">Stops waiting.</param>
    public async Task MoveAsync(int id, int steps, CancellationToken cancel = default)
    {
        var row = await context.Drafts.FirstAsync(d => d.Id == id, cancel);
        if (await context.DraftSteps.AnyAsync(s => s.DraftId == id && s.Sequence == row.At + steps, cancel))
        {
            row.At += steps;
            await context.SaveChangesAsync(cancel);
        }
    }

    /// <summary>Saves a draft as a machine, or as the next version of one, and ends it.</summary>
    /// <exception cref="InvalidOperationException">It lacks something yet.</exception>
    public async Task<MachineEntry> SaveAsync(int id, CancellationToken cancel = default)
    {
        var open = (await FindAsync(id, cancel))!;
        if (open.Draft.Lacks.Count > 0)
        {
            throw new InvalidOperationException("The draft lacks something yet: " + open.Draft.Lacks[0]);
        }

        var entry = await machines.AddAsync(open.Draft.Now, cancel);
        await DropAsync(id, cancel);
        return entry;
    }

    /// <summary>Ends a draft without saving it.</summary>
    public async Task DropAsync(int id, CancellationToken cancel = default)
    {
        await context.DraftSteps.Where(s => s.DraftId == id).ExecuteDeleteAsync(cancel);
        await context.Drafts.Where(d => d.Id == id).ExecuteDeleteAsync(cancel);
        context.ChangeTracker.Clear();
    }

    private DraftStepRow Step(int sequence, string words, Machine machine) =>
        new()
        {
            Sequence = sequence,
            Words = words,
            Json = MachineFile.Write(machine),
            AtUtc = clock.GetUtcNow().UtcDateTime,
        };
}
