using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Rewiring;

/// <content>What rows and single faults come to, in words.</content>
public sealed partial class DesignProof
{
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

        foreach (var row in rows.Where(r => r.NowOpen.Any()))
        {
            yield return Hazard(
                $"{Names(machine, row.NowOpen)} opens: {When(row)}. A feed meets ground or too much load there."
            );
        }

        if (seen[0].After.DrainAmps > Math.Max(DrainAmps, 2 * (seen[0].Before?.DrainAmps ?? 0)))
        {
            yield return new ProofFinding(
                before is null ? FindingKind.Inherent : FindingKind.Hazard,
                $"{seen[0].After.DrainAmps:0.00} A flow out of the battery with everything at rest: it is flat in days."
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

        if (after.Engines.Count > 0 && seen.All(s => s.After.Runs))
        {
            // What is pulled for seconds when the key goes off stops nothing that is begun with it off: that was so before.
            yield return new ProofFinding(
                before is not null && seen.All(s => s.Before!.Runs) ? FindingKind.Inherent : FindingKind.Hazard,
                "Is stopped in no setting at all: give it a switch that grounds its kill lead or cuts its fuel."
            );
        }

        var working = seen.SelectMany(s => s.After.Working).ToHashSet();
        var wanted = before is null
            ? Showing(after)
            : seen.SelectMany(s => s.Before!.Working).Distinct().Where(p => machine.Index.Part(p) is not null);
        var missing = wanted.Where(p => !working.Contains(p)).ToHashSet();
        if (missing.Count > 0)
        {
            // What works on windings or on a controller's pulses alone is found by trying it at speed.
            missing.ExceptWith(Symptoms.Of(after).Where(s => !s.Duty.Refuses).Select(s => s.Duty.Load));
        }

        foreach (var part in missing)
        {
            yield return Lost(
                $"{machine.Index.Part(part)!.Name} works in no setting{(before is null ? " at all: what feeds it, or switches it, is missing." : " any more.")}"
            );
        }
    }

    /// <summary>
    /// Parts that should be seen or heard at work in some setting with the engine at rest: on a battery, and not on windings
    /// alone.
    /// </summary>
    private static IEnumerable<PartId> Showing(Circuit circuit)
    {
        var state = new CircuitState(circuit) { FollowsWaves = false };
        state.Begin(circuit.NominalParameters());
        state.Move(circuit.Setting(null));
        return circuit.PartsThat(PartTraits.StoresCharge).Any()
            ? circuit
                .Devices.Where(d =>
                    d.PartId is not null
                    && d.Effect(state).Kind is EffectKind.Glows or EffectKind.Sounds or EffectKind.Works
                )
                .Select(d => d.PartId!.Value)
                .Where(p => !IsPulsed(circuit, p))
            : [];
    }

    /// <summary>Whether electronics switch a part, in pulses that no mean shows.</summary>
    private static bool IsPulsed(Circuit circuit, PartId part)
    {
        var metal = circuit.Topology.MetalOf(
            circuit.Machine.Index.Part(part)!.Addresses.Select(a => circuit.NodeOf(a))
        );
        return circuit
            .Devices.Where(d => d is ICodes && d.PartId is not null)
            .Any(d =>
                circuit
                    .Machine.Index.Part(d.PartId!.Value)!
                    .Addresses.Any(a => metal.Contains(circuit.NodeOf(a)) && circuit.Machine.Index.EndsAt(a).Any())
            );
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

        var was = Trial.AmpsIn(before, Same(after, before, settings[first]), DutySpeed.Work);
        var now = Trial.AmpsIn(after, settings[first], DutySpeed.Work);
        if (was > ChargesFromAmps && now <= ChargesFromAmps)
        {
            yield return new ProofFinding(
                FindingKind.Lost,
                $"The battery is not charged any more: {now:0.0;−0.0} A at work, {was:0.0} A before."
            );
        }
    }

    /// <summary>Single faults that leave an engine that cannot be stopped, or that cranks by itself.</summary>
    private static IEnumerable<ProofFinding> Failing(
        Circuit after,
        Circuit? before,
        Action solved,
        CancellationToken cancel
    )
    {
        var was = before is null ? [] : Dangers(before, solved, cancel).ToDictionary(d => d.Fault.Id);
        foreach (var danger in Dangers(after, solved, cancel))
        {
            var inherent =
                before is null
                || was.ContainsKey(danger.Fault.Id)
                || was.Values.Any(d => IsLike(before, d, after, danger));
            yield return new ProofFinding(
                inherent ? FindingKind.Inherent : FindingKind.Hazard,
                $"{danger.Fault.Words}: {danger.Words}",
                danger.Fault.Id
            );
        }
    }

    /// <summary>
    /// Whether a danger comes with the kind of machine: another solenoid that welds, another piece of the one stop lead that
    /// opens. What lays a path between two leads is a danger of that place, and is like no other.
    /// </summary>
    private static bool IsLike(
        Circuit before,
        (Fault Fault, string Words) was,
        Circuit after,
        (Fault Fault, string Words) now
    )
    {
        static string? PartKind(Circuit circuit, Fault fault) =>
            fault.Id.Of.Owner.Part is { } part ? circuit.Machine.Index.Part(part)?.Kind : null;
        return now.Fault.Paths.Count == 0
            && was.Fault.Paths.Count == 0
            && was.Fault.Kind == now.Fault.Kind
            && was.Fault.Id.Of.Owner.Kind == now.Fault.Id.Of.Owner.Kind
            && was.Words == now.Words
            && PartKind(before, was.Fault) == PartKind(after, now.Fault);
    }

    private static IEnumerable<(Fault Fault, string Words)> Dangers(
        Circuit circuit,
        Action solved,
        CancellationToken cancel
    )
    {
        var sound = new Trial(circuit);
        var near = circuit.SettingsNearRest(MostMoved).ToList();
        var rest = near[0];
        var running = near.Find(sound.Runs);
        var stops = running is null ? [] : Moves(circuit, running).Where(m => !sound.RunsAfter(running, m.To)).ToList();
        var found = new (Fault Fault, string Words)?[circuit.Faults.Count];
        Parallel.For(
            0,
            found.Length,
            Cores.Until(cancel),
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

                solved();
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
