using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Handbook;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Rewires;

/// <summary>Every wire of what comes of it against what it carries; and a wire of one's own, sized.</summary>
public sealed class SizeModel(RewireDesk desk) : RewirePageModel(desk)
{
    /// <summary>Amps as typed.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Amps { get; set; }

    /// <summary>Metres one way as typed.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Metres { get; set; }

    /// <summary>Whether something depends on it: three in a hundred may be lost, else ten.</summary>
    [BindProperty(SupportsGet = true)]
    public bool Critical { get; set; }

    /// <summary>Whether it runs through an engine space.</summary>
    [BindProperty(SupportsGet = true)]
    public bool EngineSpace { get; set; } = true;

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
        if (MachineValidator.Check(machine).All(p => p.Unfinished))
        {
            Made = Circuit.Compile(machine);
            Budget = ChargeBudget.Of(Made);
            Guards = FeedGuards.Of(Made);
            Loads =
            [
                .. WireLoads
                    .Of(Made, EngineSpace, Critical ? WireSizing.CriticalDrop : WireSizing.OtherDrop)
                    .Where(l => l.Amps.Value > Nothing),
            ];
        }

        SizeTyped();
        return true;
    }

    private void SizeTyped()
    {
        const double MostAmps = 250;
        const double MostMetres = 60;
        if (string.IsNullOrWhiteSpace(Amps) && string.IsNullOrWhiteSpace(Metres))
        {
            return;
        }

        if (Typed(Amps) is not (> 0 and <= MostAmps and var amps))
        {
            Error = $"Amps: type more than 0 and at most {MostAmps}, such as 7.5.";
        }
        else if (Typed(Metres) is not (> 0 and <= MostMetres and var metres))
        {
            Error = $"Metres one way: type more than 0 and at most {MostMetres}, such as 2.5.";
        }
        else
        {
            var need = new WireNeed(
                new Amps(amps),
                new Metres(metres),
                new Volts(12),
                Critical ? WireSizing.CriticalDrop : WireSizing.OtherDrop,
                EngineSpace
            );
            Sized = (WireSizing.Size(need, WireSizing.Awg), WireSizing.Size(need, WireSizing.Metric));
        }
    }

    private static double? Typed(string? text) =>
        double.TryParse(
            (text ?? "").Trim().Replace(',', '.'),
            NumberStyles.AllowDecimalPoint,
            CultureInfo.InvariantCulture,
            out var figure
        )
            ? figure
            : null;
}
