using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>
/// Any part whose inside an ordinary meter sees: ohms between every two of its terminals, and the diode range both ways where it
/// conducts one way. Pairs that show the same whatever is wrong are left out by themselves.
/// </summary>
public sealed class AnyTwoTerminals : PartSheet
{
    private const int MostTerminals = 8;

    /// <inheritdoc/>
    public override string Key => "terminals";

    /// <inheritdoc/>
    public override string Name => "Terminal by terminal";

    /// <inheritdoc/>
    public override int Rank => 100;

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) =>
        !kind.HidesInside
        && (kind.Traits & (PartTraits.StoresCharge | PartTraits.IsMetal | PartTraits.IsSwitched | PartTraits.IsSplice))
            == PartTraits.None
        && kind.Terminals.Count is > 1 and <= MostTerminals;

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "Ohms are read with next to no current: a joint that carries an ampere may still fail at fifty, and what opens when hot or shaken reads well cold and still.";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        [
            "Figures usual for the kind are from memory and differ by a third from make to make; your maker's come first.",
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested)
    {
        var terminals = tested.Part.Terminals;
        var readings = new List<SheetReading>();
        for (var i = 0; i < terminals.Count; i++)
        {
            for (var j = i + 1; j < terminals.Count; j++)
            {
                var (a, b) = (terminals[i].Text, terminals[j].Text);
                if (tested.Kind.Traits.HasFlag(PartTraits.IsOneWay))
                {
                    readings.Add(Diode(tested, a, b));
                    readings.Add(Diode(tested, b, a));
                }

                readings.Add(
                    new SheetReading(
                        $"ohms-{a}-{b}",
                        $"Ohms, {a} to {b}",
                        DeadOhms.Instance,
                        At(tested, a),
                        At(tested, b)
                    )
                );
            }
        }

        return readings;
    }

    private static SheetReading Diode(TestedPart tested, string red, string black) =>
        new(
            $"diode-{red}-{black}",
            $"Diode range, red on {red}, black on {black}",
            DiodeVolts.Instance,
            At(tested, red),
            At(tested, black)
        );
}
