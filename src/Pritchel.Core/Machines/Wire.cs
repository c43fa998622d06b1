using System.Text.Json.Serialization;
using Pritchel.Core.Identity;

namespace Pritchel.Core.Machines;

/// <summary>A wire or cable.</summary>
public sealed record Wire
{
    /// <summary>Short name, as on the wire list.</summary>
    public required WireId Id { get; init; }

    /// <summary>First end.</summary>
    public required WireEnd From { get; init; }

    /// <summary>Second end.</summary>
    public required WireEnd To { get; init; }

    /// <summary>Conductor, such as "2.5 mm2" or "14 AWG".</summary>
    public required string Gauge { get; init; }

    /// <summary>Length in metres, one way.</summary>
    public required double LengthM { get; init; }

    /// <summary>Base colour, then tracer if any.</summary>
    public required IReadOnlyList<string> Colours { get; init; }

    /// <summary>Part of the machine it runs through.</summary>
    public required string Zone { get; init; }

    /// <summary>A starting or ground cable, rather than loom wire.</summary>
    public bool? Cable { get; init; }

    /// <summary>
    /// Body it touches when its insulation is gone, a part's id; when null the body in its zone, or else the machine's first.
    /// </summary>
    public PartId? ChafesOn { get; init; }

    /// <summary>Whether it runs along no metal at all, as behind a boat's console, and so wears through onto nothing.</summary>
    public bool? NoMetal { get; init; }

    /// <summary>How it is known what it is for, where that was told by hand; null for a wire drawn with what it joins.</summary>
    public HowKnown? Known { get; init; }

    /// <summary>Its two ends, each with the terminal it is joined to.</summary>
    [JsonIgnore]
    public IEnumerable<(WireEndId Name, TerminalAddress At)> Ends => [(Id.From, From.At), (Id.To, To.At)];

    /// <summary>How one of its ends is joined.</summary>
    public WireEnd End(WireSide side) => side == WireSide.From ? From : To;
}

/// <summary>One end of a wire.</summary>
/// <param name="At">Terminal it is joined to, "part.terminal".</param>
/// <param name="Joint">How: push-on, ring, cavity, splice, screw.</param>
/// <param name="RepairAlone">Whether cleaning this joint is a repair of its own, rather than part of renewing the wire with its ends.</param>
public sealed record WireEnd(TerminalAddress At, string Joint, bool? RepairAlone = null);
