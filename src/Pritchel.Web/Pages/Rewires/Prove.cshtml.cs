using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Rewiring;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Rewires;

/// <summary>The design proved: every combination of controls, then every single fault.</summary>
public sealed class ProveModel(RewireDesk desk) : RewirePageModel(desk)
{
    /// <inheritdoc/>
    public override string Step => "prove";

    /// <summary>The machine that it makes.</summary>
    public Marriage Made { get; private set; } = null!;

    /// <summary>The proof; null where something is wrong with the machine itself.</summary>
    public DesignProof? Proof { get; private set; }

    /// <summary>What the machine lacks.</summary>
    public IReadOnlyList<MachineProblem> Lacks { get; private set; } = [];

    /// <inheritdoc/>
    protected override async Task<bool> LoadAsync()
    {
        if (!await base.LoadAsync())
        {
            return false;
        }

        (Made, Proof, Lacks) = Desk.Prove(Open);
        return true;
    }

    /// <summary>Saves the machine that it makes.</summary>
    public async Task<IActionResult> OnPostSaveAsync()
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        var (entry, why) = await Desk.SaveAsync(Open, HttpContext.RequestAborted);
        Error = why;
        return entry is null ? Page() : Redirect($"/machines/{entry.Id}");
    }
}
