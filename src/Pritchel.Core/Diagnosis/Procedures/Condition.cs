using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>A setting in which readings are taken, after the duty has been tried once, and what is done for it.</summary>
/// <param name="Setting">Positions of the controls.</param>
/// <param name="IsDuty">Whether this is the failing setting itself.</param>
/// <param name="MayTurnEngine">Whether the engine may turn in it: a sound machine's would, or the complaint is that it does.</param>
/// <param name="Words">In words, for the test card.</param>
/// <param name="Held">Controls to be held.</param>
public sealed record Condition(
    ControlSetting Setting,
    bool IsDuty,
    bool MayTurnEngine,
    string Words,
    IReadOnlyList<string> Held
)
{
    /// <summary>What is read in it.</summary>
    public Observable Observable { get; init; } = DirectVolts.Instance;

    /// <summary>Kind of test that it belongs to; named when the tests of a duty are gathered.</summary>
    public string Procedure { get; init; } = "";

    /// <summary>Speed that the engine is turned at.</summary>
    public DutySpeed Speed { get; init; }

    /// <summary>What is off.</summary>
    public IReadOnlyList<Disconnection> Off { get; init; } = [];

    /// <summary>Pairs of nodes that are read, each red node once; null where any two may be.</summary>
    public IReadOnlyList<(int Red, int Black)>? Pairs { get; init; }

    /// <summary>Where a spark tester sits.</summary>
    public SparkTesterAt Tester { get; init; }

    /// <summary>Two points joined for it, and with what; null where nothing is put in.</summary>
    public Jump? Jump { get; init; }

    /// <summary>Minutes of setting it up beyond controls, access and taking off: clipping a lead on, danger. Common practice, no source.</summary>
    public Minutes SettingUp { get; init; }

    /// <summary>Whether every pair of points may be read in it.</summary>
    public bool IsFree => Pairs is null;

    /// <summary>Whether it is read pair by pair, with the meter, a lead or a bulb in the circuit.</summary>
    public bool IsReadPairByPair => Observable.WantsDeadCircuit || Jump is not null;

    /// <summary>What it is, apart from its number: the same again means the same readings.</summary>
    public ConditionKey Key(Circuit circuit) =>
        new(
            Observable.Key,
            Setting.Named(circuit.Machine),
            Speed,
            [.. Off],
            Jump is { } jump
                ? new JoinedKey(Handiest(circuit, jump.From), Handiest(circuit, jump.To), jump.Kind)
                : null,
            Tester
        );

    /// <summary>The name that a node is told by: a terminal's before a wire end's.</summary>
    internal static PointId Handiest(Circuit circuit, int node) =>
        circuit.NodePoints[node].FirstOrDefault(p => p.Terminal is not null, circuit.NodePoints[node][0]);
}

/// <summary>Two points joined for a test, told so that it outlives a change of numbering.</summary>
/// <param name="From">Where the lead or lamp is fed from.</param>
/// <param name="To">Where it leads.</param>
/// <param name="Kind">What joins them.</param>
public sealed record JoinedKey(PointId From, PointId To, JumpKind Kind);

/// <summary>What a condition is: what is read, how the controls stand, how fast the engine turns, what is off, what is joined.</summary>
/// <param name="Observable">Key of what is read.</param>
/// <param name="Setting">Position of every control.</param>
/// <param name="Speed">Speed of the engine.</param>
/// <param name="Off">What is off.</param>
/// <param name="Joined">What is joined; null for nothing.</param>
/// <param name="Tester">Where a spark tester sits.</param>
public sealed record ConditionKey(
    string Observable,
    NamedSetting Setting,
    DutySpeed Speed,
    IReadOnlyList<Disconnection> Off,
    JoinedKey? Joined,
    SparkTesterAt Tester
)
{
    /// <inheritdoc/>
    public bool Equals(ConditionKey? other) =>
        other is not null
        && Observable == other.Observable
        && Speed == other.Speed
        && Tester == other.Tester
        && Joined == other.Joined
        && Setting.Equals(other.Setting)
        && Off.ToHashSet().SetEquals(other.Off);

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Observable, Setting, Speed, Tester, Joined, Off.Count);
}

/// <summary>A place for the two probes in one condition.</summary>
/// <param name="Condition">Index of the condition among those of its duty.</param>
/// <param name="Red">Node under the red probe.</param>
/// <param name="Black">Node under the black probe.</param>
public readonly record struct ProbePair(int Condition, int Red, int Black);
