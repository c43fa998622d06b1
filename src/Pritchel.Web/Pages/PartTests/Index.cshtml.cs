using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Machines;
using Pritchel.Core.PartTests;
using Pritchel.Data;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.PartTests;

/// <summary>Part tests: begin one on a machine's part or a loose one; those begun.</summary>
[ChangedBy(MemberRole.Helper)]
public sealed class IndexModel(
    PartTestStore tests,
    PartTestDesk desk,
    GroundDesk grounds,
    LeadDesk leadDesk,
    PointDesk pointDesk,
    MachineStore machines,
    MachineShelf shelf
) : PageModel, ISaysWhatWasWrong
{
    /// <summary>Machine whose parts are listed, or null.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Machine { get; set; }

    /// <summary>Machines in the record.</summary>
    public IReadOnlyList<MachineEntry> Machines { get; private set; } = [];

    /// <summary>Parts of the machine that a sheet is for.</summary>
    public IReadOnlyList<(Part Part, PartSheet Sheet)> Parts { get; private set; } = [];

    /// <summary>Tests begun, newest first.</summary>
    public IReadOnlyList<PartTestEntry> Begun { get; private set; } = [];

    /// <summary>An unknown switch, as typed.</summary>
    public SwitchTyped Switch { get; private set; } = SwitchTyped.Usual;

    /// <summary>What was wrong; null for nothing.</summary>
    public string? Error { get; private set; }

    /// <summary>Leads of an unknown part, as typed.</summary>
    public string Leads { get; private set; } = "";

    /// <summary>What was wrong with them; empty for nothing.</summary>
    public string LeadsError { get; private set; } = "";

    /// <summary>What a sheet of one's own points is to be called, as typed.</summary>
    public string Points { get; private set; } = "";

    /// <summary>What was wrong with that; empty for nothing.</summary>
    public string PointsError { get; private set; } = "";

    private CancellationToken Cancel => HttpContext.RequestAborted;

    /// <inheritdoc/>
    public async Task<bool> SayAsync(string error)
    {
        Error = error;
        return await OnGetAsync() is PageResult;
    }

    /// <summary>Shows the lists.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        ViewData["Area"] = "Part tests";
        ViewData["Title"] = "Part tests";
        Machines = await machines.ListAsync(Cancel);
        Begun = await tests.ListAsync(Cancel);
        if (Machine is not { Length: > 0 } id)
        {
            return Page();
        }

        var entry = Machines.FirstOrDefault(m => m.Id == id);
        Parts = entry is null ? [] : OfferedSheets.Of((await shelf.FindAsync(entry.Id, entry.Version)).Machine);
        return entry is null ? NotFound() : Page();
    }

    /// <summary>Begins on the leads of an unknown part.</summary>
    public async Task<IActionResult> OnPostLeadsAsync(string? called, string? leads)
    {
        Leads = leads ?? "";
        (var number, LeadsError) = await leadDesk.BeginAsync(called, leads, Cancel);
        return await BegunAsync(number, "/leads");
    }

    /// <summary>Begins a sheet of one's own points.</summary>
    public async Task<IActionResult> OnPostPointsAsync(string? called)
    {
        Points = called ?? "";
        (var number, PointsError) = await pointDesk.BeginAsync(called, Cancel);
        return await BegunAsync(number, "/points");
    }

    /// <summary>Begins on an unknown key switch.</summary>
    public async Task<IActionResult> OnPostSwitchAsync(SwitchTyped typed)
    {
        Switch = typed;
        (var began, Error) = typed.Read();
        return await BegunAsync(began is null ? null : await tests.BeginAsync(began, Cancel), "/switch");
    }

    /// <summary>Begins a survey of a machine's grounds.</summary>
    public async Task<IActionResult> OnPostGroundsAsync(string? machine, string? job)
    {
        Error = "That machine has no battery: its grounds carry nothing that a meter reads at rest.";
        return await BegunAsync(await grounds.BeginAsync(machine ?? "", JobOf(job), Cancel), "/grounds");
    }

    /// <summary>Begins a test of a machine's part.</summary>
    /// <param name="machine">The machine.</param>
    /// <param name="part">The part, and after a bar the sheet; the first that is for it where none is named.</param>
    /// <param name="job">Job that it belongs to, or null.</param>
    /// <param name="suspected">Fault that the sheet is to show, by its id; null for none.</param>
    public async Task<IActionResult> OnPostAsync(string? machine, string? part, string? job, string? suspected)
    {
        var named = (part ?? "").Split('|', 2);
        return
            await desk.BeginAsync(machine ?? "", named[0], JobOf(job), named.ElementAtOrDefault(1), suspected, Cancel)
                is { } number
            ? await BegunAsync(number, "")
            : NotFound();
    }

    private static string? JobOf(string? job) => JobStore.NumberOf(job ?? "") is null ? null : job;

    private async Task<IActionResult> BegunAsync(int? number, string page) =>
        number is { } begun ? Redirect($"/part-tests/{PartTestStore.TagOf(begun)}{page}") : await OnGetAsync();
}
