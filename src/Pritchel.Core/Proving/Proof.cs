using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Faults;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Proving;

/// <summary>Sorts of proof.</summary>
public enum ProofKind
{
    /// <summary>A reading that failed, taken again.</summary>
    Reading,

    /// <summary>What made it come or go, done again.</summary>
    Stirred,

    /// <summary>The duty done several times running.</summary>
    Repeats,

    /// <summary>The duty refused where it must be.</summary>
    MustNot,

    /// <summary>The engine stopped by one of its kill paths.</summary>
    Stops,
}

/// <summary>One check of a repair.</summary>
/// <param name="Id">Unique on the job.</param>
/// <param name="Kind">What sort.</param>
/// <param name="Words">What to do.</param>
/// <param name="Expect">What must happen.</param>
/// <param name="Times">How many times running it must pass.</param>
public sealed record ProofCheck(string Id, ProofKind Kind, string Words, string Expect, int Times);

/// <summary>What must be shown before a repair counts as proved.</summary>
public static class Proof
{
    // A kill lead stops a magneto below some tens of ohms: common practice, no source.
    private const double KillsBelowOhms = 50;
    private const double Doubt = 0.05;

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
    public static IReadOnlyList<ControlSetting> Refusals(
        Circuit circuit,
        ControlSetting duty,
        string loadId,
        DutySpeed speed = DutySpeed.Rest
    )
    {
        var load = circuit.DeviceOf(loadId);
        var refusals = new List<ControlSetting>();
        var state = new CircuitState(circuit);
        for (var c = 0; c < duty.Count; c++)
        {
            // A many-way control is the command itself; interlocks are what else must be right.
            if (circuit.Machine.Controls[c].Positions.Count > 2)
            {
                continue;
            }

            var other = With(duty, c, 1 - duty[c]);
            state.Begin(circuit.NominalParameters());
            for (var e = 0; e < circuit.Engines.Count; e++)
            {
                state.SetSpeed(e, Symptoms.RpmOf(circuit.Engines[e], speed));
            }

            state.Move(other);
            if (load.Effect(state).Level <= 0)
            {
                refusals.Add(other);
            }
        }

        return refusals;
    }

    /// <summary>
    /// Settings that between them prove every kill path: for each switch or relay contact, one in which the sound
    /// machine kills the ignition and would not if that contact stayed open.
    /// </summary>
    public static IReadOnlyList<ControlSetting> KillPaths(Circuit circuit)
    {
        if (circuit.KillLeads.Count == 0)
        {
            return [];
        }

        var lead = new KillLead(circuit, circuit.KillLeads[0]);
        var settings = Settings(circuit).OrderBy(s => Moved(circuit, s)).ToList();
        var killed = settings.Where(s => lead.Ohms(s, null) < KillsBelowOhms).ToList();
        var needed = new List<ControlSetting>();
        foreach (
            var contact in circuit.Faults.Where(f =>
                f.Kind == Faults.FaultKind.Open && f.Repair.Kind is Faults.RepairKind.ReplaceSwitch
            )
        )
        {
            if (needed.Exists(s => lead.Ohms(s, contact) >= KillsBelowOhms))
            {
                continue;
            }

            if (killed.Find(s => lead.Ohms(s, contact) >= KillsBelowOhms) is { } shows)
            {
                needed.Add(shows);
            }
        }

        return needed;
    }

    /// <summary>Whether a check has passed often enough, running, at the end of what was tried.</summary>
    public static int PassedRunning(ProofCheck check, IEnumerable<ProofGiven> given)
    {
        var running = 0;
        foreach (var proof in given.Where(g => string.Equals(g.Check, check.Id, StringComparison.Ordinal)))
        {
            running = proof.Passed ? running + 1 : 0;
        }

        return running;
    }

    private static ControlSetting With(ControlSetting setting, int control, int position)
    {
        var positions = Enumerable.Range(0, setting.Count).Select(c => c == control ? position : setting[c]);
        return new ControlSetting([.. positions]);
    }

    private static int Moved(Circuit circuit, ControlSetting setting)
    {
        var rest = circuit.Setting(null);
        return Enumerable.Range(0, setting.Count).Count(c => setting[c] != rest[c]);
    }

    /// <summary>Settings an engine can be left running in: the sprung position of a many-way control is not one.</summary>
    private static IEnumerable<ControlSetting> Settings(Circuit circuit) =>
        circuit.AllSettings().Where(s => !s.Held(circuit.Machine).Any(c => c.Positions.Count > 2));

    /// <summary>The kill lead as the magneto sees it, its own winding left out.</summary>
    private sealed class KillLead
    {
        private readonly Circuit circuit;
        private readonly CircuitState state;
        private readonly Faults.Fault unwound;

        public KillLead(Circuit circuit, KillTerminal terminal)
        {
            this.circuit = circuit;
            state = new CircuitState(circuit, circuit.WithMeter(terminal.Kill, terminal.Ground));
            unwound = terminal.Unwound;
        }

        public double Ohms(ControlSetting setting, Faults.Fault? open)
        {
            var values = circuit.NominalParameters();
            unwound.Apply(values, 1);
            open?.Apply(values, 1);
            state.Begin(values);
            state.ConnectMeter(0, double.PositiveInfinity);
            state.Move(setting);
            return state.OhmsAtMeter();
        }
    }
}
