using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// The high-voltage side of a coil, by logic: kilovolts that the coil can make against those that its plug needs, less what
/// cap, lead or distributor leak. Judged by a spark tester, not by an ordinary meter; only its resistance is measured.
/// </summary>
internal sealed class HighTension
{
    /// <summary>A spark with less than this over what the plug needs is weak: judgement, no source.</summary>
    public const double WeakUnder = 1.2;

    private readonly Part part;
    private readonly Resistance? secondary;
    private readonly ParameterId needed;
    private readonly ParameterId passed;
    private readonly MemoryId toHand;
    private readonly (int, int) nodes;

    public HighTension(Declaration declaration, Part part, PartFigures figures, string returnTerminal)
    {
        this.part = part;
        needed = declaration.Parameter(part.Element(), "neededKilovolts", figures["neededKilovolts"], Spread.Winding);
        passed = declaration.Parameter(part.Element(), "passedShare", 1, Spread.None);
        toHand = declaration.Memory(0);
        secondary = part.Terminals.Contains(new TerminalId("ht"))
            ? new Resistance(
                declaration,
                part,
                "secondaryOhms",
                "ht",
                returnTerminal,
                figures["secondaryOhms"],
                Spread.Winding
            )
            : null;
        nodes =
            secondary?.Nodes ?? (declaration.Node(part.At(returnTerminal)), declaration.Node(part.At(returnTerminal)));
    }

    public static IReadOnlyList<ValueRule> Values { get; } =
    [
        new ValueRule("neededKilovolts", 1, 40, 8) { Differs = 0.5 },
        // Secondary 0.2–20 kohm by kind: common practice, no source.
        new ValueRule("secondaryOhms", 50, 100_000, 6000),
    ];

    public void Stamp(CircuitState state) => secondary?.Stamp(state);

    /// <summary>Notes what the coil makes at the instant of the spark.</summary>
    public void Fire(CircuitState state, double kilovolts) =>
        state[toHand] = secondary?.IsOpen(state) == true ? 0 : kilovolts * state[passed];

    public Effect Effect(CircuitState state) => new(EffectKind.Sparks, state[toHand] / state[needed]);

    /// <summary>Why its plug does not spark, when the coil makes enough.</summary>
    public string? WhyNot(CircuitState state) =>
        Effect(state).Level >= 1 ? null
        : state[toHand] < 0.05 ? $"{part.Name} makes no high voltage"
        : $"{part.Name} makes {state[toHand]:0.0} kV of the {state[needed]:0.0} that its plug needs";

    /// <summary>What a spark tester stands in for.</summary>
    public IEnumerable<ParameterId> ReplacedBy(SparkTesterAt at)
    {
        if (at != SparkTesterAt.Nowhere)
        {
            yield return needed;
        }

        if (at == SparkTesterAt.Coil)
        {
            yield return passed;
        }
    }

    public IEnumerable<Fault> Faults()
    {
        yield return Of("plug", "plug worn wide or fouled", 8, new(needed, ChangeRule.MultiplyBySeverity)) with
        {
            Severity = new Severity(1.5, 6),
            Repair = new Repair(
                new RepairId(RepairTarget.Plug, part.Id.Text),
                "spark plug of " + part.Name,
                "spark plug",
                RepairKind.ReplacePart,
                part.Place
            ),
        };
        var leaks = Of(
            "lead",
            "plug lead, cap or distributor leaks",
            part.Kind == Magneto.Kind.Name ? 1 : 3,
            new(passed, ChangeRule.SetToSeverity)
        ) with
        {
            Severity = new Severity(0.6, 0.05),
            ComesAndGoes = true,
            Weakness = Weakness.Age | Weakness.Damp | Weakness.Salt,
        };

        // A magneto's lead is moulded into its coil and bought with it: common practice, no source.
        yield return part.Kind == Magneto.Kind.Name
            ? leaks with
            {
                Words = part.Name + ": plug lead or cap leaks; it comes with the coil",
            }
            : leaks with
            {
                Repair = new Repair(
                    new RepairId(RepairTarget.Lead, part.Id.Text),
                    "plug lead and cap of " + part.Name,
                    "plug lead",
                    RepairKind.ReplacePart,
                    part.Place
                ),
            };
        if (secondary is not null)
        {
            yield return secondary.Gone("secondary-open", "secondary open", part.Kind == Magneto.Kind.Name ? 0.7 : 2);
        }
    }

    private Fault Of(string id, string words, double rate, ParameterChange change) =>
        PartFault.Of(part, id, FaultKind.Feeble, words, rate, nodes, change);
}
