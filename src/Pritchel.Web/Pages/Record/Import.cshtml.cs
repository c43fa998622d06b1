using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Data;
using Pritchel.Data.Archive;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Record;

/// <summary>An export of a record that came in: what would become of each thing, then taken in.</summary>
[RequestSizeLimit(ArchiveDesk.LargestBytes)]
[RequestFormLimits(MultipartBodyLengthLimit = ArchiveDesk.LargestBytes)]
[ReadBy(MemberRole.Owner)]
public sealed class ImportModel(ArchiveDesk archives) : PageModel
{
    /// <summary>Name of the file that waits; null for none.</summary>
    [BindProperty]
    public string? Name { get; set; }

    /// <summary>What becomes of each thing; null where nothing could be said.</summary>
    public IReadOnlyList<Incoming>? Told { get; private set; }

    /// <summary>Whether it has been taken in.</summary>
    public bool IsDone { get; private set; }

    /// <summary>What was wrong; null for nothing.</summary>
    public string? Error { get; private set; }

    /// <summary>Nothing waits here.</summary>
    public IActionResult OnGet() => Redirect("/record");

    /// <summary>Looks a file through.</summary>
    public async Task<IActionResult> OnPostAsync(IFormFile? file)
    {
        if (file is not { Length: > 0 })
        {
            return Refused("Choose the zip that “Everything in one file” gave.");
        }

        return await TryAsync(async () =>
        {
            await using var stream = file.OpenReadStream();
            Name = await archives.ReceiveAsync(stream, HttpContext.RequestAborted);
            Told = await archives.PreviewAsync(Name, HttpContext.RequestAborted);
        });
    }

    /// <summary>Takes it in.</summary>
    public async Task<IActionResult> OnPostApplyAsync() =>
        await TryAsync(async () =>
        {
            Told = await archives.ApplyAsync(Name ?? "", HttpContext.RequestAborted);
            IsDone = Told is not null;
            Error = IsDone ? null : "That file is not here any more; choose it again.";
        });

    private async Task<IActionResult> TryAsync(Func<Task> act)
    {
        ViewData["Title"] = "Take in an export";
        try
        {
            await act();
        }
        catch (ArchiveRefusedException e)
        {
            return Refused(e.Message);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return Refused(
                $"It could not be kept while it is looked through: {e.Message} Free some room on the disk and send it again. Nothing of the record is changed."
            );
        }

        return Page();
    }

    private PageResult Refused(string why)
    {
        ViewData["Title"] = "Take in an export";
        (Told, Error) = (null, why);
        return Page();
    }
}
