using Pritchel.Core.Faults;
using Pritchel.Core.Units;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>A stator of one phase that floats: lead to lead, neither to the core.</summary>
public sealed class SinglePhaseStator : FloatingStator
{
    /// <inheritdoc/>
    public override string Key => "stator-1";

    /// <inheritdoc/>
    public override string Name => "Single-phase stator";

    /// <inheritdoc/>
    protected override IReadOnlyList<string> Leads { get; } = ["a", "b"];

    /// <inheritdoc/>
    protected override IReadOnlyList<(string From, string To)> Pairs { get; } = [("a", "b")];

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
    public override IReadOnlyList<string> Sources =>
        [
            "Copper gains 0.393 % a kelvin (IEC 60028).",
            "0.1 to 1 ohm, both leads OL to the core, AC in proportion to speed: common practice, no source.",
        ];

    /// <inheritdoc/>
    protected override double OhmsFrom(string lead, IReadOnlyDictionary<string, double> read) =>
        read[Of("ohms", "a", "b")];

    /// <inheritdoc/>
    protected override IEnumerable<ArithmeticLine> OfWindings(IReadOnlyDictionary<string, double> read, double to20)
    {
        yield return new("winding at 20 °C", Engineering.Format(read[Of("ohms", "a", "b")] * to20, "Ω"));
    }
}
