using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Diagnosis.Planning;

/// <summary>A place worth stirring.</summary>
/// <param name="Reach">What to get hold of.</param>
/// <param name="By">How.</param>
/// <param name="Watch">Reading to be watched meanwhile; null where the duty itself is.</param>
/// <param name="Minutes">What it takes, with access not yet made.</param>
/// <param name="Bits">Expected information about which repair it is.</param>
public sealed record PlannedWiggle(Reach Reach, WiggledBy By, PlannedTest? Watch, Minutes Minutes, double Bits)
{
    /// <summary>Of the minutes, those that mending what is suspected would take anyway: opening the place.</summary>
    public Minutes WantedAnyway { get; init; }

    /// <summary>Expected information per minute that only it takes.</summary>
    public double Rate => Bits / (Minutes.Value - WantedAnyway.Value);
}

/// <summary>
/// Chooses what to move, warm or wet, and what to watch meanwhile: for faults that come and go, where waiting until it
/// fails costs more than making it fail.
/// </summary>
public sealed class WiggleTests
{
    // Handling in minutes, for a whole place and for one joint in it; clips on both probes. Common practice, no source.
    private const double ClipsMinutes = 0.3;
    private const double DutyMinutes = 0.5;
    private const double DutySafeMinutes = 1.5;

    // How long a try takes while one waits for it to fail.
    private const double TryMinutes = 0.3;

    private const double LeastShare = 0.004;

    // A joint by itself is worth hands of its own from this share on.
    private const double JointShare = 0.03;

    // What eye and meter see as a change, on the scale of each.
    private const double PlainScaled = 1;
    private const double PlainStep = 2;

    // A watch must show nearly all that may answer, or nothing changing would clear what it cannot show.
    private const double NearlyAll = 0.8;

    // Hands beside an engine that may be turned by what is watched: the price of the danger.
    private const double TurningMinutes = 2;

    private readonly PredictionTable table;
    private readonly TestPlan plan;
    private readonly List<Reach> places;
    private readonly WiggledBy[] ways;

    /// <summary>Lists what can be stirred on a machine.</summary>
    public WiggleTests(PredictionTable table, TestPlan plan)
    {
        (this.table, this.plan) = (table, plan);
        places = [.. table.Circuit.Machine.Places.Select(Everything).Where(r => r.Repairs.Count > 0)];

        // Water and mains volts are kept apart.
        var hasMains = table.Circuit.PartsThat(PartTraits.MakesMains).Any();
        ways = hasMains ? [WiggledBy.Moving, WiggledBy.Warming] : Enum.GetValues<WiggledBy>();
    }

    /// <summary>Whether a complaint is of something that comes and goes.</summary>
    public static bool IsCalledFor(Complaint complaint) => complaint.Failed < complaint.Tried;

    /// <summary>Minutes that one waits, on average, until a fault that comes and goes is there to be measured.</summary>
    public static Minutes Wait(Complaint complaint) =>
        new(IsCalledFor(complaint) ? TryMinutes * ((1 / Likelihood.Presence(complaint)) - 1) : 0);

    /// <summary>What hands get hold of; null where the machine has no such place, or nothing there that moves.</summary>
    /// <param name="place">Id of the place.</param>
    /// <param name="repair">Id of the one repair there, or null for everything.</param>
    public Reach? Find(PlaceId place, RepairId? repair)
    {
        var all = places.Find(r => r.Place.Id == place);
        return repair is not { } one ? all
            : all?.Repairs.Contains(one) == true ? Alone(all.Place, Named(one))
            : null;
    }

    /// <summary>What may be done to them; nothing is wetted on a machine that makes mains volts.</summary>
    public IReadOnlyList<WiggledBy> Ways => ways;

    /// <summary>Everything that can be got hold of, place by place.</summary>
    public IReadOnlyList<Reach> Places => places;

