using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Data;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Record;

/// <summary>What putting a backup in the record's place would take away, before anybody does it.</summary>
public sealed class RestoreModel(Backups backups, WorkshopOptions options) : PageModel
{
    /// <summary>Most things that are listed.</summary>
    public const int MostShown = 60;

    /// <summary>What would change; null where the backup cannot be read.</summary>
    public RestorePreview? Preview { get; private set; }

    /// <summary>What was wrong; null for nothing.</summary>
    public string? Error { get; private set; }

    /// <summary>Compares a backup with the record.</summary>
    /// <param name="backup">Name of the backup's file.</param>
    public async Task<IActionResult> OnGetAsync(string? backup)
    {
        ViewData["Title"] = "If this backup came back";
        if (backups.List().FirstOrDefault(b => b.Name == backup) is not { } entry)
        {
            return NotFound();
        }

        try
        {
            Preview = await RestorePreview.OfAsync(options.DataFolder, entry, HttpContext.RequestAborted);
        }
        catch (Microsoft.Data.Sqlite.SqliteException e)
        {
            Error =
                $"{entry.Name} cannot be read ({e.Message}): it would be refused. The record is as it was; take an older backup.";
        }

        return Page();
    }
}
