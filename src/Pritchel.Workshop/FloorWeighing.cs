using System.Diagnostics;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;

namespace Pritchel.Workshop;

/// <summary>
/// Weighs the jobs of one list. However many lists are asked for, one of them now and then works out what is not in hand, and
/// only for a moment: a list never waits for what nobody opened.
/// </summary>
public sealed class FloorWeighing : IDisposable
{
    private static readonly TimeSpan Moment = TimeSpan.FromMilliseconds(100);

    private readonly Predictor predictor;
    private readonly Stopwatch spent = Stopwatch.StartNew();
    private readonly bool mayWeigh;

    internal FloorWeighing(Predictor predictor, bool mayWeigh) =>
        (this.predictor, this.mayWeigh) = (predictor, mayWeigh);

    /// <summary>What a job's evidence comes to; null where nobody has weighed it yet.</summary>
    public JobStanding? Of(MachineVersion machine, int job, JobState state, DiagnosisKit kit, Meter meter) =>
        predictor.Standing(machine, job, state, kit, meter, mayWeigh && spent.Elapsed < Moment);

    /// <inheritdoc/>
    public void Dispose()
    {
        if (mayWeigh)
        {
            predictor.FloorDone();
        }
    }
}
