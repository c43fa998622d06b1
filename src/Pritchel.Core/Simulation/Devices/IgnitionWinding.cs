using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A coil that a flywheel magnet passes for the ignition's sake: primary, exciter, pickup. Its peak grows with speed, behind
/// its copper and a reactance that grows with speed too. Solved at its positive and negative peak; along a charge winding's
/// wave it follows as a sine of the same frequency, which is enough for what an ordinary meter shows of it.
/// </summary>
internal sealed class IgnitionWinding
{
    private readonly Part part;
    private readonly int engine;
    private readonly double reactancePer1000;
    private readonly SourceId source;
    private readonly (int, int) nodes;

    public IgnitionWinding(
        Declaration declaration,
        Part part,
        (string Name, string From, string To) at,
        double peakVoltsPer1000,
        double ohms,
        double reactancePer1000
    )
    {
        (this.part, this.reactancePer1000) = (part, reactancePer1000);
        engine = declaration.Engine(part);
        var of = part.Element(at.Name);
        Peak = declaration.Parameter(of, "peakVoltsPer1000Rpm", peakVoltsPer1000, Spread.Winding);
        Ohms = declaration.Parameter(of, "ohms", ohms, Spread.Winding);
        source = declaration.Source(of, part.At(at.From), part.At(at.To));
        nodes = (declaration.Node(part.At(at.From)), declaration.Node(part.At(at.To)));
    }

    public ParameterId Peak { get; }

    public ParameterId Ohms { get; }

    public double Rpm(CircuitState state) => state.Rpm(engine);

    /// <summary>Volts at its peak with nothing connected.</summary>
    public double OpenVolts(CircuitState state) => state[Peak] * state.Rpm(engine) / 1000;

    /// <summary>Volts at its terminals now.</summary>
    public double Volts(CircuitState state) => double.IsInfinity(state[Ohms]) ? 0 : state.Across(source);

    /// <summary>Stamps it for the present moment.</summary>
    /// <param name="state">The state.</param>
    /// <param name="passed">Whether a magnet passes it then; otherwise it only lies in the way of others' pulses.</param>
    /// <param name="kick">Volts that it throws up as its current is cut off, at the instant of the spark.</param>
    public void Stamp(CircuitState state, bool passed = true, double kick = 0)
    {
        var share = state.Moment switch
        {
            Moment.Positive or Moment.Negative when !passed => 0,
            Moment.Positive => 1,
            Moment.Negative => -1,
            Moment.Wave => Math.Sin(state.Angle),
            _ => 0,
        };
        var reactance = share == 0 && passed ? 0 : reactancePer1000 * state.Rpm(engine) / 1000;
        state.SetSource(
            source,
            state.Moment == Moment.Firing ? kick : share * OpenVolts(state),
            Math.Sqrt((state[Ohms] * state[Ohms]) + (reactance * reactance))
        );
    }

    /// <summary>Open, and weak.</summary>
    /// <param name="prefix">Before the faults' names.</param>
    /// <param name="words">What it is called.</param>
    /// <param name="often">How often it fails, over an ordinary winding.</param>
    public IEnumerable<Fault> Faults(string prefix, string words, double often = 1) =>
        [
            PartFault.Of(
                part,
                prefix + "open",
                FaultKind.Open,
                words + " open",
                2 * often,
                nodes,
                new ParameterChange(Ohms, ChangeRule.Set, double.PositiveInfinity)
            ),
            PartFault.Of(
                part,
                prefix + "weak",
                FaultKind.Feeble,
                words + ": turns shorted, weak magnet or wide gap",
                1.5 * often,
                nodes,
                new ParameterChange(Ohms, ChangeRule.MultiplyBySeverity),
                new ParameterChange(Peak, ChangeRule.MultiplyBySeverity)
            ) with
            {
                Severity = new Severity(0.6, 0.1),
            },
        ];
}
