using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Rewiring.Tracing;
using Pritchel.Data;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Rewires;

/// <summary>An unknown loom: one pair of ends after the other until its copper is known.</summary>
public sealed class LoomModel(LoomDesk desk) : PageModel
{
    /// <summary>Tag from the address: P-0012.</summary>
    [BindProperty(SupportsGet = true)]
    public string Tag { get; set; } = "";

    /// <summary>Sequence of the last step the form's author had seen.</summary>
    [BindProperty]
    public int After { get; set; }

    /// <summary>What was read: "silent", "beeps" or ohms.</summary>
    [BindProperty]
    public string? Typed { get; set; }

    /// <summary>Switch that is moved; −1 for none.</summary>
    [BindProperty]
    public int Control { get; set; } = -1;

    /// <summary>Its position.</summary>
    [BindProperty]
    public int Position { get; set; }

    /// <summary>One end.</summary>
    [BindProperty]
    public int One { get; set; }

    /// <summary>The other.</summary>
    [BindProperty]
    public int Other { get; set; }

    /// <summary>What an end was followed to.</summary>
    [BindProperty]
    public string? To { get; set; }

    /// <summary>The loom.</summary>
    public OpenLoom Open { get; private set; } = null!;

    /// <summary>What was wrong; null for nothing.</summary>
    public string? Error { get; private set; }

    /// <summary>How a setting is called.</summary>
    public string Setting(LoomSetting setting) =>
        setting == LoomSetting.Rest
            ? Open.Loom.Controls.Count == 0
                ? ""
                : "switches at rest"
            : $"{Open.Loom.Controls[setting.Control].Name} at {Open.Loom.Controls[setting.Control].Positions[setting.Position]}";

    /// <summary>Shows it.</summary>
    public async Task<IActionResult> OnGetAsync() => await LoadAsync() ? Page() : NotFound();

    /// <summary>Keeps a reading.</summary>
    public Task<IActionResult> OnPostAsync() =>
        ActAsync(() =>
            desk.ReadAsync(
                Open,
                After,
                new LoomQuestion(new LoomSetting(Control, Position), One, Other),
                Typed,
                HttpContext.RequestAborted
            )
        );

    /// <summary>Keeps what an end was followed to.</summary>
    public Task<IActionResult> OnPostFollowAsync() =>
        ActAsync(() => desk.FollowAsync(Open, After, One, To, HttpContext.RequestAborted));

    /// <summary>Takes the last step back.</summary>
    public Task<IActionResult> OnPostUndoAsync() =>
        ActAsync(() => desk.UndoAsync(Open, After, HttpContext.RequestAborted));

    /// <summary>Begins a machine from it.</summary>
    public async Task<IActionResult> OnPostDraftAsync() =>
        await LoadAsync()
            ? Redirect($"/machines/drafts/{await desk.DraftAsync(Open, HttpContext.RequestAborted)}")
            : NotFound();

    private async Task<IActionResult> ActAsync(Func<Task<string?>> act)
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        Error = await act();
        if (Error is null)
        {
            return Redirect($"/rewires/looms/{Open.Entry.Tag}");
        }

        await LoadAsync();
        return Page();
    }

    private async Task<bool> LoadAsync()
    {
        if (
            PartTestStore.NumberOf(Tag) is not { } number
            || await desk.OpenAsync(number, HttpContext.RequestAborted) is not { } open
        )
        {
            return false;
        }

        Open = open;
        ViewData["Area"] = "Rewire";
        ViewData["Title"] = $"{open.Entry.Tag} {open.Entry.Name}";
        return true;
    }
}
