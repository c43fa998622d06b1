using System.Text.Json.Serialization;

namespace Pritchel.Core.Identity;

/// <summary>A machine, by its short name.</summary>
/// <param name="Text">As written in files, records and addresses.</param>
[JsonConverter(typeof(IdentityConverter<MachineId>))]
public readonly record struct MachineId(string Text) : IIdentity<MachineId>
{
    /// <inheritdoc/>
    public static MachineId Of(string text) => new(text);

    /// <inheritdoc/>
    public override string ToString() => Text ?? "";
}

/// <summary>A part of a machine.</summary>
/// <param name="Text">As written in files, records and addresses.</param>
[JsonConverter(typeof(IdentityConverter<PartId>))]
public readonly record struct PartId(string Text) : IIdentity<PartId>
{
    /// <summary>A terminal of it.</summary>
    public TerminalAddress At(TerminalId terminal) => new(this, terminal);

    /// <inheritdoc cref="At(TerminalId)"/>
    public TerminalAddress At(string terminal) => new(this, new TerminalId(terminal));

    /// <inheritdoc/>
    public static PartId Of(string text) => new(text);

    /// <inheritdoc/>
    public override string ToString() => Text ?? "";
}

/// <summary>A wire or cable of a machine, as on its wire list.</summary>
/// <param name="Text">As written in files, records and addresses.</param>
[JsonConverter(typeof(IdentityConverter<WireId>))]
public readonly record struct WireId(string Text) : IIdentity<WireId>
{
    /// <summary>Its first end.</summary>
    public WireEndId From => new(this, WireSide.From);

    /// <summary>Its second end.</summary>
    public WireEndId To => new(this, WireSide.To);

    /// <inheritdoc/>
    public static WireId Of(string text) => new(text);

    /// <inheritdoc/>
    public override string ToString() => Text ?? "";
}

/// <summary>A part's own metal bolted to a body.</summary>
/// <param name="Text">As written in files, records and addresses.</param>
[JsonConverter(typeof(IdentityConverter<MountId>))]
public readonly record struct MountId(string Text) : IIdentity<MountId>
{
    /// <inheritdoc/>
    public static MountId Of(string text) => new(text);

    /// <inheritdoc/>
    public override string ToString() => Text ?? "";
}

/// <summary>A place on a machine.</summary>
/// <param name="Text">As written in files, records and addresses.</param>
[JsonConverter(typeof(IdentityConverter<PlaceId>))]
public readonly record struct PlaceId(string Text) : IIdentity<PlaceId>
{
    /// <inheritdoc/>
    public static PlaceId Of(string text) => new(text);

    /// <inheritdoc/>
    public override string ToString() => Text ?? "";
}

/// <summary>Something the operator moves.</summary>
/// <param name="Text">As written in files, records and addresses.</param>
[JsonConverter(typeof(IdentityConverter<ControlId>))]
public readonly record struct ControlId(string Text) : IIdentity<ControlId>
{
    /// <inheritdoc/>
    public static ControlId Of(string text) => new(text);

    /// <inheritdoc/>
    public override string ToString() => Text ?? "";
}

/// <summary>A position of a control, by its name on the control.</summary>
/// <param name="Text">As written in files, records and addresses.</param>
[JsonConverter(typeof(IdentityConverter<PositionId>))]
public readonly record struct PositionId(string Text) : IIdentity<PositionId>
{
    /// <inheritdoc/>
    public static PositionId Of(string text) => new(text);

    /// <inheritdoc/>
    public override string ToString() => Text ?? "";
}

/// <summary>An engine of a machine.</summary>
/// <param name="Text">As written in files, records and addresses.</param>
[JsonConverter(typeof(IdentityConverter<EngineId>))]
public readonly record struct EngineId(string Text) : IIdentity<EngineId>
{
    /// <inheritdoc/>
    public static EngineId Of(string text) => new(text);

    /// <inheritdoc/>
    public override string ToString() => Text ?? "";
}

/// <summary>Something a machine should do: its file's own, or one found by solving it.</summary>
/// <param name="Text">As written in files, records and addresses.</param>
[JsonConverter(typeof(IdentityConverter<DutyId>))]
public readonly record struct DutyId(string Text) : IIdentity<DutyId>
{
    /// <inheritdoc/>
    public static DutyId Of(string text) => new(text);

    /// <inheritdoc/>
    public override string ToString() => Text ?? "";
}

/// <summary>A terminal by the letters on its part.</summary>
/// <param name="Text">As written in files, records and addresses.</param>
[JsonConverter(typeof(IdentityConverter<TerminalId>))]
public readonly record struct TerminalId(string Text) : IIdentity<TerminalId>
{
    /// <inheritdoc/>
    public static TerminalId Of(string text) => new(text);

    /// <inheritdoc/>
    public override string ToString() => Text ?? "";
}

/// <summary>A contact of a switch.</summary>
/// <param name="Text">As written in files, records and addresses.</param>
[JsonConverter(typeof(IdentityConverter<ContactId>))]
public readonly record struct ContactId(string Text) : IIdentity<ContactId>
{
    /// <inheritdoc/>
    public static ContactId Of(string text) => new(text);

    /// <inheritdoc/>
    public override string ToString() => Text ?? "";
}
