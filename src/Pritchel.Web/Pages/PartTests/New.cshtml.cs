using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.PartTests;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;
using Pritchel.Data;
using Pritchel.Web.Desk;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.PartTests;

/// <summary>A loose part: what it is called, and what its label says.</summary>
[ChangedBy(MemberRole.Helper)]
public sealed class NewModel(PartTestDesk desk) : PageModel, ISaysWhatWasWrong
{
    /// <summary>Kind, as device kinds are named.</summary>
    [BindProperty(SupportsGet = true)]
    public string Kind { get; set; } = "";

    /// <summary>What it is called.</summary>
    [BindProperty]
    public string? Name { get; set; }

    /// <summary>Sheet that was chosen; the first for its kind when null.</summary>
    [BindProperty(SupportsGet = true)]
    public string? By { get; set; }

    /// <summary>Figures as typed, by name; blank where nothing is known.</summary>
    [BindProperty]
    public Dictionary<string, string?> Figures { get; set; } = [];

    /// <summary>Figures that the kind has.</summary>
    public IReadOnlyList<ValueRule> Values { get; private set; } = [];

    /// <summary>What was wrong; null for nothing.</summary>
    public string? Error { get; private set; }

    /// <inheritdoc/>
    public Task<bool> SayAsync(string error)
    {
        Error = error;
        return Task.FromResult(Prepare());
    }

    /// <summary>Shows the form.</summary>
    public IActionResult OnGet() => Prepare() ? Page() : NotFound();

    /// <summary>Begins the test.</summary>
    public async Task<IActionResult> OnPostAsync()
    {
        if (!Prepare())
        {
            return NotFound();
        }

        var name = (Name ?? "").ReplaceLineEndings(" ").Trim();
        if (FigureRules.OfName(name) is { } wrong)
        {
            Error = wrong;
            return Page();
        }

        var known = new Dictionary<string, double>(StringComparer.Ordinal);
        foreach (var rule in Values)
        {
            if (Figures.GetValueOrDefault(rule.Name) is not { } typed || string.IsNullOrWhiteSpace(typed))
            {
                continue;
            }

            if (TypedNumber.Read(typed, signed: true) is not { } figure)
            {
                Error =
                    $"{rule.Name}: “{Excerpt.Of(typed)}” is not a number; type one such as {rule.Default.ToString("0.####", CultureInfo.InvariantCulture)}, or leave it blank.";
                return Page();
            }

            if (FigureRules.OfFigure(DeviceKinds.Named(Kind)!, rule.Name, figure) is { } refused)
            {
                Error = refused;
                return Page();
            }

            known[rule.Name] = figure;
        }

        return await desk.BeginLooseAsync(Kind, name, known, By, HttpContext.RequestAborted) is { } number
            ? Redirect($"/part-tests/{PartTestStore.TagOf(number)}")
            : NotFound();
    }

    private bool Prepare()
    {
        ViewData["Area"] = "Part tests";
        ViewData["Title"] = "A loose part";
        if (OfferedSheets.Loose.FirstOrDefault(k => k.Kind.Name == Kind) is not { Kind: { } kind })
        {
            return false;
        }

        Values = kind.Values;
        Name ??= SheetWords.Kind(kind.Name);
        return true;
    }
}
