using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Rewiring;
using Pritchel.Web.Desk;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Rewires;

/// <summary>The design proved: every combination of controls, then every single fault.</summary>
public sealed class ProveModel(RewireDesk desk) : RewirePageModel(desk)
{
    private static readonly TimeSpan Moment = TimeSpan.FromSeconds(2);

    /// <inheritdoc/>
    public override string Step => "prove";

    /// <summary>The machine that it makes, and how far its proof is.</summary>
    public RewireProof Proving { get; private set; } = null!;

    /// <summary>The proof; null while it is worked out, or where something is wrong with the machine itself.</summary>
    public DesignProof? Proof => Proving.IsDone ? Proving.Work?.Done : null;

    /// <summary>What is new with the jumpers in, besides what is so without them; none where there are no jumpers.</summary>
    public IReadOnlyList<ProofFinding> InService =>
        Proving.Service?.Done is { } service && Proof is { } proof
            ? [.. service.Findings.Where(f => f.Kind != FindingKind.Inherent && !proof.Findings.Contains(f))]
            : [];

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

        // Most are done in a moment; a page that waits for one comes back by itself.
        Proving = Desk.Prove(Open);
        await Proving.WaitAsync(Moment, HttpContext.RequestAborted);
        if (Proving is { IsDone: false, CameToNothing: false })
        {
            Response.Headers["Refresh"] = "1";
        }

        return true;
    }

    /// <summary>Gives the proof up.</summary>
    public async Task<IActionResult> OnPostGiveUpAsync()
    {
        if (!await base.LoadAsync())
        {
            return NotFound();
        }

        Desk.Prove(Open).GiveUp();
        return Redirect($"/rewires/{Open.Entry.Tag}/marry");
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
