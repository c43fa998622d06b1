using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Making;
using Pritchel.Core.Rewiring;
using Pritchel.Data;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Machines.Making;

/// <summary>A machine being drawn or changed: one thing at a time in the form, the whole on the drawing.</summary>
public sealed class DraftModel(DraftStore drafts, MachineStore machines, DraftProving proving)
    : PageModel,
        ISaysWhatWasWrong
{
    /// <summary>What the form is about: machine, wire, part, place, control, engine, mount, duty, coupling, interlock.</summary>
    [BindProperty(SupportsGet = true)]
    public string? On { get; set; }

    /// <summary>Which of them; nothing for a new one.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Item { get; set; }

    /// <summary>"loom" or "lists".</summary>
    [BindProperty(SupportsGet = true)]
    public string? View { get; set; }

    /// <summary>The step that whoever sent a form saw.</summary>
    [BindProperty(SupportsGet = true)]
    public int? After { get; set; }

    /// <summary>The draft.</summary>
    public OpenDraft Open { get; private set; } = null!;

    /// <summary>The machine as it is now.</summary>
    public Machine Machine => Open.Draft.Now;

    /// <summary>Version it will be saved as.</summary>
    public int NextVersion { get; private set; }

    /// <summary>The form shown.</summary>
    public IDraftForm? Form { get; private set; }

    /// <summary>Why the last change was refused.</summary>
    public IReadOnlyList<DraftProblem> Refused { get; private set; } = [];

    /// <summary>What is still lacking.</summary>
    public IReadOnlyList<DraftProblem> Lacks { get; private set; } = [];

    /// <summary>Shows the draft.</summary>
    public async Task<IActionResult> OnGetAsync(int draft)
    {
        if (!await LoadAsync(draft))
        {
            return NotFound();
        }

        Form = FormNow();
        return Page();
    }

    /// <summary>A form that says nothing of what is to be done.</summary>
    public IActionResult OnPost(int draft) => Redirect($"/machines/drafts/{draft}");

    /// <summary>Keeps the machine's particulars.</summary>
    public Task<IActionResult> OnPostMachineAsync(int draft, MachineForm form) => KeepAsync(draft, "machine", form);

    /// <summary>Keeps a wire.</summary>
    public Task<IActionResult> OnPostWireAsync(int draft, WireForm form) => KeepAsync(draft, "wire", form);

    /// <summary>Keeps a part.</summary>
    public Task<IActionResult> OnPostPartAsync(int draft, PartForm form) => KeepAsync(draft, "part", form);

    /// <summary>Keeps a place.</summary>
    public Task<IActionResult> OnPostPlaceAsync(int draft, PlaceForm form) => KeepAsync(draft, "place", form);

    /// <summary>Keeps a control.</summary>
    public Task<IActionResult> OnPostControlAsync(int draft, ControlForm form) => KeepAsync(draft, "control", form);

    /// <summary>Keeps an engine.</summary>
    public Task<IActionResult> OnPostEngineAsync(int draft, EngineForm form) => KeepAsync(draft, "engine", form);

    /// <summary>Keeps a mount.</summary>
    public Task<IActionResult> OnPostMountAsync(int draft, MountForm form) => KeepAsync(draft, "mount", form);

    /// <summary>Keeps a duty.</summary>
    public Task<IActionResult> OnPostDutyAsync(int draft, DutyForm form) => KeepAsync(draft, "duty", form);

    /// <summary>Puts a coupling into wires.</summary>
    public Task<IActionResult> OnPostCouplingAsync(int draft, CouplingForm form) => KeepAsync(draft, "coupling", form);

    /// <summary>Puts an interlock into a wire.</summary>
    public Task<IActionResult> OnPostInterlockAsync(int draft, InterlockForm form) =>
        KeepAsync(draft, "interlock", form);

    /// <summary>Takes out what the form is about.</summary>
    public Task<IActionResult> OnPostTakeOutAsync(int draft, string on, string item) =>
        ChangeAsync(draft, on, null, item, m => DraftForms.TakenOut(m, on, item));

    /// <summary>Takes a part out of its wires and joins them.</summary>
    public Task<IActionResult> OnPostCloseUpAsync(int draft, string item) =>
        ChangeAsync(draft, "part", null, item, m => PartChange.CloseUp(m, new PartId(item)));

    /// <summary>Undoes or redoes a change.</summary>
    public async Task<IActionResult> OnPostMoveAsync(int draft, int steps)
    {
        if (!await LoadAsync(draft))
        {
            return NotFound();
        }

        if (After != Open.At || !await drafts.MoveAsync(draft, Open.At, Math.Sign(steps), HttpContext.RequestAborted))
        {
            return await MovedOnAsync(draft);
        }

        return Redirect($"/machines/drafts/{draft}?view={View}");
    }

    /// <summary>What a proof found that must be looked at before it is saved; none where it was not asked or is sound.</summary>
    public IReadOnlyList<ProofFinding> Found { get; private set; } = [];

    /// <summary>Saves it as a version, when nothing is lacking and its proof is sound, or was looked at.</summary>
    /// <param name="draft">Number of the draft.</param>
    /// <param name="looked">Whether what the proof found has been looked at.</param>
    public async Task<IActionResult> OnPostSaveAsync(int draft, bool looked)
    {
        if (!await LoadAsync(draft))
        {
            return NotFound();
        }

        if (Lacks.Count > 0)
        {
            Refused = [new DraftProblem("It cannot be saved yet", "see what it still lacks.", null)];
            return Page();
        }

        if (After != Open.At)
        {
            return await MovedOnAsync(draft);
        }

        if (!looked && await proving.ProveAsync(Machine, HttpContext.RequestAborted) is { IsSound: false } proof)
        {
            Found = [.. proof.Findings.Where(f => f.Kind != FindingKind.Inherent)];
            Form = FormNow();
            return Page();
        }

        return await drafts.SaveAsync(draft, HttpContext.RequestAborted) is { } entry
            ? Redirect($"/machines/{entry.Id}")
            : Redirect("/machines");
    }

    /// <summary>Throws the draft away.</summary>
    public async Task<IActionResult> OnPostDropAsync(int draft)
    {
        await drafts.DropAsync(draft, HttpContext.RequestAborted);
        return Redirect("/machines");
    }

    /// <summary>Address of this draft with another thing in the form.</summary>
    public string Link(string on, string? item = null) =>
        $"/machines/drafts/{Open.Id}"
        + QueryString.Create(
            new[] { ("on", on), ("item", item), ("view", View) }
                .Where(q => !string.IsNullOrEmpty(q.Item2))
                .Select(q => KeyValuePair.Create(q.Item1, q.Item2))
        );

    /// <inheritdoc/>
    public bool Say(string error)
    {
        Refused = [new DraftProblem("Not kept", error, null)];
        if (Open is null)
        {
            return false;
        }

        Form ??= FormNow();
        return true;
    }

    private Task<IActionResult> KeepAsync(int draft, string on, IDraftForm form) =>
        ChangeAsync(draft, on, form, form.Old, form.Change);

    private async Task<IActionResult> ChangeAsync(
        int draft,
        string on,
        IDraftForm? form,
        string? item,
        Func<Machine, MachineChange> make
    )
    {
        if (!await LoadAsync(draft))
        {
            return NotFound();
        }

        (On, Item, Form) = (on, item, form);
        if (After != Open.At)
        {
            return await MovedOnAsync(draft, form);
        }

        try
        {
            var change = make(Machine);
            Refused = [.. MachineDraft.Refusals(change).Select(p => DraftProblem.Of(change.Machine, p))];
            if (Refused.Count == 0)
            {
                return await drafts.ChangeAsync(draft, Open.At, change, HttpContext.RequestAborted)
                    ? Redirect(Link(DraftForms.Remains(change.Machine, on, item) ? on : "", item))
                    : await MovedOnAsync(draft, form);
            }
        }
        catch (ChangeRefusedException e)
        {
            Refused = [DraftProblem.Of(e)];
        }

        Form = form ?? FormNow();
        return Page();
    }

    /// <summary>Another tab has been quicker: nothing is kept, and what was typed stands in the form.</summary>
    private async Task<IActionResult> MovedOnAsync(int draft, IDraftForm? form = null)
    {
        if (!await LoadAsync(draft))
        {
            return NotFound();
        }

        Refused =
        [
            new DraftProblem(
                "Changed in another tab",
                $"this drawing has moved on since the page was opened ({Open.Last ?? "undone"}). Nothing of yours is kept yet; what you typed stands below. Look it over and press the button again.",
                null
            ),
        ];
        Form = form ?? FormNow();
        return Page();
    }

    private IDraftForm? FormNow() => DraftForms.For(Machine, On, Item, Request.Query["kind"].FirstOrDefault());

    private async Task<bool> LoadAsync(int draft)
    {
        ViewData["Area"] = "Machines";
        if (await drafts.FindAsync(draft, HttpContext.RequestAborted) is not { } found)
        {
            return false;
        }

        Open = found;
        View = View == "lists" ? "lists" : "loom";
        NextVersion = ((await machines.FindAsync(found.MachineId, HttpContext.RequestAborted))?.Version ?? 0) + 1;
        Lacks = [.. Open.Draft.Lacks.Select(p => DraftProblem.Of(Machine, p))];
        return true;
    }
}
