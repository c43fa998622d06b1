using System.Globalization;

namespace Pritchel.Core.Rewiring;

/// <summary>How ends of a rewire are said.</summary>
public static class RewireWords
{
    /// <summary>A kind of lead.</summary>
    public static string Of(EndKind kind) =>
        kind switch
        {
            EndKind.Ground => "ground",
            EndKind.BatteryFeed => "battery feed",
            EndKind.SwitchedFeed => "switched feed",
            EndKind.StartFeed => "start feed",
            EndKind.GroundToKill => "ground to kill",
            EndKind.Alternating => "charge winding, AC",
            _ => "signal",
        };

    /// <summary>Whether an end gives or waits.</summary>
    public static string Gives(EndFunction end) =>
        end.Kind switch
        {
            EndKind.Ground => end.Gives ? "metal" : "wants metal",
            EndKind.GroundToKill => end.Gives ? "switch" : "ignition",
            EndKind.Alternating => end.Gives ? "winding" : "wants a winding",
            EndKind.Signal => "signal",
            _ => end.Gives ? "gives" : "waits",
        };

    /// <summary>A conductor.</summary>
    public static string Gauge(string gauge) => gauge.Replace("mm2", "mm²", StringComparison.Ordinal);

    /// <summary>What an end is: its kind, and whether it gives or waits.</summary>
    public static string Of(EndFunction end) =>
        end.Kind == EndKind.Signal ? Of(end.Kind) : $"{Of(end.Kind)}, {Gives(end)}";

    /// <summary>Where it leads on its own side, in words.</summary>
    public static string LeadsTo(EndFunction end) =>
        end.Stays.Count == 0
            ? "nothing that stays"
            : string.Join(", ", end.Stays.Take(3).Select(Terminal))
                + (
                    end.Stays.Count > 3
                        ? string.Create(CultureInfo.InvariantCulture, $" and {end.Stays.Count - 3} more")
                        : ""
                );

    /// <summary>A terminal of a part.</summary>
    public static string Terminal(LedTo to) =>
        to.Terminal.Text is { Length: > 0 } terminal ? $"{to.Part.Name} {terminal}" : to.Part.Name;
}
