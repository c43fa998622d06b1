using System.Collections.Concurrent;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <summary>How many cases stand for each fault.</summary>
public enum Grain
{
    /// <summary>A handful: enough for where to measure first, and there at once.</summary>
    Coarse,

    /// <summary>As many as readings are weighed by.</summary>
    Fine,
}

/// <summary>
/// What each hypothesis would show: for every fault, a number of particles (machines that differ within healthy
/// spread, faults that differ in severity), each solved in every condition. Depends on the machine, the duty and
/// what was altered; not on any answer. Shared, and always answers alike.
/// </summary>
public sealed class PredictionTable
{
    /// <summary>Particles per hypothesis, unless waves must be followed.</summary>
    public const int UsualParticles = 64;

    // Following the waves of charge windings takes a thousand times as long as a still circuit.
    private const int WaveParticles = 32;
    private const int CoarseParticles = 16;
    private const int CoarseWaveParticles = 4;

    // Of fifty to a hundred settings, the first test of most complaints is in one of the soonest fourteen. Where faults are
    // few, more are looked at: so many of both together.
    private const int CoarseConditions = 14;
    private const int CoarseWork = 12_000;
    internal const double BeliefTolerance = 1e-4;

    private readonly ConcurrentDictionary<(int Hypothesis, int About, int Within), Hypothesis> near = new();
    private readonly bool cranksStill;
    private readonly Alteration[] alterations;
    private ParticleDraws? draws;
    private HashSet<int>? only;

    private PredictionTable(Circuit circuit, Duty duty, IReadOnlyList<string> altered, Grain grain = Grain.Fine)
    {
        Circuit = circuit;
        Grain = grain;
        FollowsWaves = NeedsWaves(circuit, duty);
        Effect = Procedures.Conditions.EffectOf(circuit, duty);
        cranksStill = !FollowsWaves && duty.Speed == DutySpeed.Crank && Effect != EffectKind.Sparks;
        Particles = (FollowsWaves, grain) switch
        {
            (true, Grain.Coarse) => CoarseWaveParticles,
            (true, _) => WaveParticles,
            (_, Grain.Coarse) => CoarseParticles,
            _ => UsualParticles,
        };
        Duty = duty;
        HealthyAmps = Effect == EffectKind.Charges ? AmpsOf(circuit, duty) : 0;
        Conditions = Procedures.Conditions.Of(circuit, duty);
        Altered = altered;
        alterations = altered.Count == 0 ? [] : [.. Alteration.Of(circuit).Where(a => altered.Contains(a.Id))];
        Off = [.. Conditions.Select(c => c.Off.SelectMany(what => Case.Opened(circuit, what)).ToArray())];
        Batteries = [.. Case.Batteries(circuit)];
        Tested = [.. Enum.GetValues<SparkTesterAt>().Select(at => Case.Replaced(circuit, at).ToArray())];
        DeadAs = [.. Conditions.Select(FirstDeadAs)];
        Lamps =
        [
            .. circuit
                .Machine.Parts.Where(p => circuit.DeviceOf(p.Id).Effect(AtRest(circuit)).Kind == EffectKind.Glows)
                .Select(p => p.Id),
        ];
    }

    /// <summary>How many cases stand for each fault. Conditions and points are numbered alike in every grain.</summary>
    public Grain Grain { get; }

    /// <summary>Particles per hypothesis.</summary>
    public int Particles { get; }

    /// <summary>How the part of the duty shows itself.</summary>
    public EffectKind Effect { get; }

    /// <summary>Amps that the sound machine charges with at the duty; zero when the duty is another.</summary>
    internal double HealthyAmps { get; }

    /// <summary>Parameters that each condition opens. A path that a fault lays adds its own behind them all.</summary>
    internal ParameterId[][] Off { get; }

    /// <summary>Parameters that take the batteries off.</summary>
    internal ParameterId[] Batteries { get; }

