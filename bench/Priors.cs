using System.Globalization;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;
using Pritchel.Core.Practice;
using Pritchel.Hunts;

namespace Pritchel.Bench;

/// <summary>What is doubted of every complaint of every machine before a reading, by classes of causes: a table in Markdown.</summary>
internal static class Priors
{
    private const int Shown = 5;

    public static int Run(string[] args)
    {
        CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        var (machines, duties) = (args.Length > 0 ? args[0] : "all", args.Length > 1 ? args[1] : "");
        Console.WriteLine("| machine | complaint | heard | doubted first |");
        Console.WriteLine("| --- | --- | --- | --- |");
        var unreached = new List<string>();
        foreach (var circuit in Usage.Circuits(machines))
        {
            var reached = new HashSet<FaultId>();
            foreach (
                var duty in Symptoms
                    .Of(circuit)
                    .Select(s => s.Duty)
                    .Where(d => d.Id.Text.Contains(duties, StringComparison.Ordinal))
            )
            {
                var kit = DiagnosisKit.Build(circuit, duty, []);
                reached.UnionWith(Reach.Giving(kit));
                foreach (
                    var heard in Symptoms
                        .MayBeHeard(kit.Table.Effect, duty)
                        .Where(h => h is not (Heard.Works or Heard.NotSaid))
                )
                {
                    var complaint = new Complaint
                    {
                        Duty = duty.Id,
                        Heard = heard,
                        Failed = 3,
                        Tried = 3,
                    };
                    var shares = CauseClass.Shares(Beliefs.Weigh(kit.Table, complaint, Meter.Ordinary, []));
                    if (shares.Sum(c => c.Share) <= 0)
                    {
                        // No fault here sounds like that.
                        continue;
                    }

                    var first = shares.Take(Shown).Select(s => $"{s.Class} {s.Share:P0}");
                    Console.WriteLine($"| {circuit.Machine.Id} | {duty.Id} | {heard} | {string.Join(", ", first)} |");
                }
            }

            var left = circuit.Faults.Where(f => !reached.Contains(f.Id)).ToList();
            unreached.Add(Reach.Row(circuit, left));
        }

        Console.WriteLine();
        Console.WriteLine(Reach.Head);
        unreached.ForEach(Console.WriteLine);
        return 0;
    }
}
