using Microsoft.AspNetCore.Mvc.ModelBinding.Validation;
using Pritchel.Core.Handbook;
using Pritchel.Core.Units;
using Pritchel.Web.Desk;

namespace Pritchel.Web.Pages.Rewires;

/// <summary>A wire to be sized, as typed.</summary>
[ValidateNever]
public sealed class WireTyped
{
    private const double MostAmps = 250;
    private const double MostMetres = 60;
    private static readonly Volts System = new(12);

    /// <summary>Amps that it carries.</summary>
    public string? Amps { get; set; }

    /// <summary>Metres one way.</summary>
    public string? Metres { get; set; }

    /// <summary>Whether something depends on it: three in a hundred may be lost, else ten.</summary>
    public bool Critical { get; set; }

    /// <summary>Whether it runs through an engine space.</summary>
    public bool EngineSpace { get; set; } = true;

    /// <summary>Share of the volts that may be lost on it.</summary>
    public double MayDrop => Critical ? WireSizing.CriticalDrop : WireSizing.OtherDrop;

    /// <summary>Sizes that would do, by AWG and metric, null where none would; or what is wrong; neither where nothing was typed.</summary>
    public ((SizedWire? Awg, SizedWire? Metric)? Sizes, string? Why) Size()
    {
        if (string.IsNullOrWhiteSpace(Amps) && string.IsNullOrWhiteSpace(Metres))
        {
            return (null, null);
        }

        if (TypedNumber.Read(Amps) is not (> 0 and <= MostAmps and var amps))
        {
            return (null, $"Amps: type more than 0 and at most {MostAmps}, such as 7.5.");
        }

        if (TypedNumber.Read(Metres) is not (> 0 and <= MostMetres and var metres))
        {
            return (null, $"Metres one way: type more than 0 and at most {MostMetres}, such as 2.5.");
        }

        var need = new WireNeed(new Amps(amps), new Metres(metres), System, MayDrop, EngineSpace);
        return ((WireSizing.Size(need, WireSizing.Awg), WireSizing.Size(need, WireSizing.Metric)), null);
    }
}
