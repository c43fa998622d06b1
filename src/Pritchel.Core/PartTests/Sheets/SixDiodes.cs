using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>
/// A plain bridge read leg by leg on the diode range: every combination of its diodes good, open or shorted is weighed, and what
/// cannot be told apart is said together.
/// </summary>
public sealed class PlainBridge : PartSheet
{
    // Diodes fail shorted oftener than open: from memory.
    private const double OpenRate = 1;
    private const double ShortedRate = 2;
    private const double Odds = 0.05;

    private static readonly string[] Poles = ["+", "-"];
    private static readonly bool[] Ways = [true, false];

    /// <inheritdoc/>
    public override string Key => "bridge";

    /// <inheritdoc/>
    public override string Name => "Bridge rectifier";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => kind.Terminals.SequenceEqual(["a", "b", "+", "-"]);

    /// <inheritdoc/>
    public override string Before =>
        "Everything off its leads; a potted regulator is no plain bridge and reads open both ways when healthy.";

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "Diodes that are good at a milliamp may break down at the volts and heat of work.";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        ["0.4 to 0.7 V one way and open the other: common practice, no source."];

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested) =>
        [
            .. from leg in Legs(tested)
            from pole in Poles
            from forward in Ways
            let red = (pole == "+") == forward ? leg : pole
            let black = red == leg ? pole : leg
            select new SheetReading(
                $"diode-{red}-{black}",
                $"Diode range, red on {red}, black on {black}",
                DiodeVolts.Instance,
                At(tested, red),
                At(tested, black)
            )
            {
                How = forward ? "forward: 0.4 to 0.7 V" : "backward: OL",
            },
        ];

    /// <inheritdoc/>
    public override IEnumerable<PartState> States(TestedPart tested, Circuit circuit)
    {
        var diodes = circuit
            .Faults.Where(f => f.Id.Of.Owner.Part == tested.Part.Id)
            .GroupBy(f => f.Nodes)
            .Select(g => g.Where(f => f.Kind is FaultKind.Open or FaultKind.StuckClosed).ToList())
            .Where(g => g.Count > 0)
            .ToList();
        IEnumerable<PartState> states = [new PartState([], 1)];
        foreach (var diode in diodes)
        {
            states = states.SelectMany(s =>
                diode
                    .Select(f => new PartState(
                        [.. s.Faults, f],
                        s.Rate * Odds * (f.Kind == FaultKind.Open ? OpenRate : ShortedRate)
                    ))
                    .Prepend(s)
            );
        }

        return states.Select(s =>
            s with
            {
                Said = s.IsSound ? null : string.Join(" and ", s.Faults.Select(f => Said(circuit, f))),
            }
        );
    }

    private static string Said(Circuit circuit, Fault fault)
    {
        string Terminal(int node) => circuit.TerminalsAt(node).First(a => a.Part != new PartId("bench")).Terminal.Text;
        return $"diode {Terminal(fault.Nodes.From)} to {Terminal(fault.Nodes.To)} {(fault.Kind == FaultKind.Open ? "open" : "shorted")}";
    }

    private static IEnumerable<string> Legs(TestedPart tested) =>
        tested.Part.Terminals.Select(t => t.Text).Where(t => t is not "+" and not "-");
}
