using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Proving;

/// <summary>One check of a repair.</summary>
/// <param name="Id">What it is.</param>
/// <param name="Times">How many times running it must pass.</param>
public sealed record ProofCheck(CheckId Id, int Times = 1);

/// <summary>Settings that prove every kill path.</summary>
/// <param name="Settings">Settings that must stop the engine.</param>
/// <param name="AllTried">Whether every combination of controls was looked at; where there are too many, only those near rest.</param>
public sealed record KillPaths(IReadOnlyList<ControlSetting> Settings, bool AllTried);

/// <summary>What must be shown before a repair counts as proved.</summary>
public static class Proof
{
    private const double Doubt = 0.05;

    // More combinations than this are not gone through one by one; a way of stopping is seldom more than three moves away.
    private const int MostSettings = 4096;
    private const int MostMoved = 3;

    /// <summary>
    /// Smallest number m of clean tries for which E[(1 − p)^m] ≤ 0.05 over Beta(k + ½, n − k + ½): the chance of m
    /// clean tries had nothing been fixed. E[(1 − p)^m] is the product over i &lt; m of (b + i)/(a + b + i).
    /// </summary>
    /// <param name="failed">k, tries that failed before the repair.</param>
    /// <param name="tried">n, tries before the repair.</param>
    public static int CleanTriesNeeded(int failed, int tried)
    {
        var (a, b) = (failed + 0.5, tried - failed + 0.5);
        double chance = 1;
        var tries = 0;
        while (chance > Doubt && tries < 500)
        {
            chance *= (b + tries) / (a + b + tries);
            tries++;
        }

        return tries;
    }

    /// <summary>Settings one control away from the duty's in which the sound machine refuses it, its engines turned as for the duty.</summary>
    /// <param name="circuit">The machine.</param>
    /// <param name="duty">The duty's setting.</param>
    /// <param name="load">Part that does it.</param>
    /// <param name="speed">Speed it is done at.</param>
    public static IReadOnlyList<ControlSetting> Refusals(
        Circuit circuit,
        ControlSetting duty,
        PartId load,
        DutySpeed speed = DutySpeed.Rest
    )
    {
        var device = circuit.DeviceOf(load);
        var refusals = new List<ControlSetting>();
        var state = new CircuitState(circuit);
        for (var c = 0; c < duty.Count; c++)
        {
            var control = circuit.Machine.Controls[c];

            // A many-way control held against its spring is the command itself; interlocks are what else must be right.
            if (control.Positions.Count > 2 && control.Held.Contains(control.Positions[duty[c]]))
            {
                continue;
            }

            foreach (var position in Enumerable.Range(0, control.Positions.Count).Where(p => p != duty[c]))
            {
                var other = duty.With(c, position);
                state.Begin(circuit.NominalParameters());
                state.SetSpeeds(speed);
                state.Move(other);
                if (device.Effect(state).Level <= 0)
                {
                    refusals.Add(other);
                }
            }
        }

        return refusals;
    }

    /// <summary>
    /// Settings that between them prove every kill path of every coil: for each switch contact, one in which the sound machine
    /// does not spark and would if that contact stayed open.
    /// </summary>
    public static KillPaths KillPaths(Circuit circuit)
    {
        var coils = circuit.Kills.Select(k => k.Part.Id).OrderBy(p => p.Text, StringComparer.Ordinal).ToList();
        if (coils.Count == 0)
        {
            return new KillPaths([], true);
        }

        // In an order that is the machine's own, however its file lists things: a check once given stays the same check.
        var contacts = circuit
            .Faults.Where(f => f is { Kind: FaultKind.Open, Repair.Kind: RepairKind.ReplaceSwitch })
            .OrderBy(f => f.Id.Text, StringComparer.Ordinal)
            .ToList();
        var settings = Settings(circuit)
            .OrderBy(s => Moved(circuit, s))
            .ThenBy(s => Turned(circuit.Machine, s), StringComparer.Ordinal)
            .ToList();
        var engine = new TurnedEngine(circuit);
        var needed = new List<ControlSetting>();
        foreach (var coil in coils)
        {
            var killed = settings.Where(s => !engine.Sparks(coil, s, null)).ToList();
            foreach (var contact in contacts)
            {
                if (
                    !needed.Exists(s => !engine.Sparks(coil, s, null) && engine.Sparks(coil, s, contact))
                    && killed.Find(s => engine.Sparks(coil, s, contact)) is { } shows
                )
                {
                    needed.Add(shows);
                }
            }
        }

        return new KillPaths(needed, circuit.SettingCount <= MostSettings);
    }

    /// <summary>Whether a check has passed often enough, running, at the end of what was tried.</summary>
    /// <param name="check">The check.</param>
    /// <param name="given">Checks made, first to last, and whether each passed.</param>
    public static int PassedRunning(ProofCheck check, IEnumerable<(CheckId Check, bool Passed)> given)
    {
        var running = 0;
        foreach (var (_, passed) in given.Where(g => g.Check == check.Id))
        {
            running = passed ? running + 1 : 0;
        }

        return running;
    }

    /// <summary>How far each control is turned from its first position, controls by their names.</summary>
    private static string Turned(Machine machine, ControlSetting setting) =>
        string.Concat(
            machine
                .Controls.Index()
                .OrderBy(c => c.Item.Id.Text, StringComparer.Ordinal)
                .Select(c => (char)('a' + setting[c.Index]))
        );

    private static int Moved(Circuit circuit, ControlSetting setting) => setting.Moved(circuit.Machine).Count;

    /// <summary>Settings an engine can be left running in: the sprung position of a many-way control is not one.</summary>
    private static IEnumerable<ControlSetting> Settings(Circuit circuit) =>
        (circuit.SettingCount <= MostSettings ? circuit.AllSettings() : circuit.SettingsNearRest(MostMoved)).Where(s =>
            !s.Held(circuit.Machine).Any(c => c.Positions.Count > 2)
        );

    /// <summary>The machine with its engines at idle, as ignition alone would have it.</summary>
    private sealed class TurnedEngine(Circuit circuit)
    {
        private readonly CircuitState state = new(circuit) { FollowsWaves = false };

        /// <summary>Whether a coil sparks in a setting.</summary>
        /// <param name="coil">The coil.</param>
        /// <param name="setting">Positions of the controls.</param>
        /// <param name="open">Contact that does not close; null on a sound machine.</param>
        public bool Sparks(PartId coil, ControlSetting setting, Fault? open)
        {
            var values = circuit.NominalParameters();
            open?.Apply(values, 1);
            state.Begin(values);
            state.SetSpeeds(DutySpeed.Idle);
            state.Move(setting);
            state.Fire();
            return circuit.DeviceOf(coil).Effect(state).Level >= 1;
        }
    }
}
