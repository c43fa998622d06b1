using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Machines;
using Pritchel.Core.PartTests;
using Pritchel.Core.PartTests.KeySwitch;
using Pritchel.Core.Simulation;
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
    MachineStore machines,
    MachineShelf shelf
) : PageModel
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

    /// <summary>Kinds that a sheet is for.</summary>
    public static IReadOnlyList<(DeviceKind Kind, PartSheet Sheet)> Kinds { get; } =
    [
        .. DeviceKinds
            .All.Where(k => !k.Traits.HasFlag(PartTraits.IsSwitched))
            .SelectMany(k => SheetCatalogue.Offered(k).Select(s => (Kind: k, Sheet: s)))
            .OrderBy(k => k.Kind.Name, StringComparer.Ordinal),
    ];

    /// <summary>Posts of an unknown switch, as typed.</summary>
    public string Posts { get; private set; } = "5";

    /// <summary>Its positions, as typed.</summary>
    public string Positions { get; private set; } = "3";

    /// <summary>Whether its last position springs back.</summary>
    public bool Springs { get; private set; } = true;

    /// <summary>What was wrong; null for nothing.</summary>
    public string? Error { get; private set; }

    /// <summary>Leads of an unknown part, as typed.</summary>
    public string Leads { get; private set; } = "";

    /// <summary>What was wrong with them; empty for nothing.</summary>
    public string LeadsError { get; private set; } = "";

    /// <summary>Begins on the leads of an unknown part.</summary>
    public async Task<IActionResult> OnPostLeadsAsync(string? called, string? leads)
    {
        Leads = leads ?? "";
        (var number, LeadsError) = await leadDesk.BeginAsync(called, leads, HttpContext.RequestAborted);
        if (number is { } begun)
        {
            return Redirect($"/part-tests/{PartTestStore.TagOf(begun)}/leads");
        }

        return await OnGetAsync();
    }

    /// <summary>Begins on an unknown key switch.</summary>
    public async Task<IActionResult> OnPostSwitchAsync(string? posts, string? positions, bool springs)
    {
        (Posts, Positions, Springs) = (posts ?? "", positions ?? "", springs);
        var (fewest, most) = SwitchSheet.Posts;
        var (least, top) = SwitchSheet.Positions;
        if (!Count(posts, fewest, most, out var count))
        {
            Error = $"Posts: “{Cut(posts)}” is not allowed; {fewest} to {most}.";
        }
        else if (!Count(positions, least, top, out var turns))
        {
            Error = $"Positions: “{Cut(positions)}” is not allowed; {least} to {top}.";
        }
        else
        {
            var began = SwitchSheet.Begin("Unknown key switch", count, turns, springs);
            var number = await tests.BeginAsync(began, HttpContext.RequestAborted);
            return Redirect($"/part-tests/{PartTestStore.TagOf(number)}/switch");
        }

        return await OnGetAsync();
    }

    /// <summary>Begins a survey of a machine's grounds.</summary>
    public async Task<IActionResult> OnPostGroundsAsync(string? machine, string? job)
    {
        var of = JobStore.NumberOf(job ?? "") is null ? null : job;
        if (await grounds.BeginAsync(machine ?? "", of, HttpContext.RequestAborted) is { } number)
        {
            return Redirect($"/part-tests/{PartTestStore.TagOf(number)}/grounds");
        }

        Error = "That machine has no battery: its grounds carry nothing that a meter reads at rest.";
        return await OnGetAsync();
    }

    private static bool Count(string? typed, int least, int most, out int count) =>
        int.TryParse(typed, NumberStyles.None, CultureInfo.InvariantCulture, out count)
        && count >= least
        && count <= most;

    private static string Cut(string? text) => text is { Length: > 20 } ? text[..20] + "…" : text ?? "";

    /// <summary>Shows the lists.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        ViewData["Area"] = "Part tests";
        ViewData["Title"] = "Part tests";
        Machines = await machines.ListAsync(HttpContext.RequestAborted);
        Begun = await tests.ListAsync(HttpContext.RequestAborted);
        if (Machine is { Length: > 0 } id)
        {
            if (Machines.FirstOrDefault(m => m.Id == id) is not { } entry)
            {
                return NotFound();
            }

            var version = await shelf.FindAsync(entry.Id, entry.Version);
            Parts =
            [
                .. version
                    .Machine.Parts.SelectMany(p =>
                        DeviceKinds.Named(p.Kind) is { } k
                            ? SheetCatalogue.Offered(k).Select(s => (Part: p, Sheet: s))
                            : []
                    )
                    .OrderBy(p => p.Part.Name, StringComparer.Ordinal),
            ];
        }

        return Page();
    }

    /// <summary>Begins a test of a machine's part.</summary>
    /// <param name="machine">The machine.</param>
    /// <param name="part">The part, and after a bar the sheet; the first that is for it where none is named.</param>
    /// <param name="job">Job that it belongs to, or null.</param>
    public async Task<IActionResult> OnPostAsync(string? machine, string? part, string? job)
    {
        var named = (part ?? "").Split('|', 2);
        return
            await desk.BeginAsync(
                machine ?? "",
                named[0],
                JobStore.NumberOf(job ?? "") is null ? null : job,
                named.Length > 1 ? named[1] : null,
                HttpContext.RequestAborted
            )
                is { } number
            ? Redirect($"/part-tests/{PartTestStore.TagOf(number)}")
            : NotFound();
    }
}
