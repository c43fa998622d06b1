namespace Pritchel.Core.Identity;

/// <summary>What of a machine something electrical belongs to.</summary>
public enum OwnerKind
{
    /// <summary>A part.</summary>
    Part,

    /// <summary>A wire's conductor.</summary>
    Wire,

    /// <summary>The joint at a wire's end.</summary>
    Joint,

    /// <summary>A part's metal bolted to a body.</summary>
    Mount,

    /// <summary>A path that a fault lays where the machine has none.</summary>
    Laid,
}

/// <summary>
/// The thing of a machine that a parameter, a branch or a fault belongs to. A part and a wire of the same name are two
/// owners: makers number wires and fuses alike.
/// </summary>
public readonly record struct Owner
{
    private readonly string text;

    private Owner(OwnerKind kind, string text, WireSide side = WireSide.From) =>
        (Kind, this.text, Side) = (kind, text, side);

    /// <summary>What it is.</summary>
    public OwnerKind Kind { get; }

    private WireSide Side { get; }

    /// <summary>The part; null when it is none.</summary>
    public PartId? Part => Kind == OwnerKind.Part ? new PartId(text) : null;

    /// <summary>The wire whose conductor or joint it is; null when it is neither.</summary>
    public WireId? Wire => Kind is OwnerKind.Wire or OwnerKind.Joint ? new WireId(text) : null;

    /// <summary>The wire's end whose joint it is; null when it is none.</summary>
    public WireEndId? Joint => Kind == OwnerKind.Joint ? new WireEndId(new WireId(text), Side) : null;

    /// <summary>The mount; null when it is none.</summary>
    public MountId? Mount => Kind == OwnerKind.Mount ? new MountId(text) : null;

    /// <summary>As written: "key", "12", "12@from/joint".</summary>
    public string Text => Joint is { } end ? end.Text + "/joint" : text ?? "";

    /// <summary>A part.</summary>
    public static Owner Of(PartId part) => new(OwnerKind.Part, part.Text);

    /// <summary>A wire's conductor.</summary>
    public static Owner Of(WireId wire) => new(OwnerKind.Wire, wire.Text);

    /// <summary>The joint at a wire's end.</summary>
    public static Owner Of(WireEndId end) => new(OwnerKind.Joint, end.Wire.Text, end.Side);

    /// <summary>A mount.</summary>
    public static Owner Of(MountId mount) => new(OwnerKind.Mount, mount.Text);

    /// <summary>What a fault lays.</summary>
    public static Owner Of(FaultId fault) => new(OwnerKind.Laid, fault.Text);

    /// <summary>Something within it: a contact, a coil, a cavity, a leg; the whole when nothing is named.</summary>
    public Element Element(string name = "") => new(this, name);

    /// <inheritdoc/>
    public override string ToString() => Text;
}

/// <summary>One conducting element of an owner: a contact, a coil, a cavity; or the owner itself.</summary>
/// <param name="Owner">What it belongs to.</param>
/// <param name="Name">What it is called within it; empty for the whole.</param>
public readonly record struct Element(Owner Owner, string Name)
{
    /// <summary>As written: "key/B-S", "relay/coil", "12".</summary>
    public string Text => Name is { Length: > 0 } ? $"{Owner.Text}/{Name}" : Owner.Text;

    /// <inheritdoc/>
    public override string ToString() => Text;
}

/// <summary>A figure of an element that a case may change; written "relay/coilOhms".</summary>
/// <param name="Of">The element.</param>
/// <param name="Figure">Which figure, ending in its unit.</param>
public readonly record struct ParameterKey(Element Of, string Figure)
{
    /// <inheritdoc/>
    public override string ToString() => $"{Of.Text}/{Figure}";
}

/// <summary>A fault that can sit in one element; written "key/B-S/open". Its text is unique among the faults of one owner.</summary>
/// <param name="Of">What it sits in.</param>
/// <param name="Role">What is wrong there.</param>
public readonly record struct FaultId(Element Of, string Role)
{
    /// <summary>As written.</summary>
    public string Text => $"{Of.Text}/{Role}";

    /// <inheritdoc/>
    public override string ToString() => Text;
}
