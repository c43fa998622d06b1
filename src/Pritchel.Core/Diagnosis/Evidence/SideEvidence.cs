using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Evidence;

/// <summary>
/// What was seen and tried besides the readings, as one factor for each fault: looks at places, places moved, warmed or
/// wetted, how other duties of the machine went, codes that its controller stored. Taken by fault and not by particle: none says much about how bad a
/// fault is.
/// </summary>
public sealed class SideEvidence
{
    private readonly IReadOnlyList<Look> looks;
    private readonly IReadOnlyList<(bool Works, DutyTries Tries)> also;
    private readonly (IReadOnlyList<string> Read, StoredCodes Stored)? codes;

    /// <summary>Gathers what was seen and tried.</summary>
    /// <param name="looks">Looks at places, the last at each counting.</param>
    /// <param name="also">Whether other duties are done, with how each fault lets them go.</param>
    /// <param name="codes">Codes read, with those that each fault stores; null when none were read out.</param>
    /// <param name="provocations">Places stirred; null for none.</param>
    public SideEvidence(
        IEnumerable<Look> looks,
        IReadOnlyList<(bool Works, DutyTries Tries)> also,
        (IReadOnlyList<string> Read, StoredCodes Stored)? codes = null,
        WiggleEvidence? provocations = null
    )
    {
        this.codes = codes;
        WiggleEvidence = provocations ?? new WiggleEvidence([], new Complaint { Duty = "" });
        this.looks = [.. looks.GroupBy(l => l.Repair, StringComparer.Ordinal).Select(g => g.Last())];
        this.also = also;
        OfUnknown =
            this.looks.Aggregate(1.0, (chance, look) => chance * Looking.NotThere(look.Found))
            * Math.Pow(DutyTries.OfUnknown, also.Count)
            * (codes is { } told ? told.Stored.OfUnknown(told.Read) : 1)
            * WiggleEvidence.OfUnknown;
    }

    /// <summary>Nothing seen or tried.</summary>
    public static SideEvidence None { get; } = new([], []);

    /// <summary>Places stirred.</summary>
    public WiggleEvidence WiggleEvidence { get; }

    /// <summary>Looks that count.</summary>
    public IReadOnlyList<Look> Looks => looks;

    /// <summary>Chance of all that was seen and tried with a cause that is not among the faults.</summary>
    public double OfUnknown { get; }

    /// <summary>Chance of all that was seen and tried with a fault; null for the sound machine.</summary>
    public double Of(Fault? fault)
    {
        var chance = WiggleEvidence.Of(fault);
        foreach (var look in looks)
        {
            chance *= string.Equals(look.Repair, fault?.Repair.Id, StringComparison.Ordinal)
                ? Looking.There(look.Found, fault!.Kind)
                : Looking.NotThere(look.Found);
        }

        foreach (var (works, tries) in also)
        {
            chance *= tries.Of(works, fault);
        }

        return codes is { } told ? chance * told.Stored.Of(told.Read, fault) : chance;
    }
}

/// <summary>How one duty goes with each fault of a machine, tried on a few machines each.</summary>
public sealed class DutyTries
{
    private const int Draws = 8;
    private const int Seed = 31415;
    private const double SaidWrongly = 0.02;

    /// <summary>Chance of any answer with a cause that is not among the faults.</summary>
    internal const double OfUnknown = 0.4;

    private readonly Dictionary<string, double> works;
    private readonly double soundWorks;

    private DutyTries(Dictionary<string, double> works, double soundWorks)
    {
        this.works = works;
        this.soundWorks = soundWorks;
    }

    /// <summary>
    /// Whether a duty can be tried so: one whose waves must be followed takes minutes for all faults, and is a job by itself.
    /// </summary>
    public static bool IsQuick(Circuit circuit, Duty duty) => !PredictionTable.NeedsWaves(circuit, duty);

    /// <summary>Tries a duty with every fault.</summary>
    /// <param name="circuit">The machine.</param>
    /// <param name="duty">The duty.</param>
    /// <param name="altered">What was found altered, by <see cref="Alteration.Id"/>.</param>
    public static DutyTries Build(Circuit circuit, Duty duty, IReadOnlyList<string> altered)
    {
        var table = PredictionTable.Bare(circuit, duty, altered);
        var draws = new ParticleDraws(circuit, Draws, Seed);
        double Share(CaseRunner runner, Fault? fault) =>
            Enumerable
                .Range(0, Draws)
                .Average(p => runner.Begin(fault, draws.Parameters(p), draws.Severity(p)) == Heard.Works ? 1.0 : 0);
        var shares = new double[circuit.Faults.Count];
        Parallel.For(
            0,
            shares.Length,
            () => new CaseRunner(table, circuit, PredictionTable.BeliefTolerance),
            (f, _, runner) =>
            {
                var fault = circuit.Faults[f];
                shares[f] = Share(
                    fault.Paths.Count == 0
                        ? runner
                        : new CaseRunner(table, circuit.With([fault]), PredictionTable.BeliefTolerance),
                    fault
                );
                return runner;
            },
            _ => { }
        );
        return new DutyTries(
            circuit.Faults.Select((f, i) => (f.Id, Share: shares[i])).ToDictionary(x => x.Id, x => x.Share),
            Share(new CaseRunner(table, circuit, PredictionTable.BeliefTolerance), null)
        );
    }

    /// <summary>Chance of that being found with a fault; null for the sound machine.</summary>
    /// <param name="found">Whether the duty was done.</param>
    /// <param name="fault">The fault.</param>
    public double Of(bool found, Fault? fault)
    {
        var share = fault is null ? soundWorks : works[fault.Id];
        var done = SaidWrongly + ((1 - (2 * SaidWrongly)) * share);
        return found ? done : 1 - done;
    }
}
