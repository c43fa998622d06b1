using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Networks;
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

    /// <summary>Speed that engines are turned at in the last setting; those not named stand.</summary>
    public IReadOnlyDictionary<EngineId, Rpm> Speeds { get; init; } = new Dictionary<EngineId, Rpm>();

    /// <summary>How long the last setting has stood; timers run.</summary>
    public Seconds Waited { get; init; }

    /// <summary>Couplings apart and wire ends off their terminals.</summary>
    public IReadOnlyList<Disconnection> Off { get; init; } = [];

    /// <summary>Where spark testers at a set gap take the place of what belongs there, on every coil.</summary>
    public SparkTesterAt SparkTester { get; init; }

    /// <summary>Whether the battery's grounded post is off; every battery's, where there are more.</summary>
    public bool BatteryDisconnected { get; init; }

    /// <summary>Parameters before faults; nominal when null.</summary>
    public double[]? Parameters { get; init; }

    /// <summary>The circuit with the paths that its faults lay.</summary>
    public Circuit Wired => Circuit.With(Faults.Select(f => f.Fault));

    /// <summary>Whether something comes off: a coupling, or a wire's end that is not in one.</summary>
    public static bool CanComeOff(Circuit circuit, Disconnection what) => circuit.Opening.Of(what).Count > 0;

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

        foreach (var replaced in wired.Opening.Replaced(SparkTester))
        {
            values[replaced.Index] = wired.Parameters[replaced.Index].Nominal;
        }

        foreach (var battery in BatteryDisconnected ? wired.Opening.Batteries : [])
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

    /// <summary>What opens when something is taken off, paths that a fault lays through a coupling too.</summary>
    internal static IEnumerable<ParameterId> Opened(Circuit circuit, Disconnection what) =>
        what.Coupling is { } coupling
            ? circuit.Opening.Of(what).Concat(circuit.LaidThrough(coupling))
            : circuit.Opening.Of(what);

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
