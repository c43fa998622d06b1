using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Rewiring;

/// <summary>Settings in which a machine does the same, before and as rewired.</summary>
/// <param name="Settings">All of them, the nearest to rest first.</param>
/// <param name="Before">What the machine did; null where there was none to compare with.</param>
/// <param name="After">What it does.</param>
public sealed record ProofRow(IReadOnlyList<ControlSetting> Settings, Behaviour? Before, Behaviour After)
{
    /// <summary>One of them, the nearest to rest.</summary>
    public ControlSetting Setting => Settings[0];

    /// <summary>How many there are.</summary>
    public int Count => Settings.Count;

    /// <summary>Cranks where it must not: it did not before.</summary>
    public bool CranksWrongly => After.Cranks && Before is { Cranks: false };

    /// <summary>Runs on where it was stopped before.</summary>
    public bool RunsWrongly => After.Runs && Before is { Runs: false };

    /// <summary>No more cranks, or no more runs, where it did.</summary>
    public bool IsLost => Before is { } was && ((was.Cranks && !After.Cranks) || (was.Runs && !After.Runs));

    /// <summary>Whether something in the row is wrong.</summary>
    public bool IsWrong => CranksWrongly || RunsWrongly || IsLost || After.Opened.Count > 0 || After.FedKills.Count > 0;
}

/// <summary>How grave a finding is.</summary>
public enum FindingKind
{
    /// <summary>Someone may be hurt, or something burns.</summary>
    Hazard,

    /// <summary>Something that it should do, it does not.</summary>
    Lost,

    /// <summary>Comes with this kind of machine: it was so before.</summary>
    Inherent,
}

/// <summary>Something a proof found.</summary>
/// <param name="Kind">How grave.</param>
/// <param name="Words">What, and when.</param>
/// <param name="Fault">The single fault that gives it; null where the design itself does.</param>
public sealed record ProofFinding(FindingKind Kind, string Words, FaultId? Fault = null);

/// <summary>
/// A machine proved before it is built: solved in every combination of its controls, at rest and with the engine turning, and
/// compared with what it did before; then with every single fault by itself.
/// </summary>
public sealed class DesignProof
{
    /// <summary>Most settings solved one by one; beyond them those near rest.</summary>
    public const int MostSettings = 4096;

    private const int MostMoved = 3;
    private const double DrainAmps = Symptoms.DrainAmps;

    private DesignProof(
        Circuit after,
        IReadOnlyList<ProofRow> rows,
        IReadOnlyList<ProofFinding> findings,
        int settings,
        int faults
    )
    {
        (After, Rows, Findings, Settings, Faults) = (after, rows, findings, settings, faults);
    }

    /// <summary>The machine that was proved.</summary>
    public Circuit After { get; }

    /// <summary>What it does, settings that agree taken together; wrong ones first.</summary>
    public IReadOnlyList<ProofRow> Rows { get; }

    /// <summary>What was found, the gravest first.</summary>
    public IReadOnlyList<ProofFinding> Findings { get; }

    /// <summary>How many settings were solved.</summary>
    public int Settings { get; }

    /// <summary>How many single faults were.</summary>
    public int Faults { get; }

    /// <summary>Whether nothing new can hurt, and nothing was lost.</summary>
    public bool IsSound => !Findings.Any(f => f.Kind is FindingKind.Hazard or FindingKind.Lost);

    /// <summary>Proves a machine.</summary>
    /// <param name="after">As it will be.</param>
    /// <param name="before">As it was, whole and as drawn; null where there is nothing to compare with.</param>
    /// <param name="cancel">Gives it up.</param>
    public static DesignProof Of(Circuit after, Circuit? before, CancellationToken cancel = default)
    {
        var settings = All(after).ToList();
        var seen = new (ControlSetting Setting, Behaviour? Before, Behaviour After)[settings.Count];
        Parallel.For(
            0,
            settings.Count,
            new ParallelOptions { CancellationToken = cancel, MaxDegreeOfParallelism = Environment.ProcessorCount },
            () => (After: new Trial(after), Before: before is null ? null : new Trial(before)),
            (i, _, trials) =>
            {
                seen[i] = (
                    settings[i],
                    before is null ? null : trials.Before!.In(Same(after, before, settings[i])),
                    trials.After.In(settings[i])
                );
                return trials;
            },
            _ => { }
        );
        var rows = seen.GroupBy(s => (Key(s.Before), Key(s.After)))
            .Select(g => new ProofRow([.. g.Select(s => s.Setting)], g.First().Before, g.First().After))
            .OrderByDescending(r => r.IsWrong)
            .ToList();
        var found = new List<ProofFinding>();
        found.AddRange(InDesign(after, before, rows, [.. seen.Select(s => (s.Before, s.After))]));
        found.AddRange(Holding(after, settings, seen.Select(s => s.After.Cranks).ToList()));
        found.AddRange(Charging(after, before, settings, [.. seen.Select(s => s.After.Runs && !s.After.Cranks)]));
        found.AddRange(Failing(after, before, cancel));
        return new DesignProof(after, rows, [.. found.OrderBy(f => f.Kind)], settings.Count, after.Faults.Count);
    }

