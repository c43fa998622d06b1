using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A regulator–rectifier: a bridge from one or more alternating legs to the battery, and a way of holding them back at its
/// volts. A shunt one shorts its legs to ground and so loads the stator always; a series one opens, and the alternating
/// volts rise. It senses between its output (or a sensing lead) and its own metal, so joints in either fool it.
/// </summary>
internal abstract class Regulator(Part part, PartFigures figures, IReadOnlyList<string> legs, bool shunts)
    : DiodeGroup(part),
        IRegulator
{
    // A gated diode drops about a volt; a shorted leg is held by one: from memory.
    private const double KneeVolts = DiodeArm.SiliconVolts;
    private const double OnOhms = 0.03;
    private const double ShortedOhms = 0.03;

    // What its sensing draws of the battery at rest, half a milliamp: from memory.
    private const double SenseOhms = 25_000;

    private protected PartFigures Figures => figures;

    private readonly List<DiodeArm> plus = [];
    private readonly List<BranchId> shorts = [];
    private ParameterId setVolts;
    private BranchId sense;

    /// <summary>13.8–14.8 V: common practice, no source.</summary>
    private protected static IReadOnlyList<ValueRule> Values { get; } =
    [new ValueRule("setVolts", 12.5, 16, 14.3) { Differs = 0.05 }];

    public override void Declare(Declaration declaration)
    {
        foreach (var leg in legs)
        {
            var up = new DiodeArm(declaration, Part, leg + "-plus", leg, "dc", KneeVolts, OnOhms);
            plus.Add(up);
            Arms.Add(up);
            if (HasReturnDiodes)
            {
                Arms.Add(new DiodeArm(declaration, Part, leg + "-ground", "case", leg, KneeVolts, OnOhms));
            }

            shorts.Add(declaration.Branch(Part.Element(leg + "-shunt"), Part.At(leg), Part.At("case")));
        }

        setVolts = declaration.Parameter(Part.Element(), "setVolts", figures["setVolts"], new Spread(0.01, 0, 0));
        sense = declaration.Branch(Part.Element("sense"), Part.At(SensesAt), Part.At("case"));
    }

    /// <summary>Whether each leg also has a diode from ground; a half-wave one has none.</summary>
    private protected virtual bool HasReturnDiodes => legs.Count > 1;

    /// <summary>Terminal whose volts it holds: its output, or a lead of its own from the battery's side of the key.</summary>
    private protected virtual string SensesAt => "dc";

    public override void Stamp(CircuitState state)
    {
        base.Stamp(state);
        state.SetOhms(sense, SenseOhms);
        var shorted = shunts && state.HeldBack && state.Moment == Moment.Wave;
        foreach (var branch in shorts)
        {
            state.SetOhms(branch, shorted ? ShortedOhms : double.PositiveInfinity);
        }
    }

    public (double Holds, double Sees) Regulation(CircuitState state) => (state[setVolts], state.Across(sense));

    public override IEnumerable<Fault> Faults()
    {
        foreach (var arm in plus)
        {
            yield return arm.Open("one diode open", 1);
            yield return arm.Shorted("one diode shorted, drains the battery at rest", 1);
        }

        yield return PartFault.Of(
            Part,
            "dead",
            FaultKind.Open,
            "gives nothing",
            3,
            plus[0].Nodes,
            [.. plus.Select(a => new ParameterChange(a.OnOhms, ChangeRule.Set, double.PositiveInfinity))]
        );
        yield return PartFault.Of(
            Part,
            "overcharging",
            FaultKind.Overcharging,
            "does not hold its volts",
            2,
            plus[0].Nodes,
            new ParameterChange(setVolts, ChangeRule.Set, 40)
        );
        yield return PartFault.Of(
            Part,
            "low",
            FaultKind.Feeble,
            "holds too low",
            1,
            plus[0].Nodes,
            new ParameterChange(setVolts, ChangeRule.MultiplyBySeverity)
        ) with
        {
            Severity = new Severity(0.95, 0.86),
        };
    }

    private protected override bool MayConduct(CircuitState state, DiodeArm arm) =>
        !(state.HeldBack && state.Moment == Moment.Wave && plus.Contains(arm));
}
