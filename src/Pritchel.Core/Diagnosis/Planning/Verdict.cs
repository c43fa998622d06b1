using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Identity;
using Pritchel.Core.Units;

namespace Pritchel.Core.Diagnosis.Planning;

/// <summary>Whether to stop measuring, and on what.</summary>
/// <param name="Suspect">What stands clear; null while measuring goes on.</param>
/// <param name="Why">One line.</param>
/// <param name="NoTestLeft">No allowed test would tell the rest apart.</param>
public sealed record Verdict(Suspect? Suspect, string Why, bool NoTestLeft)
{
    /// <summary>What acting on the wrong part costs: fit, try, take out again. Common practice, no source.</summary>
    internal const double WrongRepairMinutes = 60;

    private const double MostDoubt = 0.1;

    // With few particles left every test seems to tell something. One that shows a quarter of what chance alone would is
    // not worth a walk when four fifths lie on one suspect: by eye on rehearsals.
    private const double Likely = 0.8;
    private const double LikeChance = 0.25;

    // A complaint is hearsay: no verdict before the meter has spoken twice, or once and an eye or a hand; once is enough to see
    // that nothing is wrong.
    private const int LeastReadings = 2;

    /// <summary>
    /// What is to be tested by itself, where measuring on the machine ends without a verdict: it comes first and is dear, and nothing that can
    /// be read there isolates it, as a starter that no hand may reach while it cranks. Its own sheet, or an eye, says the rest. Common practice,
    /// no source.
    /// </summary>
    public PartId? ByItself { get; private init; }

    /// <summary>Whether measuring on the machine is over, with a verdict or without.</summary>
    public bool EndsMeasuring => Suspect is not null || ByItself is not null;

    private static Verdict Alone(PartId part) =>
        new(
            null,
            "What comes first is dear, and nothing that can be read on the machine isolates it: test it by itself before it is renewed.",
            NoTestLeft: true
        )
        {
            ByItself = part,
        };

    /// <summary>
    /// Stops when the minutes that the best test would save, (1 − share) × wrong-repair minutes in the share of the doubt
    /// that it would settle, are fewer than it takes, and never below nine tenths, or more where few particles make a share
    /// itself doubtful; or when no test tells more. What is to be moved, warmed or wetted counts as a test, and so does a quick one
    /// that makes sure of what would be stated otherwise at less than it is believed.
    /// </summary>
    /// <param name="beliefs">What is believed.</param>
    /// <param name="best">The best test by meter; null when none is left.</param>
    /// <param name="stir">The best place to stir, for what comes and goes; null for none.</param>
    public static Verdict Of(Beliefs beliefs, PlannedTest? best, PlannedWiggle? stir = null)
    {
        var first = beliefs.Suspects[0];
        if (first.Repair is null && !first.IsSound)
        {
            return new Verdict(
                null,
                "No single fault of the drawing explains these readings. Take the odd one again.",
                best is null && stir is null
            );
        }

        var wanted = Isolation.Wanted(beliefs);
        if (best is not null && wanted is not null && (wanted.Is(best.At) || wanted.WouldConvict(beliefs, best.At)))
        {
            return new Verdict(
                null,
                "It is likely, and dear: before it is condemned it is tested at its own terminals.",
                NoTestLeft: false
            );
        }

        if (best is { IsToMakeSure: true })
        {
            return new Verdict(
                null,
                best.IsOnceMore
                    ? "It hangs on one answer: before anything is renewed it is had once more."
                    : "It is what is left over: before it is renewed it is read itself.",
                NoTestLeft: false
            );
        }

        var loss = new Minutes((1 - first.Share) * WrongRepairMinutes);
        var found =
            beliefs.SideEvidence.Looks.Count(l => l.Found != LookFound.Sound)
            + beliefs.SideEvidence.WiggleEvidence.Tried.Count(p => p.Changed)
            // A sheet asks again of what it condemns: the meter has spoken twice there.
            + (
                first.Likeliest?.Id.Of.Owner.Part is { } part && beliefs.SideEvidence.FoundBad(part) ? LeastReadings : 0
            );
        var staysOpen = stir is not null && loss.Value * Settles(beliefs, stir.Bits) >= stir.Minutes.Value;

        // Tested by itself already and not found bad: what is left to measure is measured.
        staysOpen |= wanted is not null && best is not null && beliefs.SideEvidence.Tested(wanted.Part);
        var heard = beliefs.Readings.Count + found >= (first.IsSound ? 1 : LeastReadings);
        if (
            heard
            && 1 - first.Share
                <= MostDoubt * Math.Sqrt((double)beliefs.Table.Particles / PredictionTable.UsualParticles)
            && best is not null
            && loss.Value * Settles(beliefs, best.Sure) < best.Minutes.Value
            && !staysOpen
        )
        {
            return wanted is null
                ? new Verdict(
                    first,
                    $"Acting now risks {Certainty.Of(beliefs).Risk(first.Share)}; the best test left takes {best.Minutes} and little of that away.",
                    NoTestLeft: false
                )
                : Alone(wanted.Part);
        }

        var toldEnough = first.Share > Likely && best?.Bits < LikeChance * best?.ByChance;
        if (!staysOpen && (best is null || (heard && (best.Bits < best.Telling || toldEnough))))
        {
            return wanted is null
                ? new Verdict(
                    first.Share > Isolation.Least ? first : null,
                    "Nothing that can be reached tells the rest apart.",
                    NoTestLeft: true
                )
                : Alone(wanted.Part);
        }

        return new Verdict(null, $"Still open: {first.Share:P0} on the first suspect.", NoTestLeft: false);
    }

    /// <summary>Share of what is still in doubt that a test is expected to settle.</summary>
    private static double Settles(Beliefs beliefs, double bits)
    {
        var doubt = -beliefs.Suspects.Where(s => s.Share > 0).Sum(s => s.Share * Math.Log2(s.Share));
        return Math.Min(1, bits / Math.Max(doubt, 1e-9));
    }
}
