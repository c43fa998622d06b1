using Pritchel.Core.Faults;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>
/// A brushed generator's head, dead: legs against each other, the excitation winding, the rotor at its brushes and then on its
/// rings, and each to the frame.
/// </summary>
public sealed class GeneratorHead : PartSheet
{
    private static readonly (string Id, string From, string To, string Words, string How)[] Pairs =
    [
        ("leg-1", "1a", "1b", "first output leg", "its twin within a few hundredths"),
        ("leg-2", "2a", "2b", "second output leg", "its twin within a few hundredths"),
        ("excitation", "ea", "eb", "excitation winding", ""),
        ("brushes", "F+", "F-", "rotor at its brushes", "the rotor still; turn it a little, keep the worst"),
        ("rings", "R+", "R-", "rotor on its rings", "brushes lifted; open here too is the winding or its joint"),
    ];

    /// <inheritdoc/>
    public override string Key => "generator";

    /// <inheritdoc/>
    public override string Name => "Generator head";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => kind.Terminals.Contains("R+") && kind.Terminals.Contains("ea");

    /// <inheritdoc/>
    public override string Before =>
        "Engine stopped and its plug lead off; breakers off, selectors as drawn, everything unplugged from the outlets; the regulator off the brushes and off the excitation winding.";

    /// <inheritdoc/>
    public override string Caution =>
        "De-energised only. Mains volts are on these terminals the moment the engine turns: nothing here is read running but at the outlets, with a meter rated for it, by who may do so under local rules.";

    /// <inheritdoc/>
    public override bool IsCopper(SheetReading reading) => reading.Observable is DeadOhms;

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "Windings that read well cold may break down hot; residual magnetism, the regulator and the polarity of its feed are not in these readings.";

    /// <inheritdoc/>
    public override IReadOnlyList<SheetLook> Looks =>
        [
            new("brushes", "brushes shorter than their holder shows", FaultKind.Open, FaultKind.HighResistance),
            new("rings", "rings grooved, black or oily", FaultKind.Open, FaultKind.HighResistance),
            new("varnish", "varnish burnt, a wire off a ring", FaultKind.ShortedWinding, FaultKind.Open),
            new("water", "water or mice in the head", FaultKind.Chafed),
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        [
            "Rotor from single ohms to about 100 by size, legs 0.2 to 1.5 ohm and alike: common practice, no source; judge a leg by its twin, and by its maker.",
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested) =>
        [
            .. Pairs.Select(p => new SheetReading(
                p.Id,
                $"Ohms of the {p.Words}, {p.From} to {p.To}",
                DeadOhms.Instance,
                At(tested, p.From),
                At(tested, p.To)
            )
            {
                How = p.How,
            }),
            .. Pairs.Select(p => new SheetReading(
                $"{p.Id}-frame",
                $"Ohms, {p.Words} to the frame",
                DeadOhms.Instance,
                At(tested, p.From),
                At(tested, "case")
            )
            {
                How = "bright metal; expect OL where the neutral is not bonded",
            }),
        ];
}
