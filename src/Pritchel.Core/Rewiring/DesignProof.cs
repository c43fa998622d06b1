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
/// <param name="IsLost">
/// Whether it cranks or runs no more where it did, however controls stand that the machine did not have before.
/// </param>
public sealed record ProofRow(IReadOnlyList<ControlSetting> Settings, Behaviour? Before, Behaviour After, bool IsLost)
{
    /// <summary>One of them, the nearest to rest.</summary>
    public ControlSetting Setting => Settings[0];

    /// <summary>How many there are.</summary>
    public int Count => Settings.Count;

    /// <summary>Cranks where it must not: it did not before.</summary>
    public bool CranksWrongly => After.Cranks && Before is { Cranks: false };

    /// <summary>Runs on where it was stopped before.</summary>
    public bool RunsWrongly => After.Runs && Before is { Runs: false };

    /// <summary>Fuses and breakers that open and did not before.</summary>
    public IEnumerable<PartId> NowOpen => After.Opened.Except(Before?.Opened ?? []);

    /// <summary>Whether something in the row is wrong.</summary>
    public bool IsWrong => CranksWrongly || RunsWrongly || IsLost || NowOpen.Any() || After.FedKills.Count > 0;
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
public sealed partial class DesignProof
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
    /// <param name="donor">The machine that something of it comes from; null for none.</param>
    /// <param name="solved">Told, as work goes on, how many of how many settings and faults are solved.</param>
    /// <param name="cancel">Gives it up.</param>
    public static DesignProof Of(
        Circuit after,
        Circuit? before,
        Circuit? donor = null,
        Action<int, int>? solved = null,
        CancellationToken cancel = default
    )
    {
        var settings = All(after).ToList();
        var (all, done) = (settings.Count + after.Faults.Count + (before?.Faults.Count ?? 0), 0);
        void Solved() => solved?.Invoke(Interlocked.Increment(ref done), all);
        var seen = new (ControlSetting Setting, Behaviour? Before, Behaviour After)[settings.Count];
        Parallel.For(
            0,
            settings.Count,
            Cores.Until(cancel),
            () => (After: new Trial(after), Before: before is null ? null : new Trial(before)),
            (i, _, trials) =>
            {
                seen[i] = (
                    settings[i],
                    before is null ? null : trials.Before!.In(Same(after, before, settings[i])),
                    trials.After.In(settings[i])
                );
                Solved();
                return trials;
            },
            _ => { }
        );
        var lost = Lost(after, before, seen);
        var rows = seen.Select((s, i) => (s.Setting, s.Before, s.After, IsLost: lost[i]))
            .GroupBy(s => (Key(s.Before), Key(s.After), s.IsLost))
            .Select(g => new ProofRow([.. g.Select(s => s.Setting)], g.First().Before, g.First().After, g.Key.IsLost))
            .OrderByDescending(r => r.IsWrong)
            .ToList();
        var found = new List<ProofFinding>();
        found.AddRange(InDesign(after, before, rows, [.. seen.Select(s => (s.Before, s.After))]));
        found.AddRange(Sequences(after, before, cancel));
        found.AddRange(WithoutBattery(after, before));
        found.AddRange(Feeds(after, before));
        found.AddRange(Thin(after, before, donor));
        found.AddRange(Mixed(after, before, cancel));
        found.AddRange(Charging(after, before, settings, [.. seen.Select(s => s.After.Runs && !s.After.Cranks)]));
        found.AddRange(Failing(after, before, Solved, cancel));
        return new DesignProof(after, rows, [.. found.OrderBy(f => f.Kind)], settings.Count, after.Faults.Count);
    }

    /// <summary>Every combination of a machine's controls, nearest to rest first; where there are too many, those near rest.</summary>
    private static IEnumerable<ControlSetting> All(Circuit circuit) =>
        circuit.SettingsNearRest(circuit.SettingCount > MostSettings ? MostMoved : circuit.Machine.Controls.Count);

    /// <summary>The same setting on the machine before, by the names of controls; what it alone had is at rest.</summary>
    public static ControlSetting Same(Circuit after, Circuit before, ControlSetting setting) =>
        before.Setting(
            setting
                .Moved(after.Machine)
                .Where(m => before.Machine.Index.Control(m.Key)?.Positions.Contains(m.Value) == true)
                .ToDictionary(m => m.Key, m => m.Value)
        );

    /// <summary>
    /// Settings in which something is lost. A control that is new may refuse what was allowed before, as long as it allows it
    /// in one of its positions.
    /// </summary>
    private static bool[] Lost(
        Circuit after,
        Circuit? before,
        (ControlSetting Setting, Behaviour? Before, Behaviour After)[] seen
    )
    {
        if (before is null)
        {
            return new bool[seen.Length];
        }

        var same = seen.Select(s => Same(after, before, s.Setting)).ToList();
        var does = seen.Select((s, i) => (s.After, Was: same[i]))
            .GroupBy(s => s.Was, s => s.After)
            .ToDictionary(g => g.Key, g => (Cranks: g.Any(a => a.Cranks), Runs: g.Any(a => a.Runs)));
        return
        [
            .. seen.Select(
                (s, i) => (s.Before!.Cranks && !does[same[i]].Cranks) || (s.Before.Runs && !does[same[i]].Runs)
            ),
        ];
    }

    private static (bool, bool, string, string)? Key(Behaviour? of) =>
        of is null ? null : (of.Cranks, of.Runs, string.Join(',', of.Opened), string.Join(',', of.FedKills));
}
