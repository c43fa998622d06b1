using System.Collections.Concurrent;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Networks;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

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
public sealed partial class PredictionTable
{
    /// <summary>Particles per hypothesis, unless waves must be followed.</summary>
    public const int UsualParticles = 64;

    // Following the waves of charge windings takes a thousand times as long as a still circuit.
    private const int WaveParticles = 32;

    /// <summary>Seed of the particles, unless another is asked for.</summary>
    public const int UsualSeed = 20261;

    private const int CoarseParticles = 16;
    private const int CoarseWaveParticles = 4;

    // Of fifty to a hundred settings, the first test of most complaints is in one of the soonest fourteen. Where faults are
    // few, more are looked at: so many of both together.
    private const int CoarseConditions = 14;
    private const int CoarseWork = 12_000;

    private readonly ConcurrentDictionary<(int Hypothesis, int About, int Within), Hypothesis> near = new();
    private readonly bool cranksStill;
    private readonly Alteration[] alterations;
    private ParticleDraws? draws;
    private HashSet<int>? only;

    private PredictionTable(
        Circuit circuit,
        Duty duty,
        IReadOnlyList<AlterationId> altered,
        Meter meter,
        Grain grain = Grain.Fine
    )
    {
        var tested = new TestedDuty(circuit, duty);
        Circuit = circuit;
        Meter = meter;
        Grain = grain;
        FollowsWaves = tested.FollowsWaves;
        Effect = tested.Effect;
        cranksStill = !FollowsWaves && duty.Speed == DutySpeed.Crank && Effect != EffectKind.Sparks;
        Particles = (FollowsWaves, grain) switch
        {
            (true, Grain.Coarse) => CoarseWaveParticles,
            (true, _) => WaveParticles,
            (_, Grain.Coarse) => CoarseParticles,
            _ => UsualParticles,
        };
        Duty = duty;
        HealthyLevel = Effect is EffectKind.Charges or EffectKind.Reads
            ? circuit.DeviceOf(duty.Load).Effect(DutyWaves.Tried(circuit, duty)).Level
            : 0;
        Conditions = ProcedureCatalogue.Conditions(tested);
        Slots = new PointSlots(Conditions, circuit.Network.NodeCount);
        Altered = altered;
        alterations = altered.Count == 0 ? [] : [.. Alteration.Of(circuit).Where(a => altered.Contains(a.Id))];
        Off = [.. Conditions.Select(c => c.Off.SelectMany(what => Case.Opened(circuit, what)).ToArray())];
        Batteries = [.. circuit.Opening.Batteries];
        Tested = [.. Enum.GetValues<SparkTesterAt>().Select(at => circuit.Opening.Replaced(at).ToArray())];
        DeadAs = [.. Conditions.Select(FirstDeadAs)];
        Lamps =
        [
            .. circuit
                .Machine.Parts.Where(p => circuit.DeviceOf(p.Id).Effect(tested.AtRest).Kind == EffectKind.Glows)
                .Select(p => p.Id),
        ];
    }

    /// <summary>How many cases stand for each fault. Conditions and points are numbered alike in every grain.</summary>
    public Grain Grain { get; }

    /// <summary>The meter that readings are predicted for: its input, beep, test sources and lamp.</summary>
    public Meter Meter { get; }

    /// <summary>Particles per hypothesis.</summary>
    public int Particles { get; }

    /// <summary>Where figures of each point are kept.</summary>
    internal PointSlots Slots { get; }

    /// <summary>About how many bytes of memory its predictions take.</summary>
    public long Bytes => Hypotheses.Sum(h => h.Bytes);

    /// <summary>Seed that its particles are drawn from; all else that is drawn for it too.</summary>
    internal int Seed { get; private set; }

    /// <summary>How the part of the duty shows itself.</summary>
    public EffectKind Effect { get; }

    /// <summary>Amps that the sound machine charges with at the duty; zero when the duty is another.</summary>
    internal double HealthyLevel { get; }

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
    internal bool Predicts(int condition) => HasFigures(condition) && !LeavesOut(condition);

    /// <summary>Whether volts in a condition are beyond what is followed for this duty, in any grain.</summary>
    internal bool LeavesOut(int condition) =>
        Conditions[condition] is { Observable: DirectVolts, Speed: not DutySpeed.Rest }
        && !FollowsWaves
        && Circuit.WaveEngine >= 0
        && !cranksStill;

    /// <summary>
    /// Whether the sound machine's figure is known at a pair in most cases. Where diodes let a winding go and catch it within a
    /// turn it is not: a suspect whose figure happens to be known there would win by that alone.
    /// </summary>
    internal bool Follows(ProbePair at)
    {
        var figures = Healthy.Across(at);
        var known = 0;
        for (var p = 0; p < Particles; p++)
        {
            known += figures.IsKnown(p) ? 1 : 0;
        }

        return 2 * known > Particles;
    }

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

    /// <summary>What was found altered.</summary>
    public IReadOnlyList<AlterationId> Altered { get; }

    /// <summary>Lamps an operator can see.</summary>
    public IReadOnlyList<PartId> Lamps { get; }

    /// <summary>One entry per fault, then the sound machine last.</summary>
    public IReadOnlyList<Hypothesis> Hypotheses { get; private set; } = [];

    /// <summary>The machine as it should be.</summary>
    public Hypothesis Healthy => Hypotheses[^1];

