using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;
using Pritchel.Core.Practice;

namespace Pritchel.Core.Tests;

/// <summary>What is doubted before a reading, against the order in which mechanics meet causes, written by hand in priors.txt.</summary>
public class PriorOrderTests
{
    public static TheoryData<string, string, string, string> Orders
    {
        get
        {
            var orders = new TheoryData<string, string, string, string>();
            foreach (
                var line in File.ReadLines(Path.Combine(AppContext.BaseDirectory, "priors.txt"))
                    .Where(l => l.Length > 0 && l[0] != '#')
            )
            {
                var parts = line.Split('|', StringSplitOptions.TrimEntries);
                orders.Add(parts[0], parts[1], parts[2], parts[3]);
            }

            return orders;
        }
    }

    [Theory]
    [MemberData(nameof(Orders))]
    public void Causes_are_doubted_in_the_order_in_which_they_are_met(
        string machine,
        string duty,
        string heard,
        string orders
    )
    {
        var kit = Shipped.Kit(machine, duty);
        var circuit = kit.Table.Circuit;
        var told = heard.Split(", ");
        var complaint = new Complaint
        {
            Duty = new DutyId(duty),
            Heard = Enum.Parse<Heard>(told[0]),
            Failed = 3,
            Tried = 3,
            Also = [.. told[1..].Select(d => new AlsoTold(new DutyId(d), false))],
        };
        var state = JobState.Of([new RecordedEvent(1, default, new ComplaintMade(complaint))]);
        var job = JobDiagnosis.Of(
            state,
            kit,
            Meter.Ordinary,
            d => told.Contains(d.Text) ? DutyTries.Build(circuit, Symptoms.Duty(circuit, d), []) : null
        );
        var shares = CauseClass.Shares(job.Beliefs);
        double Of(string classes) =>
            classes.Split('+').Sum(c => shares.Where(s => s.Class == c.Trim()).Sum(s => s.Share));
        var said = string.Join(", ", shares.Select(s => $"{s.Class} {s.Share:P0}"));
        foreach (var order in orders.Split(';', StringSplitOptions.TrimEntries))
        {
            var classes = order.Split('>', StringSplitOptions.TrimEntries);
            for (var k = 1; k < classes.Length; k++)
            {
                Assert.True(Of(classes[k - 1]) > Of(classes[k]), $"{classes[k - 1]} > {classes[k]}: {said}");
            }
        }
    }
}
