using System.Collections.Concurrent;
using Pritchel.Core.Circuits;
using Pritchel.Core.Faults;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Diagnosis;

/// <summary>
/// What each hypothesis would show: for every fault, a number of particles (machines that differ within healthy
/// spread, faults that differ in severity), each solved in every condition. Depends on the machine, the duty and
/// what is bridged; not on any answer. Shared, and always answers alike.
/// </summary>
public sealed class PredictionTable
{
    /// <summary>Particles per hypothesis, unless waves must be followed.</summary>
    public const int UsualParticles = 64;

    // Following the waves of charge windings takes a thousand times as long as a still circuit.
    private const int WaveParticles = 16;
    internal const double BeliefTolerance = 1e-4;

    private readonly ConcurrentDictionary<(int Hypothesis, int About, int Within), Hypothesis> near = new();
    private ParticleDraws? draws;

    private PredictionTable(Circuit circuit, Duty duty, IReadOnlyList<string> bridged)
    {
        Circuit = circuit;
        FollowsWaves = NeedsWaves(circuit, duty);
        Particles = FollowsWaves ? WaveParticles : UsualParticles;
        Duty = duty;
        Sign = Diagnosis.Conditions.SignOf(circuit, duty);
        HealthyAmps = Sign == SignKind.Charges ? AmpsOf(circuit, duty) : 0;
        Conditions = Diagnosis.Conditions.Of(circuit, duty);
        Bridged = bridged;
        Off = [.. Conditions.Select(c => c.Off.SelectMany(what => Case.Opened(circuit, what)).ToArray())];
        Batteries = [.. Case.Batteries(circuit)];
        Tested = [.. Enum.GetValues<SparkTesterAt>().Select(at => Case.Replaced(circuit, at).ToArray())];
        DeadAs = [.. Conditions.Select(FirstDeadAs)];
        Lamps =
        [
            .. circuit
                .Machine.Parts.Where(p => circuit.DeviceOf(p.Id).Sign(AtRest(circuit)).Kind == SignKind.Glows)
                .Select(p => p.Id),
        ];
    }

    /// <summary>Particles per hypothesis.</summary>
    public int Particles { get; }

    /// <summary>How the part of the duty shows itself.</summary>
    public SignKind Sign { get; }

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
        Conditions[condition] is not { Quantity: Quantity.Volts, Speed: not DutySpeed.Rest }
        || FollowsWaves
        || Circuit.WaveEngine < 0;

    /// <summary>The circuit.</summary>
    public Circuit Circuit { get; }

    /// <summary>The duty that fails.</summary>
    public Duty Duty { get; }

    /// <summary>Settings that readings may be taken in.</summary>
    public IReadOnlyList<Condition> Conditions { get; }

    /// <summary>Contacts found bridged.</summary>
    public IReadOnlyList<string> Bridged { get; }

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
    /// <param name="bridged">Switch contacts bridged by someone, "part/contact".</param>
    /// <param name="seed">Seed of the particles.</param>
    /// <param name="cancel">Gives it up.</param>
    public static PredictionTable Build(
        Circuit circuit,
        Duty duty,
        IReadOnlyList<string> bridged,
        int seed = 20261,
        CancellationToken cancel = default
    )
    {
        var table = new PredictionTable(circuit, duty, bridged);
        var draws = new ParticleDraws(circuit, table.Particles, seed);
        Fault?[] faults = [.. table.FollowsWaves ? Relevance.Of(circuit, duty) : circuit.Faults, null];
        var hypotheses = new Hypothesis[faults.Length];
        var sound = new CaseRunner(table, circuit, BeliefTolerance);
        var healthy = sound.Predict(null, draws, null);
        Parallel.For(
            0,
            faults.Length,
            new ParallelOptions { MaxDegreeOfParallelism = Environment.ProcessorCount, CancellationToken = cancel },
            () => new CaseRunner(table, circuit, BeliefTolerance, sound),
            (h, _, runner) =>
            {
                hypotheses[h] = faults[h] switch
                {
                    null => healthy,
                    // What lays a path of its own is a circuit of its own.
                    { Paths.Count: > 0 } fault => new CaseRunner(
                        table,
                        circuit.With([fault]),
                        BeliefTolerance,
                        sound
                    ).Predict(fault, draws, healthy),
                    { } fault => runner.Predict(fault, draws, healthy),
                };
                return runner;
            },
            _ => { }
        );
        table.Hypotheses = hypotheses;
        table.draws = draws;
        return table;
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
    internal static PredictionTable Sketch(Circuit circuit, Duty duty, IReadOnlyList<string> bridged, int seed = 20261)
    {
        var table = new PredictionTable(circuit, duty, bridged);
        var draws = new ParticleDraws(circuit, table.Particles, seed);
        table.Hypotheses = [new CaseRunner(table, circuit, BeliefTolerance).Predict(null, draws, null)];
        return table;
    }

    /// <summary>Whether a duty is done by the waves of charge windings, rather than by an ignition or a battery at rest.</summary>
    internal static bool NeedsWaves(Circuit circuit, Duty duty) =>
        circuit.WaveEngine >= 0
        && duty.Speed != DutySpeed.Rest
        && Diagnosis.Conditions.SignOf(circuit, duty)
            is SignKind.Charges
                or SignKind.Works
                or SignKind.Glows
                or SignKind.Sounds;

    /// <summary>A duty with its conditions and no predictions: enough to try it.</summary>
    internal static PredictionTable Bare(Circuit circuit, Duty duty, IReadOnlyList<string> bridged) =>
        new(circuit, duty, bridged);

    /// <summary>Lamps that glow in a condition when all is well, by part id: the ones worth asking about.</summary>
    public IEnumerable<string> LampsLit(int condition)
    {
        const float Lit = 0.5f;
        return Conditions[condition].IsFree ? Lamps.Where((_, l) => Healthy.Glow(condition, l)[0] > Lit) : [];
    }

    /// <summary>Applies what was found bridged to a case's parameters.</summary>
    internal void ApplyBridges(Span<double> parameters)
    {
        if (Bridged.Count == 0)
        {
            return;
        }

        foreach (var fault in Circuit.Faults)
        {
            if (
                fault.Kind == FaultKind.StuckClosed
                && Bridged.Contains(fault.Id.Replace("/welded", "", StringComparison.Ordinal))
            )
            {
                fault.Apply(parameters, 1);
            }
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
            h.HasVolts
            && h.Fault is { Kind: FaultKind.Open } fault
            && string.Equals(fault.Repair.Id, "part:" + partId, StringComparison.Ordinal)
        ) ?? Healthy;

    private static double AmpsOf(Circuit circuit, Duty duty)
    {
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        for (var e = 0; e < circuit.Engines.Count; e++)
        {
            state.SetSpeed(e, Symptoms.RpmOf(circuit.Engines[e], duty.Speed));
        }

        state.Move(circuit.Setting(duty.Setting));
        return circuit.DeviceOf(duty.Load).Sign(state).Level;
    }

    private static CircuitState AtRest(Circuit circuit)
    {
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(circuit.Setting(null));
        return state;
    }
}
