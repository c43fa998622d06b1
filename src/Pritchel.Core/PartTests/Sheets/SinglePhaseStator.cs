using Pritchel.Core.Faults;
using Pritchel.Core.Handbook;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>A stator of one phase that floats: lead to lead, neither to the core, and its alternating volts at a set speed.</summary>
public sealed class SinglePhaseStator : PartSheet
{
    private static readonly (string From, string To)[] Pair = [("a", "b")];

    private static readonly string[] Leads = ["a", "b"];

    /// <inheritdoc/>
    public override string Key => "stator-1";

    /// <inheritdoc/>
    public override string Name => "Single-phase stator";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => kind.Terminals.SequenceEqual(["a", "b", "case"]) && kind.FollowsWave;

    /// <inheritdoc/>
    public override string Before =>
        "Its plug apart at the stator's own leads; short the probes first and null them or note what they add. Let it cool to the air.";

    /// <inheritdoc/>
    public override string Caution => AlternatingVolts.Instance.Caution(null);

    /// <inheritdoc/>
    public override bool IsCopper(SheetReading reading) => reading.Observable is DeadOhms || ByKnownCurrent.Is(reading);

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "It has no sister leg to be compared with: a few turns shorted hide between makes until its maker's volts are known. A magnet that is weak or loose reads here as turns lost.";

    /// <inheritdoc/>
    public override IReadOnlyList<SheetLook> Looks =>
        [
            new("varnish", "varnish burnt or brown on some poles", FaultKind.ShortedWinding, FaultKind.Chafed),
            new("solder", "solder at the joints cracked", FaultKind.Open, FaultKind.HighResistance),
            new("rub", "rub marks on the laminations", FaultKind.Chafed),
            new("magnet", "a magnet loose in the flywheel, or rust on its face"),
        ];

    /// <inheritdoc/>
    public override string? WhileOpen =>
        "While the flywheel is off: every lead to the core, each joint moved, magnets and key looked at. Leads pulled through and tied, read them again before it goes back on.";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        [
            "Copper gains 0.393 % a kelvin (IEC 60028).",
            "0.1 to 1 ohm, both leads OL to the core, AC in proportion to speed: common practice, no source.",
        ];

    /// <inheritdoc/>
    public override Machine Rig(TestedPart tested) => new BenchMachine(tested).KnownCurrent(tested.Part, Pair).Build();

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested) =>
        [
            new("ohms", "Ohms, a to b", DeadOhms.Instance, At(tested, "a"), At(tested, "b")),
            .. Leads.Select(t => new SheetReading(
                $"core-{t}",
                $"Ohms, {t} to core",
                DeadOhms.Instance,
                At(tested, t),
                At(tested, "case")
            )
            {
                How = "bright metal of the core; expect OL",
            }),
            new("ac", "AC volts at 3000 rpm, a to b", AlternatingVolts.Instance, At(tested, "a"), At(tested, "b"))
            {
                How = "plug apart; leave it out where the engine cannot be run",
                Speed = DutySpeed.Work,
                Caution = AlternatingVolts.Instance.Caution(null),
            },
            .. ByKnownCurrent.Readings(tested, Pair),
        ];

    /// <inheritdoc/>
    public override IEnumerable<ArithmeticLine> Arithmetic(
        TestedPart tested,
        IReadOnlyDictionary<string, double> read,
        double celsius
    )
    {
        foreach (var line in ByKnownCurrent.Arithmetic(read, Pair))
        {
            yield return line;
        }

        if (read.TryGetValue("ohms", out var ohms) && double.IsFinite(ohms))
        {
            yield return new("winding at 20 °C", Engineering.Format(Copper.At20(ohms, celsius), "Ω"));
        }

        // Both leads beep to the core through one burn: which share of the winding lies on either side of it.
        if (
            read.TryGetValue("core-a", out var a)
            && read.TryGetValue("core-b", out var b)
            && double.IsFinite(a + b)
            && a + b > 0
        )
        {
            yield return new(
                $"{Engineering.Format(a, "Ω")} from a, {Engineering.Format(b, "Ω")} from b: the leak sits at",
                (a / (a + b)).ToString("P0", System.Globalization.CultureInfo.InvariantCulture) + " of the way from a"
            );
        }
    }
}
