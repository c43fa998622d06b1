using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Proving;
using Pritchel.Core.Simulation;
using Pritchel.Data;
using Pritchel.Web.Desk;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>The job sheet, for printing and handing over.</summary>
public sealed class SheetModel(JobDesk desk, JobStore jobs, Workshop workshop) : JobPageModel(desk, jobs)
{
    /// <summary>Checks, when the repair has been done.</summary>
    public IReadOnlyList<StandingCheck> Checks { get; private set; } = [];

    /// <summary>Name of another duty of the machine.</summary>
    public string DutyName(string id) =>
        workshop.Duty(Open.Job.MachineId, Open.Job.MachineVersion, Open.Circuit, id)?.Name ?? id;

    /// <summary>Unit of the reading that a check repeats.</summary>
    public string UnitOf(ProofCheck check) =>
        ProofList.PairOf(Open, check.Id) is { } at
            ? TestWords.Unit(Open.Kit.Table.Conditions[at.Condition].Quantity)
            : "";

    /// <summary>Shows the sheet.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        Checks = Open.State.Repair is null ? [] : ProofList.Of(Open);
        return Page();
    }
}
