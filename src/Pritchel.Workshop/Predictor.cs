using System.Diagnostics;
using System.Runtime.CompilerServices;
using BitFaster.Caching;
using BitFaster.Caching.Lru;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;

namespace Pritchel.Workshop;

/// <summary>What a complaint's predictions depend on.</summary>
/// <param name="Machine">The machine.</param>
/// <param name="Duty">The duty, in the setting it failed in.</param>
/// <param name="Altered">What was found altered.</param>
/// <param name="Meter">Meter in use.</param>
internal sealed record Wanted(MachineVersion Machine, Duty Duty, IReadOnlyList<AlterationId> Altered, Meter Meter)
{
    /// <summary>What its table is known by.</summary>
    public string Key { get; } = TableFolder.KeyOf(Machine, Duty, Altered, Meter);
}

/// <summary>
/// Keeps what is slow to work out: predictions of complaints, from memory, from disk, or worked out behind the queue; and
/// what is quick beside it. Everything kept is bounded; what is used least goes first.
/// </summary>
public sealed class Predictor
{
    // A kit takes some megabytes, the largest forty; one that was let go is read from disk again in a tenth of a second.
    private const long MostKitBytes = 64L << 20;
    private const long MostCoarseBytes = 16L << 20;
    private const int MostSketches = 24;
    private const int MostDiagnoses = 6;
    private const int MostOthers = 64;
    private const int MostStandings = 500;

    private readonly ICache<string, DiagnosisKit> sketches = Bounded<DiagnosisKit>(MostSketches);
    private readonly ICache<string, DutyTries> tries = Bounded<DutyTries>(MostOthers);
    private readonly ICache<string, StoredCodes> codes = Bounded<StoredCodes>(MostOthers);

    // Beliefs last as long as the predictions they rest on, and keep none of them in memory.
    private readonly ConditionalWeakTable<
        DiagnosisKit,
        ICache<(int Job, int Sequence, bool Nulled), JobDiagnosis>
    > diagnoses = [];

    private readonly ICache<(int, int, string, bool, Grain), JobStanding> standings = new ConcurrentLruBuilder<
        (int, int, string, bool, Grain),
        JobStanding
    >()
        .WithCapacity(MostStandings)
        .WithAtomicGetOrAdd()
        .Build();

    private readonly BuildQueue queue;
    private readonly TableFolder tables;
    private readonly KitShelf kits;
    private readonly KitShelf coarse;

    /// <summary>Keeps nothing yet.</summary>
    /// <param name="queue">Works out what is slow.</param>
    /// <param name="tables">Tables on disk.</param>
    public Predictor(BuildQueue queue, TableFolder tables)
    {
        (this.queue, this.tables) = (queue, tables);
        (kits, coarse) = (new KitShelf(MostKitBytes), new KitShelf(MostCoarseBytes));
    }

    // Between two lists that weigh: whoever looks at the bench alone meets it once, of fifty who look at once one in many does.
    private static readonly TimeSpan FloorRests = TimeSpan.FromSeconds(2);
    private long floorWeighed = long.MinValue;
    private int weighingFloor;

    /// <summary>
    /// All predictions of a complaint: its duty, in the setting it failed in unless a sound machine fails there too, with what
    /// was found altered.
    /// </summary>
    /// <exception cref="BuildFailedException">They could not be worked out.</exception>
    public async Task<DiagnosisKit> KitAsync(MachineVersion machine, Complaint complaint, Meter meter)
    {
        var wanted = For(machine, complaint, meter);
        while (true)
        {
            try
            {
                return InHand(wanted) ?? await Ask(wanted, Urgency.Now);
            }
            catch (OperationCanceledException)
            {
                // Given up for another complaint just as it was asked for in earnest.
            }
        }
    }

    /// <summary>They when they are in memory or on disk; null, and nothing worked out, otherwise.</summary>
    public DiagnosisKit? KitInHand(MachineVersion machine, Complaint complaint, Meter meter) =>
        kits.Find(For(machine, complaint, meter).Key);

    /// <summary>
    /// The predictions when they are there; otherwise those of the sound machine alone, at once, while all are worked out
    /// beside: the complaint takes longer to write.
    /// </summary>
    /// <returns>The kit, and whether it has predictions of faults.</returns>
    public (DiagnosisKit Kit, bool Predicts) Sketch(MachineVersion machine, Complaint complaint, Meter meter)
    {
        var wanted = For(machine, complaint, meter);
        if (InHand(wanted) is { } whole)
        {
            return (whole, true);
        }

        Begin(wanted);
        return (
            sketches.GetOrAdd(
                wanted.Key,
                _ => DiagnosisKit.Sketch(machine.Circuit, wanted.Duty, wanted.Altered, meter)
            ),
            false
        );
    }

