using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Complaints;

/// <summary>What lets an engine run or stops it, and what lights, sounds and works.</summary>
public sealed partial class Symptoms
{
    private const double Dark = 0.05;

    private const double UnderVolts = 5;

    private void FindFuel(Part part)
    {
        // Energised to run: it must pull in. Energised to stop: it must let go in running, and pull in to stop.
        if (LetsRunIn(part) is { } runs)
        {
            Add(
                CircuitGroup.Fuel,
                "runs-" + part.Id,
                $"{SymptomWords.Said(part)} lets it run",
                runs,
                part,
                DutySpeed.Rest,
                $"Dies or will not run: {part.Name}",
                letsGo: !IsDriven(part, runs)
            );
            FindGoesOut(part, CircuitGroup.Fuel, runs, new DutyId("runs-" + part.Id));
        }

        if (First(s => Level(part, s, DutySpeed.Rest) <= 0) is { } stops)
        {
            Add(
                CircuitGroup.Fuel,
                "stops-" + part.Id,
                $"{SymptomWords.Said(part)} stops it",
                stops,
                part,
                DutySpeed.Rest,
                $"Does not stop: {part.Name}",
                refuses: true
            );
        }
        else
        {
            FindStopAfterMove(part);
        }
    }

    /// <summary>
    /// Where it lets the engine run, nearest to rest. One that is fed to stop does so with everything dead too, where a contact that
    /// welded shows nothing: then nearest to rest where nothing is held and one move stops it.
    /// </summary>
    private ControlSetting? LetsRunIn(Part part)
    {
        bool LetsRun(ControlSetting setting) => Level(part, setting, DutySpeed.Rest) > 0;
        var nearest = First(LetsRun);
        return nearest is null || IsDriven(part, nearest)
            ? nearest
            : settings.Find(s =>
                !s.Held(circuit.Machine).Any()
                && LetsRun(s)
                && Moves(s).Any(m => Level(part, After(s, m), DutySpeed.Rest, s) <= 0)
            ) ?? nearest;
    }

    /// <summary>What stops it only for a while after a control was moved: a timer that feeds a stop solenoid at key-off.</summary>
    private void FindStopAfterMove(Part part)
    {
        foreach (var from in Running.Take(MostTriedTurning))
        {
            for (var c = 0; c < from.Count; c++)
            {
                var control = circuit.Machine.Controls[c];
                foreach (var position in Enumerable.Range(0, control.Positions.Count).Where(p => p != from[c]))
                {
                    var stop = from.With(c, position);
                    if (
                        control.Sensed == true
                        || stop.Held(circuit.Machine).Any()
                        || Level(part, stop, DutySpeed.Rest, from) > 0
                    )
                    {
                        continue;
                    }

                    Add(
                        CircuitGroup.Fuel,
                        "stops-" + part.Id,
                        $"{SymptomWords.Said(part)} stops it",
                        stop,
                        part,
                        DutySpeed.Rest,
                        $"Does not stop with {Worded(control, position)}: {part.Name}",
                        refuses: true,
                        from: from
                    );
                    return;
                }
            }
        }
    }

    private void FindLoad(Part part)
    {
        var group = KindOf(part) == EffectKind.Sounds ? CircuitGroup.Alarms : CircuitGroup.Accessories;
        if (First(s => Level(part, s, DutySpeed.Rest) >= Shows) is { } on)
        {
            Add(
                group,
                "does-" + part.Id,
                $"{SymptomWords.Said(part)} {SymptomWords.Verb(KindOf(part))}",
                on,
                part,
                DutySpeed.Rest,
                $"{SymptomWords.Said(part)} {SymptomWords.Dead(KindOf(part))}"
            );
            FindOtherWays(part, on);
        }
        else if (First(s => Level(part, s, DutySpeed.Crank) >= Shows) is { } cranked)
        {
            // What an engine cannot run without is looked for while it is cranked, not at a speed that it never comes to.
            Add(
                group,
                "does-" + part.Id,
                $"{SymptomWords.Said(part)} {SymptomWords.Verb(KindOf(part))}",
                cranked,
                part,
                DutySpeed.Crank,
                $"{SymptomWords.Said(part)} {SymptomWords.Dead(KindOf(part))}"
            );
        }
        else if (Running.Take(MostTriedTurning).FirstOrDefault(s => LevelAtWork(part, s) >= Shows) is { } turned)
        {
            Add(
                group,
                "does-" + part.Id,
                $"{SymptomWords.Said(part)} {SymptomWords.Verb(KindOf(part))}",
                turned,
                part,
                DutySpeed.Work,
                $"{SymptomWords.Said(part)} {SymptomWords.Dead(KindOf(part))}"
            );
        }

        FindOff(part);
        FindWarning(part);
    }

    /// <summary>A gauge, where its sender moves it: dead, low, or pegged.</summary>
    private void FindGauge(Part part)
    {
        const double Moves = 0.1;
        if (First(s => Level(part, s, DutySpeed.Rest) >= Moves) is { } read)
        {
            Add(
                CircuitGroup.Accessories,
                "reads-" + part.Id,
                $"{SymptomWords.Said(part)} reads",
                read,
                part,
                DutySpeed.Rest,
                $"{SymptomWords.Said(part)} is dead, low or pegged"
            );
        }
    }

