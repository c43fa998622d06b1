using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Data;
using Pritchel.Web.Desk;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>Looking: a short list of places by what a look would find in the time it takes, and any other place.</summary>
[ChangedBy(MemberRole.Helper)]
public sealed class LookModel(JobDesk desk) : JobPageModel(desk)
{
    private const int MostPlaces = 6;

    /// <summary>Repair whose place was looked at, by id.</summary>
    [BindProperty]
    public string? At { get; set; }

    /// <summary>What was found, as chosen.</summary>
    [BindProperty]
    public string? Found { get; set; }

    /// <summary>Place that was moved, warmed or wetted, by id.</summary>
    [BindProperty]
    public string? Stirred { get; set; }

    /// <summary>How, as chosen.</summary>
    [BindProperty]
    public string? By { get; set; }

    /// <summary>Whether anything came of it.</summary>
    [BindProperty]
    public bool? Changed { get; set; }

    /// <summary>Where to look first.</summary>
    public IReadOnlyList<PlaceToLook> Places { get; private set; } = [];

    /// <summary>Every repair of the machine, by name.</summary>
    public IReadOnlyList<Repair> Repairs { get; private set; } = [];

    /// <summary>What need not be looked at.</summary>
    public LeftAlone LeftAlone { get; private set; } = null!;

    /// <summary>Shows where to look.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        if (await LoadToldAsync() is { } elsewhere)
        {
            return elsewhere;
        }

        Show();
        return Page();
    }

    /// <summary>Writes a look down.</summary>
    public async Task<IActionResult> OnPostAsync()
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        Show();
        if (Repairs.FirstOrDefault(r => r.Id.Text == At) is not { } seen)
        {
            Error = "Place: choose one of this machine's places from the list.";
        }
        else if (!Enum.TryParse<LookFound>(Found, out var found) || !Enum.IsDefined(found))
        {
            Error = $"What was found: choose one of {string.Join(", ", LookWords.Answers.Select(a => a.Words))}.";
        }
        else if (await AppendAsync(new LookedAt(seen.Id, found)))
        {
            return Redirect($"/jobs/{Open.Job.Tag}/look");
        }

        return Page();
    }

    /// <summary>Writes down what was moved, warmed or wetted.</summary>
    public async Task<IActionResult> OnPostStirredAsync()
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        Show();
        if (WiggleWords.Read(Open.Kit.WiggleTests, $"{Stirred};{By}") is not { } stirred)
        {
            Error = Open.Kit.WiggleTests.Places.Any(r => r.Place.Id.Text == Stirred)
                ? $"How: choose one of {string.Join(", ", WiggleWords.Ways.Where(w => Open.Kit.WiggleTests.Ways.Contains(w.By)).Select(w => w.Words))}."
                : "What was stirred: choose one of this machine's places from the list.";
        }
        else if (Changed is not { } changed)
        {
            Error = "What came of it: choose whether it came or went, or nothing changed.";
        }
        else if (await AppendAsync(new Wiggled(stirred.Reach.Place.Id, null, stirred.By, changed, null)))
        {
            return Redirect($"/jobs/{Open.Job.Tag}/look");
        }

        return Page();
    }

    /// <summary>Name of a repair's place.</summary>
    public string NameOf(RepairId repair) => Repairs.FirstOrDefault(r => r.Id == repair)?.Name ?? repair.Text;

    private void Show()
    {
        Repairs =
        [
            .. Open
                .Circuit.Faults.Select(f => f.Repair)
                .DistinctBy(r => r.Id)
                .OrderBy(r => r.Name, StringComparer.Ordinal),
        ];
        LeftAlone = LeftAlone.Of(Open.Kit.Table);
        Places = Looking.Places(Open.Diagnosis.Beliefs, Open.Diagnosis.Situation, MostPlaces);
    }
}
