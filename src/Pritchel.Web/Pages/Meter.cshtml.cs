using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Meters;
using Pritchel.Core.Units;
using Pritchel.Data;

namespace Pritchel.Web.Pages;

/// <summary>The meter in use.</summary>
public sealed class MeterModel(MeterStore meters) : PageModel
{
    private const int MostName = 40;

    /// <summary>Name, as typed.</summary>
    [BindProperty]
    public string? Name { get; set; }

    /// <summary>Lead ohms, as typed.</summary>
    [BindProperty]
    public string? Leads { get; set; }

    /// <summary>Accuracy in percent, as typed.</summary>
    [BindProperty]
    public string? Accuracy { get; set; }

    /// <summary>Input megohms, as typed.</summary>
    [BindProperty]
    public string? Input { get; set; }

    /// <summary>Whether the leads are nulled.</summary>
    [BindProperty]
    public bool Nulled { get; set; }

    /// <summary>What was wrong.</summary>
    public string? Error { get; private set; }

    /// <summary>Whether it has just been kept.</summary>
    public bool Kept { get; private set; }

    /// <summary>Shows the meter.</summary>
    public async Task OnGetAsync()
    {
        var meter = await meters.GetAsync();
        (Name, Nulled) = (meter.Name, meter.LeadsNulled);
        Leads = meter.Leads.Value.ToString(CultureInfo.InvariantCulture);
        Accuracy = meter.VoltsAccuracyPercent.ToString(CultureInfo.InvariantCulture);
        Input = (meter.Input.Value / 1e6).ToString(CultureInfo.InvariantCulture);
    }

    /// <summary>Keeps it.</summary>
    public async Task OnPostAsync()
    {
        var name = (Name ?? "").Trim();
        if (name.Length is 0 or > MostName || name.Any(char.IsControl))
        {
            Error = $"Name: 1 to {MostName} characters.";
        }
        else if (
            Figure(Leads, 0, 5, "Leads, ohms", out var leads)
            && Figure(Accuracy, 0.01, 10, "Accuracy, percent", out var accuracy)
            && Figure(Input, 0.01, 100, "Input, megohms", out var input)
        )
        {
            await meters.SetAsync(
                Meter.Ordinary with
                {
                    Name = name,
                    Leads = new Ohms(leads),
                    VoltsAccuracyPercent = accuracy,
                    Input = new Ohms(input * 1e6),
                    LeadsNulled = Nulled,
                }
            );
            Kept = true;
        }
    }

    private bool Figure(string? typed, double least, double most, string what, out double value)
    {
        value = 0;
        if (
            ReadingText.TryParse(typed, most, out var reading, out var error)
            && reading.Value >= least
            && !reading.IsOverRange
        )
        {
            value = reading.Value;
            return true;
        }

        Error = string.Create(CultureInfo.InvariantCulture, $"{what}: allowed {least} to {most}. {error}");
        return false;
    }
}
