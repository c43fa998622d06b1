using Pritchel.Core.Identity;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Observables;

/// <summary>A case being predicted, as an observable sees it.</summary>
public interface IPredictedCase
{
    /// <summary>The meter in use.</summary>
    Meter Meter { get; }

    /// <summary>State of the circuit, settled in the condition; live.</summary>
    CircuitState State { get; }

    /// <summary>The device of the duty.</summary>
    Device Load { get; }

    /// <summary>What joins two points, where something does.</summary>
    Jump? Jump { get; }

    /// <summary>Ohms between two nodes of the dead circuit.</summary>
    double DeadOhms(int red, int black);

    /// <summary>Volts that a source of the meter's own leaves between two nodes of the dead circuit.</summary>
    double VoltsOf(int red, int black, double testVolts, double insideOhms);

    /// <summary>What is seen while two points are joined: 0 nothing, 1 weakly, 2 as it should.</summary>
    double WhileJoined(int from, int to);
}

/// <summary>A simulated machine with faults that only it knows, as an observable sees it.</summary>
public interface ISimulatedCase
{
    /// <summary>The machine as it stands in the condition.</summary>
    Case Case { get; }

    /// <summary>The meter in use.</summary>
    Meter Meter { get; }

    /// <summary>This meter's own gain: what all its volts readings share.</summary>
    double Gain { get; }

    /// <summary>Part of the duty.</summary>
    PartId Load { get; }

    /// <summary>What joins two points, where something does.</summary>
    Jump? Jump { get; }

    /// <summary>A standard normal deviate.</summary>
    double Chance();

    /// <summary>What is seen while two points are joined.</summary>
    double WhileJoined();
}

/// <summary>A part on its bench as one reading of its sheet finds it: set, waited for and turning as the reading wants.</summary>
public interface IBenchCase
{
    /// <summary>The meter in use.</summary>
    Meter Meter { get; }

    /// <summary>Ohms of the leads that are in every ohms reading.</summary>
    double LeadOhms { get; }

    /// <summary>Whether its engine turns.</summary>
    bool Turns { get; }

    /// <summary>Ohms between the probes, leads left out; infinite where nothing joins them.</summary>
    double Ohms();

    /// <summary>Volts between the probes with a source, or a load alone, of so many ohms in the meter.</summary>
    double Volts(double emf, double ohms);

    /// <summary>The same with every battery off.</summary>
    double DeadVolts(double emf, double ohms);

    /// <summary>Mean volts between the probes over a turn.</summary>
    double MeanVolts();

    /// <summary>Alternating volts between the probes, effective.</summary>
    double AlternatingVolts();

    /// <summary>Highest volts between the probes over a turn.</summary>
    double PeakVolts();

    /// <summary>What a spark tester shows as its engine is pulled over: 0 none, 1 weak, 2 well, and between.</summary>
    double Sparks();

    /// <summary>Amps into or out of all batteries, as a clamp about the cable has them.</summary>
    double BatteryAmps();

    /// <summary>What the part does once fed that it did not before: 0 nothing, 1 weakly, 2 as it should.</summary>
    double Does();
}
