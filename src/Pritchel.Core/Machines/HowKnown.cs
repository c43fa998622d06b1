using System.Text.Json.Serialization;

namespace Pritchel.Core.Machines;

/// <summary>How it is known what a lead is for, the surest first.</summary>
[JsonConverter(typeof(HowKnownNames))]
public enum HowKnown
{
    /// <summary>Followed to its part with eye and meter.</summary>
    [JsonStringEnumMemberName("followed")]
    Followed,

    /// <summary>Read: volts, ohms, beeps at its end that nothing else gives.</summary>
    [JsonStringEnumMemberName("read")]
    Read,

    /// <summary>On the maker's diagram.</summary>
    [JsonStringEnumMemberName("onPaper")]
    OnPaper,

    /// <summary>Guessed by its colour, which repeats, fades and changes across couplings.</summary>
    [JsonStringEnumMemberName("byColour")]
    ByColour,
}

/// <summary>By name alone: a number means nothing in a file.</summary>
internal sealed class HowKnownNames() : JsonStringEnumConverter<HowKnown>(null, allowIntegerValues: false);
