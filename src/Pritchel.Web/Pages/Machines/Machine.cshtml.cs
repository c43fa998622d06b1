using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using Pritchel.Data;
using Pritchel.Web.Drawings;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Machines;

/// <summary>A machine: its circuit drawn three ways, with the controls moved, a speed and a fault as one likes.</summary>
public sealed class MachineModel(JobDesk desk, JobStore jobs, PictureStore pictures, DrawingFile drawing) : PageModel
{
    /// <summary>Drawing asked for: loom, switches or line.</summary>
    [BindProperty(SupportsGet = true)]
    public string? View { get; set; }

    /// <summary>Fault planted, as typed.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Fault { get; set; }

    /// <summary>Terminal asked about, as an address.</summary>
    [BindProperty(SupportsGet = true)]
    public string? At { get; set; }

    /// <summary>Line asked for: a part it runs through, or "kill:" and a coil.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Line { get; set; }

    /// <summary>Name and version.</summary>
    public MachineVersion Entry { get; private set; } = null!;

    /// <summary>The sound machine's circuit.</summary>
    public Circuit Circuit => Entry.Circuit;

    /// <summary>The machine.</summary>
    public Machine Machine => Circuit.Machine;

    /// <summary>What is asked of it.</summary>
    public MachineAsked Asked { get; private set; } = null!;

    /// <summary>The machine solved as asked.</summary>
    public SolvedMachine Solved { get; private set; } = null!;

    /// <summary>What was asked for and cannot be.</summary>
    public IReadOnlyList<string> Problems { get; private set; } = [];

    /// <summary>Pictures of this machine.</summary>
    public IReadOnlyList<PictureRow> Pictures { get; private set; } = [];

    /// <summary>Jobs on this machine.</summary>
    public IReadOnlyList<Job> Jobs { get; private set; } = [];

    /// <summary>Shows the machine.</summary>
    public async Task<IActionResult> OnGetAsync(string id)
    {
        if (await desk.MachineAsync(id, HttpContext.RequestAborted) is not { } found)
        {
            return NotFound();
        }

        Entry = found;
        Asked = new MachineAsked(Circuit, Request.Query);
        Solved = new SolvedMachine(Circuit, Asked);
        Problems = Asked.Problems;
        View = View is "switches" or "line" ? View : "loom";
        if (View == "line" && !Solved.Lines.Any())
        {
            View = "loom";
            Problems =
            [
                .. Problems,
                "Line: nothing here is fed by a battery or killed by a wire yet; this is the loom.",
            ];
        }

        Pictures = await pictures.ListAsync(id, HttpContext.RequestAborted);
        Jobs = await jobs.OfMachineAsync(id, HttpContext.RequestAborted);
        ViewData["Area"] = "Machines";
        return Page();
    }

    /// <summary>The drawing shown, as an SVG file.</summary>
    public async Task<IActionResult> OnGetDrawingAsync(string id)
    {
        if (await OnGetAsync(id) is not PageResult)
        {
            return NotFound();
        }

        var (partial, model) = View switch
        {
            "switches" => ("_Switches", (object)this),
            "line" => ("_MachineLine", this),
            _ => ("_Loom", LoomView.Of(this)),
        };
        var svg = await drawing.OfAsync(
            this,
            $"/Pages/Machines/{partial}.cshtml",
            model,
            $"{Machine.Name}, version {Entry.Version}: {Asked.Setting.AllWords(Machine)}"
        );
        return File(System.Text.Encoding.UTF8.GetBytes(svg), "image/svg+xml", $"{id}-{View}.svg");
    }

    /// <summary>This page's address with some of what is asked changed; null takes a key out.</summary>
    public string With(params (string Key, string? Value)[] changes)
    {
        var query = Request.Query.ToDictionary(q => q.Key, q => (string?)q.Value.ToString(), StringComparer.Ordinal);
        foreach (var (key, value) in changes)
        {
            query[key] = value;
        }

        return $"/machines/{Entry.Id}"
            + QueryString.Create(
                query.Where(q => !string.IsNullOrEmpty(q.Value)).OrderBy(q => q.Key, StringComparer.Ordinal)
            );
    }
}
