using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Machines;
using Pritchel.Data;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Machines;

/// <summary>Pictures of a machine and its parts: shown, taken in, put away.</summary>
[ChangedBy(MemberRole.Helper)]
public sealed class PicturesModel(JobDesk desk, PictureStore pictures) : PageModel, ISaysWhatWasWrong
{
    private const int LongestWords = 200;

    /// <summary>What the picture shows, as typed.</summary>
    [BindProperty]
    public string? Words { get; set; }

    /// <summary>Part it shows, by id; nothing for the machine.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Part { get; set; }

    /// <summary>Machine as listed.</summary>
    public MachineVersion Entry { get; private set; } = null!;

    /// <summary>The machine.</summary>
    public Machine Machine { get; private set; } = null!;

    /// <summary>Its pictures.</summary>
    public IReadOnlyList<PictureRow> List { get; private set; } = [];

    /// <summary>Why the last one was refused.</summary>
    public string? Error { get; private set; }

    /// <summary>The picture just put away, which can be shown again.</summary>
    [BindProperty(SupportsGet = true)]
    public int? Away { get; set; }

    /// <inheritdoc/>
    public Task<bool> SayAsync(string error)
    {
        Error = error;
        return Task.FromResult(Entry is not null);
    }

    /// <summary>Shows the pictures.</summary>
    public async Task<IActionResult> OnGetAsync(string id) => await LoadAsync(id) ? Page() : NotFound();

    /// <summary>One picture's file.</summary>
    public IActionResult OnGetFile(int picture) =>
        pictures.FileOf(picture) is { } file ? PhysicalFile(file, "image/jpeg") : NotFound();

    /// <summary>Takes a picture in, or says why not.</summary>
    public async Task<IActionResult> OnPostAsync(string id, IFormFile? file)
    {
        if (!await LoadAsync(id))
        {
            return NotFound();
        }

        var words = (Words ?? "").Trim();
        Error =
            file is null || file.Length == 0 ? "Picture: no file was chosen, or it is empty."
            : words.Length is 0 or > LongestWords || words.Any(char.IsControl)
                ? $"What it shows: 1 to {LongestWords} characters on one line."
            : !string.IsNullOrEmpty(Part) && Machine.Parts.All(p => p.Id.Text != Part)
                ? "Part: choose one from the list."
            : null;
        if (Error is null)
        {
            try
            {
                await using var stream = file!.OpenReadStream();
                await pictures.AddAsync(
                    id,
                    string.IsNullOrEmpty(Part) ? null : Part,
                    words,
                    stream,
                    HttpContext.RequestAborted
                );
                return Redirect($"/machines/{id}/pictures");
            }
            catch (PictureRefusedException e)
            {
                Error = "Picture: " + e.Message;
            }
        }

        return Page();
    }

    /// <summary>Puts a picture away, or shows it again.</summary>
    public async Task<IActionResult> OnPostAwayAsync(string id, int picture, bool away)
    {
        await pictures.PutAwayAsync(id, picture, away, HttpContext.RequestAborted);
        return Redirect($"/machines/{id}/pictures" + (away ? $"?away={picture}" : ""));
    }

    private async Task<bool> LoadAsync(string id)
    {
        ViewData["Area"] = "Machines";
        if (await desk.MachineAsync(id, HttpContext.RequestAborted) is not { } found)
        {
            return false;
        }

        (Entry, Machine) = (found, found.Machine);
        List = await pictures.ListAsync(id, HttpContext.RequestAborted);
        return true;
    }
}
