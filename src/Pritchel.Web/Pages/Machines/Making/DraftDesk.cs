using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Making;
using Pritchel.Core.Rewiring;
using Pritchel.Data;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Machines.Making;

/// <summary>Steps on a draft: each is kept at once, or refused in words.</summary>
public sealed class DraftDesk(DraftStore drafts, MachineStore machines, DraftProving proving)
{
    /// <summary>What a draft's page shows; null for no such draft.</summary>
    public async Task<DraftShown?> FindAsync(
        int draft,
        string? on,
        string? item,
        string? view,
        CancellationToken cancel
    )
    {
        if (await drafts.FindAsync(draft, cancel) is not { } open)
        {
            return null;
        }

        var saved = await machines.FindAsync(open.MachineId, cancel);
        return new DraftShown(open, on, item, view == "lists" ? "lists" : "loom")
        {
            NextVersion = (saved?.Version ?? 0) + 1,
        };
    }

    /// <summary>Makes a change, if it is allowed.</summary>
    /// <param name="shown">The draft, and the thing that it is about.</param>
    /// <param name="make">The machine with the change.</param>
    /// <param name="cancel">Stops waiting.</param>
    public async Task<DraftOutcome> ChangeAsync(
        DraftShown shown,
        Func<Machine, MachineChange> make,
        CancellationToken cancel
    )
    {
        try
        {
            var change = make(shown.Machine);
            var refused = MachineDraft.Refusals(change).Select(p => DraftProblem.Of(change.Machine, p)).ToList();
            return refused.Count > 0 ? DraftOutcome.No(refused)
                : !await drafts.ChangeAsync(shown.Open.Id, shown.Open.At, change, cancel) ? MovedOn(shown)
                : DraftOutcome.Kept(
                    shown.Link(
                        DraftForms.Remains(change.Machine, shown.On ?? "", shown.Item) ? shown.On! : "",
                        shown.Item
                    )
                );
        }
        catch (ChangeRefusedException e)
        {
            return DraftOutcome.No(DraftProblem.Of(e));
        }
    }

    /// <summary>Undoes or redoes a change.</summary>
    /// <param name="shown">The draft.</param>
    /// <param name="steps">Which way: −1 back, 1 forth.</param>
    /// <param name="cancel">Stops waiting.</param>
    public async Task<DraftOutcome> MoveAsync(DraftShown shown, int steps, CancellationToken cancel) =>
        await drafts.MoveAsync(shown.Open.Id, shown.Open.At, Math.Sign(steps), cancel)
            ? DraftOutcome.Kept(shown.Link(""))
            : MovedOn(shown);

    /// <summary>Saves it as a version, when nothing is lacking and its proof is sound, or was looked at.</summary>
    /// <param name="shown">The draft.</param>
    /// <param name="looked">Whether what the proof found has been looked at.</param>
    /// <param name="cancel">Gives it up.</param>
    public async Task<DraftOutcome> SaveAsync(DraftShown shown, bool looked, CancellationToken cancel)
    {
        if (shown.Lacks.Count > 0)
        {
            return DraftOutcome.No(new DraftProblem("It cannot be saved yet", "see what it still lacks.", null));
        }

        if (!looked && await proving.ProveAsync(shown.Machine, cancel) is { IsSound: false } proof)
        {
            return DraftOutcome.None with { Found = [.. proof.Findings.Where(f => f.Kind != FindingKind.Inherent)] };
        }

        return DraftOutcome.Kept(
            await drafts.SaveAsync(shown.Open.Id, cancel) is { } entry ? $"/machines/{entry.Id}" : "/machines"
        );
    }

    /// <summary>Throws a draft away.</summary>
    public Task DropAsync(int draft, CancellationToken cancel) => drafts.DropAsync(draft, cancel);

    /// <summary>Another tab has been quicker: nothing is kept, and what was typed stands in the form.</summary>
    public static DraftOutcome MovedOn(DraftShown shown) =>
        DraftOutcome.No(
            new DraftProblem(
                "Changed in another tab",
                $"this drawing has moved on since the page was opened ({shown.Open.Last ?? "undone"}). Nothing of yours is kept yet; what you typed stands below. Look it over and press the button again.",
                null
            )
        );
}
