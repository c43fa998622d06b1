using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>What a relay and a solenoid that closes contacts share: coil ohms, then contacts let go and pulled in.</summary>
public abstract class CoilAndContacts : PartSheet
{
    /// <inheritdoc/>
    public override string Before =>
        "Off its base or its cables. Feed its coil from a charged battery through a fused lead; the contact posts stay free.";

    /// <inheritdoc/>
    public override string Caution =>
        "A fused lead on the coil; nothing on the heavy posts. Seconds only where it grows warm.";

    /// <inheritdoc/>
    public override bool IsCopper(SheetReading reading) => reading.Id == "coil";

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "A contact that reads well at a milliamp may lose volts at its own current: read millivolts across it on the machine, working. A coil that pulls in at a full battery may not while the engine is cranked.";

    /// <inheritdoc/>
    public override IReadOnlyList<SheetLook> Looks =>
        [
            new("browned", "melted or browned case", FaultKind.HighResistance, FaultKind.Open),
            new("blades", "green or loose blades", FaultKind.HighResistance),
            new("silent", "no click heard or felt when its coil is fed", FaultKind.Open),
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        ["Relay coils 50 to 120 ohm, solenoid coils 3 to 6 ohm, pull-in by 7 to 8 V: common practice, no source."];

    /// <summary>The coil's terminals, plus first.</summary>
    protected abstract (string Plus, string Minus) Coil { get; }

    /// <summary>Contacts: two terminals, and whether they are joined at rest.</summary>
    protected abstract IReadOnlyList<(string From, string To)> Contacts { get; }

    /// <inheritdoc/>
    public override Machine Rig(TestedPart tested) =>
        new BenchMachine(tested).Feed(tested.Part, Coil.Plus, Coil.Minus).Build();

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested) =>
        [
            new(
                "coil",
                $"Ohms of the coil, {Coil.Plus} to {Coil.Minus}",
                DeadOhms.Instance,
                At(tested, Coil.Plus),
                At(tested, Coil.Minus)
            )
            {
                How = "its feed off",
            },
            .. Contacts.Select(c => Contact(tested, c, fed: false)),
            .. Contacts.Select(c => Contact(tested, c, fed: true)),
        ];

    private static SheetReading Contact(TestedPart tested, (string From, string To) contact, bool fed) =>
        new(
            $"{(fed ? "fed" : "rest")}-{contact.From}-{contact.To}",
            $"Ohms, {contact.From} to {contact.To}, {(fed ? "coil fed" : "coil not fed")}",
            DeadOhms.Instance,
            At(tested, contact.From),
            At(tested, contact.To)
        )
        {
            How = fed ? "feed the coil, click it three times, keep the worst" : "",
            Setting = new Dictionary<ControlId, PositionId> { [BenchMachine.Fed] = new(fed ? "fed" : "off") },
        };
}

/// <summary>A plug-in relay, numbered after DIN 72552.</summary>
public sealed class PlugInRelay : CoilAndContacts
{
    /// <inheritdoc/>
    public override string Key => "relay";

    /// <inheritdoc/>
    public override string Name => "Plug-in relay";

    /// <inheritdoc/>
    protected override (string Plus, string Minus) Coil => ("86", "85");

    /// <inheritdoc/>
    protected override IReadOnlyList<(string From, string To)> Contacts => [("30", "87"), ("30", "87a")];

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => kind.Terminals.SequenceEqual(["85", "86", "30", "87", "87a"]);
}

/// <summary>A start relay or remote solenoid with one winding.</summary>
public sealed class RemoteSolenoid : CoilAndContacts
{
    /// <inheritdoc/>
    public override string Key => "start-solenoid";

    /// <inheritdoc/>
    public override string Name => "Start relay or remote solenoid";

    /// <inheritdoc/>
    protected override (string Plus, string Minus) Coil => ("S", "case");

    /// <inheritdoc/>
    protected override IReadOnlyList<(string From, string To)> Contacts => [("B", "M")];

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) =>
        kind.Terminals.SequenceEqual(["B", "M", "S", "case"]) && kind.Values.Any(v => v.Name == "coilOhms");
}
