using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>A solenoid on its starter, with a pull-in and a hold winding: each by ohms, both fed for a second, contacts.</summary>
public sealed class TwoWindingSolenoid : PartSheet
{
    private static readonly Dictionary<ControlId, PositionId> Fed = new() { [BenchMachine.Fed] = new("fed") };

    /// <inheritdoc/>
    public override string Key => "two-winding-solenoid";

    /// <inheritdoc/>
    public override string Name => "Solenoid on the starter";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) =>
        kind.Terminals.SequenceEqual(["B", "M", "S", "case"]) && kind.Values.Any(v => v.Name == "pullInOhms");

    /// <inheritdoc/>
    public override string Before =>
        "The motor's strap off M, or the motor is measured with it. Short the probes first: both windings are near an ohm.";

    /// <inheritdoc/>
    public override string Caution =>
        "Fed without its motor the pull-in winding has no end, so M is joined to its case by a heavy lead: a second or two only, fingers clear of the plunger and its fork.";

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "Contacts that join at a milliamp may lose volts at a starter's amps: read millivolts across B and M while it cranks. That it holds on low volts is not read here; nor is its mounting, which is the hold winding's way home.";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        ["Pull-in 0.2 to 0.8 ohm, hold 0.8 to 2 ohm on small 12 V starters: from memory."];

    /// <inheritdoc/>
    public override bool IsCopper(SheetReading reading) => reading.Id is "pull-in" or "hold";

    /// <inheritdoc/>
    public override Machine Rig(TestedPart tested) =>
        new BenchMachine(tested)
            .Feed(tested.Part, "S", "case")
            .Add("motor-strap", "switch", BenchMachine.Value("contactOhms", 0.0005), "1", "2")
            .Closed("motor-strap")
            .Join(tested.Part.At("M").Text, "motor-strap.1")
            .Join("motor-strap.2", "bench.bolt")
            .Build();

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested) =>
        [
            new("pull-in", "Ohms of the pull-in winding, S to M", DeadOhms.Instance, At(tested, "S"), At(tested, "M"))
            {
                How = "lowest range, leads taken off",
            },
            new(
                "hold",
                "Ohms of the hold winding, S to its case",
                DeadOhms.Instance,
                At(tested, "S"),
                At(tested, "case")
            )
            {
                How = "bright metal of its case",
            },
            new("rest", "Ohms of the contacts, B to M, at rest", DeadOhms.Instance, At(tested, "B"), At(tested, "M")),
            new(
                "pulls",
                "Fed at S, M joined to its case: does it pull in, loudly?",
                ActionSeen.Instance,
                At(tested, "S"),
                At(tested, "case")
            )
            {
                How = "a second; feel the plunger go all the way",
                Setting = Fed,
                Caution = Caution,
            },
            new(
                "closed",
                "Ohms of the contacts, B to M, while it is in",
                DeadOhms.Instance,
                At(tested, "B"),
                At(tested, "M")
            )
            {
                How = "fed for a second, three times, the worst counts",
                Setting = Fed,
                Caution = Caution,
            },
            new(
                "let-go",
                "Ohms of the contacts, B to M, after it was let go",
                DeadOhms.Instance,
                At(tested, "B"),
                At(tested, "M")
            )
            {
                How = "open again: OL",
                From = Fed,
            },
        ];
}
