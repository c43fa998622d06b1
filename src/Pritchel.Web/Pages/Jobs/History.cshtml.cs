using Microsoft.AspNetCore.Mvc;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>Everything that was entered on a job, in its order, with who and when; what was taken back too.</summary>
public sealed class HistoryModel(JobDesk desk) : JobPageModel(desk)
{
    /// <summary>Shows it.</summary>
    public async Task<IActionResult> OnGetAsync() => await LoadAsync() ? Page() : NotFound();
}
