using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Rewiring;

/// <content>
/// What every machine is proved for besides its settings one by one: what depends on how a setting was come to, what is left with
/// the battery off, and what guards its feeds.
/// </content>
public sealed partial class DesignProof
{
    // Settings in which plugs in each other's place are tried.
    private const int MostMixed = 128;

    // Settings from which every single move is tried; beyond them the machine's memory is no longer looked for.
    private const int MostBegun = 64;

    /// <summary>What a machine does only by the way that a setting was come to: contacts that hold themselves, latches.</summary>
    private static IEnumerable<ProofFinding> Sequences(Circuit after, Circuit? before, CancellationToken cancel)
    {
        var was = before is null ? [] : Remembered(before, cancel).ToHashSet(StringComparer.Ordinal);
        return Remembered(after, cancel)
            .Select(words => new ProofFinding(was.Contains(words) ? FindingKind.Inherent : FindingKind.Hazard, words));
    }

    /// <summary>One line for each control a move of which leaves something on that the setting by itself would not have.</summary>
    private static IEnumerable<string> Remembered(Circuit circuit, CancellationToken cancel)
    {
        var trial = new Trial(circuit);
        var (staysIn, runsOn) = (new HashSet<ControlId>(), new HashSet<ControlId>());
        foreach (var from in circuit.SettingsNearRest(MostMoved).Take(MostBegun))
        {
            cancel.ThrowIfCancellationRequested();
            var (cranked, ran) = (trial.Cranks(from), trial.GoesOn(from));
            foreach (var (control, to) in cranked || ran ? Moves(circuit, from) : [])
            {
                if (cranked && trial.CranksAfter(from, to) && !trial.Cranks(to) && staysIn.Add(control.Id))
                {
                    yield return $"The starter stays in when {control.Name} is let go or moved on.";
                }

                if (ran && trial.RunsAfter(from, to) && !trial.GoesOn(to) && runsOn.Add(control.Id))
                {
                    yield return $"Moving {control.Name} does not stop it once it runs, though it would not have run with it there.";
                }
            }
        }
    }

    /// <summary>With the battery's lead off while it runs, or its main fuse blown: whether any switch still stops it.</summary>
    private static IEnumerable<ProofFinding> WithoutBattery(Circuit after, Circuit? before)
    {
        if (RunsPastEveryStop(after))
        {
            yield return new ProofFinding(
                before is null || RunsPastEveryStop(before) ? FindingKind.Inherent : FindingKind.Hazard,
                "With the battery off or its main fuse blown while it runs, no switch stops it. By hand: "
                    + after.Machine.StopByHand
            );
        }
    }

    private static bool RunsPastEveryStop(Circuit circuit)
    {
        if (circuit.Opening.Batteries.Count == 0)
        {
            return false;
        }

        var (sound, trial) = (new Trial(circuit), Trial.WithoutBattery(circuit));
        var running = circuit.SettingsNearRest(MostMoved).FirstOrDefault(sound.Runs);
        return running is not null
            && trial.RunsAfter(running, running)
            && Moves(circuit, running).All(m => trial.RunsAfter(running, m.To));
    }

    /// <summary>Feeds that no fuse guards, and fuses that guard nothing: too far away, or too large for what is behind them.</summary>
    private static IEnumerable<ProofFinding> Feeds(Circuit after, Circuit? before)
    {
        var guards = FeedGuards.Of(after);
        var was = before is null ? null : FeedGuards.Of(before);
        foreach (var feed in guards.Unfused)
        {
            yield return new ProofFinding(
                was is null || was.Unfused.Any(u => WasSo(u, feed)) ? FindingKind.Inherent : FindingKind.Hazard,
                $"No fuse between the battery and {string.Join(", ", feed.Feeds.Select(p => p.Name))}: {(feed.Wires.Count == 1 ? "wire" : "wires")} {string.Join(", ", feed.Wires.Select(w => w.Id))}, {feed.Length.Value:0.0} m. Chafed on metal it burns: a fuse where it leaves the battery or the cable."
            );
        }

        // A thin lamp wire behind a main fuse is how most machines come: only what the rewire brings is told.
        foreach (var fuse in was is null ? [] : guards.Fuses)
        {
            var old = was!.Fuses.FirstOrDefault(f => f.Part.Id == fuse.Part.Id);
            if (fuse.Place == FusePlace.TooFar && old?.Place != FusePlace.TooFar)
            {
                yield return new ProofFinding(
                    FindingKind.Hazard,
                    $"{fuse.Part.Name} sits behind {fuse.Before!.Value.Value:0.0} m of wire that nothing guards: 1.8 m at most, in a sheath and from the battery's own post (ABYC E-11, from memory); move it to where the feed begins."
                );
            }

            if (fuse.IsTooLarge && old?.IsTooLarge != true)
            {
                yield return new ProofFinding(
                    FindingKind.Hazard,
                    $"{fuse.Part.Name}, {fuse.Rating.Value:0.#} A, does not guard wire {fuse.Thinnest!.Id}, {RewireWords.Gauge(fuse.Thinnest.Gauge)}, which bears {fuse.Carries!.Value.Value:0} A: a smaller fuse, or a thicker wire."
                );
            }
        }
    }