    /// <summary>What a spark tester stands in for, by where it sits.</summary>
    internal ParameterId[][] Tested { get; }

    /// <summary>
    /// By condition, the first that reads as dead a circuit by ohms or beep as it does; −1 where the circuit is live.
    /// </summary>
    internal int[] DeadAs { get; }

    /// <summary>Whether the duty's speed turns charge windings whose waves matter to it.</summary>
    internal bool FollowsWaves { get; }

    /// <summary>
    /// Whether volts in a condition are predicted: not while charge windings turn whose waves are not followed for this duty.
    /// </summary>
    internal bool Predicts(int condition) =>
        HasFigures(condition)
        && (
            Conditions[condition] is not { Quantity: Quantity.Volts, Speed: not DutySpeed.Rest }
            || FollowsWaves
            || Circuit.WaveEngine < 0
            || cranksStill
        );

    /// <summary>
    /// Whether a condition is solved at all: a coarse table knows those alone in which a first test may lie. One that is not
    /// has no figures (not a number).
    /// </summary>
    public bool HasFigures(int condition) => only is null || only.Contains(condition);

    /// <summary>The circuit.</summary>
    public Circuit Circuit { get; }

    /// <summary>The duty that fails.</summary>
    public Duty Duty { get; }

    /// <summary>Settings that readings may be taken in.</summary>
    public IReadOnlyList<Condition> Conditions { get; }

    /// <summary>What was found altered, by <see cref="Alteration.Id"/>.</summary>
    public IReadOnlyList<string> Altered { get; }

    /// <summary>Lamps an operator can see, by part id.</summary>
    public IReadOnlyList<string> Lamps { get; }

    /// <summary>One entry per fault, then the sound machine last.</summary>
    public IReadOnlyList<Hypothesis> Hypotheses { get; private set; } = [];

    /// <summary>The machine as it should be.</summary>
    public Hypothesis Healthy => Hypotheses[^1];

    /// <summary>
    /// The sound machine while its load draws nothing (a starter that is not turning): what wiring looks like that is
    /// good up to where it stops.
    /// </summary>
    public Hypothesis Idle => OpenIn(Duty.Load);

    /// <summary>The sound machine while not even the part that commands draws anything: wiring with no current in it.</summary>
    public Hypothesis Unloaded => Duty.Control is { } control ? OpenIn(control) : Idle;

    /// <summary>Solves every hypothesis in every condition.</summary>
    /// <param name="circuit">The machine.</param>
    /// <param name="duty">Duty that fails.</param>
    /// <param name="altered">What was found altered, by <see cref="Alteration.Id"/>.</param>
    /// <param name="seed">Seed of the particles.</param>
    /// <param name="cancel">Gives it up.</param>
    public static PredictionTable Build(
        Circuit circuit,
        Duty duty,
        IReadOnlyList<string> altered,
        int seed = 20261,
        CancellationToken cancel = default
    )
    {
        var table = new PredictionTable(circuit, duty, altered);
        table.WorkOut(seed, cancel);
        return table;
    }

    /// <summary>
    /// Solves a few cases of each hypothesis in the conditions that are reached soonest, and in all where lamps are looked at:
    /// enough to choose the first test by, in a fraction of the time.
    /// </summary>
    /// <inheritdoc cref="Build"/>
    public static PredictionTable BuildCoarse(
        Circuit circuit,
        Duty duty,
        IReadOnlyList<string> altered,
        int seed = 20261,
        CancellationToken cancel = default
    )
    {
        var table = new PredictionTable(circuit, duty, altered, Grain.Coarse);
        var most = table.FollowsWaves
            ? CoarseConditions
            : Math.Max(CoarseConditions, CoarseWork / Math.Max(1, circuit.Faults.Count));
        var soonest = new TestPlan(table, ProbePoints.Of(circuit)).Soonest(most);
        var free = Enumerable.Range(0, table.Conditions.Count).Where(c => c == 0 || table.Conditions[c].IsFree);
        table.only = soonest.Concat(free).ToHashSet();
        table.WorkOut(seed, cancel);
        return table;
    }

