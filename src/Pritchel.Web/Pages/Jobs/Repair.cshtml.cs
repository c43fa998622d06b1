using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Jobs;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>The repair: cautions first, then steps, then what was done.</summary>
public sealed class RepairModel(JobDesk desk) : JobPageModel(desk)
{
    /// <summary>What was done, as typed.</summary>
    [BindProperty]
    public RepairTyped Answer { get; set; } = new();

    /// <summary>What is to be mended, and how.</summary>
    public RepairShown Shown { get; private set; } = null!;

    /// <summary>Shows the repair.</summary>
    public Task<IActionResult> OnGetAsync() => ShowAsync();

    /// <summary>Writes down what was done.</summary>
    public Task<IActionResult> OnPostAsync() => EnterAsync(() => OfVerdict(_ => Answer.Read()), "/prove");

    /// <summary>Writes down what the duty did with the lead on.</summary>
    public Task<IActionResult> OnPostLeadOnAsync(bool worked) =>
        EnterAsync(
            () => OfVerdict(r => new Entered(r.Clip is { } clip ? new LeadPut(clip.From, clip.To, worked) : null)),
            "/repair"
        );

    /// <summary>Writes down what it did with the lead off again.</summary>
    public Task<IActionResult> OnPostLeadOffAsync(bool failsAgain) =>
        EnterAsync(
            () => new Entered(Open.State is { Lead: not null, LeadOff: null } ? new LeadOff(failsAgain) : null),
            "/repair"
        );

    /// <inheritdoc/>
    protected override string? Prepare()
    {
        Shown = RepairShown.Of(Open)!;
        return Shown is null ? "" : null;
    }

    private Entered OfVerdict(Func<RepairShown, Entered> enter) =>
        RepairShown.Of(Open) is { } shown ? enter(shown) : Entered.Nothing;
}
