using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <summary>How one duty goes with each fault of a machine, tried on a few machines each.</summary>
public sealed class DutyTries
{
    private const int Draws = 8;
    private const int Seed = 31415;
    private const double SaidWrongly = 0.02;

    /// <summary>Chance of any answer with a cause that is not among the faults.</summary>
    internal const double OfUnknown = 0.4;

    private readonly Dictionary<FaultId, double> works;
    private readonly double soundWorks;

    private DutyTries(Dictionary<FaultId, double> works, double soundWorks)
    {
        this.works = works;
        this.soundWorks = soundWorks;
    }

    /// <summary>
    /// Whether a duty can be tried so: one whose waves must be followed takes minutes for all faults, and is a job by itself.
    /// </summary>
    public static bool IsQuick(Circuit circuit, Duty duty) => !DutyWaves.Matter(circuit, duty);

    /// <summary>Tries a duty with every fault.</summary>
    /// <param name="circuit">The machine.</param>
    /// <param name="duty">The duty.</param>
    /// <param name="altered">What was found altered.</param>
    public static DutyTries Build(Circuit circuit, Duty duty, IReadOnlyList<AlterationId> altered)
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
            () => new CaseRunner(table, circuit, DutyWaves.BeliefTolerance),
            (f, _, runner) =>
            {
                var fault = circuit.Faults[f];
                shares[f] = Share(
                    fault.Paths.Count == 0
                        ? runner
                        : new CaseRunner(table, circuit.With([fault]), DutyWaves.BeliefTolerance),
                    fault
                );
                return runner;
            },
            _ => { }
        );
        return new DutyTries(
            circuit.Faults.Select((f, i) => (f.Id, Share: shares[i])).ToDictionary(x => x.Id, x => x.Share),
            Share(new CaseRunner(table, circuit, DutyWaves.BeliefTolerance), null)
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
