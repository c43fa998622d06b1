using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.PartTests.Regulators;

/// <summary>A kind that it may be, with its share.</summary>
/// <param name="Kind">The kind.</param>
/// <param name="Share">How likely it is; all shares sum to one.</param>
public sealed record RegulatorKind(DeviceKind Kind, double Share);

/// <summary>
/// Which kind of regulator somebody has in hand. Each kind is solved sound, on the winding it stands behind, at work, and held
/// against what was seen and read; nothing is asked at its pins, where ohms say nothing. Readings in any order, any left out.
/// </summary>
public sealed class UnknownRegulator
{
    /// <summary>From this share on it is named.</summary>
    public const double Named = 0.8;

    // A lead too many or too few is counted, a winding lead is damp or worn through: from memory.
    private const double Miscounted = 0.02;
    private const double Leaks = 0.03;

    // Meters that average read a chopped wave by a third high or low; how well a speed is found again is in it: from memory.
    private const double KeptDoubt = 0.35;
    private const double LeastKept = 0.01;

    // How full the battery is, and how true the meter: from memory.
    private const double PostsDoubtVolts = 0.3;

    // Readings that say nothing, and over how many spreads of a sound one they lie: a slip, a wrong range.
    private const double Wild = 0.03;
    private const double WildKept = 1 / 5.0;
    private const double WildPosts = 1 / 10.0;

    // A winding stays under some tens of ohms, damp is far above: common practice, no source.
    private const double GroundedOhms = 1000;

    private static readonly Lazy<IReadOnlyList<Candidate>> Known = new(Solved);

    // What a field is regulated to: common practice, no source.
    private static readonly double[] HeldVolts = [13.8, 14.3, 14.8];

    // Windings are made weaker and stronger than usual: from memory.
    private static readonly double[] Turns = [0.7, 1, 1.4];

    private readonly double[] shares;

    /// <summary>Weighs what was seen and read.</summary>
    public UnknownRegulator(RegulatorSigns signs)
    {
        Signs = signs;
        shares = Weighed(signs);
    }

    /// <summary>What was seen and read.</summary>
    public RegulatorSigns Signs { get; }

    /// <summary>Kinds, the likeliest first.</summary>
    public IReadOnlyList<RegulatorKind> Kinds =>
        [.. Known.Value.Select((c, i) => new RegulatorKind(c.Kind, shares[i])).OrderByDescending(k => k.Share)];

    /// <summary>The kind that it is; null while others are not yet ruled out.</summary>
    public DeviceKind? Is => Kinds[0].Share >= Named ? Kinds[0].Kind : null;

    /// <summary>Whether the winding behind a kind keeps most of its volts when it is held back: it opens instead of shorting.</summary>
    public static bool Opens(DeviceKind kind) =>
        Known.Value.FirstOrDefault(c => c.Kind == kind) is { Sound.Count: > 0 } known
        && known.Sound.Average(s => s.Kept ?? 0) > HalfKept;

    private const double HalfKept = 0.5;

    /// <summary>
    /// What to see to next: what leaves least doubt, on average over what each kind would show; null when nothing is left that
    /// would take away a tenth of a bit.
    /// </summary>
    public RegulatorQuestion? Next
    {
        get
        {
            const double WorthAsking = 0.1;
            var now = Entropy(shares);
            return Enum.GetValues<RegulatorQuestion>()
                .Where(q => !IsAnswered(q))
                .Select(q => (Question: (RegulatorQuestion?)q, Bits: now - Left(q)))
                .Where(q => q.Bits > WorthAsking)
                .OrderByDescending(q => q.Bits / Minutes(q.Question!.Value))
                .FirstOrDefault()
                .Question;
        }
    }

    private bool IsAnswered(RegulatorQuestion question) =>
        question switch
        {
            RegulatorQuestion.Leads => Signs.Leads is not null,
            RegulatorQuestion.Metal => Signs.Metal is not null,
            RegulatorQuestion.Kept => Signs.Kept is not null,
            _ => Signs.Posts is not null,
        };

    // Common practice, no source: a look, an unplugged pair, an engine run twice, a look at the battery while it runs.
    private static double Minutes(RegulatorQuestion question) =>
        question switch
        {
            RegulatorQuestion.Leads => 1,
            RegulatorQuestion.Metal => 3,
            RegulatorQuestion.Kept => 12,
            _ => 6,
        };