    /// <summary>
    /// The predictions when they are there; otherwise a coarse guess, which says where to measure first while all are worked
    /// out beside: a reading takes longer to take.
    /// </summary>
    public async Task<DiagnosisKit> KitForFirstTestAsync(MachineVersion machine, Complaint complaint, Meter meter)
    {
        var wanted = For(machine, complaint, meter);
        if (InHand(wanted) is { } whole)
        {
            return whole;
        }

        var guess = coarse.Find(wanted.Key);
        if (guess is null)
        {
            try
            {
                guess = await AskCoarse(wanted, Urgency.Now);
            }
            catch (OperationCanceledException)
            {
                return await KitAsync(machine, complaint, meter);
            }
        }

        Begin(wanted);
        return guess;
    }

    /// <summary>
    /// Begins what a complaint will want while it is still being written. What an earlier wording wanted is given up.
    /// </summary>
    public void Begin(MachineVersion machine, Complaint complaint, Meter meter)
    {
        var wanted = For(machine, complaint, meter);
        queue.GiveUp(key => key.EndsWith(wanted.Key, StringComparison.Ordinal));
        Begin(wanted);
    }

    /// <summary>Works a table out ahead, for a duty as its machine's file has it, unless it is on disk already.</summary>
    public void Ahead(MachineVersion machine, DutyId duty, Meter meter)
    {
        var wanted = For(machine, new Complaint { Duty = duty }, meter);
        if (!tables.Has(wanted.Key))
        {
            Forget(
                queue.Ask("ahead " + wanted.Key, Urgency.Ahead, (threads, cancel) => Build(wanted, threads, cancel))
            );
        }
    }

    /// <summary>
    /// How the faults of a machine let another duty go, as bad as gives a complaint; null when that is not a quick thing to know.
    /// </summary>
    public DutyTries? Tries(MachineVersion machine, DutyId duty, Complaint complaint)
    {
        if (machine.Duty(duty) is not { } other || !DutyTries.IsQuick(machine.Circuit, other))
        {
            return null;
        }

        var failing = For(machine, complaint with { Brought = [] }, Meter.Ordinary);
        return tries.GetOrAdd(
            $"{TableFolder.KeyOf(machine, other, complaint.Bridged, Meter.Ordinary)} {failing.Key}",
            _ => DutyTries.Build(machine.Circuit, other, complaint.Bridged, failing.Duty)
        );
    }

    /// <summary>How a complaint's starter does on jump leads with each fault; null where that is not told of it.</summary>
    private DutyTries? JumpStarts(MachineVersion machine, Complaint complaint)
    {
        var failing = For(machine, complaint with { Brought = [] }, Meter.Ordinary);
        return JumpStart.IsFor(machine.Circuit, failing.Duty)
            ? tries.GetOrAdd(
                $"jump leads {failing.Key}",
                _ => JumpStart.Tries(machine.Circuit, failing.Duty, complaint.Bridged)
            )
            : null;
    }

    /// <summary>Beliefs of a job, weighed once for each length of its history.</summary>
    public JobDiagnosis Diagnosis(MachineVersion machine, int job, JobState state, DiagnosisKit kit, Meter meter)
    {
        var complaint = state.Complaint!;
        return DiagnosesBy(kit)
            .GetOrAdd(
                (job, state.Sequence, meter.LeadsNulled),
                _ =>
                    JobDiagnosis.Of(
                        state,
                        kit,
                        meter,
                        duty => Tries(machine, duty, complaint),
                        StoredCodes.HasCodes(machine.Circuit) ? () => Codes(machine, complaint.Duty) : null,
                        () => JumpStarts(machine, complaint)
                    )
            );
    }

    /// <summary>
    /// Standings for a list of jobs: those that are known, and for one list at a time as many more as a moment allows. The
    /// others are weighed when the list is asked for again, or when a job is opened.
    /// </summary>
    public FloorWeighing Floor()
    {
        var last = Volatile.Read(ref floorWeighed);
        var rested = last == long.MinValue || Stopwatch.GetElapsedTime(last) > FloorRests;
        return new FloorWeighing(this, rested && Interlocked.Exchange(ref weighingFloor, 1) == 0);
    }

    /// <summary>Lets another list weigh, after a while.</summary>
    internal void FloorDone()
    {
        Volatile.Write(ref floorWeighed, Stopwatch.GetTimestamp());
        Volatile.Write(ref weighingFloor, 0);
    }

