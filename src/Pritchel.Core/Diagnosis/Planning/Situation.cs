using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Units;

namespace Pritchel.Core.Diagnosis.Planning;

/// <summary>How things stand on the floor: what is open already, what cannot be reached, who is there.</summary>
public sealed record Situation
{
    /// <summary>Places already opened.</summary>
    public IReadOnlySet<PlaceId> Opened { get; init; } = new HashSet<PlaceId>();

    /// <summary>Places given up on.</summary>
    public IReadOnlySet<PlaceId> Unreachable { get; init; } = new HashSet<PlaceId>();

    /// <summary>Condition the controls are in; null at the start, when they stand as the complaint was tried.</summary>
    public int? Condition { get; init; }

    /// <summary>Whether the battery's grounded post is off, for ohms.</summary>
    public bool BatteryOff { get; init; }

    /// <summary>Whether the engine has been made safe to turn.</summary>
    public bool MadeSafe { get; init; }

    /// <summary>Whether the person works alone.</summary>
    public bool Alone { get; init; }

    /// <summary>Tests not to be offered again: answered or passed over.</summary>
    public IReadOnlySet<ProbePair> Done { get; init; } = new HashSet<ProbePair>();

    /// <summary>How many times each test was read; none that was passed over since.</summary>
    public IReadOnlyDictionary<ProbePair, int> Read { get; init; } = new Dictionary<ProbePair, int>();

    /// <summary>The same with a test that is not to be offered again.</summary>
    public Situation PassedOver(ProbePair at) =>
        this with
        {
            Done = new HashSet<ProbePair>(Done) { at },
            Read = Read.Where(r => r.Key != at).ToDictionary(),
        };
}

/// <summary>A test on offer.</summary>
/// <param name="At">Where the probes go.</param>
/// <param name="Red">Red probe.</param>
/// <param name="Black">Black probe.</param>
/// <param name="Condition">State of the controls.</param>
/// <param name="Minutes">What it takes, with access not yet made.</param>
/// <param name="Bits">Expected information about which repair it is.</param>
public sealed record PlannedTest(
    ProbePair At,
    ProbePoint Red,
    ProbePoint Black,
    Condition Condition,
    Minutes Minutes,
    double Bits
)
{
    // Sixty-four particles leave about this much chance in any estimate of bits; counted in full, half a dozen idle
    // readings within reach beat the one that halves what is left behind four screws.
    private const double ChanceBits = 0.1;

    /// <summary>Bits that the chance of so many particles would show of a test that tells nothing.</summary>
    public double ByChance { get; init; } = ChanceBits;

    /// <summary>Of the minutes, those that mending what is suspected would take anyway: opening the place where it lies.</summary>
    public Minutes WantedAnyway { get; init; }

    /// <summary>Whether it was read before, and everything now hangs on that figure.</summary>
    public bool IsOnceMore { get; init; }

    /// <summary>Whether it is taken not to tell suspects apart but to hear of the first one itself, before it is renewed.</summary>
    public bool IsToMakeSure { get; init; }

    /// <summary>Minutes that one waits until a fault that comes and goes is there to be measured.</summary>
    public Minutes Wait { get; init; }

    /// <summary>Expected information per minute that only it takes, what chance alone would show taken off.</summary>
    public double Rate =>
        (Sure + (0.05 * Math.Min(Bits, ByChance))) / (Minutes.Value - WantedAnyway.Value + Wait.Value);

    /// <summary>Fewer bits than this and the test is not worth a walk: half of what chance would show, within limits.</summary>
    public double Telling => Math.Max(TestPlan.LeastBits, Math.Min(ChanceBits / 2, ByChance / 2));

    /// <summary>Bits beyond what chance would show.</summary>
    public double Sure => Math.Max(0, Bits - ByChance);

    /// <summary>Bits by chance among so many particles that still count: as their root, by eye on rehearsals.</summary>
    internal static double ChanceOf(double particles) =>
        ChanceBits * Math.Sqrt(PredictionTable.UsualParticles / particles);
}
