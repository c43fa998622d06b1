using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>A charge winding grounded at one end, tapped or not: each part to its core, and its alternating volts at a set speed.</summary>
public sealed class GroundedWindings : PartSheet
{
    /// <inheritdoc/>
    public override string Key => "grounded-winding";

    /// <inheritdoc/>
    public override string Name => "Grounded charge winding";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) =>
        kind.FollowsWave && kind.Terminals.Contains("out") && kind.Terminals.Contains("case");

    /// <inheritdoc/>
    public override string Before =>
        "Its plug apart; on its engine or on its plate, whose bright metal is its other end. One that beeps to its core is as it should be.";

    /// <inheritdoc/>
    public override string Caution =>
        "AC at speed: clip both leads on first, hands off, nothing near belts, blades and exhaust.";

    /// <inheritdoc/>
    public override bool IsCopper(SheetReading reading) => reading.Observable is DeadOhms;

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "A few turns shorted hide in the leads' doubt: alternating volts at a set speed show them. A magnet that has come loose or weak reads here as turns lost.";

    /// <inheritdoc/>
    public override string? WhileOpen =>
        "While the flywheel is off: every lead to the core, each joint moved, magnets and key looked at. Leads pulled through and tied, read them again before it goes back on.";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        [
            "0.1 to 1 ohm, and volts in proportion to speed: common practice, no source.",
            "Tap to ground and tap to end make the whole: arithmetic.",
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested)
    {
        string[] ends = [.. tested.Part.Terminals.Select(t => t.Text).Where(t => t != "case")];
        return
        [
            .. ends.Select(t => new SheetReading(
                $"ohms-{t}",
                $"Ohms, {t} to core",
                DeadOhms.Instance,
                At(tested, t),
                At(tested, "case")
            )),
            .. ends.Length > 1
                ?
                [
                    new SheetReading(
                        "ohms-between",
                        $"Ohms, {ends[0]} to {ends[1]}",
                        DeadOhms.Instance,
                        At(tested, ends[0]),
                        At(tested, ends[1])
                    ),
                ]
                : Array.Empty<SheetReading>(),
            .. ends.Select(t => new SheetReading(
                $"ac-{t}",
                $"AC volts at 3000 rpm, {t} to core",
                AlternatingVolts.Instance,
                At(tested, t),
                At(tested, "case")
            )
            {
                How = "plug apart; leave out what cannot be run",
                Speed = DutySpeed.Work,
                Caution = AlternatingVolts.Instance.Caution(null),
            }),
        ];
    }

    /// <inheritdoc/>
    public override IEnumerable<ArithmeticLine> Arithmetic(
        TestedPart tested,
        IReadOnlyDictionary<string, double> read,
        double celsius
    )
    {
        if (
            read.TryGetValue("ohms-out", out var whole)
            && read.TryGetValue("ohms-tap", out var tap)
            && read.TryGetValue("ohms-between", out var between)
            && double.IsFinite(whole + tap + between)
        )
        {
            yield return new(
                "tap to core and tap to end, against the whole",
                $"{Units.Engineering.Format(tap + between, "Ω")} and {Units.Engineering.Format(whole, "Ω")}"
            );
            if (Math.Abs(tap + between - whole) > Math.Max(0.15, 0.1 * whole))
            {
                yield return new("they do not make the whole", "a slip, or a joint: read them again");
            }
        }
    }
}
