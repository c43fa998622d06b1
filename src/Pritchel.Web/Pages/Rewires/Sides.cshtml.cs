using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Machines;
using Pritchel.Core.Rewiring;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Rewires;

/// <summary>What stays of each machine, and which wires are cut through.</summary>
public sealed class SidesModel(RewireDesk desk) : RewirePageModel(desk)
{
    /// <summary>Parts that stay of the host.</summary>
    [BindProperty]
    public List<string> HostKeeps { get; set; } = [];

    /// <summary>Parts that come from the donor.</summary>
    [BindProperty]
    public List<string> DonorKeeps { get; set; } = [];

    /// <summary>Wires of the host cut through, as typed.</summary>
    [BindProperty]
    public string? HostCuts { get; set; }

    /// <summary>Wires of the donor cut through, as typed.</summary>
    [BindProperty]
    public string? DonorCuts { get; set; }

    /// <inheritdoc/>
    public override string Step => "sides";

    /// <summary>Ways to bring the sides together; none while nothing is loose that fits.</summary>
    public IReadOnlyList<JoiningWay> Ways => JoiningWays.Of(Open.Plan, Open.Suggested);

    /// <summary>Keeps what was ticked.</summary>
    public async Task<IActionResult> OnPostKeepAsync()
    {
        var shown = await ActAsync(() =>
            Desk.KeepAsync(Open, After, (HostKeeps, HostCuts), (DonorKeeps, DonorCuts), HttpContext.RequestAborted)
        );
        return shown is RedirectResult ? Redirect($"/rewires/{Open.Entry.Tag}/marry") : shown;
    }

    /// <summary>Whether a part stays: as ticked, where the form came back, or as it stands.</summary>
    public bool Stays(RewireSide side, Part part) =>
        Error is null ? side.Has(part.Id) : (IsHost(side) ? HostKeeps : DonorKeeps).Contains(part.Id.Text);

    /// <summary>Wires cut through, as typed or as they stand.</summary>
    public string CutsOf(RewireSide side) =>
        Error is null ? string.Join(", ", side.Cuts) : (IsHost(side) ? HostCuts : DonorCuts) ?? "";

    private static bool IsHost(RewireSide side) => side.Key == SideKey.Host;
}
