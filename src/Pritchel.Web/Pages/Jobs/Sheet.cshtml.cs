using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>The job sheet, for printing and handing over.</summary>
public sealed class SheetModel(JobDesk desk) : JobPageModel(desk)
{
    /// <summary>Checks, when the repair has been done.</summary>
    public IReadOnlyList<StandingCheck> Checks { get; private set; } = [];

    /// <summary>Name of another duty of the machine.</summary>
    public string DutyName(DutyId id) => Open.Version.Duty(id)?.Name ?? id.Text;

    /// <summary>Shows the sheet.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        Checks = Open.State.Repair is null ? [] : JobProof.Of(Open.Diagnosis).Checks;
        return Page();
    }
}
