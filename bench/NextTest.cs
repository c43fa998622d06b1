using System.Diagnostics;
using System.Globalization;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;
using Pritchel.Core.Practice;

namespace Pritchel.Bench;

/// <summary>Time from a reading to the next test: all evidence weighed again, every allowed test rated, the verdict judged.</summary>
internal static class NextTest
{
    public static int Run()
    {
        CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        var kit = Usage.Tractor();
        var times = new List<(int Readings, double Milliseconds)>();
        foreach (
            var fault in kit.Circuit.Faults.Where(f =>
                f.Id.Text
                    is "brake/start/open"
                        or "G1/resistive"
                        or "P1/1/open"
                        or "C4@to/joint/resistive"
                        or "solenoid/contact-open"
            )
        )
        {
            for (var repeat = 0; repeat < 4; repeat++)
            {
                Hunt(
                    kit,
                    HiddenFault.Hide(kit.Table, fault, Meter.Ordinary, new Random(repeat))!,
                    repeat == 0 ? null : times
                );
            }
        }

        foreach (var group in times.GroupBy(t => t.Readings).OrderBy(g => g.Key))
        {
            var sorted = group.Select(t => t.Milliseconds).Order().ToArray();
            Console.WriteLine(
                $"after {group.Key} readings: median {sorted[sorted.Length / 2]:0} ms, worst {sorted[^1]:0} ms of {sorted.Length}"
            );
        }

        return 0;
    }

    private static void Hunt(DiagnosisKit kit, HiddenFault hidden, List<(int, double)>? times)
    {
        var history = new List<RecordedEvent> { new(1, DateTimeOffset.UnixEpoch, new ComplaintMade(hidden.Complaint)) };
        for (var readings = 0; readings < 6; readings++)
        {
            var state = JobState.Of([.. history]);
            var watch = Stopwatch.StartNew();
            var diagnosis = JobDiagnosis.Of(state, kit, Meter.Ordinary);
            times?.Add((readings, watch.Elapsed.TotalMilliseconds));
            if (diagnosis.Verdict.Suspect is not null || diagnosis.Next is not { } next)
            {
                return;
            }

            var read = hidden.Read(next.At);
            history.Add(
                new RecordedEvent(
                    history.Count + 1,
                    DateTimeOffset.UnixEpoch,
                    new ReadingTaken(
                        kit.Told(next.At),
                        "",
                        JobDiagnosis.Displayed(kit, Meter.Ordinary, read),
                        read.Symptom
                    )
                )
            );
        }
    }
}
