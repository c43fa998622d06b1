using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;
using Pritchel.Core.Units;

namespace Pritchel.Core.Practice;

/// <summary>How one hidden fault was hunted.</summary>
/// <param name="FaultId">What was hidden.</param>
/// <param name="Verdict">What was decided on, or null for no verdict.</param>
/// <param name="Right">Whether that repair cures it.</param>
/// <param name="Readings">Readings taken, places stirred and parts tested by themselves among them.</param>
/// <param name="Minutes">Minutes they took, access included.</param>
/// <param name="Share">Share stated for the verdict.</param>
public sealed record Hunt(FaultId FaultId, SuspectId? Verdict, bool Right, int Readings, Minutes Minutes, double Share)
{
    /// <summary>What was said of the first suspect after the complaint and after each reading.</summary>
    public IReadOnlyList<Statement> Stated { get; init; } = [];

    /// <summary>Whether it was said at the end that no single fault of the drawing shows what was read.</summary>
    public bool IsUnexplained { get; init; }

    /// <summary>Whether leads put on wrongly were named at the end where they were: in place of a fault, or beside it.</summary>
    public bool IsWiringNamed { get; init; }
}

/// <summary>A share stated for the suspect that led at the time.</summary>
/// <param name="Suspect">Its identity.</param>
/// <param name="Share">0 to 1.</param>
/// <param name="Right">Whether it was the one.</param>
public sealed record Statement(SuspectId Suspect, double Share, bool Right);

/// <summary>Plays whole diagnoses of hidden faults, answering as the program asks.</summary>
public static class Rehearsal
{
    /// <summary>Most readings before giving up without a verdict.</summary>
    public const int MostReadings = 15;

    // For a fault that comes and goes: the card says to try until it fails; after so many tries one writes down what is
    // there. Minutes of a try: common practice, no source.
    private const int MostTries = 6;
    private const double TryMinutes = 0.3;

    // To get at a part and go through its sheet: common practice, no source.
    private const double SheetMinutes = 15;

    /// <summary>Hunts one hidden fault.</summary>
    public static Hunt Play(DiagnosisKit kit, HiddenFault hidden, Meter meter, IStrategy strategy)
    {
        var (table, plan) = (kit.Table, kit.Plan);
        var readings = new List<Reading>();
        var stirred = new List<Wiggle>();
        var tested = new List<TestedAlone>();
        var situation = new Situation();
        var minutes = new Minutes(0);
        var stated = new List<Statement>();
        OtherDuty[] before = [.. DoneBefore.Of(table).Told(hidden.Complaint)];
        bool IsHidden(SuspectId? suspect) => hidden.IsCuredBy(suspect?.Repair);
        while (true)
        {
            var sideEvidence = new SideEvidence(
                [],
                before,
                wiggles: new WiggleEvidence(stirred, hidden.Complaint),
                tested: tested
            );
            var beliefs = Beliefs.Weigh(table, hidden.Complaint, meter, readings, sideEvidence);
            var first = beliefs.Suspects[0];
            var certainty = Certainty.Of(beliefs);
            stated.Add(new Statement(first.Id, certainty.Stated(first.Share), IsHidden(first.Id)));
            var next = strategy.Next(plan, beliefs, situation);
            var stir = strategy.Stir(kit.WiggleTests, beliefs, situation);
            var decided = strategy.Decide(beliefs, next, stir);
            var steps = readings.Count + stirred.Count + tested.Count;
            if (decided is { Repair: null, ByItself: { } part } && !sideEvidence.Tested(part) && steps < MostReadings)
            {
                minutes += new Minutes(SheetMinutes);
                tested.Add(hidden.TestAlone(part));
                continue;
            }

            if (decided.Repair is not null || (next is null && stir is null) || steps >= MostReadings)
            {
                var share = certainty.Stated(first.Share);
                return new Hunt(hidden.Id, decided.Repair, IsHidden(decided.Repair), steps, minutes, share)
                {
                    Stated = stated,
                    IsUnexplained = Unexplained.Is(beliefs),
                    IsWiringNamed = hidden.IsMisdrawn && hidden.IsAt(WiringNamed(beliefs)),
                };
            }

            if (stir is not null && WiggleTests.ComesFirst(stir, next))
            {
                minutes += stir.Minutes;
                stirred.Add(new Wiggle(stir.Reach, stir.By, hidden.Wiggles(stir)));
                situation = kit.WiggleTests.After(situation, stir.Reach, stir.Watch?.At);
                continue;
            }

            minutes += next!.Minutes;
            var reading = hidden.Read(next.At);
            for (var tries = 1; reading.Symptom == SymptomNow.Absent && tries < MostTries; tries++)
            {
                minutes += new Minutes(TryMinutes);
                reading = hidden.Read(next.At);
            }

            readings.Add(reading);
            situation = kit.Plan.After(situation, next.At);
        }
    }

    /// <summary>The change of the drawing that the page of these beliefs names; null for none.</summary>
    private static NotAsDrawn? WiringNamed(Beliefs beliefs) =>
        Unexplained.Is(beliefs) ? Unexplained.Of(beliefs).Drawn : beliefs.WiredOtherwise;
}
