using Pritchel.Core.Diagnosis;
using Pritchel.Core.Jobs;
using Pritchel.Core.Meters;
using Pritchel.Core.Units;

namespace Pritchel.Core.Practice;

/// <summary>How one hidden fault was hunted.</summary>
/// <param name="FaultId">What was hidden.</param>
/// <param name="Verdict">Repair decided on, or null for no verdict.</param>
/// <param name="Right">Whether that repair cures it.</param>
/// <param name="Readings">Readings taken.</param>
/// <param name="Minutes">Minutes they took, access included.</param>
/// <param name="Share">Share stated for the verdict.</param>
public sealed record Hunt(string FaultId, string? Verdict, bool Right, int Readings, Minutes Minutes, double Share);

/// <summary>Plays whole diagnoses of hidden faults, answering as the program asks.</summary>
public static class Rehearsal
{
    /// <summary>Most readings before giving up without a verdict.</summary>
    public const int MostReadings = 15;

    /// <summary>Hunts one hidden fault.</summary>
    public static Hunt Play(DiagnosisKit kit, HiddenFault hidden, Meter meter, IStrategy strategy)
    {
        var (table, plan) = (kit.Table, kit.Plan);
        var readings = new List<Reading>();
        var situation = new Situation();
        var minutes = new Minutes(0);
        while (true)
        {
            var beliefs = Beliefs.Weigh(table, hidden.Complaint, meter, readings);
            var next = strategy.Next(plan, beliefs, situation);
            if (strategy.Decide(beliefs, next) is { } decided)
            {
                var right = string.Equals(decided, hidden.Fault.Repair.Id, StringComparison.Ordinal);
                return new Hunt(hidden.Fault.Id, decided, right, readings.Count, minutes, beliefs.Suspects[0].Share);
            }

            if (next is null || readings.Count >= MostReadings)
            {
                return new Hunt(hidden.Fault.Id, null, false, readings.Count, minutes, beliefs.Suspects[0].Share);
            }

            minutes += next.Minutes;
            readings.Add(hidden.Read(next.At));
            situation = JobDiagnosis.Measured(situation, kit, next.At);
        }
    }
}