    private void FindOff(Part part)
    {
        if (Off(part) is not { } off)
        {
            return;
        }

        Add(
            KindOf(part) == EffectKind.Sounds ? CircuitGroup.Alarms : CircuitGroup.Accessories,
            "not-" + part.Id,
            $"{SymptomWords.Said(part)} {SymptomWords.Quiet(KindOf(part))}",
            off,
            part,
            DutySpeed.Rest,
            $"{SymptomWords.Said(part)} {SymptomWords.Stays(KindOf(part))}",
            refuses: true
        );
    }

    /// <summary>
    /// Where it must be off and what would feed it is still there, one switch alone put otherwise: a contact that welded shows
    /// there and not with everything dead.
    /// </summary>
    private ControlSetting? Off(Part part)
    {
        bool IsOff(ControlSetting setting) => Level(part, setting, DutySpeed.Rest) < Dark;
        if (DoesIn(part) is not { } does)
        {
            return First(IsOff);
        }

        var moved =
            from c in Enumerable.Range(0, does.Count)
            from p in Enumerable.Range(0, circuit.Machine.Controls[c].Positions.Count)
            let other = does.With(c, p)
            // Nobody holds anything to see that something else is on; and a pump that runs once the engine turns is off where it stands.
            where !other.Held(circuit.Machine).Any()
            select other;
        return moved.Distinct().Append(settings[0]).Where(IsOff).MaxBy(FedNodes) ?? First(IsOff);
    }

    /// <summary>Where it is on: at rest, while it is cranked, or with the engine running.</summary>
    private ControlSetting? DoesIn(Part part) =>
        First(s => Level(part, s, DutySpeed.Rest) >= Shows)
        ?? First(s => Level(part, s, DutySpeed.Crank) >= Shows)
        ?? Running.Take(MostTriedTurning).FirstOrDefault(s => LevelAtWork(part, s) >= Shows);

    /// <summary>Whether a control is held in a setting that springs back by itself in another.</summary>
    private bool AddsHeld(ControlSetting before, ControlSetting after) =>
        after.Held(circuit.Machine).Except(before.Held(circuit.Machine)).Any();

    /// <summary>How much of the machine stands under volts with its engines at rest.</summary>
    private int FedNodes(ControlSetting setting)
    {
        StandStill(setting);
        return NodesUnderVolts();
    }

    private int NodesUnderVolts() => Enumerable.Range(0, circuit.Network.NodeCount).Count(IsUnderVolts);

    /// <summary>Whether a part stands under volts with its engines at rest.</summary>
    private bool IsFed(Part part, ControlSetting setting)
    {
        StandStill(setting);
        return part.Terminals.Any(t => IsUnderVolts(circuit.NodeOf(part.At(t))));
    }

    /// <summary>Whether two of a part's terminals stand apart by volts that move something, its engines at rest.</summary>
    private bool IsDriven(Part part, ControlSetting setting)
    {
        StandStill(setting);
        var nodes = part.Terminals.Select(t => circuit.NodeOf(part.At(t))).ToList();
        return nodes.Exists(a => nodes.Exists(b => state.Joined(a, b) && state.Drop(a, b) > UnderVolts));
    }

    private void StandStill(ControlSetting setting)
    {
        state.Begin(circuit.NominalParameters());
        state.Move(setting);
    }

    private bool IsUnderVolts(int node)
    {
        return state.Joined(node, circuit.Reference) && Math.Abs(state.Drop(node, circuit.Reference)) > UnderVolts;
    }

    /// <summary>
    /// A lamp or a buzzer that must be silent with the engine running, and speaks with it standing in the same setting or when
    /// something is felt: it warns, and may be telling the truth.
    /// </summary>
    private void FindWarning(Part part)
    {
        if (circuit.Engines.Count == 0 || KindOf(part) == EffectKind.Works)
        {
            return;
        }

        var quiet = Running
            .Take(MostTriedTurning)
            .FirstOrDefault(s =>
                !s.Held(circuit.Machine).Any(c => c.Positions.Count > 2)
                && IsFed(part, s)
                && Level(part, s, DutySpeed.Work) < Dark
                && Speaks(part, s)
            );

        if (quiet is not null)
        {
            FindCalls(part, quiet);
        }

        // What goes out once it charges is followed along the waves, in one setting.
        quiet ??=
            circuit.WaveEngine >= 0
            && Running.FirstOrDefault(s => Level(part, s, DutySpeed.Rest) >= Shows) is { } lit
            && LevelAtWork(part, lit) < Dark
                ? lit
                : null;
        if (quiet is not null)
        {
            Add(
                CircuitGroup.Alarms,
                "warns-" + part.Id,
                $"{SymptomWords.Said(part)} {SymptomWords.Quiet(KindOf(part))} with the engine running",
                quiet,
                part,
                DutySpeed.Work,
                $"{SymptomWords.Said(part)} {(KindOf(part) == EffectKind.Sounds ? "sounds" : "is lit")} with the engine running",
                refuses: true,
                warns: true
            );
        }
    }

    private bool Speaks(Part part, ControlSetting running)
    {
        var rest = circuit.Setting(null);
        var felt = Enumerable.Range(0, running.Count).Where(c => circuit.Machine.Controls[c].Sensed == true).ToList();
        return felt.TrueForAll(c => running[c] == rest[c])
            && (
                Level(part, running, DutySpeed.Rest) >= Shows
                || felt.Exists(c =>
                    Enumerable
                        .Range(0, circuit.Machine.Controls[c].Positions.Count)
                        .Any(p => Level(part, running.With(c, p), DutySpeed.Work) >= Shows)
                )
            );
    }
}
