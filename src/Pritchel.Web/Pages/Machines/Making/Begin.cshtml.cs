using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Machines.Making;
using Pritchel.Data;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Machines.Making;

/// <summary>Begins a draft: the next version of a machine, another machine from it, or an empty one.</summary>
public sealed class BeginModel(MachineStore machines, DraftStore drafts, JobDesk desk) : PageModel, ISaysWhatWasWrong
{
    /// <summary>Machine to begin from, by id; nothing for an empty one.</summary>
    [BindProperty(SupportsGet = true)]
    public string? From { get; set; }

    /// <summary>The machine to begin from.</summary>
    public Machine? Machine { get; private set; }

    /// <summary>Name typed.</summary>
    [BindProperty]
    public string? Name { get; set; }

    /// <summary>Family typed.</summary>
    [BindProperty]
    public string? Kind { get; set; }

    /// <summary>Hand stop typed.</summary>
    [BindProperty]
    public string? StopByHand { get; set; }

    /// <summary>What was wrong.</summary>
    public List<string> Problems { get; } = [];

    /// <summary>Shows the choice.</summary>
    public Task<IActionResult> OnGetAsync() => ShowAsync();

    /// <inheritdoc/>
    public bool Say(string error)
    {
        Problems.Add(error);
        return true;
    }

    /// <summary>Begins the next version of the machine itself.</summary>
    public async Task<IActionResult> OnPostChangeAsync()
    {
        await ShowAsync();
        return Machine is null
            ? NotFound()
            : Opened(await drafts.BeginAsync(Machine, $"begun from {Machine.Name}", HttpContext.RequestAborted));
    }

    /// <summary>Begins another machine, from this one or empty.</summary>
    public async Task<IActionResult> OnPostAnotherAsync()
    {
        var page = await ShowAsync();
        Require(Name, "Name", "what the workshop calls it");
        if (Machine is null)
        {
            Require(Kind, "Kind", "its family, such as “ride-on tractor”");
            Require(StopByHand, "To stop it by hand", "how to stop its engine when nothing electrical does");
        }

        var taken = (await machines.ListAsync(HttpContext.RequestAborted))
            .Concat(await machines.ListPutAwayAsync(HttpContext.RequestAborted))
            .Select(m => m.Id);
        var id = FrameChange.IdFor(Typed.Text(Name), taken);
        var begun = Machine is null
            ? FrameChange.Empty(
                new MachineId(char.IsAsciiLetter(id[0]) ? id : "machine-" + id),
                Typed.Text(Name),
                Typed.Text(Kind),
                Typed.Text(StopByHand)
            )
            : Machine with
            {
                Id = new MachineId(char.IsAsciiLetter(id[0]) ? id : "machine-" + id),
                Name = Typed.Text(Name),
            };
        Problems.AddRange(MachineValidator.Check(begun).Where(p => !p.Unfinished).Select(p => p.ToString()));
        return Problems.Count > 0
            ? page
            : Opened(
                await drafts.BeginAsync(
                    begun,
                    Machine is null ? "begun empty" : $"begun from {Machine.Name}",
                    HttpContext.RequestAborted
                )
            );
    }

    private async Task<IActionResult> ShowAsync()
    {
        ViewData["Area"] = "Machines";
        if (!string.IsNullOrEmpty(From))
        {
            if (await desk.MachineAsync(From, HttpContext.RequestAborted) is not { } found)
            {
                return NotFound();
            }

            Machine = found.Machine;
        }

        return Page();
    }

    private RedirectResult Opened(int draft) => Redirect($"/machines/drafts/{draft}");

    private void Require(string? typed, string field, string what)
    {
        if (string.IsNullOrWhiteSpace(typed))
        {
            Problems.Add($"{field}: missing; write {what}.");
        }
    }
}
