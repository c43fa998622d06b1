namespace Pritchel.Web.Desk;

/// <summary>What is said of a lamp or an alarm that may be telling the truth.</summary>
public static class WarningWords
{
    /// <summary>What is checked before a wire is doubted. Common practice, no source.</summary>
    public const string First =
        "Stop the engine and check that first: level, temperature, a gauge you trust, the bilge and the seal. A wire is doubted once it is known not to be so.";
}