    /// <summary>What to stir, most information per minute first; none where the fault is always there.</summary>
    /// <param name="beliefs">What is believed.</param>
    /// <param name="situation">How things stand.</param>
    /// <param name="most">How many.</param>
    public IReadOnlyList<PlannedWiggle> Best(Beliefs beliefs, Situation situation, int most)
    {
        // What to watch is looked up for a few only; it seldom changes their order.
        const int Watched = 3;
        if (!IsCalledFor(beliefs.Complaint))
        {
            return [];
        }

        var (shares, watches) = (Shares(beliefs), Watches(beliefs, situation));
        var tried = beliefs.SideEvidence.WiggleEvidence.Tried;
        return
        [
            .. Reaches(beliefs, situation)
                .SelectMany(r => ways.Select(by => (Reach: r, By: by)))
                .Where(x => !tried.Any(t => t.By == x.By && IsSame(t.Reach, x.Reach)))
                .Select(x => (x.Reach, x.By, Bits: Bits(beliefs, shares, x.Reach, x.By)))
                .Where(x => x.Bits > TestPlan.LeastBits)
                .OrderByDescending(x => x.Bits / Handling(x.Reach, x.By, situation))
                .Take(Math.Max(most, Watched))
                .Select(x => Planned(beliefs, situation, x.Reach, x.By, x.Bits, watches))
                .OfType<PlannedWiggle>()
                .OrderByDescending(p => p.Rate)
                .Take(most),
        ];
    }

    /// <summary>One treatment of one place with its cost; null where an engine would turn beside the hands.</summary>
    public PlannedWiggle? Plan(Beliefs beliefs, Situation situation, Reach reach, WiggledBy by) =>
        Planned(beliefs, situation, reach, by, Bits(beliefs, Shares(beliefs), reach, by), Watches(beliefs, situation));

    /// <summary>Whether to stir before the next test is measured: where that tells more per minute.</summary>
    /// <param name="stir">The best place to stir.</param>
    /// <param name="next">The best test by meter, or null when none is left.</param>
    public static bool ComesFirst(PlannedWiggle stir, PlannedTest? next) => next is null || stir.Rate > next.Rate;

    /// <summary>How things stand afterwards: the place is open, controls stand as for what was watched.</summary>
    public Situation After(Situation before, Reach reach, ProbePair? watch)
    {
        var open = before with { Opened = before.Opened.Append(reach.Place.Id).ToHashSet() };
        return watch is { } at
            ? plan.After(open, at) with
            {
                Done = before.Done,
                Read = before.Read,
            }
            : open with
            {
                Condition = 0,
                BatteryOff = false,
                MadeSafe = before.MadeSafe || table.Conditions[0].MayTurnEngine,
            };
    }

    private static bool IsSame(Reach one, Reach other) =>
        (one.Place.Id, one.Alone?.Id) == (other.Place.Id, other.Alone?.Id);

    /// <summary>Every place within reach, and every suspect joint by itself.</summary>
    private IEnumerable<Reach> Reaches(Beliefs beliefs, Situation situation)
    {
        var joints = beliefs
            .Suspects.Where(s => s.Repair is not null && s.Share > JointShare)
            .SelectMany(s =>
                places
                    .Where(p => p.Repairs.Contains(s.Repair!.Id))
                    .OrderByDescending(p => situation.Opened.Contains(p.Place.Id))
                    .ThenBy(p => p.Place.Minutes)
                    .Take(1)
                    .Select(p => Alone(p.Place, s.Repair!))
            );
        return places.Concat(joints).Where(r => !situation.Unreachable.Contains(r.Place.Id));
    }

    private static List<(Fault? Fault, double Share)> Shares(Beliefs beliefs) =>
        [
            .. Enumerable
                .Range(0, beliefs.Table.Hypotheses.Count)
                .Select(h => (beliefs.Table.Hypotheses[h].Fault, Share: beliefs.Share(h)))
                .Where(x => x.Share > 0),
        ];

