using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Simulation;

namespace Pritchel.Hunts;

/// <summary>Faults that give none of a machine's complaints as those are listed, and why.</summary>
internal static class Reach
{
    // Sound machines do their duty in all draws but a few.
    private const double Seldom = 0.9;

    /// <summary>Whether a duty that was tried fails with a fault in some of its draws.</summary>
    public static bool Fails(DutyTries tries, Fault fault) => tries.Of(true, fault) < Seldom * tries.Of(true, null);

    /// <summary>Faults that give a kit's complaint.</summary>
    public static IEnumerable<FaultId> Giving(DiagnosisKit kit) =>
        kit.Table.Hypotheses.Where(h => h.HasPredictions).Select(h => h.Fault?.Id).OfType<FaultId>();

    /// <summary>
    /// Those of some faults that can be told of another moment, those that change nothing that can be seen, and those that are seen and
    /// cannot be told, with what is seen.
    /// </summary>
    public static (List<Fault> OfAMoment, List<Fault> Nowhere, List<(Fault Fault, string Seen)> Untold) Of(
        Circuit circuit,
        IEnumerable<Fault> faults,
        out int moments
    )
    {
        var showing = new Showing(circuit);
        moments = showing.Moments;
        var (told, nowhere, untold) = (new List<Fault>(), new List<Fault>(), new List<(Fault, string)>());
        var tried = new Dictionary<string, DutyTries>();
        foreach (var fault in faults)
        {
            if (showing.Of(fault) is not { } sight)
            {
                nowhere.Add(fault);
            }
            else if (sight.Told is not { } duty)
            {
                untold.Add((fault, "no complaint of it: " + sight.Words));
            }
            else if (!sight.ByDegrees || !DutyTries.IsQuick(circuit, duty))
            {
                // Done or not done is as plain to whoever complains; and its waves are followed already in what was seen.
                told.Add(fault);
            }
            else
            {
                var key = $"{duty.Id} {sight.Words[sight.Words.IndexOf('[', StringComparison.Ordinal)..]}";
                var tries = tried.TryGetValue(key, out var before)
                    ? before
                    : tried[key] = DutyTries.Build(circuit, duty, []);
                if (Fails(tries, fault))
                {
                    told.Add(fault);
                }
                else
                {
                    untold.Add((fault, $"{duty.Id} told of it does not fail: {sight.Words}"));
                }
            }
        }

        return (told, nowhere, untold);
    }

    /// <summary>The head of a table of <see cref="Row"/>s, in Markdown.</summary>
    public const string Head = """
        | machine | faults | give a complaint | told of another setting or speed | seen in none of so many moments | seen and not told |
        | --- | --- | --- | --- | --- | --- |
        """;

    /// <summary>One machine's faults that give none of its complaints as listed, as a row of a table.</summary>
    public static string Row(Circuit circuit, IReadOnlyList<Fault> never)
    {
        var (told, nowhere, untold) = Of(circuit, never, out var moments);
        return $"| {circuit.Machine.Id} | {circuit.Faults.Count} | {circuit.Faults.Count - never.Count} "
            + $"| {Listed(told)} | {moments}: {Listed(nowhere)} "
            + $"| {string.Join("; ", untold.Select(u => $"{u.Fault.Id}: {u.Seen}").DefaultIfEmpty("none"))} |";
    }

    private static string Listed(List<Fault> faults) =>
        string.Join(
            "; ",
            faults
                .GroupBy(f => f.Id.Role)
                .OrderByDescending(g => g.Count())
                .Select(g => $"{g.Key}: {string.Join(", ", g.Select(f => f.Id.Of.Text))}")
                .Prepend($"{faults.Count}")
        );
}
