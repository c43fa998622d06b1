using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Faults;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <summary>Which faults need no further solving, because they change nothing that is heard.</summary>
internal sealed partial class CaseRunner
{
    private AsDrawn? asDrawn;

    /// <summary>Tries the sound machine as it is drawn: what faults are first compared with where waves are followed.</summary>
    public void TryAsDrawn()
    {
        tried = new Snapshot(circuit);
        var heard = Begin(null, circuit.NominalParameters(), 0);
        asDrawn = new AsDrawn(heard, load.Effect(state).Level, tried);
    }

    /// <summary>Whether the fault changes nothing that is heard, by the particles that would show it soonest.</summary>
    private bool Screened(Fault? fault, ParticleDraws draws, Hypothesis healthy)
    {
        if (sound?.asDrawn is { } drawn)
        {
            carriedIn = drawn.Stands;
            var heard = Begin(fault, circuit.NominalParameters(), 1);
            if (heard != drawn.Heard || !Moves(drawn.Level))
            {
                return heard == drawn.Heard;
            }
        }

        return Array.TrueForAll(
            Screen(draws),
            p =>
            {
                carriedIn = sound?.stands[p];
                return Begin(fault, draws.Parameters(p), draws.Severity(p)) == healthy.HeardBy[p];
            }
        );
    }

    /// <summary>
    /// Whether the load does more or less than it should. Following waves takes most of the time that a table takes, and what
    /// moves nothing at its worst in the machine as drawn moves nothing that could be heard in one like it.
    /// </summary>
    private bool Moves(double wanted)
    {
        const double Share = 0.005;
        const double Least = 0.01;
        return !(Math.Abs(load.Effect(state).Level - wanted) <= Math.Max(Least, Share * Math.Abs(wanted)));
    }

    private sealed record AsDrawn(Heard Heard, double Level, Snapshot Stands);

    /// <summary>Particles that tell soonest whether a fault matters, the worst first; fewer where each takes long.</summary>
    private int[] Screen(ParticleDraws draws) =>
        [
            .. draws.Screen.Take(
                (table.FollowsWaves, table.Grain) switch
                {
                    (true, Grain.Coarse) => 1,
                    (false, Grain.Fine) => 4,
                    _ => 2,
                }
            ),
        ];
}
