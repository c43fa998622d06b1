using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation;

/// <summary>One resistance inside a part, between two of its terminals: a coil, a contact, a winding.</summary>
public sealed class Resistance
{
    private readonly Part part;
    private readonly double healthy;

    /// <summary>Declares it.</summary>
    /// <param name="declaration">The machine being compiled.</param>
    /// <param name="part">The part.</param>
    /// <param name="figure">Name of the figure, ending in its unit.</param>
    /// <param name="from">Terminal at one end.</param>
    /// <param name="to">Terminal at the other.</param>
    /// <param name="ohms">Healthy value.</param>
    /// <param name="spread">How healthy ones vary.</param>
    public Resistance(
        Declaration declaration,
        Part part,
        string figure,
        string from,
        string to,
        double ohms,
        Spread spread
    )
    {
        (this.part, healthy) = (part, ohms);
        var (a, b) = (part.At(from), part.At(to));
        Ohms = declaration.Parameter(part.Element(), figure, ohms, spread);
        Branch = declaration.Branch(part.Element(figure), a, b);
        Nodes = (declaration.Node(a), declaration.Node(b));
    }

    /// <summary>Its value.</summary>
    public ParameterId Ohms { get; }

    /// <summary>Its branch.</summary>
    public BranchId Branch { get; }

    /// <summary>Declared nodes of its ends.</summary>
    public (int From, int To) Nodes { get; }

    /// <summary>Stamps it as it is.</summary>
    public void Stamp(CircuitState state) => state.SetOhms(Branch, state[Ohms]);

    /// <summary>Stamps it as a contact.</summary>
    public void Stamp(CircuitState state, bool closed) =>
        state.SetOhms(Branch, closed ? state[Ohms] : double.PositiveInfinity);

    /// <summary>Whether it is open for good.</summary>
    public bool IsOpen(CircuitState state) => double.IsInfinity(state[Ohms]);

    /// <summary>Whether current through it does its work: neither open nor a short.</summary>
    public bool IsWhole(CircuitState state) => !IsOpen(state) && state[Ohms] >= PartFault.ShortedShare * healthy;

    /// <summary>Volts across it that drive a current through it, either way: none when it is open or its turns are shorted.</summary>
    public double Drive(CircuitState state) => IsWhole(state) ? Math.Abs(state.Across(Branch)) : 0;

    /// <summary>The fault of conducting nothing.</summary>
    public Fault Gone(string id, string words, double rate) =>
        PartFault.Of(
            part,
            id,
            FaultKind.Open,
            words,
            rate,
            Nodes,
            new ParameterChange(Ohms, ChangeRule.Set, double.PositiveInfinity)
        );

    /// <summary>The fault of being a short: turns that touch, or a dead one.</summary>
    public Fault Shorted(string words, double rate, double worst = PartFault.TurnsTouch) =>
        PartFault.Shorted(part, words, rate, Nodes, Ohms, worst);

    /// <summary>The fault of conducting poorly, by so many ohms more.</summary>
    public Fault Poor(string id, string words, double rate, Severity added) =>
        PartFault.Of(
            part,
            id,
            FaultKind.HighResistance,
            words,
            rate,
            Nodes,
            new ParameterChange(Ohms, ChangeRule.AddSeverity)
        ) with
        {
            Severity = added,
            ComesAndGoes = true,
            Weakness = Weakness.Age | Weakness.Salt | Weakness.Damp,
        };
}
