using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.PartTests.Leads;
using Pritchel.Data;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.PartTests;

/// <summary>Leads of a part that nobody knows: one pair after the other until it is told what each belongs to.</summary>
[ChangedBy(MemberRole.Helper)]
public sealed class LeadsModel(LeadDesk desk) : StepPageModel<OpenLeads>
{
    /// <summary>What was typed.</summary>
    [BindProperty]
    public string? Figure { get; set; }

    /// <summary>Number of a lead that is asked for; null for whichever tells most.</summary>
    [BindProperty(SupportsGet = true)]
    public int? One { get; set; }

    /// <summary>Number of the other.</summary>
    [BindProperty(SupportsGet = true)]
    public int? Other { get; set; }

    /// <summary>Pair on the card: the one asked for, or what is read next; null when nothing is left.</summary>
    public LeadPair? Asked =>
        One is { } a && Other is { } b && Open.Known.Pairs.Contains(LeadPair.Of(a, b))
            ? LeadPair.Of(a, b)
            : Open.Known.Next;

    /// <inheritdoc/>
    protected override string Area => "Part tests";

    /// <inheritdoc/>
    protected override string Title => $"{Open.Entry.Tag} {Open.Entry.Name}";

    /// <inheritdoc/>
    protected override string Address => $"/part-tests/{Open.Entry.Tag}/leads";

    /// <summary>Keeps a figure.</summary>
    public Task<IActionResult> OnPostAsync() =>
        ActAsync(() => desk.ReadAsync(Open, After, LeadPair.Of(One ?? -1, Other ?? -1), Figure, Cancel));

    /// <summary>Takes the last figure back.</summary>
    public Task<IActionResult> OnPostUndoAsync() => ActAsync(() => desk.UndoAsync(Open, After, Cancel));

    /// <inheritdoc/>
    protected override async Task<OpenLeads?> OpenAsync() =>
        PartTestStore.NumberOf(Tag) is { } number ? await desk.OpenAsync(number, Cancel) : null;
}