    /// <summary>
    /// Whether a feed was unguarded before: by the same wires, or to the same parts over no less wire, however it was cut and joined.
    /// </summary>
    private static bool WasSo(UnfusedFeed was, UnfusedFeed now)
    {
        const double Longer = 1.1;
        return now.Wires.Select(w => w.Id).ToHashSet().IsSubsetOf(was.Wires.Select(w => w.Id))
            || (
                now.Feeds.Select(p => p.Id).ToHashSet().IsSubsetOf(was.Feeds.Select(p => p.Id))
                && now.Length.Value <= Longer * was.Length.Value
            );
    }

    /// <summary>
    /// Plugs of like cavities within reach of each other, each in the other's place. Two that were there before come with the machine.
    /// </summary>
    private static IEnumerable<ProofFinding> Mixed(Circuit after, Circuit? before, CancellationToken cancel)
    {
        var was = before is null ? [] : PlugExchange.Of(before.Machine).Select(p => (p.One.Id, p.Other.Id)).ToHashSet();
        return HarmfulExchanges(after, cancel)
            .Select(m => new ProofFinding(
                before is null || was.Contains((m.Plugs.One.Id, m.Plugs.Other.Id))
                    ? FindingKind.Inherent
                    : FindingKind.Hazard,
                $"{m.Plugs.One.Name} and {m.Plugs.Other.Name} have the same cavities and lie within reach of each other. Each in the other's place, {m.Words} Mark both halves of each alike, or give one another body."
            ));
    }

    private static IEnumerable<(PlugExchange Plugs, string Words)> HarmfulExchanges(
        Circuit circuit,
        CancellationToken cancel
    )
    {
        var settings = circuit.SettingsNearRest(MostMoved).Take(MostMixed).ToList();
        var (sound, does) = (new Trial(circuit), new Dictionary<ControlSetting, Behaviour>());
        foreach (var plugs in PlugExchange.Of(circuit.Machine))
        {
            cancel.ThrowIfCancellationRequested();
            var trial = new Trial(Circuit.Compile(plugs.In(circuit.Machine)));
            foreach (var setting in does.Count == 0 ? settings : [])
            {
                does[setting] = sound.In(setting);
            }

            var harm = settings
                .Select(s => Harm(circuit.Machine, s, does[s], trial.In(s)))
                .OrderBy(h => h.Rank)
                .FirstOrDefault();
            if (harm.Words is { } words)
            {
                yield return (plugs, words);
            }
        }
    }

    /// <summary>What is worse in a setting than it should be, and how grave, the gravest least; no words where nothing is.</summary>
    private static (int Rank, string? Words) Harm(
        Machine machine,
        ControlSetting setting,
        Behaviour sound,
        Behaviour mixed
    )
    {
        var when = setting.Words(machine);
        return mixed.FedKills.Except(sound.FedKills).ToList() is { Count: > 0 } fed
                ? (0, $"battery volts burn the ignition by the kill lead of {Names(machine, fed)}: {when}.")
            : mixed.Cranks && !sound.Cranks ? (1, $"it cranks where it must not: {when}.")
            : mixed.Runs && !sound.Runs ? (2, $"it is not stopped: {when}.")
            : mixed.Opened.Except(sound.Opened).ToList() is { Count: > 0 } opened
                ? (3, $"{Names(machine, opened)} opens: {when}.")
            : (int.MaxValue, null);
    }

    /// <summary>Wires that carry more than they bear, and none that thin carried as much before, or where it comes from.</summary>
    private static IEnumerable<ProofFinding> Thin(Circuit after, Circuit? before, Circuit? donor)
    {
        if (before is null)
        {
            yield break;
        }

        // By what it bears alone: what is lost on the way is no danger.
        IEnumerable<WireLoad> TooThin(Circuit circuit) =>
            WireLoads.Of(circuit, engineSpace: true, dropShare: 1).Where(l => l.Needs is not null);
        const double AsMuch = 0.9;
        var thin = TooThin(after).ToList();
        var was = thin.Count == 0 ? [] : TooThin(before).Concat(donor is null ? [] : TooThin(donor)).ToList();
        foreach (var load in thin)
        {
            if (!was.Exists(w => Area(w) <= Area(load) && w.Amps.Value >= AsMuch * load.Amps.Value))
            {
                yield return new ProofFinding(
                    FindingKind.Hazard,
                    $"Wire {load.Wire.Id}, from {MachineWords.Terminal(after.Machine, load.Wire.From.At)} to {MachineWords.Terminal(after.Machine, load.Wire.To.At)}, {RewireWords.Gauge(load.Wire.Gauge)}, carries {load.Amps.Value:0.#} A and is too thin for that{(load.Running ? " with the engine running" : "")}: {load.Setting.Words(after.Machine)}. {RewireWords.Gauge(load.Needs!.Size.Gauge)} at least (ABYC E-11, from memory)."
                );
            }
        }

        static double Area(WireLoad load) => Conductors.Parse(load.Wire.Gauge)!.Value.Area.Value;
    }
}
