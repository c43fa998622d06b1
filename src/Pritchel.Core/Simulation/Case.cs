using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation.Devices;
using Pritchel.Core.Units;

namespace Pritchel.Core.Simulation;

/// <summary>A fault planted in a case.</summary>
/// <param name="Fault">Which.</param>
/// <param name="Fraction">How bad, 0 mildest to 1 worst of its range.</param>
public readonly record struct PlantedFault(Fault Fault, double Fraction);

/// <summary>A machine in a certain state: controls, speed, time, faults, what is off.</summary>
public sealed record Case
{
    /// <summary>The sound machine's circuit.</summary>
    public required Circuit Circuit { get; init; }

    /// <summary>Control settings in the order they were moved through; the last is the one it stands in.</summary>
    public required IReadOnlyList<ControlSetting> Settings { get; init; }

    /// <summary>Faults present together.</summary>
    public IReadOnlyList<PlantedFault> Faults { get; init; } = [];

    /// <summary>Speed that engines are turned at in the last setting, by engine id; those not named stand.</summary>
    public IReadOnlyDictionary<string, Rpm> Speeds { get; init; } = new Dictionary<string, Rpm>(StringComparer.Ordinal);

    /// <summary>How long the last setting has stood; timers run.</summary>
    public Seconds Waited { get; init; }

    /// <summary>Couplings apart, by part id, and wire ends off their terminals, as "wire@from" or "wire@to".</summary>
    public IReadOnlyList<string> Off { get; init; } = [];

    /// <summary>Where spark testers at a set gap take the place of what belongs there, on every coil.</summary>
    public SparkTesterAt SparkTester { get; init; }

    /// <summary>Whether the battery's grounded post is off; every battery's, where there are more.</summary>
    public bool BatteryDisconnected { get; init; }

    /// <summary>Parameters before faults; nominal when null.</summary>
    public double[]? Parameters { get; init; }

    /// <summary>The circuit with the paths that its faults lay.</summary>
    public Circuit Wired => Circuit.With(Faults.Select(f => f.Fault));

    /// <summary>Whether something can be taken off by that name.</summary>
    public static bool CanComeOff(Circuit circuit, string what) => Opened(circuit, what).Any();

    /// <summary>Parameters of <see cref="Wired"/> with faults applied and what is off taken off.</summary>
    public double[] FaultyParameters()
    {
        var wired = Wired;
        var values = wired.NominalParameters();
        Parameters?.CopyTo(values, 0);
        foreach (var (fault, fraction) in Faults)
        {
            wired.Plant(fault, fault.Severity.At(fraction), values);
        }

        foreach (var parameter in Off.SelectMany(what => Opened(wired, what)))
        {
            values[parameter.Index] = double.PositiveInfinity;
        }

        foreach (var replaced in Replaced(wired, SparkTester))
        {
            values[replaced.Index] = wired.Parameters[replaced.Index].Nominal;
        }

        foreach (var battery in BatteryDisconnected ? Batteries(wired) : [])
        {
            values[battery.Index] = double.PositiveInfinity;
        }

        return values;
    }

    /// <summary>Brings a state to where the case stands.</summary>
    /// <param name="state">A state of <see cref="Wired"/>, with or without a meter; begun afresh here.</param>
    /// <param name="connect">Called once the state has begun, to connect a meter.</param>
    public Settlement Settle(CircuitState state, Action? connect = null)
    {
        state.Begin(FaultyParameters());
        connect?.Invoke();
        var settlement = Settlement.Settled;
        for (var s = 0; s < Settings.Count; s++)
        {
            if (s == Settings.Count - 1)
            {
                SetSpeeds(state);
            }

            settlement = state.Move(Settings[s]);
        }

        return Waited.Value > 0 ? state.Elapse(Waited.Value) : settlement;
    }

    /// <summary>Parameters that take a battery's grounded post off when infinite.</summary>
    internal static IEnumerable<ParameterId> Batteries(Circuit circuit) =>
        circuit
            .Parameters.Select((p, i) => (p.Name, Id: new ParameterId(i)))
            // A battery's own resistance carries this name alone.
            .Where(p => p.Name.EndsWith("/wear", StringComparison.Ordinal))
            .Select(p => p.Id);

    /// <summary>
    /// What a spark tester stands in for: the gaps of plugs, since its own is set to what a sound plug wants, and at the coil
    /// what leads and caps let pass.
    /// </summary>
    internal static IEnumerable<ParameterId> Replaced(Circuit circuit, SparkTesterAt at) =>
        circuit
            .Parameters.Select((p, i) => (p.Name, Id: new ParameterId(i)))
            .Where(p =>
                (at != SparkTesterAt.Nowhere && p.Name.EndsWith(HighTension.NeededKilovolts, StringComparison.Ordinal))
                || (at == SparkTesterAt.Coil && p.Name.EndsWith(HighTension.PassedShare, StringComparison.Ordinal))
            )
            .Select(p => p.Id);

    /// <summary>Parameters that take a coupling apart, or a wire's end off, when infinite.</summary>
    internal static IEnumerable<ParameterId> Opened(Circuit circuit, string what)
    {
        var names = what.Contains('@', StringComparison.Ordinal)
            ? [what + "/joint/ohms"]
            : circuit
                .Machine.Parts.Where(p =>
                    string.Equals(p.Id, what, StringComparison.Ordinal)
                    && string.Equals(p.Kind, Machines.PartKinds.Coupling, StringComparison.Ordinal)
                )
                .SelectMany(p => p.Terminals.Where(t => t.EndsWith('a')).Select(t => $"{p.Id}/{t[..^1]}/ohms"))
                .ToList();
        return circuit.ParametersNamed([.. names]).Concat(circuit.LaidThrough(what));
    }

    private void SetSpeeds(CircuitState state)
    {
        for (var e = 0; e < Circuit.Engines.Count; e++)
        {
            if (Speeds.TryGetValue(Circuit.Engines[e].Id, out var rpm))
            {
                state.SetSpeed(e, rpm.Value);
            }
        }
    }
}

/// <summary>Where a spark tester sits.</summary>
public enum SparkTesterAt
{
    /// <summary>None is fitted.</summary>
    Nowhere,

    /// <summary>On the end of the plug lead, in the plug's place.</summary>
    PlugLead,

    /// <summary>At the coil's own tower, the plug lead off.</summary>
    Coil,
}
