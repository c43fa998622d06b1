using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Simulation.Devices;

namespace Pritchel.Core.PartTests.Regulators;

/// <summary>
/// A sound regulator on a sound winding and a full battery, the winding's plug apart or home: what tells one kind of regulator
/// from another. No sheet for a part in hand: it is solved once for every kind and held against what was read.
/// </summary>
/// <param name="winding">The winding that it stands behind.</param>
/// <param name="turns">How many times the usual turns it has.</param>
internal sealed class RegulatorRig(ChargedBy winding, double turns) : PartSheet
{
    internal const string Metal = "metal";
    internal const string Apart = "apart";
    internal const string Plugged = "plugged";
    internal const string Posts = "posts";

    private const string Stator = "stator";

    // Sound ones of one kind lie close beside each other; a few show how close.
    private const int Drawn = 10;

    private static readonly Dictionary<ControlId, PositionId> PlugApart = new() { [BenchMachine.Fed] = new("off") };
    private static readonly Dictionary<ControlId, PositionId> PlugHome = new() { [BenchMachine.Fed] = new("fed") };

    public override string Key => "regulator-kind";

    public override string Name => "Which regulator it is";

    public override string DoesNotProve => "That it is sound.";

    public override int? Draws => Drawn;

    public override bool Fits(DeviceKind kind) => false;

    public override IEnumerable<PartState> States(TestedPart tested, Circuit circuit) => [];

    public override Machine Rig(TestedPart tested)
    {
        var wound = DeviceKinds.Named(winding.Kind)!;
        return new BenchMachine(tested)
            .Battery()
            .Add(Stator, winding.Kind, Winding.Wound(wound, turns), [.. wound.Terminals])
            .Join(tested.Part.At("dc").Text, BenchMachine.SupplyPlus)
            .Join(tested.Part.At("case").Text, BenchMachine.Ground)
            .Join($"{Stator}.case", BenchMachine.Ground)
            .Plug([.. winding.Ends.Select(e => ($"{Stator}.{e.End}", tested.Part.At(e.Leg).Text))])
            .Grounded()
            .Build();
    }

    public override IReadOnlyList<SheetReading> Readings(TestedPart tested)
    {
        var (first, metal) = (
            TerminalAddress.Of($"{Stator}.{winding.Ends[0].End}"),
            TerminalAddress.Of(BenchMachine.Ground)
        );
        var other = winding.Ends.Count > 1 ? TerminalAddress.Of($"{Stator}.{winding.Ends[1].End}") : metal;
        return
        [
            new(Metal, "a winding lead to metal", DeadOhms.Instance, first, metal) { Setting = PlugApart },
            new(Apart, "between winding leads, plug apart", AlternatingVolts.Instance, first, other)
            {
                Setting = PlugApart,
                Speed = DutySpeed.Work,
            },
            new(Plugged, "between winding leads, plugged", AlternatingVolts.Instance, first, other)
            {
                Setting = PlugHome,
                Speed = DutySpeed.Work,
            },
            new(
                Posts,
                "at the battery's posts, plugged",
                DirectVolts.Instance,
                TerminalAddress.Of(BenchMachine.SupplyPlus),
                TerminalAddress.Of(BenchMachine.SupplyMinus)
            )
            {
                Setting = PlugHome,
                Speed = DutySpeed.Work,
            },
        ];
    }
}
