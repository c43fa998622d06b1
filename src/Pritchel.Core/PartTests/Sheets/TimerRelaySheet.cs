using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>A delay timer: its contact at rest, while its trigger is fed, at once after it and when its time is over.</summary>
public sealed class TimerRelaySheet : PartSheet
{
    // Over what any timer of these machines lasts for.
    private static readonly TimeSpan Over = TimeSpan.FromMinutes(20);
    private static readonly TimeSpan AtOnce = TimeSpan.FromSeconds(0.05);
    private static readonly Dictionary<ControlId, PositionId> Off = new() { [BenchMachine.Fed] = new("off") };
    private static readonly Dictionary<ControlId, PositionId> On = new() { [BenchMachine.Fed] = new("fed") };

    /// <inheritdoc/>
    public override string Key => "timer";

    /// <inheritdoc/>
    public override string Name => "Delay timer";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => kind.Name.StartsWith("timer-", StringComparison.Ordinal);

    /// <inheritdoc/>
    public override string Before =>
        "Off its base. 31 to battery minus, 15 to plus through a fused lead that stands for the key; a meter from 30 to 87 listens for its contact, and a watch counts.";

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "A time that is right on the bench may run short hot or at low volts. A contact that joins for the meter may lose volts at its solenoid's amps.";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources => ["Terminals 15, 30, 31, 87: DIN 72552."];

    /// <inheritdoc/>
    public override Machine Rig(TestedPart tested) => new BenchMachine(tested).Feed(tested.Part, "15", "31").Build();

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested) =>
        [
            Contact(tested, "rest", "not fed, a while at rest", Off),
            Contact(tested, "fed", "at once as 15 is fed", On) with
            {
                Wait = AtOnce,
            },
            Contact(tested, "fed-long", "15 fed, when its time is over", On) with
            {
                Wait = Over,
            },
            Contact(tested, "let-go", "at once as 15 is let go", Off) with
            {
                From = On,
                Wait = AtOnce,
            },
            Contact(tested, "over", "15 let go, when its time is over", Off) with
            {
                From = On,
                Wait = Over,
            },
        ];

    private static SheetReading Contact(
        TestedPart tested,
        string id,
        string when,
        Dictionary<ControlId, PositionId> setting
    ) =>
        new(id, $"Ohms, 30 to 87, {when}", DeadOhms.Instance, At(tested, "30"), At(tested, "87"))
        {
            How = "count the seconds and note them with what was seen",
            Setting = setting,
        };
}
