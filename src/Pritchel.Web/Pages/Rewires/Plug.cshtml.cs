using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Machines;
using Pritchel.Core.Rewiring.Plugs;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Rewires;

/// <summary>A plug drawn by hand, lead by lead.</summary>
public sealed class PlugModel(RewireDesk desk) : PageModel, ISaysWhatWasWrong
{
    private const int Rows = 8;
    private const int MoreRows = 6;

    /// <summary>What it is called.</summary>
    [BindProperty]
    public string? Name { get; set; }

    /// <summary>Which half is in hand.</summary>
    [BindProperty]
    public PlugHalf Half { get; set; } = PlugHalf.OfEngine;

    /// <summary>Its leads as typed; a row without a cavity is none.</summary>
    [BindProperty]
    public List<PlugRow> Leads { get; set; } = [];

    /// <summary>What was wrong; null for nothing.</summary>
    public string? Error { get; private set; }

    /// <inheritdoc/>
    public Task<bool> SayAsync(string error)
    {
        Error = error;
        Show(Math.Max(Leads.Count, Rows));
        return Task.FromResult(true);
    }

    /// <summary>Shows an empty plug.</summary>
    public void OnGet() => Show(Rows);

    /// <summary>Shows more rows, what was typed kept.</summary>
    public void OnPostRows() => Show(Leads.Count + MoreRows);

    /// <summary>Keeps it as a machine and goes on to a rewire that it comes into.</summary>
    public async Task<IActionResult> OnPostAsync()
    {
        var plug = new HandPlug(Half, [.. Leads.Where(l => l.IsTold).Select(l => l.Lead)]);
        var (entry, why) = await desk.DrawPlugAsync(Name, plug, HttpContext.RequestAborted);
        if (entry is not null)
        {
            return Redirect(Half == PlugHalf.OfEngine ? $"/rewires?donor={entry.Id}" : $"/rewires?host={entry.Id}");
        }

        Error = why;
        Show(Math.Max(Leads.Count, Rows));
        return Page();
    }

    private void Show(int rows)
    {
        ViewData["Area"] = "Rewire";
        ViewData["Title"] = "A plug by hand";
        while (Leads.Count < Math.Min(rows, HandPlug.MostLeads))
        {
            Leads.Add(new PlugRow());
        }
    }
}

/// <summary>A row of the form.</summary>
public sealed class PlugRow
{
    /// <summary>Cavity as typed.</summary>
    public string? Cavity { get; set; }

    /// <summary>Colours as typed: "red/white".</summary>
    public string? Colours { get; set; }

    /// <summary>What it is for.</summary>
    public LeadFunction Function { get; set; }

    /// <summary>How that is known; a guess until something else is said.</summary>
    public HowKnown Known { get; set; } = HowKnown.ByColour;

    /// <summary>Whether anything is told in it.</summary>
    public bool IsTold =>
        !string.IsNullOrWhiteSpace(Cavity) || !string.IsNullOrWhiteSpace(Colours) || Function != LeadFunction.Unknown;

    /// <summary>The lead that it tells.</summary>
    public HandLead Lead =>
        new(
            (Cavity ?? "").Trim(),
            HandLead.ColoursIn(Colours),
            Function,
            Enum.IsDefined(Known) ? Known : HowKnown.ByColour
        );
}
