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
            var wires = feed.Wires.Select(w => w.Id).ToHashSet();
            yield return new ProofFinding(
                was is null || was.Unfused.Any(u => wires.IsSubsetOf(u.Wires.Select(w => w.Id)))
                    ? FindingKind.Inherent
                    : FindingKind.Hazard,
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
}