    private void WorkOut(int seed, CancellationToken cancel)
    {
        var drawn = new ParticleDraws(Circuit, Particles, seed);
        Fault?[] faults = [.. FollowsWaves ? Relevance.Of(Circuit, Duty) : Circuit.Faults, null];
        var hypotheses = new Hypothesis[faults.Length];
        var sound = new CaseRunner(this, Circuit, BeliefTolerance);
        var healthy = sound.Predict(null, drawn, null);
        Parallel.For(
            0,
            faults.Length,
            new ParallelOptions { MaxDegreeOfParallelism = Environment.ProcessorCount, CancellationToken = cancel },
            () => new CaseRunner(this, Circuit, BeliefTolerance, sound),
            (h, _, runner) =>
            {
                hypotheses[h] = faults[h] switch
                {
                    null => healthy,
                    // What lays a path of its own is a circuit of its own.
                    { Paths.Count: > 0 } fault => new CaseRunner(
                        this,
                        Circuit.With([fault]),
                        BeliefTolerance,
                        sound
                    ).Predict(fault, drawn, healthy),
                    { } fault => runner.Predict(fault, drawn, healthy),
                };
                return runner;
            },
            _ => { }
        );
        Hypotheses = hypotheses;
        draws = drawn;
    }

    /// <summary>
    /// A hypothesis with its severities drawn anew about where they have come to lie, when few of those it has are near.
    /// The same place gives the same hypothesis, however it was come by; a few are kept.
    /// </summary>
    /// <param name="hypothesis">Which.</param>
    /// <param name="about">Where, as a fraction of the fault's range.</param>
    /// <param name="within">Half the width they are to be spread over.</param>
    internal Hypothesis Near(int hypothesis, double about, double within)
    {
        const int MostKept = 96;
        const double Steps = 40;
        var key = (hypothesis, (int)Math.Round(about * Steps), (int)Math.Round(within * Steps));
        if (near.TryGetValue(key, out var known))
        {
            return known;
        }

        if (near.Count > MostKept)
        {
            near.Clear();
        }

        var (severities, mass) = Spread(key.Item2 / Steps, Math.Max(1, key.Item3) / Steps);
        var before = Hypotheses[hypothesis];
        var runner = new CaseRunner(this, Circuit.With([before.Fault!]), BeliefTolerance);
        return near.GetOrAdd(key, runner.Again(before, draws!, Healthy, severities, mass));
    }

    /// <summary>
    /// Severities of which most lie evenly near a place and the rest evenly everywhere, with what each stands for: one over
    /// the density it was drawn with (importance sampling).
    /// </summary>
    private (double[] Severities, double[] Mass) Spread(double about, double within)
    {
        const double NearShare = 0.8;
        var (low, high) = (Math.Max(0, about - within), Math.Min(1, about + within));
        var inside = (int)(NearShare * Particles);
        var random = new Random(Particles);
        var severities = Enumerable
            .Range(0, Particles)
            .Select(p =>
                p < inside
                    ? low + ((high - low) * (p + random.NextDouble()) / inside)
                    : (p - inside + random.NextDouble()) / (Particles - inside)
            )
            .ToArray();
        random.Shuffle(severities);
        var (share, rest) = ((double)inside / Particles, 1 - ((double)inside / Particles));
        return (
            severities,
            [.. severities.Select(s => 1 / (rest + (s >= low && s <= high ? share / (high - low) : 0)))]
        );
    }

