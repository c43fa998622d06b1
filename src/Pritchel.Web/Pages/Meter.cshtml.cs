using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Metering;
using Pritchel.Data;
using Pritchel.Web.Desk;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages;

/// <summary>The meter in use: one that comes with the program, or its owner's own.</summary>
public sealed class MeterModel(MeterStore meters) : PageModel, ISaysWhatWasWrong
{
    /// <summary>Name, as typed.</summary>
    [BindProperty]
    public string? Name { get; set; }

    /// <summary>Figures by their names in a meter file, as typed.</summary>
    [BindProperty]
    public Dictionary<string, string> Typed { get; set; } = [];

    /// <summary>Functions ticked.</summary>
    [BindProperty]
    public List<MeterFunction> Functions { get; set; } = [];

    /// <summary>Whether the leads are nulled.</summary>
    [BindProperty]
    public bool Nulled { get; set; }

    /// <summary>What is wrong, by figure name.</summary>
    public IReadOnlyDictionary<string, string> Problems { get; private set; } =
        new Dictionary<string, string>(StringComparer.Ordinal);

    /// <summary>Whether it has just been kept.</summary>
    public bool Kept { get; private set; }

    /// <summary>Shipped meter that the form was filled from, not kept yet.</summary>
    public string? From { get; private set; }

    /// <summary>Why it could not be kept, where that is no figure's fault; null for nothing.</summary>
    public string? Error { get; private set; }

    /// <inheritdoc/>
    public Task<bool> SayAsync(string error)
    {
        Error = error;
        return Task.FromResult(true);
    }

    /// <summary>Shows the meter in use, or one that comes with the program to start from.</summary>
    public async Task OnGetAsync(string? from)
    {
        var meter = await meters.GetAsync();
        if (from is not null && ShippedMeters.All.TryGetValue(from, out var shipped))
        {
            (meter, From) = (shipped, shipped.Name);
        }

        Show(meter);
    }

    /// <summary>Keeps it.</summary>
    public async Task OnPostAsync()
    {
        (var meter, Problems) = MeterForm.Read(Name ?? "", Typed, Functions);
        if (meter is not null)
        {
            await meters.SetAsync(meter with { LeadsNulled = Nulled });
            Kept = true;
        }
    }

    private void Show(Meter meter)
    {
        (Name, Nulled, Functions) = (meter.Name, meter.LeadsNulled, [.. meter.Functions]);
        Typed = MeterForm.Of(meter);
        foreach (var has in MeterForm.Switches.Where(s => Typed[s.Name] != "true"))
        {
            Typed.Remove(has.Name);
        }
    }
}
