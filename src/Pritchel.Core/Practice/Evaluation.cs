using Pritchel.Core.Faults;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;

namespace Pritchel.Core.Practice;

/// <summary>
/// Draws true faults as the program believes they come, given a complaint, and has them hunted. A fault is drawn by its
/// rate and a severity with it, and drawn again when the two do not give the complaint: faults that give it seldom come
/// seldom.
/// </summary>
public sealed class Evaluation
{
    private const int MostDraws = 400;

    // Each draw compiles machines anew.
    private const int MostBuilt = 20;

    private readonly DiagnosisKit kit;
    private readonly World world;
    private readonly List<Fault> suspects;

    /// <summary>
    /// Hunts of one complaint on one machine in one world; where faults come and go, of those that can.
    /// </summary>
    public Evaluation(DiagnosisKit kit, World world)
    {
        this.kit = kit;
        this.world = world with { Severities = 1 };
        suspects =
        [
            .. kit
                .Table.Hypotheses.Where(h => h is { Fault: not null, HasPredictions: true })
                .Select(h => h.Fault!)
                .Where(f => world.Presence >= 1 || f.ComesAndGoes),
        ];
    }

    /// <summary>Faults that give the complaint at some severity.</summary>
    public int Suspects => suspects.Count;

    /// <summary>
    /// Hides a fault, or so many at once of different repairs, each of which gives the complaint by itself. The same seed
    /// hides the same machine, severity and meter.
    /// </summary>
    /// <returns>Null when so many draws did not give the complaint.</returns>
    public HiddenFault? Hide(int seed, int faults = 1)
    {
        var random = new Random(seed);
        var most = world.Differs is null ? MostDraws : MostBuilt;
        for (var draw = 0; draw < most && suspects.Count >= faults; draw++)
        {
            var drawn = Enumerable.Range(0, faults).Select(_ => Drawn(random)).ToArray();
            if (
                drawn.DistinctBy(f => f.Repair.Id).Count() == faults
                && HiddenFault.Hide(kit.Table, drawn, Meter.Ordinary, random, world) is { } hidden
                && (faults == 1 || drawn.All(f => hidden.After(f.Repair.Id) is not null))
            )
            {
                return hidden;
            }
        }

        return null;
    }

    /// <summary>Hunts what a seed hides; null when it hides nothing.</summary>
    public Hunt? Hunt(int seed, IStrategy strategy) =>
        world.Differs is Difference.WrongKind ? HuntMisplaced(seed, strategy)
        : Hide(seed, FaultsOf(seed)) is { } hidden ? Rehearsal.Play(kit, hidden, Meter.Ordinary, strategy)
        : null;

    /// <summary>
    /// Hunts what is not as drawn and nothing else: two leads put on wrongly, or a part of the wrong kind. Null where none was found.
    /// </summary>
    public Hunt? HuntMisplaced(int seed, IStrategy strategy) =>
        HiddenFault.Misplace(kit.Table, Meter.Ordinary, new Random(seed), world) is { } hidden
            ? Rehearsal.Play(kit, hidden, Meter.Ordinary, strategy)
            : null;

    /// <summary>How many faults a seed hides: two where people's machines have them.</summary>
    private int FaultsOf(int seed) =>
        world.Habits is { } habits && new Random(seed).NextDouble() < habits.TwoFaults ? 2 : 1;

    /// <summary>
    /// Hunts two faults that a seed hides: the first verdict mends one of them, the proof fails, and the other is hunted as
    /// a complaint of its own.
    /// </summary>
    /// <returns>Both hunts; the second is missing when the first mended neither. Null when nothing was hidden.</returns>
    public (Hunt First, Hunt? Second)? HuntTwo(int seed, IStrategy strategy)
    {
        if (Hide(seed, 2) is not { } hidden)
        {
            return null;
        }

        var first = Rehearsal.Play(kit, hidden, Meter.Ordinary, strategy);
        return first is { Right: true, Verdict.Repair: { } mended } && hidden.After(mended) is { } left
            ? (first, Rehearsal.Play(kit, left, Meter.Ordinary, strategy))
            : (first, null);
    }

    private Fault Drawn(Random random)
    {
        var left = random.NextDouble() * suspects.Sum(s => s.Rate);
        return suspects.Find(s => (left -= s.Rate) <= 0) ?? suspects[^1];
    }
}
