using System.Globalization;
using Pritchel.Core.Faults;
using Pritchel.Core.Units;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>A three-phase stator that floats: pairs alike, none to the core.</summary>
public sealed class ThreePhaseStator : FloatingStator
{
    /// <inheritdoc/>
    public override string Key => "stator-3";

    /// <inheritdoc/>
    public override string Name => "Three-phase stator";

    /// <inheritdoc/>
    protected override IReadOnlyList<string> Leads { get; } = ["a", "b", "c"];

    /// <inheritdoc/>
    protected override IReadOnlyList<(string From, string To)> Pairs { get; } = [("a", "b"), ("b", "c"), ("c", "a")];

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
    public override IReadOnlyList<string> Sources =>
        [
            "Copper gains 0.393 % a kelvin (IEC 60028).",
            "Legs alike within 10 %, 0.1 to 1 ohm between output wires: common practice, no source.",
        ];

    /// <inheritdoc/>
    protected override double OhmsFrom(string lead, IReadOnlyDictionary<string, double> read) => Legs(read).Star(lead);

    /// <inheritdoc/>
    protected override IEnumerable<ArithmeticLine> OfWindings(IReadOnlyDictionary<string, double> read, double to20)
    {
        var legs = Legs(read);
        foreach (var (leg, sum) in new[] { ("a", "ab + ca − bc"), ("b", "ab + bc − ca"), ("c", "bc + ca − ab") })
        {
            var ohms = legs.Star(leg);
            yield return new($"leg {leg}: ({sum}) ÷ 2, in star", Engineering.Format(ohms, "Ω"));
            yield return new(
                $"  at 20 °C: × {to20.ToString("0.000", CultureInfo.InvariantCulture)}",
                Engineering.Format(ohms * to20, "Ω")
            );
        }

        yield return new(
            "unlike by, against the mean of the legs",
            legs.Imbalance.ToString("P0", CultureInfo.InvariantCulture)
        );
    }

    private static StatorLegs Legs(IReadOnlyDictionary<string, double> read) =>
        StatorLegs.Of(read["ohms-a-b"], read["ohms-b-c"], read["ohms-c-a"]);
}
