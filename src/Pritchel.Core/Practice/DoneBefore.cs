using System.Runtime.CompilerServices;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Practice;

/// <summary>
/// What was done before a complaint could be seen: an engine that goes out in gear had run in neutral. Nobody needs to say so; a
/// hidden fault must have let it, and whoever hunts it counts on that.
/// </summary>
internal sealed class DoneBefore
{
    private static readonly ConditionalWeakTable<PredictionTable, DoneBefore> Known = [];

    private readonly PredictionTable table;
    private readonly IReadOnlyList<(PredictionTable Tried, double Sure, Lazy<DutyTries> Tries)> duties;

    private DoneBefore(PredictionTable table)
    {
        this.table = table;
        var circuit = table.Circuit;
        duties =
        [
            .. ToldBesides
                .Done(circuit, new Complaint { Duty = table.Duty.Id }, table.Duty)
                .Select(d => (Duty: Symptoms.Duty(circuit, d.Duty), d.Sure))
                .Where(d => DutyTries.IsQuick(circuit, d.Duty))
                .Select(d =>
                    (
                        PredictionTable.Bare(circuit, d.Duty, []),
                        d.Sure,
                        new Lazy<DutyTries>(() => DutyTries.Build(circuit, d.Duty, [], table.Duty))
                    )
                ),
        ];
    }

    /// <summary>Of a complaint's predictions; worked out once for each.</summary>
    public static DoneBefore Of(PredictionTable table) => Known.GetValue(table, t => new DoneBefore(t));

    /// <summary>What is believed by it.</summary>
    /// <param name="complaint">The complaint as told.</param>
    public IEnumerable<OtherDuty> Told(Complaint complaint) =>
        duties.Select(d => new OtherDuty(Works: true, d.Tries.Value, d.Sure)
        {
            Away = OtherDuty.AwayShare(complaint, table.Duty),
        });

    /// <summary>
    /// Whether a machine with its faults there would have done it. What is only likely to have been done is asked of as many as are
    /// believed to have: the others were jumped, pulled or towed.
    /// </summary>
    /// <param name="circuit">The machine as it is built, with the paths its faults lay.</param>
    /// <param name="there">What is wrong with it.</param>
    /// <param name="parameters">Its figures.</param>
    /// <param name="random">Source of chance.</param>
    public bool WouldHave(
        Circuit circuit,
        IReadOnlyList<PlantedFault> there,
        ReadOnlySpan<double> parameters,
        Random random
    )
    {
        const double Likely = 0.9;
        foreach (var (tried, sure, _) in duties)
        {
            if (
                (sure > Likely || random.NextDouble() < sure)
                && new CaseRunner(tried, circuit, 1e-9).Begin(there, parameters) != Heard.Works
            )
            {
                return false;
            }
        }

        return true;
    }
}
