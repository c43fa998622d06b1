using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Observables;

namespace Pritchel.Core.Diagnosis.Evidence;

/// <summary>How probable answers are, given what a particle would show. Figures here are judgement: common practice, no source.</summary>
internal static class Likelihood
{
    /// <summary>Chance that a machine that truly fails each time is said to fail only some of the time.</summary>
    public const double HardFaultSaidToComeAndGo = 0.002;

    /// <summary>Chance that a symptom seen at every try comes from a fault that comes and goes.</summary>
    public const double ComesAndGoesShare = 0.25;

    /// <summary>Share of readings that say nothing: a slipped probe, a wrong range.</summary>
    public const double WildShare = 0.03;

    // Volts on the scale over which a figure that says nothing may lie, −2 to 16; and a look, whose three answers are two apart.
    private const double WildSpan = 18;
    private const double WildLooks = 6;

    /// <summary>Density of a reading that says nothing, per step of its scale: any figure, or any of the few answers of a look.</summary>
    public static double WildDensity(Observable observable) => 1 / (observable.IsSeen ? WildLooks : WildSpan);

    // A probe that does not bite, or touches what hangs in the air, is the commonest slip there is: from memory.
    private const double NoContactShare = 0.4;

    /// <summary>
    /// Density of a figure that says nothing: any at all, or none, where a probe did not touch and the meter shows what it shows with its
    /// leads in the air.
    /// </summary>
    /// <param name="observable">What is read.</param>
    /// <param name="read">What was read, on its scale.</param>
    /// <param name="noise">Standard deviation of one reading there.</param>
    public static double WildDensity(Observable observable, double read, double noise)
    {
        var anything = WildDensity(observable);
        return observable.Untouched is { } untouched
            ? ((1 - NoContactShare) * anything) + (NoContactShare * Normal(read - untouched, noise))
            : anything;
    }

    private static double Normal(double off, double sigma) =>
        Math.Exp(-0.5 * off * off / (sigma * sigma)) / (sigma * Math.Sqrt(2 * Math.PI));

    /// <summary>Chance that who takes a reading again that said nothing makes the same of it: points taken for others, say.</summary>
    private const double SlipsAlike = 0.2;

    private const double UntrueTooMuch = 0.002;

    // Rows: what is true (nothing, one click, chatter, slow, works). Columns: what is said, in the same order.
    private static readonly double[,] Confusion =
    {
        // A click is missed by who is not listening for it, and a quick chatter of a tired battery is told as "it clicks".
        { 0.95, 0.03, 0.005, 0.0, 0.002 },
        { 0.14, 0.8, 0.05, 0.01, 0.002 },
        { 0.02, 0.22, 0.75, 0.01, 0.002 },
        { 0.002, 0.03, 0.01, 0.9, 0.06 },
        { 0.001, 0.001, 0.001, 0.03, 0.97 },
    };

    // However it fails, it is complained of: what works is, as often as any failing is said of it.
    private const double FailingSaidOfWhatWorks = 0.03;

    /// <summary>Chance that this is said when that is true.</summary>
    /// <param name="said">What is said.</param>
    /// <param name="truth">What is true.</param>
    /// <param name="byDegrees">Whether too little shades off into nothing, as with lamps, sparks and charging; an engine turns or does not.</param>
    public static double OfHeard(Heard said, Heard truth, bool byDegrees = false) =>
        (said, truth) switch
        {
            (Heard.Slow, Heard.Nothing) when byDegrees => 0.15,
            (Heard.Nothing, Heard.Slow) when byDegrees => 0.2,
            _ => OfHeardPlainly(said, truth),
        };

    private static double OfHeardPlainly(Heard said, Heard truth) =>
        said switch
        {
            Heard.NotSaid => truth == Heard.Works ? FailingSaidOfWhatWorks : 1,
            Heard.WillNotStart => truth switch
            {
                Heard.Works => HardFaultSaidToComeAndGo,
                Heard.Slow => 0.5,
                _ => 0.95,
            },
            Heard.TooMuch => truth == Heard.TooMuch ? 0.85 : UntrueTooMuch,

            // Who does not read the battery says that it charges.
            _ when truth == Heard.TooMuch => said == Heard.Works ? 0.14 : UntrueTooMuch,
            _ => Confusion[(int)truth - 1, (int)said - 1],
        };

    /// <summary>Chance that a lamp at that share of its volts is called bright, dim or out.</summary>
    public static double OfLamp(LampLook said, double share)
    {
        if (said == LampLook.NotSeen)
        {
            return 1;
        }

        // Soft borders at about 85 % (dim) and 40 % (out) of rated volts.
        var bright = Soft((share - 0.85) / 0.05);
        var dark = 1 - Soft((share - 0.4) / 0.06);
        var dim = Math.Max(0, 1 - bright - dark);
        const double Slip = 0.03;
        var chance = said switch
        {
            LampLook.Bright => bright,
            LampLook.Dim => dim,
            _ => dark,
        };
        return Slip + ((1 - (3 * Slip)) * chance);
    }

    /// <summary>Density of a reading about a prediction, in 1/volt.</summary>
    /// <param name="read">What was read; the mean of what says the same.</param>
    /// <param name="predicted">What is predicted.</param>
    /// <param name="sigma">Standard deviation.</param>
    /// <param name="wildDensity">From <see cref="WildDensity(Observable, double, double)"/>.</param>
    /// <param name="times">How many times it was read.</param>
    public static double OfReading(double read, double predicted, double sigma, double wildDensity, int times = 1)
    {
        var near = Normal(read - predicted, sigma);
        var wild = WildShare * Again(times);
        return ((1 - wild) * near) + (wild * wildDensity);
    }

    /// <summary>Chance that what shows anything at all shows the same so many times.</summary>
    public static double Again(int times) => times == 1 ? 1 : Math.Pow(SlipsAlike, times - 1);

    /// <summary>Chance that a figure jumps about while a fault that comes and goes moves it by so many volts.</summary>
    public static double OfJump(double movesBy, bool comesAndGoes, bool chatters)
    {
        if (chatters)
        {
            return 0.8;
        }

        return comesAndGoes && Math.Abs(movesBy) > 0.3 ? 0.5 : 0.02;
    }

    /// <summary>
    /// Chance that so many of the tries failed, with a cause of which it is not known whether it comes and goes. One that does
    /// fails any number of tries alike: beta-binomial with a flat prior.
    /// </summary>
    public static double OfTries(Complaint complaint) =>
        OfTriesAlways(complaint) + OfTriesSometimes(complaint, ComesAndGoesShare);

    /// <summary>The part of it that falls to a cause that is always there.</summary>
    /// <param name="complaint">How many tries failed.</param>
    /// <param name="comesAndGoes">Chance that such a cause comes and goes.</param>
    public static double OfTriesAlways(Complaint complaint, double comesAndGoes = ComesAndGoesShare) =>
        (1 - comesAndGoes) * (complaint.Failed >= complaint.Tried ? 1 : HardFaultSaidToComeAndGo);

    /// <summary>The part of it that falls to a cause that comes and goes.</summary>
    public static double OfTriesSometimes(Complaint complaint, double comesAndGoes) =>
        comesAndGoes / (complaint.Tried + 1);

    /// <summary>Share of tries in which a fault that comes and goes is there, a half-count added to either side.</summary>
    public static double Presence(Complaint complaint) => (complaint.Failed + 0.5) / (complaint.Tried + 1);

    private static double Soft(double z) => 1 / (1 + Math.Exp(-z));
}
