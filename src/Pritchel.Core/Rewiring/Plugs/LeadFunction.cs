namespace Pritchel.Core.Rewiring.Plugs;

/// <summary>What a lead in a plug is for, in the words of the trade: a vocabulary that both sides of a plug share.</summary>
public enum LeadFunction
{
    /// <summary>Nobody knows.</summary>
    Unknown,

    /// <summary>Fed from the battery in every setting.</summary>
    BatteryFeed,

    /// <summary>Fed with the key on; what it feeds on an engine is the ignition.</summary>
    IgnitionFeed,

    /// <summary>Fed with the key on, for a solenoid that lets fuel through.</summary>
    FuelFeed,

    /// <summary>Fed while the starter is asked for: a start solenoid's coil.</summary>
    StartFeed,

    /// <summary>Joins the metal of both sides.</summary>
    Ground,

    /// <summary>Grounded to stop the engine.</summary>
    Kill,

    /// <summary>Alternating volts of a charge winding; one, two or three leads of it.</summary>
    ChargeWinding,

    /// <summary>Direct charging current, regulated already.</summary>
    ChargeOutput,

    /// <summary>Alternating volts straight to lamps.</summary>
    LightingWinding,

    /// <summary>A pickup's pulse; one lead, its other on the block, or both.</summary>
    Pickup,

    /// <summary>Grounded by an oil switch, for a warning lamp.</summary>
    OilSwitch,

    /// <summary>A sender's ohms to ground, for a gauge.</summary>
    Sender,
}

/// <summary>Which half of a plug is in hand.</summary>
public enum PlugHalf
{
    /// <summary>The half on the machine: battery, key, switches, lamps are behind it.</summary>
    OfMachine,

    /// <summary>The half on an engine: ignition, windings, starter, senders are behind it.</summary>
    OfEngine,
}

/// <summary>Words of the vocabulary.</summary>
public static class LeadVocabulary
{
    /// <summary>A function in words.</summary>
    public static string Of(LeadFunction function) =>
        function switch
        {
            LeadFunction.BatteryFeed => "battery feed, live always",
            LeadFunction.IgnitionFeed => "feed with the key on: ignition",
            LeadFunction.FuelFeed => "feed with the key on: fuel solenoid",
            LeadFunction.StartFeed => "feed while starting: start solenoid",
            LeadFunction.Ground => "ground",
            LeadFunction.Kill => "kill: grounded to stop",
            LeadFunction.ChargeWinding => "charge winding, AC",
            LeadFunction.ChargeOutput => "charge output, DC",
            LeadFunction.LightingWinding => "lighting winding, AC to lamps",
            LeadFunction.Pickup => "pickup",
            LeadFunction.OilSwitch => "oil switch, for its lamp",
            LeadFunction.Sender => "sender, for its gauge",
            _ => "nobody knows",
        };
}
