namespace Pritchel.Core.Machines;

/// <summary>Kinds of part that more than their own device needs to know by name.</summary>
public static class PartKinds
{
    /// <summary>The battery, where every line begins and ends.</summary>
    public const string Battery = "battery";

    /// <summary>A lithium iron phosphate battery.</summary>
    public const string LithiumBattery = "lithium-battery";

    /// <summary>A lead-acid battery with its acid held in glass mats.</summary>
    public const string AgmBattery = "agm-battery";

    /// <summary>Whether a kind is a battery of any sort.</summary>
    public static bool IsBattery(string kind) => kind is Battery or LithiumBattery or AgmBattery;

    /// <summary>A casting or frame.</summary>
    public const string Body = "body";

    /// <summary>A multi-pin coupling.</summary>
    public const string Coupling = "coupling";

    /// <summary>A fuse in its holder.</summary>
    public const string Fuse = "fuse";

    /// <summary>Circuit breaker.</summary>
    public const string Breaker = "breaker";

    /// <summary>Diode by itself.</summary>
    public const string Diode = "diode";

    /// <summary>A generator that feeds outlets at mains volts.</summary>
    public const string Generator = "generator";

    /// <summary>A relay with its own coil.</summary>
    public const string Relay = "relay";

    /// <summary>A splice inside the loom.</summary>
    public const string Splice = "splice";

    /// <summary>A switch worked by a control.</summary>
    public const string Switch = "switch";
}
