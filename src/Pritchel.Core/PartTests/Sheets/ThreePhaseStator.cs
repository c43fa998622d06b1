using Pritchel.Core.Faults;
using Pritchel.Core.Handbook;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>A three-phase stator that floats: pairs alike, none to the core, and its alternating volts at a set speed.</summary>
public sealed class ThreePhaseStator : PartSheet
{
    private static readonly (string From, string To)[] Pairs = [("a", "b"), ("b", "c"), ("c", "a")];

    private static readonly string[] Wires = ["a", "b", "c"];

    /// <inheritdoc/>
    public override string Key => "stator-3";

    /// <inheritdoc/>
    public override string Name => "Three-phase stator";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) =>
        kind.Terminals.SequenceEqual(["a", "b", "c", "case"]) && kind.FollowsWave;

    /// <inheritdoc/>
    public override string Before =>
        "Its plug apart at the stator's own leads; short the probes first and null them or note what they add. Let it cool to the air.";

    /// <inheritdoc/>
    public override string Caution =>
        "AC at speed: clip both leads on first, hands off, nothing near belts, blades and exhaust. An open stator gives a hundred volts and more.";

    /// <inheritdoc/>
    public override bool IsCopper(SheetReading reading) => reading.Observable is DeadOhms || ByKnownCurrent.Is(reading);

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "Windings that measure alike cold can still open hot, and a few turns shorted hide in the leads' doubt: alternating volts at one speed, pair by pair, show those. Nothing here tests its plug or the magnets.";

    /// <inheritdoc/>
    public override IReadOnlyList<SheetLook> Looks =>
        [
            new("varnish", "varnish burnt or brown on one leg", FaultKind.ShortedWinding, FaultKind.Chafed),
            new("solder", "solder at the joints cracked", FaultKind.Open, FaultKind.HighResistance),
            new("rub", "rub marks on the laminations", FaultKind.Chafed),
            new("pinched", "a lead pinched under its guide", FaultKind.Chafed, FaultKind.Open),
        ];

    /// <inheritdoc/>
    public override string? WhileOpen =>
        "While the flywheel is off: every lead to the core, each joint moved, magnets and key looked at. Leads pulled through and tied, read them again before it goes back on.";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        [
            "Copper gains 0.393 % a kelvin (IEC 60028).",
            "Legs alike within 10 %, 0.1 to 1 ohm between output wires: common practice, no source.",
        ];

    /// <inheritdoc/>
    public override Machine Rig(TestedPart tested) => new BenchMachine(tested).KnownCurrent(tested.Part, Pairs).Build();

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested) =>
        [
            .. Pairs.Select(p => new SheetReading(
                $"ohms-{p.From}-{p.To}",
                $"Ohms, {p.From} to {p.To}",
                DeadOhms.Instance,
                At(tested, p.From),
                At(tested, p.To)
            )),
            .. Wires.Select(t => new SheetReading(
                $"core-{t}",
                $"Ohms, {t} to core",
                DeadOhms.Instance,
                At(tested, t),
                At(tested, "case")
            )
            {
                How = "bright metal of the core; expect OL",
            }),
            .. Pairs.Select(p => new SheetReading(
                $"ac-{p.From}-{p.To}",
                $"AC volts at 3000 rpm, {p.From} to {p.To}",
                AlternatingVolts.Instance,
                At(tested, p.From),
                At(tested, p.To)
            )
            {
                How = "plug apart, the same speed for all three; leave out what cannot be run",
                Speed = DutySpeed.Work,
                Caution = AlternatingVolts.Instance.Caution(null),
            }),
            .. ByKnownCurrent.Readings(tested, Pairs),
        ];

    /// <inheritdoc/>
    public override IEnumerable<ArithmeticLine> Arithmetic(
        TestedPart tested,
        IReadOnlyDictionary<string, double> read,
        double celsius
    )
    {
        foreach (var line in ByKnownCurrent.Arithmetic(read, Pairs))
        {
            yield return line;
        }

        if (!Pairs.All(p => read.TryGetValue($"ohms-{p.From}-{p.To}", out var ohms) && double.IsFinite(ohms)))
        {
            yield break;
        }

        var pairs = StatorLegs.Of(read["ohms-a-b"], read["ohms-b-c"], read["ohms-c-a"]);
        var to20 = Copper.At20(1, celsius);
        foreach (var (leg, sum) in new[] { ("a", "ab + ca − bc"), ("b", "ab + bc − ca"), ("c", "bc + ca − ab") })
        {
            var ohms = pairs.Star(leg);
            yield return new($"leg {leg}: ({sum}) ÷ 2, in star", Engineering.Format(ohms, "Ω"));
            yield return new(
                $"  at 20 °C: × {to20.ToString("0.000", System.Globalization.CultureInfo.InvariantCulture)}",
                Engineering.Format(ohms * to20, "Ω")
            );
        }

        yield return new(
            "unlike by, against the mean of the legs",
            pairs.Imbalance.ToString("P0", System.Globalization.CultureInfo.InvariantCulture)
        );
    }
}
