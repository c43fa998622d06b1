using System.Text.Json.Serialization;

namespace Pritchel.Core.Identity;

/// <summary>What somebody did to a machine before.</summary>
public enum AlteredBy
{
    /// <summary>A switch contact bridged.</summary>
    Bridged,

    /// <summary>A coupling left apart.</summary>
    Apart,

    /// <summary>A wire taken off or cut.</summary>
    Off,
}

/// <summary>
/// Something found altered on a machine; written "part/contact" for a bridged contact, "apart/part" for a coupling,
/// "off/wire" for a wire.
/// </summary>
[JsonConverter(typeof(IdentityConverter<AlterationId>))]
public readonly record struct AlterationId : IIdentity<AlterationId>
{
    private const string ApartMark = "apart/";
    private const string OffMark = "off/";
    private readonly string name;

    private AlterationId(AlteredBy by, string name, ContactId contact = default) =>
        (By, this.name, Contact) = (by, name, contact);

    /// <summary>What was done.</summary>
    public AlteredBy By { get; }

    /// <summary>The switch bridged or the coupling left apart; null for a wire.</summary>
    public PartId? Part => By == AlteredBy.Off ? null : new PartId(name);

    /// <summary>The wire taken off; null otherwise.</summary>
    public WireId? Wire => By == AlteredBy.Off ? new WireId(name) : null;

    /// <summary>The contact bridged; nameless unless one is.</summary>
    public ContactId Contact { get; }

    /// <inheritdoc/>
    public string Text =>
        By switch
        {
            AlteredBy.Bridged => $"{name}/{Contact.Text}",
            AlteredBy.Apart => ApartMark + name,
            _ => OffMark + name,
        };

    /// <summary>A contact bridged.</summary>
    public static AlterationId Bridged(PartId part, ContactId contact) => new(AlteredBy.Bridged, part.Text, contact);

    /// <summary>A coupling left apart.</summary>
    public static AlterationId Apart(PartId part) => new(AlteredBy.Apart, part.Text);

    /// <summary>A wire off.</summary>
    public static AlterationId Off(WireId wire) => new(AlteredBy.Off, wire.Text);

    /// <inheritdoc/>
    public static AlterationId Of(string text)
    {
        if (text.StartsWith(ApartMark, StringComparison.Ordinal))
        {
            return Apart(new PartId(text[ApartMark.Length..]));
        }

        if (text.StartsWith(OffMark, StringComparison.Ordinal))
        {
            return Off(new WireId(text[OffMark.Length..]));
        }

        var slash = text.IndexOf('/', StringComparison.Ordinal);
        return slash < 0
            ? Bridged(new PartId(text), new ContactId(""))
            : Bridged(new PartId(text[..slash]), new ContactId(text[(slash + 1)..]));
    }

    /// <inheritdoc/>
    public override string ToString() => Text;
}

/// <summary>An entry in the register of bypasses: an alteration found, or a clip lead put on for a test.</summary>
[JsonConverter(typeof(IdentityConverter<BypassId>))]
public readonly record struct BypassId : IIdentity<BypassId>
{
    private const string LeadMark = "lead/";
    private const string Between = " to ";

    private BypassId(AlterationId? found, PointId from, PointId to) => (Found, From, To) = (found, from, to);

    /// <summary>The alteration; null for a clip lead.</summary>
    public AlterationId? Found { get; }

    /// <summary>Where a clip lead begins.</summary>
    public PointId From { get; }

    /// <summary>Where it ends.</summary>
    public PointId To { get; }

    /// <inheritdoc/>
    public string Text => Found?.Text ?? $"{LeadMark}{From.Text}{Between}{To.Text}";

    /// <summary>An alteration as an entry.</summary>
    public static implicit operator BypassId(AlterationId found) => new(found, default, default);

    /// <summary>A clip lead between two points.</summary>
    public static BypassId Lead(PointId from, PointId to) => new(null, from, to);

    /// <inheritdoc/>
    public static BypassId Of(string text)
    {
        if (!text.StartsWith(LeadMark, StringComparison.Ordinal))
        {
            return AlterationId.Of(text);
        }

        var ends = text[LeadMark.Length..].Split(Between, 2);
        return Lead(PointId.Of(ends[0]), PointId.Of(ends.Length > 1 ? ends[1] : ""));
    }

    /// <inheritdoc/>
    public override string ToString() => Text;
}