    /// <summary>Mutual information of the repair and the answer: H(answer) less H(answer given the repair), in bits.</summary>
    private static double Bits(Beliefs beliefs, List<(Fault? Fault, double Share)> shares, Reach reach, WiggledBy by)
    {
        var (all, changed, given) = (0.0, 0.0, 0.0);
        foreach (var repair in shares.GroupBy(s => s.Fault?.Repair.Id))
        {
            var share = repair.Sum(s => s.Share);
            var changes = repair.Sum(s => s.Share * beliefs.SideEvidence.WiggleEvidence.Changes(s.Fault, reach, by));
            all += share;
            changed += changes;
            given += share * Entropy(changes / share);
        }

        return all > 0 ? Math.Max(0, Entropy(changed / all) - (given / all)) : 0;
    }

    private static double Entropy(double p) =>
        p is <= 0 or >= 1 ? 0 : -(p * Math.Log2(p)) - ((1 - p) * Math.Log2(1 - p));

    /// <summary>Minutes of getting there and stirring, what is watched left out.</summary>
    private static double Handling(Reach reach, WiggledBy by, Situation situation)
    {
        var minutes = (by, reach.Alone) switch
        {
            (WiggledBy.Moving, null) => 0.8,
            (WiggledBy.Moving, _) => 0.4,
            (WiggledBy.Warming, null) => 3,
            (WiggledBy.Warming, _) => 1.5,
            (_, null) => 1.5,
            _ => 0.7,
        };
        return minutes + (situation.Opened.Contains(reach.Place.Id) ? 0 : reach.Place.Minutes);
    }

    private PlannedWiggle? Planned(
        Beliefs beliefs,
        Situation situation,
        Reach reach,
        WiggledBy by,
        double bits,
        ProbePair[] watches
    )
    {
        var opened = situation with { Opened = situation.Opened.Append(reach.Place.Id).ToHashSet() };
        var handling = Handling(reach, by, situation);
        var wanted = situation.Opened.Contains(reach.Place.Id)
            ? 0
            : reach.Place.Minutes * beliefs.Suspects.Where(s => s.Repair?.Place == reach.Place.Id).Sum(s => s.Share);
        var trying = Trying(situation, reach.Place);
        var watch = WatchFor(beliefs, opened, reach, by, watches);
        double? metering = watch is { } at ? ClipsMinutes + Watching(at, opened) : null;

        // Where the machine shows as soon by itself, no meter is needed.
        watch = trying <= metering ? null : watch;
        if ((watch is null ? trying : metering) is not { } watching)
        {
            return null;
        }

        return new PlannedWiggle(
            reach,
            by,
            watch is { } read ? plan.Plan(read, opened, 0) : null,
            new Minutes(handling + watching),
            bits
        )
        {
            WantedAnyway = new Minutes(wanted),
        };
    }

    /// <summary>
    /// The reading soonest set up that would show what may be found: one that differs, with the suspects that are stirred,
    /// from what sound wiring shows. Null where none shows enough of them.
    /// </summary>
    private ProbePair? WatchFor(Beliefs beliefs, Situation situation, Reach reach, WiggledBy by, ProbePair[] watches)
    {
        var stirred = Enumerable
            .Range(0, table.Hypotheses.Count)
            .Select(h => (Shown: beliefs.Hypothesis(h), Share: beliefs.Share(h), Heaviest: Heaviest(beliefs, h)))
            .Where(x =>
                x.Share > LeastShare
                && x.Shown is { HasPredictions: true, Fault.ComesAndGoes: true }
                && reach.Repairs.Contains(x.Shown.Fault.Repair.Id)
            )
            .Select(x => (x.Shown, x.Heaviest, Share: x.Share * WiggleEvidence.Answers(x.Shown.Fault!, by)))
            .OrderByDescending(x => x.Share)
            .ToArray();
        var all = stirred.Sum(s => s.Share);
        if (all <= 0)
        {
            return null;
        }

        return watches
            .Where(at => !table.Conditions[at.Condition].MayTurnEngine || reach.Place.EngineMayTurn)
            .Select(at => (At: at, Share: Shown(stirred, at, all * (1 - NearlyAll))))
            .Where(s => s.Share > 0)
            .OrderBy(s => Watching(s.At, situation))
            .ThenByDescending(s => s.Share)
            .ThenBy(s => (s.At.Condition, s.At.Red, s.At.Black))
            .Select(s => (ProbePair?)s.At)
            .FirstOrDefault();
    }