    private RegulatorSigns With(RegulatorQuestion question, RegulatorSigns shown) =>
        question switch
        {
            RegulatorQuestion.Leads => Signs with { Leads = shown.Leads },
            RegulatorQuestion.Metal => Signs with { Metal = shown.Metal },
            RegulatorQuestion.Kept => Signs with { Apart = shown.Apart, Plugged = shown.Plugged },
            _ => Signs with { Posts = shown.Posts },
        };

    private double Left(RegulatorQuestion question) =>
        Known
            .Value.Select(
                (candidate, i) => shares[i] * candidate.Sound.Average(shown => Entropy(Weighed(With(question, shown))))
            )
            .Sum();

    private static double[] Weighed(RegulatorSigns signs)
    {
        var weights = Known.Value.Select(c => c.Sound.Average(sound => Likelihood(sound, signs))).ToList();
        return [.. weights.Select(w => w / weights.Sum())];
    }

    private static double Likelihood(RegulatorSigns sound, RegulatorSigns read)
    {
        var likelihood = 1.0;
        if (read.Leads is { } leads)
        {
            likelihood *= leads == sound.Leads ? 1 - Miscounted : Miscounted / 2;
        }

        if (read.Metal is { } metal)
        {
            likelihood *= sound.Metal is { } has && IsGrounded(has) == IsGrounded(metal) ? 1 - Leaks : Leaks;
        }

        if (read.Kept is { } kept)
        {
            likelihood *= Near(Log(kept), sound.Kept is { } own ? Log(own) : null, KeptDoubt, WildKept);
        }

        if (read.Posts is { } posts)
        {
            likelihood *= Near(posts.Value, sound.Posts?.Value, PostsDoubtVolts, WildPosts);
        }

        return likelihood;

        static double Log(double share) => Math.Log(Math.Max(LeastKept, share));
        static bool IsGrounded(Ohms ohms) => ohms.Value < GroundedOhms;
    }

    /// <summary>Density of a figure about what is shown, slips among them; that of slips alone where nothing is shown.</summary>
    private static double Near(double read, double? shown, double doubt, double wild)
    {
        if (shown is not { } about)
        {
            return wild * Wild;
        }

        var z = (read - about) / doubt;
        return ((1 - Wild) * Math.Exp(-0.5 * z * z) / (doubt * Math.Sqrt(2 * Math.PI))) + (Wild * wild);
    }

    private static double Entropy(IEnumerable<double> shares) => -shares.Where(s => s > 0).Sum(s => s * Math.Log2(s));

    private static List<Candidate> Solved() =>
        [
            .. DeviceKinds
                .All.Where(k => k is { Regulates: true, Winding: not null })
                .Select(kind => new Candidate(kind, [.. Solved(kind, kind.Winding!)])),
            // Nothing under the flywheel makes what it holds back: there are brushes instead.
            .. DeviceKinds
                .All.Where(k => k.FeedsItsField)
                .Select(k => new Candidate(
                    k,
                    [.. HeldVolts.Select(v => new RegulatorSigns(Leads: 0, Posts: new Volts(v)))]
                )),
        ];

    private static IEnumerable<RegulatorSigns> Solved(DeviceKind kind, ChargedBy winding) =>
        Turns
            .Select(t => SheetTable.Build(new RegulatorRig(winding, t), TestedPart.Loose(kind), Meter.Ordinary))
            .SelectMany(table => Enumerable.Range(0, table.Particles).Select(p => Shown(winding, table, p)));

    private static RegulatorSigns Shown(ChargedBy winding, SheetTable table, int particle)
    {
        double Figure(string id) => table.Figure(0, particle, SheetBeliefs.IndexOf(table, id));
        return new RegulatorSigns(
            winding.Ends.Count,
            new Ohms(Figure(RegulatorRig.Metal)),
            new Volts(Figure(RegulatorRig.Apart)),
            new Volts(Figure(RegulatorRig.Plugged)),
            new Volts(Figure(RegulatorRig.Posts))
        );
    }

    /// <summary>A kind, and what sound ones of it show.</summary>
    private sealed record Candidate(DeviceKind Kind, IReadOnlyList<RegulatorSigns> Sound);
}
