using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation;

/// <summary>What part of an engine's turn is being solved.</summary>
public enum Moment
{
    /// <summary>No wave: the engine stands, or only means are wanted. Windings are their copper.</summary>
    Still,

    /// <summary>One step of a charge winding's wave.</summary>
    Wave,

    /// <summary>Ignition windings at their positive peak.</summary>
    Positive,

    /// <summary>Ignition windings at their negative peak.</summary>
    Negative,

    /// <summary>The instant of the spark: what was stored is let go.</summary>
    Firing,
}

/// <summary>Implemented by what takes part in making a spark: it looks on at each moment of a turn.</summary>
internal interface IIgnition
{
    /// <summary>Notes what it needs from the moment just solved.</summary>
    void Observe(CircuitState state);
}

/// <summary>Implemented by an ignition winding that a magnet passes at a moment of its own, when its like stand still.</summary>
internal interface IPassedAlone;

/// <summary>Implemented by a regulator that lets its windings through or holds them back, turn by turn.</summary>
internal interface IRegulator : IHidesInside
{
    /// <summary>Volts it would hold, and those it sees; means while waves run.</summary>
    (double Holds, double Sees) Regulation(CircuitState state);
}

/// <summary>Implemented by a winding whose wave must be followed step by step, because current lags in it.</summary>
internal interface IChargeWinding
{
    /// <summary>Index of the engine that turns it.</summary>
    int Engine { get; }

    /// <summary>What it carries from step to step.</summary>
    IEnumerable<MemoryId> Carried { get; }
}

/// <summary>Implemented by what comes to rest on the mean of waves, step by step, from a guess.</summary>
internal interface ISettlesOnMeans
{
    /// <summary>Where it last came to rest: a guess for a like case, of no weight in where that ends.</summary>
    IEnumerable<MemoryId> Guesses { get; }
}

/// <summary>Implemented by what keeps fault codes.</summary>
public interface ICodes
{
    /// <summary>Codes it would show now, in this program's words.</summary>
    IReadOnlyList<string> Codes(CircuitState state);
}

/// <summary>Implemented by what opens for good when it carries too much: a fuse, a breaker.</summary>
internal interface IProtects
{
    /// <summary>Whether it has opened since the case began.</summary>
    bool HasOpened(CircuitState state);

    /// <summary>What it is rated for, in amps.</summary>
    ParameterId Rating { get; }
}

/// <summary>Implemented by what turns an engine from outside: a starter.</summary>
internal interface ICranks
{
    /// <summary>Index of the engine it turns, or −1.</summary>
    int Engine { get; }
}

/// <summary>
/// Implemented by a unit of electronics: what an ohmmeter shows at its pins differs from meter to meter and maker to maker, and
/// says nothing of whether it is good.
/// </summary>
internal interface IHidesInside;

/// <summary>Implemented by what does nothing without an engine to turn it, waves or not.</summary>
internal interface INeedsEngine;

/// <summary>Implemented by what makes its current by a field that it feeds itself: it is judged running.</summary>
internal interface IFeedsItsField;
