using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Jobs;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>What to order now, and whether the machine is worth it: prices typed, arithmetic shown.</summary>
public sealed class PartsModel(JobDesk desk) : JobPageModel(desk)
{
    /// <summary>Prices as typed, by repair id.</summary>
    [BindProperty]
    public Dictionary<string, string?> Price { get; set; } = [];

    /// <summary>The terms and worths as typed, by name.</summary>
    [BindProperty]
    public Dictionary<string, string?> Term { get; set; } = [];

    /// <summary>What could be ordered, and what each way costs.</summary>
    public Ordering Ordering { get; private set; } = null!;

    /// <summary>Prices as last told.</summary>
    public PartsPriced? Told => Open.State.Priced;

    /// <summary>Shows what was told before and what it comes to.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        if (await LoadToldAsync() is { } elsewhere)
        {
            return elsewhere;
        }

        Ordering = new Ordering(Open);
        if (Told is { } told)
        {
            var typed = PricesTyped.Of(told);
            (Price, Term) = (new(typed.Prices), new(typed.Terms));
        }

        return Page();
    }

    /// <summary>Writes prices down.</summary>
    public async Task<IActionResult> OnPostAsync()
    {
        if (await LoadToldAsync() is { } elsewhere)
        {
            return elsewhere;
        }

        Ordering = new Ordering(Open);
        if (new PricesTyped(Price, Term).Read(Ordering.Buyable, out var error) is not { } told)
        {
            Error = error;
            return Page();
        }

        return await AppendAsync(told) ? Redirect($"/jobs/{Open.Job.Tag}/parts") : Page();
    }
}
