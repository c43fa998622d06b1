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
    private const int GivenDraws = 16;
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

    /// <summary>
    /// Tries a duty with every fault. Where another is known to fail, only with the fault as bad as makes that one fail: a chafe
    /// hard enough to blow a fuse at one position of the key blows it at the one before as well.
    /// </summary>
    /// <param name="circuit">The machine.</param>
    /// <param name="duty">The duty.</param>
    /// <param name="altered">What was found altered.</param>
    /// <param name="failing">The duty that fails, as it was tried; null, or one that is not quickly tried, for none.</param>
    /// <param name="asItFailed">What else was so as that one failed, and is not now.</param>
    public static DutyTries Build(
        Circuit circuit,
        Duty duty,
        IReadOnlyList<AlterationId> altered,
        Duty? failing = null,
        params IReadOnlyList<PlantedFault> asItFailed
    )
    {
        var table = PredictionTable.Bare(circuit, duty, altered);
        var complaint =
            failing is not null && IsQuick(circuit, failing) ? PredictionTable.Bare(circuit, failing, altered) : null;
        var draws = new ParticleDraws(circuit, complaint is null ? Draws : GivenDraws, Seed);
        var shares = new double[circuit.Faults.Count];
        Parallel.For(
            0,
            shares.Length,
            Cores.All,
            () => new Trier(table, complaint, circuit, asItFailed),
            (f, _, trier) =>
            {
                var fault = circuit.Faults[f];
                var own =
                    fault.Paths.Count == 0 ? trier : new Trier(table, complaint, circuit.With([fault]), asItFailed);
                shares[f] = own.Works(fault, draws);
                return trier;
            },
            _ => { }
        );
        return new DutyTries(
            circuit.Faults.Select((f, i) => (f.Id, Share: shares[i])).ToDictionary(x => x.Id, x => x.Share),
            new Trier(table, null, circuit, []).Works(null, draws)
        );
    }

    /// <summary>Either of two ways of trying it, nobody knows which.</summary>
    /// <param name="one">How it goes in the one.</param>
    /// <param name="other">And in the other, of the same faults.</param>
    /// <param name="spared">How often it goes past a fault besides, by what that is of; 0 for never.</param>
    internal static DutyTries Mean(DutyTries one, DutyTries other, Func<Owner, double> spared)
    {
        var sound = (one.soundWorks + other.soundWorks) / 2;
        return new(
            one.works.ToDictionary(
                w => w.Key,
                w =>
                {
                    var (mean, past) = ((w.Value + other.works[w.Key]) / 2, spared(w.Key.Of.Owner));
                    return ((1 - past) * mean) + (past * sound);
                }
            ),
            sound
        );
    }

    /// <summary>Tries one duty, with faults as bad as makes another fail.</summary>
    private sealed class Trier(
        PredictionTable table,
        PredictionTable? complaint,
        Circuit circuit,
        IReadOnlyList<PlantedFault> asItFailed
    )
    {
        private readonly CaseRunner tried = new(table, circuit, DutyWaves.BeliefTolerance);
        private readonly CaseRunner? failing = complaint is null
            ? null
            : new CaseRunner(complaint, circuit, DutyWaves.BeliefTolerance);

        /// <summary>Share of the draws in which the duty is done.</summary>
        public double Works(Fault? fault, ParticleDraws draws)
        {
            var all = Enumerable.Range(0, draws.Count).ToList();
            if (failing is not null && draws.Screen.Any(p => Fails(fault, draws, p)))
            {
                all = [.. all.Where(p => Fails(fault, draws, p))];
            }
            else if (failing is not null)
            {
                // It gives no such complaint; how it lets another duty go hardly matters.
                all = [.. draws.Screen];
            }

            return all.Average(p => Heard.Works == Try(tried, fault, draws, p, []) ? 1.0 : 0);
        }

        private bool Fails(Fault? fault, ParticleDraws draws, int particle) =>
            Try(failing!, fault, draws, particle, asItFailed) != Heard.Works;

        private static Heard Try(
            CaseRunner runner,
            Fault? fault,
            ParticleDraws draws,
            int particle,
            IReadOnlyList<PlantedFault> besides
        )
        {
            var there = fault is null ? besides : [new PlantedFault(fault, draws.Severity(particle)), .. besides];
            return runner.Begin(there, draws.Parameters(particle));
        }
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