    /// <summary>The sound machine's predictions alone: enough to ask what lights, long before the faults are worked out.</summary>
    internal static PredictionTable Sketch(Circuit circuit, Duty duty, IReadOnlyList<string> altered, int seed = 20261)
    {
        var table = new PredictionTable(circuit, duty, altered, Grain.Coarse);
        var drawn = new ParticleDraws(circuit, table.Particles, seed);
        table.Hypotheses = [new CaseRunner(table, circuit, BeliefTolerance).Predict(null, drawn, null)];
        return table;
    }

    /// <summary>Whether a duty is done by the waves of charge windings, rather than by an ignition or a battery at rest.</summary>
    internal static bool NeedsWaves(Circuit circuit, Duty duty) =>
        circuit.WaveEngine >= 0
        && duty.Speed != DutySpeed.Rest
        && Procedures.Conditions.EffectOf(circuit, duty)
            is EffectKind.Charges
                or EffectKind.Works
                or EffectKind.Glows
                or EffectKind.Sounds
        && !(duty.Speed == DutySpeed.Crank && StandsStill(circuit, duty));

    /// <summary>
    /// Whether charge windings leave the sound machine as it is at a duty's speed: too slow to overcome the battery, they
    /// change no volts that a meter shows as a mean.
    /// </summary>
    private static bool StandsStill(Circuit circuit, Duty duty)
    {
        const double NothingVolts = 0.05;
        var (still, waving) = (Tried(circuit, duty, waves: false), Tried(circuit, duty, waves: true));
        return Enumerable
            .Range(0, circuit.Network.NodeCount)
            .All(n => Math.Abs(still.Drop(n, circuit.Reference) - waving.Drop(n, circuit.Reference)) < NothingVolts);
    }

    private static CircuitState Tried(Circuit circuit, Duty duty, bool waves)
    {
        var state = new CircuitState(circuit) { FollowsWaves = waves };
        state.Begin(circuit.NominalParameters());
        for (var e = 0; e < circuit.Engines.Count; e++)
        {
            state.SetSpeed(e, Symptoms.RpmOf(circuit.Engines[e], duty.Speed));
        }

        state.Move(circuit.Setting(duty.Setting));
        return state;
    }

    /// <summary>A duty with its conditions and no predictions: enough to try it.</summary>
    internal static PredictionTable Bare(Circuit circuit, Duty duty, IReadOnlyList<string> altered) =>
        new(circuit, duty, altered);

    /// <summary>Lamps that glow in a condition when all is well, by part id: the ones worth asking about.</summary>
    public IEnumerable<string> LampsLit(int condition)
    {
        const float Lit = 0.5f;
        return Conditions[condition].IsFree ? Lamps.Where((_, l) => Healthy.Glow(condition, l)[0] > Lit) : [];
    }

    /// <summary>Applies what was found altered to a case's parameters.</summary>
    internal void ApplyAlterations(Span<double> parameters)
    {
        foreach (var altered in alterations)
        {
            altered.As.Apply(parameters, altered.As.Severity.At(1));
        }
    }

    private int FirstDeadAs(Condition wanted)
    {
        static bool IsDead(Condition condition) => condition.Quantity is Quantity.Ohms or Quantity.Beep;
        return !IsDead(wanted)
            ? -1
            : Conditions
                .ToList()
                .FindIndex(c =>
                    IsDead(c)
                    && c.Setting.Equals(wanted.Setting)
                    && c.Tester == wanted.Tester
                    && c.Off.SequenceEqual(wanted.Off)
                );
    }

    private Hypothesis OpenIn(string partId) =>
        Hypotheses.FirstOrDefault(h =>
            h.HasPredictions
            && h.Fault is { Kind: FaultKind.Open } fault
            && string.Equals(fault.Repair.Id, "part:" + partId, StringComparison.Ordinal)
        ) ?? Healthy;

    private static double AmpsOf(Circuit circuit, Duty duty) =>
        circuit.DeviceOf(duty.Load).Effect(Tried(circuit, duty, waves: true)).Level;

    private static CircuitState AtRest(Circuit circuit)
    {
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(circuit.Setting(null));
        return state;
    }
}
