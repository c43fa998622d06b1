using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Rewiring;
using Pritchel.Web.Desk;
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

    /// <summary>Row of the grid that is looked into, from 0.</summary>
    [BindProperty(SupportsGet = true)]
    public int? Row { get; set; }

    /// <summary>What of it: one of <see cref="ProvedLines.Asked"/>.</summary>
    [BindProperty(SupportsGet = true)]
    public string? What { get; set; }

    /// <summary>The lines behind the cell that is looked into; none where none is.</summary>
    public IReadOnlyList<ProvedLine> Lines =>
        Proof is { } proof && Row is { } row && row >= 0 && row < proof.Rows.Count && What is { } what
            ? ProvedLines.Of(proof, Open.Host.Circuit, proof.Rows[row], what)
            : [];

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