    /// <summary>Every combination of a machine's controls, nearest to rest first; where there are too many, those near rest.</summary>
    private static IEnumerable<ControlSetting> All(Circuit circuit)
    {
        var count = circuit.Machine.Controls.Aggregate(1L, (n, c) => Math.Min(int.MaxValue, n * c.Positions.Count));
        return circuit.SettingsNearRest(count > MostSettings ? MostMoved : circuit.Machine.Controls.Count);
    }

    /// <summary>The same setting on the machine before, by the names of controls; what it alone had is at rest.</summary>
    private static ControlSetting Same(Circuit after, Circuit before, ControlSetting setting) =>
        before.Setting(
            setting
                .Moved(after.Machine)
                .Where(m => before.Machine.Index.Control(m.Key)?.Positions.Contains(m.Value) == true)
                .ToDictionary(m => m.Key, m => m.Value)
        );

    private static (bool, bool, string, string)? Key(Behaviour? of) =>
        of is null ? null : (of.Cranks, of.Runs, string.Join(',', of.Opened), string.Join(',', of.FedKills));

    private static IEnumerable<ProofFinding> InDesign(
        Circuit after,
        Circuit? before,
        List<ProofRow> rows,
        IReadOnlyList<(Behaviour? Before, Behaviour After)> seen
    )
    {
        var machine = after.Machine;
        string When(ProofRow row) =>
            row.Setting.Words(machine) + (row.Count > 1 ? $" and {row.Count - 1} more settings" : "");
        ProofFinding Hazard(string words) => new(FindingKind.Hazard, words);
        ProofFinding Lost(string words) => new(FindingKind.Lost, words);
        foreach (var row in rows.Where(r => r.CranksWrongly))
        {
            yield return Hazard(
                $"Cranks where it did not before: {When(row)}. What refused it is no longer in the start feed: bring the lead back through it."
            );
        }

        foreach (var row in rows.Where(r => r.RunsWrongly))
        {
            yield return Hazard(
                $"Is not stopped where it was before: {When(row)}. What stopped it no longer reaches this ignition or its fuel: join it, kind to kind."
            );
        }

        foreach (var row in rows.Where(r => r.After.FedKills.Count > 0))
        {
            yield return Hazard(
                $"Battery volts on the kill lead of {Names(machine, row.After.FedKills)}: {When(row)}. They burn the ignition: part the kill from the feed."
            );
        }

        foreach (var row in rows.Where(r => r.After.Opened.Except(r.Before?.Opened ?? []).Any()))
        {
            yield return Hazard(
                $"{Names(machine, row.After.Opened)} opens: {When(row)}. A feed meets ground or too much load there."
            );
        }

        if (seen[0].After.DrainAmps > Math.Max(DrainAmps, 2 * (seen[0].Before?.DrainAmps ?? 0)))
        {
            yield return Hazard(
                $"{seen[0].After.DrainAmps:0.00} A flow out of the battery with everything at rest: something is fed past its switch."
            );
        }

        if (seen[0].After.Cranks)
        {
            yield return Hazard("Cranks with everything at rest.");
        }

        foreach (var row in rows.Where(r => r.IsLost))
        {
            yield return Lost(
                $"{(row.Before!.Cranks && !row.After.Cranks ? "Cranks no more" : "Runs no more")} where it did: {When(row)}."
            );
        }

        if (after.Cranking.Length > 0 && !seen.Any(s => s.After.Cranks))
        {
            yield return Lost("Cranks in no setting at all.");
        }

        if (!seen.Any(s => s.After.Runs))
        {
            yield return Lost("Runs in no setting at all: no spark, or no fuel.");
        }

        var working = seen.SelectMany(s => s.After.Working).ToHashSet();
        var lost = before is null
            ? []
            : seen.SelectMany(s => s.Before!.Working)
                .Distinct()
                .Where(p => !working.Contains(p) && machine.Index.Part(p) is not null)
                .ToList();
        foreach (var part in lost)
        {
            yield return Lost($"{machine.Index.Part(part)!.Name} works in no setting any more.");
        }
    }

