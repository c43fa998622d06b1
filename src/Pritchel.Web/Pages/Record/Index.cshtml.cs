using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Data;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Record;

/// <summary>Where the record lies, and its backups.</summary>
public sealed class IndexModel(Backups backups, ArchiveDesk archives, TimeProvider clock, WorkshopOptions options)
    : PageModel
{
    /// <summary>Folder of the record.</summary>
    public string Folder => options.DataFolder;

    /// <summary>Folder of the backups.</summary>
    public string BackupFolder => backups.Folder;

    /// <summary>Backups, newest first.</summary>
    public IReadOnlyList<BackupEntry> Taken { get; private set; } = [];

    /// <summary>What was wrong; null for nothing.</summary>
    public string? Error { get; private set; }

    /// <summary>Shows them.</summary>
    public void OnGet() => Load();

    /// <summary>Takes one now.</summary>
    public async Task<IActionResult> OnPostAsync()
    {
        try
        {
            await backups.MakeAsync(HttpContext.RequestAborted);
            return Redirect("/record");
        }
        catch (Exception e)
            when (e is IOException or UnauthorizedAccessException or Microsoft.Data.Sqlite.SqliteException)
        {
            Error =
                $"No backup could be taken into {BackupFolder}: {e.Message} Free some room there, or start with --backups and another folder. Nothing of the record is lost.";
        }
        catch (RecordRefusedException e)
        {
            Error = e.Message;
        }

        Load();
        return Page();
    }

    /// <summary>Everything in one file.</summary>
    public async Task<IActionResult> OnGetExportAsync()
    {
        try
        {
            var now = clock.GetUtcNow();
            return File(
                await archives.ExportAsync(HttpContext.RequestAborted),
                "application/zip",
                $"pritchel-record-{now:yyyyMMdd'T'HHmm}.zip"
            );
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            Error =
                $"It could not be written: {e.Message} Free some room on the disk and try again. Nothing of the record is lost.";
            Load();
            return Page();
        }
    }

    private void Load()
    {
        ViewData["Title"] = "Record and backups";
        Taken = backups.List();
    }
}
