using Microsoft.AspNetCore.Mvc;
using Pritchel.Data;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Rewires;

/// <summary>A page of one rewire.</summary>
public abstract class RewirePageModel(RewireDesk desk) : StepPageModel<OpenRewire>
{
    /// <summary>Page of the rewire that this is: sides, marry, prove, build.</summary>
    public abstract string Step { get; }

    /// <summary>Brings rewires and machines together.</summary>
    protected RewireDesk Desk => desk;

    /// <inheritdoc/>
    protected override string Area => "Rewire";

    /// <inheritdoc/>
    protected override string Title => $"{Open.Entry.Tag} {Open.Entry.Name}";

    /// <inheritdoc/>
    protected override string Address => $"/rewires/{Open.Entry.Tag}/{Step}";

    /// <summary>Takes the last step back.</summary>
    public Task<IActionResult> OnPostUndoAsync() => ActAsync(() => desk.UndoAsync(Open, After, Cancel));

    /// <inheritdoc/>
    protected override async Task<OpenRewire?> OpenAsync() =>
        RewireStore.NumberOf(Tag) is { } number ? await desk.OpenAsync(number, Cancel) : null;

    /// <inheritdoc/>
    protected override async Task<bool> LoadAsync()
    {
        ViewData["Battery"] = () => Step == "build" ? "Battery off first" : null;
        return await base.LoadAsync();
    }
}