    /// <summary>A starter that goes on turning once what was held is let go.</summary>
    private static IEnumerable<ProofFinding> Holding(Circuit circuit, List<ControlSetting> settings, List<bool> cranks)
    {
        var first = cranks.IndexOf(true);
        if (first < 0)
        {
            yield break;
        }

        var (setting, trial) = (settings[first], new Trial(circuit));
        for (var c = 0; c < setting.Count; c++)
        {
            var control = circuit.Machine.Controls[c];
            var into = setting.With(c, control.IndexOf(control.Rest));
            if (
                control.Held.Contains(control.Positions[setting[c]])
                && trial.CranksAfter(setting, into)
                && !trial.Cranks(into)
            )
            {
                yield return new ProofFinding(
                    FindingKind.Hazard,
                    $"The starter stays in when {control.Name} is let go."
                );
            }
        }
    }

    private static IEnumerable<ProofFinding> Charging(
        Circuit after,
        Circuit? before,
        List<ControlSetting> settings,
        bool[] runs
    )
    {
        const double ChargesFromAmps = 0.1;
        var first = Array.IndexOf(runs, true);
        if (before is null || first < 0)
        {
            yield break;
        }

        double Amps(Circuit circuit, ControlSetting setting)
        {
            var state = new CircuitState(circuit) { Tolerance = DutyWaves.BeliefTolerance };
            state.Begin(circuit.NominalParameters());
            state.Move(setting);
            state.SetSpeeds(DutySpeed.Work);
            return Outcome.Of(state, state.Move(setting)).Charges.Values.DefaultIfEmpty(0).Max();
        }

        var (was, now) = (Amps(before, Same(after, before, settings[first])), Amps(after, settings[first]));
        if (was > ChargesFromAmps && now <= ChargesFromAmps)
        {
            yield return new ProofFinding(
                FindingKind.Lost,
                $"The battery is not charged any more: {now:0.0} A at work, {was:0.0} A before."
            );
        }
    }

    /// <summary>Single faults that leave an engine that cannot be stopped, or that cranks by itself.</summary>
    private static IEnumerable<ProofFinding> Failing(Circuit after, Circuit? before, CancellationToken cancel)
    {
        var was = before is null ? [] : Dangers(before, cancel).ToDictionary(d => d.Fault.Id);
        foreach (var danger in Dangers(after, cancel))
        {
            var inherent =
                before is null
                || was.ContainsKey(danger.Fault.Id)
                || was.Values.Any(d => d.Fault.Kind == danger.Fault.Kind && d.Words == danger.Words);
            yield return new ProofFinding(
                inherent ? FindingKind.Inherent : FindingKind.Hazard,
                $"{danger.Fault.Words}: {danger.Words}",
                danger.Fault.Id
            );
        }
    }

    private static IEnumerable<(Fault Fault, string Words)> Dangers(Circuit circuit, CancellationToken cancel)
    {
        var sound = new Trial(circuit);
        var near = circuit.SettingsNearRest(MostMoved).ToList();
        var rest = near[0];
        var running = near.FirstOrDefault(s => sound.RunsAfter(s, s) && !sound.Cranks(s));
        var stops = running is null ? [] : Moves(circuit, running).Where(m => !sound.RunsAfter(running, m.To)).ToList();
        var found = new (Fault Fault, string Words)?[circuit.Faults.Count];
        Parallel.For(
            0,
            found.Length,
            new ParallelOptions { CancellationToken = cancel, MaxDegreeOfParallelism = Environment.ProcessorCount },
            f =>
            {
                var fault = circuit.Faults[f];
                var trial = new Trial(circuit, fault);
                if (trial.Cranks(rest) || (running is not null && trial.Cranks(running)))
                {
                    found[f] = (fault, "it cranks by itself. Battery lead off first.");
                }
                else if (stops.Count > 0 && stops.TrueForAll(m => trial.RunsAfter(running!, m.To)))
                {
                    found[f] = (fault, "no switch stops it. By hand: " + circuit.Machine.StopByHand);
                }
            }
        );
        return found.Where(f => f is not null).Select(f => f!.Value);
    }

    /// <summary>One control at a time moved elsewhere.</summary>
    private static IEnumerable<(Control Control, ControlSetting To)> Moves(Circuit circuit, ControlSetting from) =>
        Enumerable
            .Range(0, from.Count)
            .SelectMany(c =>
                Enumerable
                    .Range(0, circuit.Machine.Controls[c].Positions.Count)
                    .Where(p => p != from[c])
                    .Select(p => (circuit.Machine.Controls[c], from.With(c, p)))
            );

    private static string Names(Machine machine, IEnumerable<PartId> parts) =>
        string.Join(", ", parts.Select(p => machine.Index.Part(p)?.Name ?? p.Text));
}