    /// <summary>Share of the suspects that a reading shows; zero where more than a little of it stays unseen.</summary>
    private double Shown((Hypothesis Shown, int Heaviest, double Share)[] stirred, ProbePair at, double mayMiss)
    {
        var (shows, misses) = (0.0, 0.0);
        foreach (var (shown, heaviest, share) in stirred)
        {
            if (Differs(shown, heaviest, at))
            {
                shows += share;
            }
            else if ((misses += share) > mayMiss)
            {
                return 0;
            }
        }

        return shows;
    }

    /// <summary>What can be watched for a minute while hands are busy: nothing joined, nothing that a glance does not read.</summary>
    private ProbePair[] Watches(Beliefs beliefs, Situation situation)
    {
        bool CanWatch(Condition condition) =>
            condition.Jump is null && condition.Observable.CanBeWatched && condition.Observable.CanRead(beliefs.Meter);
        var can = table.Conditions.Select(CanWatch).ToArray();
        return [.. plan.Allowed(situation with { Done = new HashSet<ProbePair>() }).Where(at => can[at.Condition])];
    }

    /// <summary>Minutes of trying the duty instead; null where it does not show by itself, or would turn beside the hands.</summary>
    private double? Trying(Situation situation, Place place)
    {
        var duty = table.Conditions[0];
        return table.Effect == EffectKind.Charges || (duty.MayTurnEngine && !place.EngineMayTurn)
            ? null
            : DutyMinutes + (duty.MayTurnEngine ? TurningMinutes + (situation.MadeSafe ? 0 : DutySafeMinutes) : 0);
    }

    private double Watching(ProbePair at, Situation situation) =>
        plan.Cost(at, situation).Value + (table.Conditions[at.Condition].MayTurnEngine ? TurningMinutes : 0);

    private bool Differs(Hypothesis shown, int particle, ProbePair at)
    {
        var plain = table.Conditions[at.Condition].Observable.IsSeen ? PlainStep : PlainScaled;
        return Math.Abs(shown.Across(at)[particle] - table.Healthy.Across(at)[particle]) >= plain;
    }

    private static int Heaviest(Beliefs beliefs, int hypothesis)
    {
        var weights = beliefs.Weights(hypothesis);
        var heaviest = 0;
        for (var p = 1; p < weights.Length; p++)
        {
            heaviest = weights[p] > weights[heaviest] ? p : heaviest;
        }

        return heaviest;
    }

    private Repair Named(RepairId repair) => table.Circuit.Faults.First(f => f.Repair.Id == repair).Repair;

    private static Reach Alone(Place place, Repair repair) => new(place, repair, new HashSet<RepairId> { repair.Id });

    /// <summary>Everything at a place: what is mended there, and wires with an end there.</summary>
    private Reach Everything(Place place) =>
        new(
            place,
            null,
            table.Circuit.Faults.Where(f => f.ComesAndGoes && IsAt(f, place.Id)).Select(f => f.Repair.Id).ToHashSet()
        );

    private bool IsAt(Fault fault, PlaceId place)
    {
        var machine = table.Circuit.Machine;
        return fault.Repair.Place == place
            || (
                fault.Id.Of.Owner is { Kind: OwnerKind.Wire, Wire: { } wire }
                && machine.Index.Wire(wire)!.Ends.Any(e => MachineWords.PartAt(machine, e.At).Place == place)
            );
    }
}
