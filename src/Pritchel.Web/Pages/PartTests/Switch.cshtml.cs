using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.PartTests;
using Pritchel.Core.PartTests.KeySwitch;
using Pritchel.Data;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.PartTests;

/// <summary>An unknown key switch: one beep after the other until its posts are named.</summary>
[ChangedBy(MemberRole.Helper)]
public sealed class SwitchModel(PartTestStore tests, MeterStore meters) : PageModel, ISaysWhatWasWrong
{
    /// <summary>Tag from the address: P-0012.</summary>
    [BindProperty(SupportsGet = true)]
    public string Tag { get; set; } = "";

    /// <summary>Sequence of the last step the form's author had seen.</summary>
    [BindProperty]
    public int After { get; set; }

    /// <summary>The test.</summary>
    public PartTestEntry Entry { get; private set; } = null!;

    /// <summary>What it stands at.</summary>
    public SheetState State { get; private set; } = null!;

    /// <summary>What is known of it.</summary>
    public UnknownSwitch Known { get; private set; } = null!;

    /// <summary>Answers given.</summary>
    public IReadOnlyList<SwitchAnswer> Answers { get; private set; } = [];

    /// <summary>What is asked next; null when nothing is left that tells.</summary>
    public SwitchQuestion? Next { get; private set; }

    /// <summary>What was wrong; null for nothing.</summary>
    public string? Error { get; private set; }

    /// <inheritdoc/>
    public Task<bool> SayAsync(string error)
    {
        Error = error;
        return Task.FromResult(Entry is not null);
    }

    /// <summary>How a position is called.</summary>
    public string Position(int position) =>
        State.Began.Tested.Controls[0] is var key && key.Held.Contains(key.Positions[position])
            ? $"{position + 1}, held"
            : $"{position + 1}";

    /// <summary>Shows it.</summary>
    public async Task<IActionResult> OnGetAsync() => await LoadAsync() ? Page() : NotFound();

    /// <summary>Keeps an answer.</summary>
    public async Task<IActionResult> OnPostAsync(int position, int one, int other, bool beeps)
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        var question = new SwitchQuestion(position, one, other);
        if (!Known.Questions.Contains(question))
        {
            Error = "That pair is not one of this switch; nothing was kept.";
            return Page();
        }

        var meter = await meters.GetAsync(HttpContext.RequestAborted);
        var answered = SwitchSheet.Answered(new SwitchAnswer(question, beeps), meter.Name);
        return await ShowAsync(await tests.EnterAsync(Entry, After, answered, HttpContext.RequestAborted));
    }

    /// <summary>Takes the last answer back.</summary>
    public async Task<IActionResult> OnPostUndoAsync() =>
        await LoadAsync()
            ? await ShowAsync(await tests.TakeBackAsync(Entry, After, State.Undoable, HttpContext.RequestAborted))
            : NotFound();

    private async Task<IActionResult> ShowAsync(string? wrong)
    {
        if (wrong is null)
        {
            return Redirect($"/part-tests/{Entry.Tag}/switch");
        }

        await LoadAsync();
        Error = wrong;
        return Page();
    }

    private async Task<bool> LoadAsync()
    {
        if (
            PartTestStore.NumberOf(Tag) is not { } number
            || await tests.FindAsync(number, HttpContext.RequestAborted) is not var (entry, state)
            || state.Began.Sheet != SwitchSheet.Key
        )
        {
            return false;
        }

        (Entry, State) = (entry, state);
        (Known, Answers) = SwitchSheet.Of(state);
        Next = Known.Next;
        ViewData["Area"] = "Part tests";
        ViewData["Title"] = $"{entry.Tag} {entry.Name}";
        return true;
    }
}
