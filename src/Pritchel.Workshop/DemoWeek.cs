using System.Globalization;
using Microsoft.Extensions.DependencyInjection;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Data;

namespace Pritchel.Workshop;

/// <summary>
/// The rest of a working week: jobs at every stage on other machines. Each has a fault hidden in its machine's circuit, and its
/// readings are what that circuit shows; nothing is worked out for them until somebody opens one.
/// </summary>
internal static class DemoWeek
{
    private static readonly IReadOnlyList<Story> Stories =
    [
        new(
            "hedgerow-mower-2",
            "stops-magneto-lever-0",
            "brake-switch/stop/open",
            Heard.Nothing,
            "Runs on when the lever is let go."
        )
        {
            Done = ("switch arm bent back, contact cleaned", "", 20),
            Closed = "Stops three times of three.",
        },
        new(
            "ridge-carrier-4",
            "does-fan",
            "fan-relay/contact-open",
            Heard.Nothing,
            "Fan never runs, boiled twice on the hill."
        )
        {
            Read = [("f-fan.2", "battery.-")],
            Done = ("relay renewed", "relay, one", 25),
            Closed = "",
        },
        new(
            "packhouse-generator-1",
            "does-outlet1",
            "generator/brush-worn",
            Heard.Nothing,
            "Runs fine, no power at either outlet."
        ),
        new("hill-quad-5", "does-head-left", "P1/4/open", Heard.Nothing, "No lights since the river, engine runs well.")
        {
            Tried = (2, 3),
            WorseWhen = [WorseWhen.Wet],
        },
        new("quay-scooter-3", "charges-battery", "regulator/dead", Heard.Nothing, "Battery flat every Monday.")
        {
            Done = ("regulator renewed, bracket cleaned to bright metal", "regulator", 40),
        },
        new(
            "orchard-tractor-6",
            "cranks",
            "solenoid/coil-open",
            Heard.Nothing,
            "Did crank without the pedal for weeks; now nothing."
        )
        {
            Bridged = ["brake/start"],
        },
        new(
            "harbour-launch-2",
            "cranks",
            "P1/2/resistive",
            Heard.Nothing,
            "Press start and nothing happens, panel stays lit. Fine in June."
        )
        {
            Read = [("P1.2b", "start.-"), ("P1.2a", "start.-"), ("solenoid.S", "start.-")],
            Priced = true,
            Severity = 0.45,
        },
    ];

    public static async Task AddAsync(IServiceProvider services, CancellationToken cancel)
    {
        var jobs = services.GetRequiredService<JobStore>();
        var desk = services.GetRequiredService<JobDesk>();
        foreach (var story in Stories)
        {
            if (
                await desk.MachineAsync(story.Machine, cancel) is not { } machine
                || machine.Duty(new DutyId(story.Duty)) is not { } duty
                || machine.Circuit.Faults.FirstOrDefault(f => f.Id.Text == story.Fault) is not { } fault
            )
            {
                continue;
            }

            var told = new ComplaintMade(
                new Complaint
                {
                    Duty = duty.Id,
                    Heard = story.Heard,
                    Words = story.Words,
                    Failed = story.Tried.Failed,
                    Tried = story.Tried.Tried,
                    WorseWhen = story.WorseWhen,
                    Bridged = [.. story.Bridged.Select(AlterationId.Of)],
                }
            );
            var number = await jobs.OpenAsync(machine.Id, machine.Version, told, cancel);
            await jobs.AppendAsync(number, 1, [.. After(story, machine.Circuit, duty, fault)], cancel);
        }
    }

    private static IEnumerable<JobEvent> After(
        Story story,
        Circuit circuit,
        Core.Machines.Duty duty,
        Core.Faults.Fault fault
    )
    {
        foreach (
            var (red, black) in story.Read.Where(r =>
                circuit.HasNode(PointId.Of(r.Red)) && circuit.HasNode(PointId.Of(r.Black))
            )
        )
        {
            yield return Read(circuit, duty, fault, red, black, story.Severity);
        }

        if (story.Done is not null || story.Priced)
        {
            yield return new VerdictTaken(fault.Repair.Id, fault.Words, Core.Diagnosis.Planning.Certainty.MostUnproved);
        }

        if (story.Priced)
        {
            const double Coupling = 38;
            yield return new PartsPriced(
                new Dictionary<RepairId, Money> { [fault.Repair.Id] = new(Coupling) },
                new OrderTerms(new Money(55), new Money(30), 4, new Money(20)),
                null,
                null
            );
        }

        if (story.Done is var (done, parts, minutes))
        {
            yield return new RepairDone(done, parts, minutes);
        }

        if (story.Closed is { } note)
        {
            yield return new JobClosed(Proved: note.Length > 0, note);
        }
    }

    /// <summary>Volts in the duty's own setting, as the machine with its fault shows them.</summary>
    private static ReadingTaken Read(
        Circuit circuit,
        Core.Machines.Duty duty,
        Core.Faults.Fault fault,
        string red,
        string black,
        double severity
    )
    {
        var setting = circuit.Setting(duty.Setting);
        var shown = Bench.Read(
            new Case
            {
                Circuit = circuit,
                Settings = [setting],
                Faults = [new PlantedFault(fault, severity)],
            },
            Meter.Ordinary,
            MeterFunction.DcVolts,
            circuit.NodeOf(PointId.Of(red)),
            circuit.NodeOf(PointId.Of(black))
        );
        var figure = Math.Round(shown.Value ?? 0, 2);
        return new ReadingTaken(
            new ProbedAt(
                new ConditionKey(
                    DirectVolts.Instance.Key,
                    setting.Named(circuit.Machine),
                    duty.Speed,
                    [],
                    null,
                    SparkTesterAt.Nowhere
                ),
                PointId.Of(red),
                PointId.Of(black)
            ),
            figure.ToString("0.00", CultureInfo.InvariantCulture),
            figure,
            SymptomNow.Present
        );
    }

    /// <summary>One job of the week.</summary>
    private sealed record Story(string Machine, string Duty, string Fault, Heard Heard, string Words)
    {
        public IReadOnlyList<(string Red, string Black)> Read { get; init; } = [];

        public (int Failed, int Tried) Tried { get; init; } = (3, 3);

        public IReadOnlyList<WorseWhen> WorseWhen { get; init; } = [];

        public IReadOnlyList<string> Bridged { get; init; } = [];

        public bool Priced { get; init; }

        public double Severity { get; init; } = 1;

        public (string What, string Parts, double Minutes)? Done { get; init; }

        public string? Closed { get; init; }
    }
}
