using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines.Making;

namespace Pritchel.Web.Pages.Machines.Making;

/// <summary>A machine being drawn or changed: one thing at a time in the form, the whole on the drawing.</summary>
public sealed class DraftModel(DraftDesk desk) : PageModel, ISaysWhatWasWrong
{
    /// <summary>What the form is about.</summary>
    [BindProperty(SupportsGet = true)]
    public string? On { get; set; }

    /// <summary>Which of them; nothing for a new one.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Item { get; set; }

    /// <summary>"loom" or "lists".</summary>
    [BindProperty(SupportsGet = true)]
    public string? View { get; set; }

    /// <summary>The step that whoever sent a form saw.</summary>
    [BindProperty]
    public int? After { get; set; }

    /// <summary>The draft.</summary>
    public DraftShown Shown { get; private set; } = null!;

    /// <summary>Shows the draft.</summary>
    public async Task<IActionResult> OnGetAsync(int draft) => await LoadAsync(draft, null) ? Page() : NotFound();

    /// <summary>Keeps what was typed of the thing in the form.</summary>
    public async Task<IActionResult> OnPostAsync(int draft)
    {
        // A page from before an upgrade, still open in a tab, names the thing as its handler.
        On ??= Request.Query["handler"].ToString().ToLowerInvariant();
        if (DraftForms.Blank(On) is not { } form)
        {
            return
                await LoadAsync(draft, null)
                && await SayAsync("what it is about was not told; open it from the drawing.")
                ? Page()
                : NotFound();
        }

        await TryUpdateModelAsync(form, form.GetType(), "");
        Item = form.Old;
        return await StepAsync(draft, form, () => desk.ChangeAsync(Shown, form.Change, HttpContext.RequestAborted));
    }

    /// <summary>Takes out what the form is about.</summary>
    public Task<IActionResult> OnPostTakeOutAsync(int draft) =>
        ChangeAsync(draft, shown => DraftForms.TakenOut(shown.Machine, On ?? "", Item ?? ""));

    /// <summary>Takes a part out of its wires and joins them.</summary>
    public Task<IActionResult> OnPostCloseUpAsync(int draft) =>
        ChangeAsync(draft, shown => PartChange.CloseUp(shown.Machine, new PartId(Item ?? "")));

    /// <summary>Undoes or redoes a change.</summary>
    public Task<IActionResult> OnPostMoveAsync(int draft, int steps) =>
        StepAsync(draft, null, () => desk.MoveAsync(Shown, steps, HttpContext.RequestAborted));

    /// <summary>Saves it as a version.</summary>
    public Task<IActionResult> OnPostSaveAsync(int draft, bool looked) =>
        StepAsync(draft, null, () => desk.SaveAsync(Shown, looked, HttpContext.RequestAborted));

    /// <summary>Throws the draft away.</summary>
    public async Task<IActionResult> OnPostDropAsync(int draft)
    {
        await desk.DropAsync(draft, HttpContext.RequestAborted);
        return Redirect("/machines");
    }

    /// <inheritdoc/>
    public Task<bool> SayAsync(string error)
    {
        Shown = Shown is null
            ? null!
            : Shown with
            {
                Outcome = DraftOutcome.No(new DraftProblem("Not kept", error, null)),
            };
        return Task.FromResult(Shown is not null);
    }

    private Task<IActionResult> ChangeAsync(int draft, Func<DraftShown, MachineChange> make) =>
        StepAsync(draft, null, () => desk.ChangeAsync(Shown, _ => make(Shown), HttpContext.RequestAborted));

    private async Task<IActionResult> StepAsync(int draft, IDraftForm? form, Func<Task<DraftOutcome>> step)
    {
        if (!await LoadAsync(draft, form))
        {
            return NotFound();
        }

        var outcome = After == Shown.Open.At ? await step() : DraftDesk.MovedOn(Shown);
        if (outcome.Next is { } next)
        {
            return Redirect(next);
        }

        await LoadAsync(draft, form);
        Shown = Shown with { Outcome = outcome };
        return Page();
    }

    private async Task<bool> LoadAsync(int draft, IDraftForm? form)
    {
        ViewData["Area"] = "Machines";
        var found = await desk.FindAsync(draft, On, Item, View, HttpContext.RequestAborted);
        var kind = Request.Query["kind"].FirstOrDefault();
        Shown = found is null ? null! : found with { Form = form ?? DraftForms.For(found.Machine, On, Item, kind) };
        return found is not null;
    }
}
