namespace Pritchel.Core.PartTests;

/// <summary>What a sheet comes to.</summary>
public enum SheetOutcome
{
    /// <summary>Too little has been read.</summary>
    Open,

    /// <summary>Nothing that this sheet can see is wrong.</summary>
    Good,

    /// <summary>Something is wrong with it.</summary>
    Bad,

    /// <summary>No reading left tells, and what is left cannot be told apart with this meter.</summary>
    CannotBeTold,

    /// <summary>No way in which the part may be shows these readings: one is wrong, or it is another part.</summary>
    Contradicts,
}

/// <summary>The verdict of a sheet.</summary>
/// <param name="Outcome">What it comes to.</param>
/// <param name="Named">The state that stands clear; null where none does.</param>
/// <param name="Among">States that cannot be told apart, likeliest first; one where a state is named.</param>
/// <param name="Share">Share of <paramref name="Among"/> together, or of being sound.</param>
/// <param name="Next">Number of the reading that would tell most; −1 for none that tells.</param>
/// <param name="Bits">Bits expected of it.</param>
public sealed record SheetVerdict(
    SheetOutcome Outcome,
    PartState? Named,
    IReadOnlyList<PartState> Among,
    double Share,
    int Next,
    double Bits
)
{
    /// <summary>Whether the next reading was taken once and is to be taken again: what would condemn is never one slip.</summary>
    public bool Again { get; private init; }

    // A part is bought or kept on it: nineteen in twenty, and for keeping only when nothing left would tell.
    private const double Clear = 0.95;
    private const double NamedShare = 0.95;
    private const double Tells = 0.02;

    private const double AgainUnder = 0.5;

    // Worse than the wild share for every reading: nothing fits.
    private const double NothingFits = 0.05;

    /// <summary>Judges what is believed.</summary>
    public static SheetVerdict Of(SheetBeliefs beliefs)
    {
        var table = beliefs.Table;
        var left = Enumerable
            .Range(0, table.Readings.Count)
            .Where(r => beliefs.Entries.All(e => e.Reading != table.Readings[r].Id))
            .Select(r => (Reading: r, Bits: beliefs.Bits(r)))
            .Where(r => r.Bits > Tells)
            .OrderByDescending(r => r.Bits / table.Readings[r.Reading].Minutes.Value)
            .ToList();
        var (next, bits) = left.Count > 0 ? left[0] : (-1, 0);
        if (beliefs.Entries.Count == 0)
        {
            return new(SheetOutcome.Open, null, [], 0, FirstOrBest(left, next), bits);
        }

        if (beliefs.BestFit < Math.Pow(NothingFits, beliefs.Entries.Count))
        {
            return new(SheetOutcome.Contradicts, null, [], 0, next, bits);
        }

        var bad = beliefs.Ranked.Where(s => !s.State.IsSound && s.Share > 0.01).ToList();
        var among = Leading(bad, 1 - beliefs.Sound);
        if (1 - beliefs.Sound >= Clear)
        {
            var share = bad.Take(among.Count).Sum(s => s.Share);
            var named = among.Count == 1 ? among[0] : null;
            return Condemning(beliefs) is [var only]
                ? new(SheetOutcome.Bad, named, among, share, only, bits) { Again = true }
                : new(SheetOutcome.Bad, named, among, share, next, bits);
        }

        if (beliefs.Sound >= Clear && next < 0)
        {
            return new(SheetOutcome.Good, table.States[0], [], beliefs.Sound, -1, 0);
        }

        if (next < 0 && beliefs.Sound < AgainUnder && Condemning(beliefs) is [var once, ..])
        {
            return new(SheetOutcome.Open, null, among, 1 - beliefs.Sound, once, 0) { Again = true };
        }

        return next < 0
            ? new(SheetOutcome.CannotBeTold, null, among, 1 - beliefs.Sound, -1, 0)
            : new(SheetOutcome.Open, null, among, Math.Max(beliefs.Sound, 1 - beliefs.Sound), next, bits);
    }

    /// <summary>With nothing read yet the sheet's own order stands, unless its first reading would tell nothing.</summary>
    private static int FirstOrBest(List<(int Reading, double Bits)> left, int best) =>
        left.Exists(r => r.Reading == 0) ? 0 : best;

    /// <summary>
    /// Numbers of the readings that are not what a sound part shows, where all of them were read once: none where one came
    /// twice alike.
    /// </summary>
    private static List<int> Condemning(SheetBeliefs beliefs)
    {
        var odd = beliefs
            .Entries.Select(e => (Entry: e, At: SheetBeliefs.IndexOf(beliefs.Table, e.Reading)))
            .Where(e => e.At >= 0 && !beliefs.Agrees(e.At, e.Entry))
            .ToList();
        return odd.Exists(e => e.Entry.Times > 1) ? [] : [.. odd.Select(e => e.At)];
    }

    /// <summary>The states that hold most of what is suspected.</summary>
    private static List<PartState> Leading(List<(PartState State, double Share)> bad, double suspected)
    {
        const int Most = 5;
        var among = new List<PartState>();
        var sum = 0.0;
        foreach (var (state, share) in bad.Take(Most))
        {
            if (sum >= NamedShare * suspected)
            {
                break;
            }

            among.Add(state);
            sum += share;
        }

        return among;
    }
}
