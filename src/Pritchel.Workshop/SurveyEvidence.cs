using System.Globalization;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;

namespace Pritchel.Workshop;

/// <summary>What a ground survey has to say in the job that it belongs to.</summary>
public static class SurveyEvidence
{
    private const string OfAnother = "This survey is of another machine than the job.";

    /// <summary>
    /// A survey's figures, as readings of the job: each by itself, in the setting it was taken in. Those taken with a bulb of
    /// one's own are of no setting of the machine's and stay with the survey.
    /// </summary>
    /// <param name="open">The survey.</param>
    /// <param name="job">The job that it belongs to.</param>
    /// <param name="error">Why none can be taken over; empty where some can.</param>
    public static IReadOnlyList<ReadingTaken> Of(OpenSurvey open, OpenJob job, out string error)
    {
        error = "";
        if (job.Machine.Id != open.Machine.Machine.Id)
        {
            error = OfAnother;
            return [];
        }

        var kept = job.State.Readings.Select(r => Known(r.Reading)).ToHashSet(StringComparer.Ordinal);
        var taken = new List<ReadingTaken>();
        foreach (var (index, volts) in open.Figures.OrderBy(f => f.Key))
        {
            var point = open.Survey.Points[index];
            if (point.ByBulb)
            {
                continue;
            }

            var any = new AnyReading(
                DirectVolts.Instance.Key,
                job.Circuit.Setting(point.Setting.Named(open.Machine.Machine).ToDictionary()),
                point.Cranks ? DutySpeed.Crank : DutySpeed.Rest,
                [],
                PointId.Of(point.At.Text),
                job.Kit.Points.At(job.Circuit.Reference).Address
            );
            var typed = volts.ToString("0.000", CultureInfo.InvariantCulture);
            if (
                !any.Check(job.Circuit).Any()
                && any.Taken(job.Kit, typed, out _) is { } reading
                && !kept.Contains(Known(reading))
            )
            {
                taken.Add(reading);
            }
        }

        error = taken.Count == 0 ? "No figure of this survey is new to the job." : "";
        return taken;
    }

    /// <summary>One figure in one setting: taken over twice it would count twice.</summary>
    private static string Known(ReadingTaken reading) =>
        $"{reading.At.Red.Text}|{string.Join(',', reading.At.Condition.Setting.Select(s => $"{s.Key}={s.Value}").Order(StringComparer.Ordinal))}|{reading.Typed}";
}
