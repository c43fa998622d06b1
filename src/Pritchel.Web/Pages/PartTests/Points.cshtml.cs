using System.Text;
using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.PartTests.Points;
using Pritchel.Data;
using Pritchel.Web.Desk;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.PartTests;

/// <summary>A sheet of one's own: any two points, with a target and a tolerance.</summary>
[ChangedBy(MemberRole.Helper)]
public sealed class PointsModel(PointDesk desk) : StepPageModel<OpenPoints>
{
    /// <summary>Where the probes of a new point go, as typed.</summary>
    [BindProperty]
    public string? Words { get; set; }

    /// <summary>How it is read.</summary>
    [BindProperty]
    public string Reads { get; set; } = PointSheet.Offered[0].Key;

    /// <summary>What it should come to, as typed.</summary>
    [BindProperty]
    public string? Wanted { get; set; }

    /// <summary>Point that was read.</summary>
    [BindProperty]
    public string? At { get; set; }

    /// <summary>Figure as typed.</summary>
    [BindProperty]
    public string? Typed { get; set; }

    /// <inheritdoc/>
    protected override string Area => "Part tests";

    /// <inheritdoc/>
    protected override string Title => $"{Open.Entry.Tag} {Open.Entry.Name}";

    /// <inheritdoc/>
    protected override string Address => $"/part-tests/{Open.Entry.Tag}/points";

    /// <summary>The sheet as CSV.</summary>
    public async Task<IActionResult> OnGetCsvAsync() =>
        await LoadAsync()
            ? File(Encoding.UTF8.GetBytes(PointWords.Csv(Open)), "text/csv", $"{Open.Entry.Tag}.csv")
            : NotFound();

    /// <summary>Puts a point on the sheet.</summary>
    public Task<IActionResult> OnPostPlaceAsync() =>
        ActAsync(() => desk.PlaceAsync(Open, After, Words, Reads, Wanted, Cancel));

    /// <summary>Enters a figure.</summary>
    public Task<IActionResult> OnPostReadAsync() => ActAsync(() => desk.ReadAsync(Open, After, At, Typed, Cancel));

    /// <summary>Takes the last step back.</summary>
    public Task<IActionResult> OnPostUndoAsync() => ActAsync(() => desk.UndoAsync(Open, After, Cancel));

    /// <inheritdoc/>
    protected override async Task<OpenPoints?> OpenAsync() =>
        PartTestStore.NumberOf(Tag) is { } number ? await desk.OpenAsync(number, Cancel) : null;
}
