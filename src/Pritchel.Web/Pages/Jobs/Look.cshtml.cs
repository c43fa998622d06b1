using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Data;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>Looking: a short list of places by what a look would find in the time it takes, and any other place.</summary>
[ChangedBy(MemberRole.Helper)]
public sealed class LookModel(JobDesk desk) : JobPageModel(desk)
{
    private const int MostPlaces = 6;

    /// <summary>What was sent.</summary>
    [BindProperty]
    public LookTyped Answer { get; set; } = new();

    /// <summary>Where to look first.</summary>
    public IReadOnlyList<PlaceToLook> Places { get; private set; } = [];

    /// <summary>Every repair of the machine, by name.</summary>
    public IReadOnlyList<Repair> Repairs { get; private set; } = [];

    /// <summary>What need not be looked at.</summary>
    public LeftAlone LeftAlone { get; private set; } = null!;

    /// <summary>Shows where to look.</summary>
    public Task<IActionResult> OnGetAsync() => ShowAsync();

    /// <summary>Writes a look down.</summary>
    public Task<IActionResult> OnPostAsync() => EnterAsync(() => Answer.Look(Open), "/look");

    /// <summary>Writes down what was moved, warmed or wetted.</summary>
    public Task<IActionResult> OnPostStirredAsync() => EnterAsync(() => Answer.Stir(Open), "/look");

    /// <summary>Name of a repair's place.</summary>
    public string NameOf(RepairId repair) => Repairs.FirstOrDefault(r => r.Id == repair)?.Name ?? repair.Text;

    /// <inheritdoc/>
    protected override string? Prepare()
    {
        if (!Open.State.ComplaintTold)
        {
            return "/complaint";
        }

        Repairs = LookTyped.RepairsOf(Open);
        LeftAlone = LeftAlone.Of(Open.Kit.Table);
        Places = Looking.Places(Open.Diagnosis.Beliefs, Open.Diagnosis.Situation, MostPlaces);
        return null;
    }
}
