using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation;

/// <summary>
/// One diode inside a part, as two straight lines: megohms below its knee, knee volts behind a small resistance above.
/// Shared by single diodes, bridges and regulators.
/// </summary>
internal sealed class DiodeArm
{
    private const int Conducting = 1;

    /// <summary>
    /// Volts from which silicon conducts: a milliamp of a meter's diode range stands at 0.5 to 0.6 V, tens of amps at about
    /// one, which the resistance above the knee makes up. Common practice, no source.
    /// </summary>
    public const double SiliconVolts = 0.55;

    // What a blocking diode leaks, some nanoamps at 12 V and no two alike: from memory. Without it a diode in series with
    // another would see no volts at all, and neither would ever begin to conduct.
    private const double BlockingOhms = 1e9;
    private const double BlockingLogSigma = 1.5;

    private readonly double kneeVolts;
    private readonly SourceId knee;
    private readonly BranchId across;
    private readonly StateId conducting;

    public DiodeArm(
        Declaration declaration,
        Part part,
        string name,
        string anode,
        string cathode,
        double kneeVolts,
        double onOhms
    )
    {
        this.kneeVolts = kneeVolts;
        Part = part;
        Name = name;
        var (a, k) = (part.At(anode), part.At(cathode));
        var of = part.Element(name);
        OnOhms = declaration.Parameter(of, "onOhms", onOhms, Spread.Winding);
        ShortOhms = declaration.Parameter(of, "shortOhms", BlockingOhms, new Spread(BlockingLogSigma, 0, 0));
        knee = declaration.Source(of, a, k);
        across = declaration.Branch(part.Element(Prefix + "short"), a, k);
        conducting = declaration.State(of);
        Nodes = (declaration.Node(a), declaration.Node(k));
        declaration.Diodes.Add(this);
    }

    /// <summary>Volts it conducts from.</summary>
    public double KneeVolts => kneeVolts;

    /// <summary>What it conducts through when it does.</summary>
    public SourceId Knee => knee;

    public ParameterId OnOhms { get; }

    public ParameterId ShortOhms { get; }

    /// <summary>Anode and cathode, as declared.</summary>
    public (int From, int To) Nodes { get; }

    private Part Part { get; }

    private string Name { get; }

    private string Prefix => Name.Length == 0 ? "" : Name + "-";

    /// <summary>Stamps it; one that may not conduct blocks both ways.</summary>
    public void Stamp(CircuitState state, bool mayConduct = true)
    {
        var conducts = mayConduct && state[conducting] == Conducting;
        state.SetSource(knee, conducts ? kneeVolts : 0, conducts ? state[OnOhms] : double.PositiveInfinity);
        state.SetOhms(across, state[ShortOhms]);
    }

    /// <summary>Asks for its state to follow the volts across it.</summary>
    public Change Step(CircuitState state, bool mayConduct = true)
    {
        var conducts = mayConduct && !double.IsInfinity(state[OnOhms]) && state.Across(across) > kneeVolts;
        return conducts == (state[conducting] == Conducting)
            ? Change.None
            : Change.Switch(conducting, conducts ? Conducting : 0, 0);
    }

    public Fault Open(string words, double rate) =>
        PartFault.Of(
            Part,
            Prefix + "open",
            FaultKind.Open,
            words,
            rate,
            Nodes,
            new ParameterChange(OnOhms, ChangeRule.Set, double.PositiveInfinity)
        );

    public Fault Shorted(string words, double rate) =>
        PartFault.Of(
            Part,
            Prefix + "shorted",
            FaultKind.StuckClosed,
            words,
            rate,
            Nodes,
            new ParameterChange(ShortOhms, ChangeRule.SetToSeverity)
        ) with
        {
            Severity = new Severity(1, 0.02),
        };
}
