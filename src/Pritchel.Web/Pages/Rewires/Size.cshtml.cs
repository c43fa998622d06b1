using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Handbook;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Simulation;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Rewires;

/// <summary>Every wire of what comes of it against what it carries; and a wire of one's own, sized.</summary>
public sealed class SizeModel(RewireDesk desk) : RewirePageModel(desk)
{
    /// <summary>A wire of one's own, as typed.</summary>
    [BindProperty(SupportsGet = true)]
    public WireTyped Wire { get; set; } = new();

    /// <inheritdoc/>
    public override string Step => "size";

    /// <summary>Wires that carry something, those too thin first.</summary>
    public IReadOnlyList<WireLoad> Loads { get; private set; } = [];

    /// <summary>The machine that it makes.</summary>
    public Circuit Made { get; private set; } = null!;

    /// <summary>What guards its wires.</summary>
    public FeedGuards Guards { get; private set; } = new([], []);

    /// <summary>Whether a fuse that is too large for a wire behind it was so before.</summary>
    public bool WasTooLarge(GuardingFuse fuse) =>
        (GuardsBefore ??= FeedGuards.Of(Open.Host.Circuit)).Fuses.Any(f => f.Part.Id == fuse.Part.Id && f.IsTooLarge);

    private FeedGuards? GuardsBefore { get; set; }

    /// <summary>What charging leaves for the battery.</summary>
    public ChargeBudget Budget { get; private set; } = new([], null);

    /// <summary>Sizes that would do for what was typed, by AWG and metric; null where none or nothing was typed.</summary>
    public (SizedWire? Awg, SizedWire? Metric)? Sized { get; private set; }

    /// <inheritdoc/>
    protected override async Task<bool> LoadAsync()
    {
        const double Nothing = 0.02;
        if (!await base.LoadAsync())
        {
            return false;
        }

        var machine = Marriage.Of(Open.Plan.ForWork).Machine;
        if (!MachineValidator.Unsolvable(machine).Any())
        {
            Made = Circuit.Compile(machine);
            Budget = ChargeBudget.Of(Made);
            Guards = FeedGuards.Of(Made);
            Loads = [.. WireLoads.Of(Made, Wire.EngineSpace, Wire.MayDrop).Where(l => l.Amps.Value > Nothing)];
        }

        (Sized, var wrong) = Wire.Size();
        Error = wrong ?? Error;
        return true;
    }
}
