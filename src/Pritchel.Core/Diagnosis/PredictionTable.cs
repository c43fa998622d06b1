using Pritchel.Core.Circuits;
using Pritchel.Core.Faults;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Diagnosis;

/// <summary>
/// What each hypothesis would show: for every fault, a number of particles (machines that differ within healthy
/// spread, faults that differ in severity), each solved in every condition. Depends on the machine, the duty and
/// what is bridged; not on any answer. Immutable once built, and shared.
/// </summary>
public sealed class PredictionTable
{
    /// <summary>Particles per hypothesis.</summary>
    public const int Particles = 64;

    private const double BeliefTolerance = 1e-4;

    private PredictionTable(Circuit circuit, Duty duty, IReadOnlyList<string> bridged)
    {
        Circuit = circuit;
        Duty = duty;
        Conditions = Diagnosis.Conditions.Of(circuit, duty);
        Bridged = bridged;
        Lamps =
        [
            .. circuit
                .Machine.Parts.Where(p => circuit.DeviceOf(p.Id).Sign(AtRest(circuit)).Kind == SignKind.Glows)
                .Select(p => p.Id),
        ];
    }

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
    /// <param name="dutyId">Duty that fails.</param>
    /// <param name="bridged">Switch contacts bridged by someone, "part/contact".</param>
    /// <param name="seed">Seed of the particles.</param>
    public static PredictionTable Build(Circuit circuit, string dutyId, IReadOnlyList<string> bridged, int seed = 20261)
    {
        var duty = circuit.Machine.Duties.First(d => string.Equals(d.Id, dutyId, StringComparison.Ordinal));
        var table = new PredictionTable(circuit, duty, bridged);
        var draws = new ParticleDraws(circuit, Particles, seed);
        // Chafes and shorts want tests of their own (a wire lifted, a lamp in the fuse's place) before they can be told apart.
        Fault?[] faults = [.. circuit.Faults.Where(f => f.Paths.Count == 0), null];
        var hypotheses = new Hypothesis[faults.Length];
        var healthy = new CaseRunner(table, BeliefTolerance).Predict(null, draws, null);
        Parallel.For(
            0,
            faults.Length,
            new ParallelOptions { MaxDegreeOfParallelism = Environment.ProcessorCount },
            () => new CaseRunner(table, BeliefTolerance),
            (h, _, runner) =>
            {
                hypotheses[h] = faults[h] is { } fault ? runner.Predict(fault, draws, healthy) : healthy;
                return runner;
            },
            _ => { }
        );
        table.Hypotheses = hypotheses;
        return table;
    }

    /// <summary>Lamps that glow in a condition when all is well, by part id: the ones worth asking about.</summary>
    public IEnumerable<string> LampsLit(int condition)
    {
        const float Lit = 0.5f;
        return Lamps.Where((_, l) => Healthy.Glow(condition, l)[0] > Lit);
    }

    /// <summary>Applies what was found bridged to a case's parameters.</summary>
    internal void ApplyBridges(Span<double> parameters)
    {
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

    private Hypothesis OpenIn(string partId) =>
        Hypotheses.FirstOrDefault(h =>
            h.HasVolts
            && h.Fault is { Kind: FaultKind.Open } fault
            && string.Equals(fault.Repair.Id, "part:" + partId, StringComparison.Ordinal)
        ) ?? Healthy;

    private static CircuitState AtRest(Circuit circuit)
    {
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(circuit.Setting(null));
        return state;
    }
}

/// <summary>One thing that may be wrong, with what it would show.</summary>
public sealed class Hypothesis
{
    private readonly float[][] volts;
    private readonly float[][] glows;
    private readonly Heard[] heard;
    private readonly bool[][] chatters;

    internal Hypothesis(Fault? fault, float[][] volts, float[][] glows, Heard[] heard, bool[][] chatters)
    {
        Fault = fault;
        this.volts = volts;
        this.glows = glows;
        this.heard = heard;
        this.chatters = chatters;
        DoesDuty = Does(heard);
    }

    internal static bool Does(Heard[] heard) => heard.Count(h => h == Heard.Works) >= heard.Length - 1;

    /// <summary>A fault that leaves the duty alone, shown by this sound machine.</summary>
    internal Hypothesis AsHarmless(Fault fault, Heard[] heardWithIt) =>
        new(fault, [.. volts.Select(_ => Array.Empty<float>())], glows, heardWithIt, chatters);

    /// <summary>The fault; null for the sound machine.</summary>
    public Fault? Fault { get; }

    /// <summary>Whether the machine does its duty with this fault, whatever its severity.</summary>
    public bool DoesDuty { get; }

    /// <summary>Volts at a node above battery negative in a condition, by particle; NaN where nothing joins it to the battery.</summary>
    public ReadOnlySpan<float> Volts(int condition, int node, int nodeCount)
    {
        var particles = heard.Length;
        return volts[condition].Length == 0 ? [] : volts[condition].AsSpan(node * particles, particles);
    }

    /// <summary>Volts a meter would show between two nodes, by particle: a node that floats comes to the other's volts.</summary>
    public static double Between(float red, float black)
    {
        var drop = red - black;
        return float.IsNaN(drop) ? 0 : drop;
    }

    /// <summary>Whether volts were kept; a hypothesis that does its duty keeps none.</summary>
    public bool HasVolts => volts[0].Length > 0;

    /// <summary>What is heard, by particle.</summary>
    public ReadOnlySpan<Heard> HeardBy => heard;

    /// <summary>Whether the circuit chatters in a condition, by particle.</summary>
    public ReadOnlySpan<bool> Chatters(int condition) => chatters[condition];

    /// <summary>Volts share of a lamp in a condition, by particle.</summary>
    public ReadOnlySpan<float> Glow(int condition, int lamp)
    {
        var particles = heard.Length;
        return glows[condition].AsSpan(lamp * particles, particles);
    }
}