    /// <summary>What a job's evidence comes to, in what a list shows of it; null where nobody has weighed it and it may not be.</summary>
    internal JobStanding? Standing(
        MachineVersion machine,
        int job,
        JobState state,
        DiagnosisKit kit,
        Meter meter,
        bool mayWeigh
    )
    {
        var key = KeyOf(machine, job, state, kit, meter);
        return standings.TryGet(key, out var known) ? known
            : mayWeigh || DiagnosesBy(kit).TryGet((job, state.Sequence, meter.LeadsNulled), out _)
                ? standings.GetOrAdd(key, _ => JobStanding.Of(Diagnosis(machine, job, state, kit, meter)))
            : null;
    }

    private ICache<(int Job, int Sequence, bool Nulled), JobDiagnosis> DiagnosesBy(DiagnosisKit kit) =>
        diagnoses.GetValue(
            kit,
            _ =>
                new ConcurrentLruBuilder<(int, int, bool), JobDiagnosis>()
                    .WithCapacity(MostDiagnoses)
                    .WithAtomicGetOrAdd()
                    .Build()
        );

    private static (int, int, string, bool, Grain) KeyOf(
        MachineVersion machine,
        int job,
        JobState state,
        DiagnosisKit kit,
        Meter meter
    ) => (job, state.Sequence, For(machine, state.Complaint!, meter).Key, meter.LeadsNulled, kit.Table.Grain);

    /// <summary>Codes that a machine can store; none where nothing stores any.</summary>
    public IReadOnlyList<string> CodesOf(MachineVersion machine, DutyId duty) =>
        StoredCodes.HasCodes(machine.Circuit) ? Codes(machine, duty).Possible : [];

    private StoredCodes Codes(MachineVersion machine, DutyId duty) =>
        codes.GetOrAdd($"{machine.Content} {duty}", _ => StoredCodes.Build(machine.Circuit, machine.Duty(duty)!));

    private static Wanted For(MachineVersion machine, Complaint complaint, Meter meter)
    {
        var duty = machine.Duty(complaint.Duty)!;
        var failing = machine.Design(complaint) is { AsDesigned: false } ? machine.AsFound(duty, complaint) : duty;
        return new Wanted(machine, failing with { Brought = complaint.Brought }, complaint.Bridged, meter);
    }

    private DiagnosisKit? InHand(Wanted wanted)
    {
        if (kits.Find(wanted.Key) is { } known)
        {
            return known;
        }

        var (circuit, duty) = (wanted.Machine.Circuit, wanted.Duty);
        if (tables.Find(wanted.Key, circuit, duty, wanted.Altered, wanted.Meter) is not { } table)
        {
            return null;
        }

        var kit = DiagnosisKit.Of(table);
        kits.Put(wanted.Key, kit);
        return kit;
    }

    private void Begin(Wanted wanted)
    {
        if (!queue.Has("whole " + wanted.Key) && kits.Find(wanted.Key) is null)
        {
            if (coarse.Find(wanted.Key) is null)
            {
                Forget(AskCoarse(wanted, Urgency.Soon));
            }

            Forget(Ask(wanted, Urgency.Soon));
        }
    }

    private Task<DiagnosisKit> Ask(Wanted wanted, Urgency urgency) =>
        queue.Ask(
            "whole " + wanted.Key,
            urgency,
            (threads, cancel) =>
            {
                var kit = DiagnosisKit.Of(Build(wanted, threads, cancel));
                kits.Put(wanted.Key, kit);
                coarse.Remove(wanted.Key);
                return kit;
            }
        );

    private Task<DiagnosisKit> AskCoarse(Wanted wanted, Urgency urgency) =>
        queue.Ask(
            "coarse " + wanted.Key,
            urgency,
            (_, cancel) =>
            {
                var guess = DiagnosisKit.BuildCoarse(
                    wanted.Machine.Circuit,
                    wanted.Duty,
                    wanted.Altered,
                    wanted.Meter,
                    cancel
                );
                coarse.Put(wanted.Key, guess);
                return guess;
            }
        );

    private PredictionTable Build(Wanted wanted, int threads, CancellationToken cancel)
    {
        var (circuit, duty) = (wanted.Machine.Circuit, wanted.Duty);
        if (tables.Find(wanted.Key, circuit, duty, wanted.Altered, wanted.Meter) is { } known)
        {
            return known;
        }

        var table = PredictionTable.Build(
            circuit,
            duty,
            wanted.Altered,
            wanted.Meter,
            threads: threads,
            cancel: cancel
        );
        tables.Keep(wanted.Key, table);
        return table;
    }

    /// <summary>Nobody waits for it: the queue has logged what went wrong.</summary>
    private static void Forget(Task task) =>
        _ = task.ContinueWith(
            done => _ = done.Exception,
            CancellationToken.None,
            TaskContinuationOptions.OnlyOnFaulted,
            TaskScheduler.Default
        );

    private static ICache<string, T> Bounded<T>(int most) =>
        new ConcurrentLruBuilder<string, T>().WithCapacity(most).WithAtomicGetOrAdd().Build();
}
