using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Jobs;
using Pritchel.Core.Simulation;
using Pritchel.Web.Desk;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>The complaint: what happens and what lights in each position, how often, what is bridged.</summary>
public sealed class ComplaintModel(JobDesk desk, Predictor predictor) : JobPageModel(desk)
{
    private readonly JobDesk desk = desk;

    /// <summary>What may be told.</summary>
    public ComplaintRules Rules { get; private set; } = null!;

    /// <summary>What is told; its fields stand on the page by their own names.</summary>
    [BindProperty]
    public ComplaintForm Form { get; set; } = new();

    /// <summary>Wires told to be off, by the alteration's id.</summary>
    public IEnumerable<string> WiresOff =>
        Rules
            .Alterations.Where(a => a.By == Core.Identity.AlteredBy.Off)
            .Select(a => a.Id.Text)
            .Where(Form.Bridged.Contains);

    /// <summary>Shows the complaint as it stands.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        if (!await PrepareAsync())
        {
            return NotFound();
        }

        Form = ComplaintForm.Of(Open, Rules);
        return Page();
    }

    /// <summary>Writes the complaint down.</summary>
    public async Task<IActionResult> OnPostAsync()
    {
        if (!await PrepareAsync())
        {
            return NotFound();
        }

        var complaint = new ComplaintReader(Form, Open, Rules).Told(out var error);
        Error = error;
        return complaint is not null && await AppendAsync(new ComplaintMade(complaint))
            ? Redirect($"/jobs/{Open.Job.Tag}")
            : Page();
    }

    /// <summary>
    /// Begins what the complaint as it stands on the form will want, so that the first test is there when it is written
    /// down. Writes nothing; what is not understood yet is left for then.
    /// </summary>
    public async Task<IActionResult> OnPostAheadAsync()
    {
        if (!await PrepareAsync())
        {
            return NotFound();
        }

        if (new ComplaintReader(Form, Open, Rules).Drafted() is { } told)
        {
            predictor.Begin(Open.Version.Fitted(told), told, Open.Meter);
        }

        return new NoContentResult();
    }

    private async Task<bool> PrepareAsync()
    {
        if (!await LoadAsync())
        {
            return false;
        }

        Rules = desk.Rules(Open);
        return true;
    }
}
