using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.PartTests.Regulators;

namespace Pritchel.Web.Pages.PartTests;

/// <summary>Which kind of regulator it is: what was read stands in the address, so it can be kept and sent.</summary>
public sealed class RegulatorKindModel : PageModel
{
    /// <summary>Leads from the winding.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Leads { get; set; }

    /// <summary>Ohms of one of them to metal.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Metal { get; set; }

    /// <summary>Alternating volts, plug apart.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Apart { get; set; }

    /// <summary>Alternating volts, plugged.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Plugged { get; set; }

    /// <summary>Volts at the battery's posts.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Posts { get; set; }

    /// <summary>What is known by it.</summary>
    public UnknownRegulator Known { get; private set; } = null!;

    /// <summary>What was wrong, by field.</summary>
    public IReadOnlyDictionary<string, string> Errors { get; private set; } = null!;

    /// <summary>Weighs what was read.</summary>
    public void OnGet()
    {
        ViewData["Area"] = "Part tests";
        ViewData["Title"] = "Which regulator is it";
        Known = new UnknownRegulator(new RegulatorTyped(Leads, Metal, Apart, Plugged, Posts).Read(out var errors));
        Errors = errors;
    }
}
