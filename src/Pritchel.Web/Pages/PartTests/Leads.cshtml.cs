using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.PartTests;
using Pritchel.Core.PartTests.Leads;
using Pritchel.Data;
using Pritchel.Web.Entrance;

namespace Pritchel.Web.Pages.PartTests;

/// <summary>Leads of a part that nobody knows: one pair after the other until it is told what each belongs to.</summary>
[ChangedBy(MemberRole.Helper)]
public sealed class LeadsModel(PartTestStore tests, MeterStore meters) : PageModel, ISaysWhatWasWrong
{
    /// <summary>Tag from the address: P-0012.</summary>
    [BindProperty(SupportsGet = true)]
    public string Tag { get; set; } = "";

    /// <summary>Sequence of the last step the form's author had seen.</summary>
    [BindProperty]
    public int After { get; set; }

    /// <summary>What was typed.</summary>
    [BindProperty]
    public string? Figure { get; set; }

    /// <summary>Pair that was typed for; the one asked next otherwise.</summary>
    public LeadPair? Asked { get; private set; }

    /// <summary>The test.</summary>
    public PartTestEntry Entry { get; private set; } = null!;

    /// <summary>What it stands at.</summary>
    public SheetState State { get; private set; } = null!;

    /// <summary>What is known.</summary>
    public UnknownLeads Known { get; private set; } = null!;

    /// <summary>Colour of each lead.</summary>
    public IReadOnlyList<string> Colours { get; private set; } = [];

    /// <summary>What was wrong; null for nothing.</summary>
    public string? Error { get; private set; }

    /// <inheritdoc/>
    public bool Say(string error)
    {
        Error = error;
        return Entry is not null;
    }

    /// <summary>Shows it, asking for another pair where the address names one.</summary>
    public async Task<IActionResult> OnGetAsync(int? one, int? other)
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        if (one is { } a && other is { } b && Known.Pairs.Contains(LeadPair.Of(a, b)))
        {
            Asked = LeadPair.Of(a, b);
        }

        return Page();
    }

    /// <summary>Keeps a figure.</summary>
    public async Task<IActionResult> OnPostAsync(int one, int other)
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        Asked = LeadPair.Of(one, other);
        var meter = await meters.GetAsync(HttpContext.RequestAborted);
        if (LeadSheet.Answered(Known, Asked.Value, Figure, meter, out var error) is { } read)
        {
            return await AppendAsync(read);
        }

        Error = error;
        return Page();
    }

    /// <summary>Takes the last figure back.</summary>
    public async Task<IActionResult> OnPostUndoAsync() =>
        !await LoadAsync() ? NotFound()
        : State.Undoable is { } last ? await AppendAsync(new SheetUndone(last.Sequence))
        : Page();

    private async Task<IActionResult> AppendAsync(SheetStep step)
    {
        if (await tests.AppendAsync(Entry.Number, After, step, HttpContext.RequestAborted))
        {
            return Redirect($"/part-tests/{Entry.Tag}/leads");
        }

        await LoadAsync();
        Error = "Something was entered on this sheet meanwhile; it is shown below. Yours was not kept: enter it again.";
        return Page();
    }

    private async Task<bool> LoadAsync()
    {
        if (
            PartTestStore.NumberOf(Tag) is not { } number
            || await tests.FindAsync(number, HttpContext.RequestAborted) is not var (entry, state)
            || state.Began.Sheet != LeadSheet.Key
        )
        {
            return false;
        }

        (Entry, State) = (entry, state);
        (Known, Colours) = (LeadSheet.Of(state), LeadSheet.Colours(state));
        Asked = Known.Next;
        ViewData["Area"] = "Part tests";
        ViewData["Title"] = $"{entry.Tag} {entry.Name}";
        return true;
    }
}
