using Pritchel.Core.Faults;
using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>
/// A brushed generator running, read at its outlets only: what its residue makes with the regulator off the brushes, then each
/// leg with it on.
/// </summary>
public sealed class GeneratorRunning : PartSheet
{
    private const string Regulator = "voltage-regulator";

    // The regulator's own faults, for a part of the head's: common practice, no source.
    private const double RegulatorRate = 3;

    // How steady an engine without a governor's help is held: from memory.
    private const double SpeedShare = 0.05;

    // What a broken winding still picks up from what turns beside it: from memory.
    private const double StrayVolts = 0.1;
    private const double BuildsUp = 8;

    private static readonly Dictionary<ControlId, PositionId> Off = new() { [BenchMachine.Fed] = new("off") };
    private static readonly Dictionary<ControlId, PositionId> On = new() { [BenchMachine.Fed] = new("fed") };

    /// <inheritdoc/>
    public override string Key => "generator-running";

    /// <inheritdoc/>
    public override string Name => "Generator, running";

    /// <inheritdoc/>
    public override bool IsAtWork => true;

    /// <inheritdoc/>
    public override int Rank => 1;

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => kind.Terminals.Contains("R+") && kind.Terminals.Contains("ea");

    /// <inheritdoc/>
    public override string Before =>
        "Nothing plugged in but the meter, by its own plug, put in before it is started. Sort the outlets into legs first: those that read alike with one breaker open are one leg. The regulator is unplugged and plugged at rest only.";

    /// <inheritdoc/>
    public override string Caution =>
        "Mains volts: only at an outlet, with a meter and leads rated for it, by who may do so under local rules. Covers on, outdoors, hands dry, nothing else touched while it turns.";

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "Full volts with nothing drawing say little of a brush or a joint under load: a lamp of some hundred watts on each leg, and read again. Frequency follows the governor.";

    /// <inheritdoc/>
    public override IReadOnlyList<SheetLook> Looks =>
        [
            new("stood", "stood for a year or more, or was stopped under load", FaultKind.Feeble),
            new("brushes", "brushes short, stuck, or a lead off them", FaultKind.Open, FaultKind.HighResistance),
            new("regulator", "regulator's resin burst or burnt"),
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        ["Residual magnetism alone makes about 1 to 5 V: common practice, no source."];

    /// <inheritdoc/>
    public override Machine Rig(TestedPart tested)
    {
        string At(string terminal) => tested.Part.At(terminal).Text;
        return new BenchMachine(tested)
            .Add(Regulator, "generator-regulator", null, "ea", "eb", "F+", "F-")
            .Join(At("ea"), Regulator + ".ea")
            .Join(At("eb"), Regulator + ".eb")
            .Switch("Regulator", Regulator + ".F+", At("F+"))
            .Join(At("F-"), Regulator + ".F-")
            .Join(At("case"), "bench.bolt")
            .Join(At("1b"), "bench.bolt")
            .Join(At("2b"), "bench.bolt")
            .Build();
    }

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested) =>
        [
            Leg(tested, "residue", "1", "first leg, regulator off the brushes", Off) with
            {
                How = "a few volts: the iron still holds its magnetism",
            },
            Leg(tested, "leg-1", "1", "first leg, all plugged", On),
            Leg(tested, "leg-2", "2", "second leg, all plugged", On) with
            {
                How = "its twin within a few volts",
            },
        ];

    /// <inheritdoc/>
    public override int? Draws => 64;

    /// <summary>One that builds up: many times its residue.</summary>
    public override bool CouldBeSound(IReadOnlyDictionary<string, double> figures) =>
        figures["leg-1"] > BuildsUp * figures["residue"];

    /// <inheritdoc/>
    public override IEnumerable<PartState> States(TestedPart tested, Circuit circuit) =>
        base.States(tested, circuit)
            .Concat(
                circuit
                    .Faults.Where(f =>
                        f.Id.Of.Owner.Part?.Text == Regulator && f.Kind is FaultKind.Open or FaultKind.Overcharging
                    )
                    .Select(f => new PartState([f], RegulatorRate))
            );

    /// <inheritdoc/>
    public override RepairGuide? Remedy(PartState state) =>
        state.Faults is [{ Repair: { Kind: RepairKind.FlashField } repair } fault]
            ? RepairSteps.For(repair.Kind, fault.Kind, sparks: true)
            : null;

    private SheetReading Leg(
        TestedPart tested,
        string id,
        string leg,
        string when,
        Dictionary<ControlId, PositionId> setting
    ) =>
        new(
            id,
            $"AC volts at an outlet of the {when}, at 3000 rpm",
            AlternatingVolts.Instance,
            At(tested, leg + "a"),
            At(tested, leg + "b")
        )
        {
            Setting = setting,
            Speed = DutySpeed.Work,
            Caution = Caution,
            Doubt = StrayVolts,
            DoubtShare = SpeedShare,
        };
}
