using System.Text.Json.Serialization;

namespace Pritchel.Core.Identity;

/// <summary>A terminal of a part of a machine; written "part.terminal".</summary>
/// <param name="Part">The part.</param>
/// <param name="Terminal">The terminal, by the letters on the part; empty when a text names no terminal.</param>
[JsonConverter(typeof(IdentityConverter<TerminalAddress>))]
public readonly record struct TerminalAddress(PartId Part, TerminalId Terminal) : IIdentity<TerminalAddress>
{
    /// <inheritdoc/>
    public string Text => Terminal.Text is { Length: > 0 } ? $"{Part.Text}.{Terminal.Text}" : Part.ToString();

    /// <inheritdoc/>
    public static TerminalAddress Of(string text)
    {
        var dot = text.IndexOf('.', StringComparison.Ordinal);
        return dot < 0
            ? new TerminalAddress(new PartId(text), new TerminalId(""))
            : new TerminalAddress(new PartId(text[..dot]), new TerminalId(text[(dot + 1)..]));
    }

    /// <inheritdoc/>
    public override string ToString() => Text;
}

/// <summary>Which end of a wire.</summary>
public enum WireSide
{
    /// <summary>Where it begins.</summary>
    From,

    /// <summary>Where it ends.</summary>
    To,
}

/// <summary>One end of a wire, its own crimp or ring; written "wire@from" or "wire@to".</summary>
/// <param name="Wire">The wire.</param>
/// <param name="Side">Which end.</param>
[JsonConverter(typeof(IdentityConverter<WireEndId>))]
public readonly record struct WireEndId(WireId Wire, WireSide Side) : IIdentity<WireEndId>
{
    private const string FromMark = "@from";
    private const string ToMark = "@to";

    /// <summary>The wire's other end.</summary>
    public WireEndId Other => new(Wire, Side == WireSide.From ? WireSide.To : WireSide.From);

    /// <inheritdoc/>
    public string Text => Wire.Text + (Side == WireSide.From ? FromMark : ToMark);

    /// <summary>The end that a text stands for; null when it stands for none.</summary>
    public static WireEndId? Parse(string text) =>
        text.EndsWith(FromMark, StringComparison.Ordinal) ? new WireId(text[..^FromMark.Length]).From
        : text.EndsWith(ToMark, StringComparison.Ordinal) ? new WireId(text[..^ToMark.Length]).To
        : null;

    /// <inheritdoc/>
    public static WireEndId Of(string text) => Parse(text) ?? new WireId(text).From;

    /// <inheritdoc/>
    public override string ToString() => Text;
}

/// <summary>Metal that a probe can touch: a terminal, or a wire's own end.</summary>
[JsonConverter(typeof(IdentityConverter<PointId>))]
public readonly record struct PointId : IIdentity<PointId>
{
    private PointId(TerminalAddress? terminal, WireEndId? wireEnd) => (Terminal, WireEnd) = (terminal, wireEnd);

    /// <summary>The terminal it is; null for a wire's end.</summary>
    public TerminalAddress? Terminal { get; }

    /// <summary>The wire's end it is; null for a terminal.</summary>
    public WireEndId? WireEnd { get; }

    /// <inheritdoc/>
    public string Text => WireEnd?.Text ?? Terminal?.Text ?? "";

    /// <summary>A terminal as a point.</summary>
    public static implicit operator PointId(TerminalAddress terminal) => new(terminal, null);

    /// <summary>A wire's end as a point.</summary>
    public static implicit operator PointId(WireEndId end) => new(null, end);

    /// <inheritdoc/>
    public static PointId Of(string text) => WireEndId.Parse(text) is { } end ? end : TerminalAddress.Of(text);

    /// <inheritdoc/>
    public override string ToString() => Text;
}

/// <summary>Something taken off for a test, or found off: a coupling apart, or a wire's end off its terminal.</summary>
[JsonConverter(typeof(IdentityConverter<Disconnection>))]
public readonly record struct Disconnection : IIdentity<Disconnection>
{
    private Disconnection(PartId? coupling, WireEndId? wireEnd) => (Coupling, WireEnd) = (coupling, wireEnd);

    /// <summary>The coupling that is apart; null for a wire's end.</summary>
    public PartId? Coupling { get; }

    /// <summary>The wire's end that is off; null for a coupling.</summary>
    public WireEndId? WireEnd { get; }

    /// <inheritdoc/>
    public string Text => WireEnd?.Text ?? Coupling?.Text ?? "";

    /// <summary>A coupling apart.</summary>
    public static implicit operator Disconnection(PartId coupling) => new(coupling, null);

    /// <summary>A wire's end off.</summary>
    public static implicit operator Disconnection(WireEndId end) => new(null, end);

    /// <inheritdoc/>
    public static Disconnection Of(string text) => WireEndId.Parse(text) is { } end ? end : new PartId(text);

    /// <inheritdoc/>
    public override string ToString() => Text;
}
