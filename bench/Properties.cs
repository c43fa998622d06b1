using System.Globalization;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Practice;
using Pritchel.Hunts;

namespace Pritchel.Bench;

/// <summary>Hunts of every machine and complaint, watched for what must hold of all of them.</summary>
internal static class Properties
{
    public static int Run(string[] args)
    {
        CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        if (args is not [var machines, var complaints, var draws, .. var rest])
        {
            return Usage.Show();
        }

        var (hunts, looked, broken) = (0, 0, 0);
        foreach (var circuit in Usage.Circuits(machines))
        {
            var reached = new HashSet<FaultId>();
            foreach (
                var symptom in Symptoms
                    .Of(circuit)
                    .Where(s => complaints == "all" || s.Duty.Id.Text.Contains(complaints, StringComparison.Ordinal))
            )
            {
                var kit = DiagnosisKit.Build(circuit, symptom.Duty, []);
                reached.UnionWith(Reach.Giving(kit));
                var evaluation = new Evaluation(kit, Worlds.First(rest));
                var random = new Random(Evaluate.SeedOf(kit));
                for (var d = 0; d < int.Parse(draws, CultureInfo.InvariantCulture); d++)
                {
                    var watched = new HuntProperties(kit);
                    hunts += evaluation.Hunt(random.Next(), watched) is null ? 0 : 1;
                    (looked, broken) = (looked + watched.Checked, broken + watched.Broken.Count);
                    watched.Broken.ForEach(Console.WriteLine);
                }
            }

            if (complaints == "all")
            {
                var never = circuit.Faults.Where(f => !reached.Contains(f.Id)).ToList();
                Console.WriteLine(Reach.Row(circuit, never));
            }
        }

        Console.WriteLine($"{hunts} hunts, {looked} times checked, {broken} did not hold");
        return 0;
    }
}
