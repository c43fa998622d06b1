using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Rewiring.Tracing;
using Pritchel.Data;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Rewires;

/// <summary>An unknown loom: one pair of ends after the other until its copper is known.</summary>
[ChangedBy(MemberRole.Helper, But = ["Draft"])]
public sealed class LoomModel(LoomDesk desk) : StepPageModel<OpenLoom>
{
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

    /// <inheritdoc/>
    protected override string Area => "Rewire";

    /// <inheritdoc/>
    protected override string Title => $"{Open.Entry.Tag} {Open.Entry.Name}";

    /// <inheritdoc/>
    protected override string Address => $"/rewires/looms/{Open.Entry.Tag}";

    /// <summary>How a setting is called.</summary>
    public string Setting(LoomSetting setting) =>
        setting == LoomSetting.Rest
            ? Open.Loom.Controls.Count == 0
                ? ""
                : "switches at rest"
            : $"{Open.Loom.Controls[setting.Control].Name} at {Open.Loom.Controls[setting.Control].Positions[setting.Position]}";

    /// <summary>Keeps a reading.</summary>
    public Task<IActionResult> OnPostAsync() =>
        ActAsync(() =>
            desk.ReadAsync(Open, After, new LoomQuestion(new LoomSetting(Control, Position), One, Other), Typed, Cancel)
        );

    /// <summary>Keeps what an end was followed to.</summary>
    public Task<IActionResult> OnPostFollowAsync() => ActAsync(() => desk.FollowAsync(Open, After, One, To, Cancel));

    /// <summary>Takes the last step back.</summary>
    public Task<IActionResult> OnPostUndoAsync() => ActAsync(() => desk.UndoAsync(Open, After, Cancel));

    /// <summary>Begins a machine from it.</summary>
    public async Task<IActionResult> OnPostDraftAsync() =>
        await LoadAsync() ? Redirect($"/machines/drafts/{await desk.DraftAsync(Open, Cancel)}") : NotFound();

    /// <inheritdoc/>
    protected override async Task<OpenLoom?> OpenAsync() =>
        PartTestStore.NumberOf(Tag) is { } number ? await desk.OpenAsync(number, Cancel) : null;
}
