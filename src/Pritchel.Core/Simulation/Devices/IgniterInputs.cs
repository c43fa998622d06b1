using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// What an ignition module reads on leads that a switch grounds, each pulled up inside: "stand" and "neutral", of which one
/// grounded is enough to let it spark, and "interrupt", which grounded holds the spark back. A feed on the interrupt lead
/// (a timing jumper) holds nothing back: the module then keeps its base timing.
/// </summary>
internal sealed class IgniterInputs
{
    // Pull-up and threshold of a switch input, from memory.
    private const double PullUpOhms = 4700;
    private const double GroundedUnder = 1.5;
    private const double SenseOhms = 100_000;

    private readonly List<(string Terminal, Resistance PullUp, BranchId Sense)> inputs = [];
    private readonly Part part;

    /// <summary>Declares those of the inputs that the module has.</summary>
    public IgniterInputs(Declaration declaration, Part part)
    {
        this.part = part;
        foreach (var terminal in Terminals.Where(t => part.Terminals.Contains(new TerminalId(t))))
        {
            inputs.Add(
                (
                    terminal,
                    new Resistance(declaration, part, terminal + "PullUpOhms", "+", terminal, PullUpOhms, Spread.None),
                    declaration.Branch(part.Element(terminal + "-sense"), part.At(terminal), part.At("case"))
                )
            );
        }
    }

    /// <summary>Names of its switch inputs.</summary>
    public static IReadOnlyList<string> Terminals { get; } = ["stand", "neutral", "interrupt"];

    /// <summary>Stamps pull-ups and senses.</summary>
    public void Stamp(CircuitState state)
    {
        foreach (var (_, pullUp, sense) in inputs)
        {
            pullUp.Stamp(state);
            state.SetOhms(sense, SenseOhms);
        }
    }

    /// <summary>Why it may not spark now, or null when it may.</summary>
    public string? Forbids(CircuitState state)
    {
        var allowing = inputs.Where(i => i.Terminal != "interrupt").ToList();
        return inputs.Any(i => i.Terminal == "interrupt" && Grounded(state, i.Sense))
                ? $"{part.Name}: its interrupt lead is grounded"
            : allowing.Count > 0 && !allowing.Exists(i => Grounded(state, i.Sense))
                ? $"{part.Name}: none of {string.Join(" and ", allowing.Select(i => i.Terminal))} is grounded"
            : null;
    }

    private static bool Grounded(CircuitState state, BranchId sense) => state.Across(sense) < GroundedUnder;
}