    /// <summary>Solves every hypothesis in every condition.</summary>
    /// <param name="circuit">The machine.</param>
    /// <param name="duty">Duty that fails.</param>
    /// <param name="altered">What was found altered.</param>
    /// <param name="meter">Meter that will be used; an ordinary one when null.</param>
    /// <param name="seed">Seed of the particles.</param>
    /// <param name="threads">How many threads may work on it at once; null for one on each core.</param>
    /// <param name="cancel">Gives it up.</param>
    public static PredictionTable Build(
        Circuit circuit,
        Duty duty,
        IReadOnlyList<AlterationId> altered,
        Meter? meter = null,
        int seed = UsualSeed,
        int? threads = null,
        CancellationToken cancel = default
    )
    {
        var table = new PredictionTable(circuit, duty, altered, meter ?? Meter.Ordinary);
        table.WorkOut(seed, threads ?? Environment.ProcessorCount, cancel);
        return table;
    }

    /// <summary>
    /// Solves a few cases of each hypothesis in the conditions that are reached soonest, and in all where lamps are looked at:
    /// enough to choose the first test by, in a fraction of the time.
    /// </summary>
    /// <param name="circuit">The machine.</param>
    /// <param name="duty">Duty that fails.</param>
    /// <param name="altered">What was found altered.</param>
    /// <param name="soonest">So many conditions that are reached soonest, by number.</param>
    /// <param name="meter">Meter that will be used; an ordinary one when null.</param>
    /// <param name="seed">Seed of the particles.</param>
    /// <param name="cancel">Gives it up.</param>
    public static PredictionTable BuildCoarse(
        Circuit circuit,
        Duty duty,
        IReadOnlyList<AlterationId> altered,
        Func<PredictionTable, int, IEnumerable<int>> soonest,
        Meter? meter = null,
        int seed = UsualSeed,
        CancellationToken cancel = default
    )
    {
        var table = new PredictionTable(circuit, duty, altered, meter ?? Meter.Ordinary, Grain.Coarse);
        var most = table.FollowsWaves
            ? CoarseConditions
            : Math.Max(CoarseConditions, CoarseWork / Math.Max(1, circuit.Faults.Count));
        var free = Enumerable.Range(0, table.Conditions.Count).Where(c => c == 0 || table.Conditions[c].IsFree);
        table.only = soonest(table, most).Concat(free).ToHashSet();
        table.WorkOut(seed, Environment.ProcessorCount, cancel);
        return table;
    }

    private void WorkOut(int seed, int threads, CancellationToken cancel)
    {
        Seed = seed;
        var drawn = new ParticleDraws(Circuit, Particles, seed);
        Fault?[] faults = [.. Circuit.Faults, null];
        var hypotheses = new Hypothesis[faults.Length];
        var sound = new CaseRunner(this, Circuit, DutyWaves.BeliefTolerance);
        var healthy = sound.Predict(null, drawn, null);
        if (FollowsWaves)
        {
            sound.TryAsDrawn();
        }

        // Each is packed as it is made: a thousand of them side by side as they are worked out are a gigabyte.
        var constants = new ConcurrentDictionary<float, float[]>();
        healthy.PackAsSound(constants);
        Parallel.For(
            0,
            faults.Length,
            new ParallelOptions { MaxDegreeOfParallelism = threads, CancellationToken = cancel },
            () => new CaseRunner(this, Circuit, DutyWaves.BeliefTolerance, sound),
            (h, _, runner) =>
            {
                hypotheses[h] = faults[h] switch
                {
                    null => healthy,
                    // What lays a path of its own is a circuit of its own.
                    { Paths.Count: > 0 } fault => new CaseRunner(
                        this,
                        Circuit.With([fault]),
                        DutyWaves.BeliefTolerance,
                        sound
                    ).Predict(fault, drawn, healthy),
                    { } fault => runner.Predict(fault, drawn, healthy),
                };
                hypotheses[h].Pack(healthy, constants);
                return runner;
            },
            _ => { }
        );
        healthy.DropExact();
        Hypotheses = hypotheses;
        draws = drawn;
    }

    /// <summary>The sound machine's predictions alone: enough to ask what lights, long before the faults are worked out.</summary>
    internal static PredictionTable Sketch(
        Circuit circuit,
        Duty duty,
        IReadOnlyList<AlterationId> altered,
        Meter? meter = null,
        int seed = UsualSeed
    )
    {
        var table = new PredictionTable(circuit, duty, altered, meter ?? Meter.Ordinary, Grain.Coarse);
        var drawn = new ParticleDraws(circuit, table.Particles, seed);
        var sound = new CaseRunner(table, circuit, DutyWaves.BeliefTolerance).Predict(null, drawn, null);
        sound.PackAsSound(new ConcurrentDictionary<float, float[]>());
        sound.DropExact();
        table.Hypotheses = [sound];
        return table;
    }

    /// <summary>A duty with its conditions and no predictions: enough to try it.</summary>
    internal static PredictionTable Bare(Circuit circuit, Duty duty, IReadOnlyList<AlterationId> altered) =>
        new(circuit, duty, altered, Meter.Ordinary);

    /// <summary>Lamps that glow in a condition when all is well: the ones worth asking about.</summary>
    public IEnumerable<PartId> LampsLit(int condition)
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
        static bool IsDead(Condition condition) => condition.Observable is DeadOhms or Beep;
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

    /// <summary>Number of a lamp among <see cref="Lamps"/>; −1 when it is none of them.</summary>
    public int LampNumber(PartId lamp) => Lamps.ToList().IndexOf(lamp);

    /// <summary>The condition in which any two points may be read in a setting at a speed; null where there is none.</summary>
    public int? FreeCondition(NamedSetting setting, DutySpeed speed)
    {
        for (var c = 0; c < Conditions.Count; c++)
        {
            if (
                Conditions[c].IsFree
                && Conditions[c].Speed == speed
                && Conditions[c].Setting.Named(Circuit.Machine).Equals(setting)
            )
            {
                return c;
            }
        }

        return null;
    }
}
