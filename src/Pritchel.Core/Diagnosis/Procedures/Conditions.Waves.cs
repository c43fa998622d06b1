using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Networks;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Simulation.Devices;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>Tests of what alternates: AC volts at a speed, and peaks of ignition windings as the engine is pulled over.</summary>
public static partial class Conditions
{
    // Less than this is no AC circuit: from memory.
    private const double SomeVolts = 1;

    /// <summary>
    /// Along a circuit that is fed with AC, what is read to ground as it works; for charging, a stator's leads among
    /// themselves with its wires off the regulator.
    /// </summary>
    private static IEnumerable<Condition> OfWaves(Circuit circuit, ControlSetting own, Duty duty, EffectKind sign)
    {
        if (sign == EffectKind.Charges)
        {
            foreach (var stator in OfStators(circuit, own, duty.Speed))
            {
                yield return stator;
            }

            yield break;
        }

        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        for (var e = 0; e < circuit.Engines.Count; e++)
        {
            state.SetSpeed(e, Symptoms.RpmOf(circuit.Engines[e], duty.Speed));
        }

        state.Move(own);
        var pairs = Enumerable
            .Range(0, circuit.Network.NodeCount)
            .Where(n => circuit.NodeAddresses[n].Any(a => a.Contains('.', StringComparison.Ordinal)))
            .Where(n => n != circuit.Reference && state.Alternating(n, circuit.Reference) > SomeVolts)
            .Select(n => (n, circuit.Reference))
            .ToList();
        if (pairs.Count > 0)
        {
            yield return Turning(circuit, own, duty.Speed, Quantity.AcVolts, pairs, own.Words(circuit.Machine));
        }
    }

    private static IEnumerable<Condition> OfStators(Circuit circuit, ControlSetting own, DutySpeed speed)
    {
        var machine = circuit.Machine;
        foreach (
            var part in machine.Parts.Where(p => circuit.HasDevice(p.Id) && circuit.DeviceOf(p.Id) is IChargeWinding)
        )
        {
            var reached = part
                .Terminals.Where(t => !string.Equals(t, "case", StringComparison.Ordinal))
                .Select(t => Reached(machine, $"{part.Id}.{t}", apart: null))
                .ToList();
            var ground = part.Terminals.Contains("case", StringComparer.Ordinal)
                ? circuit.NodeOf(part.Id + ".case")
                : circuit.Reference;
            foreach (var (fed, ends) in FarEnds(machine, part, reached))
            {
                var leads = ends.Select(circuit.NodeOf).Distinct().ToList();
                foreach (var pairs in Pairs(leads, ground))
                {
                    yield return Turning(
                        circuit,
                        own,
                        speed,
                        Quantity.AcVolts,
                        pairs,
                        $"wires of the {part.Name} off the {fed.Name}"
                    ) with
                    {
                        Off = ends,
                    };
                }
            }
        }
    }

    /// <summary>Peaks at every point of the leads of exciters and pickups, everything joined, the engine pulled over.</summary>
    private static IEnumerable<Condition> OfPeaks(Circuit circuit, ControlSetting own)
    {
        var machine = circuit.Machine;
        var pairs = new List<(int Red, int Black)>();
        foreach (var part in machine.Parts.Where(p => IsTimed(circuit, p)))
        {
            var leads = part.Terminals.Where(t => t != "case").Select(t => $"{part.Id}.{t}").ToList();
            if (leads.Count == 0)
            {
                continue;
            }

            // To ground, or to where its other lead ends: nobody opens an engine for the black clip.
            var other = leads.Count > 1 ? Reached(machine, leads[1], apart: null) : [];
            var end = other.FirstOrDefault(a =>
                a != leads[1] && MachineWords.PartAt(machine, a).Kind is not (PartKinds.Coupling or PartKinds.Splice)
            );
            var black = leads.Count > 1 ? circuit.NodeOf(end ?? leads[1]) : circuit.Reference;
            pairs.AddRange(Reached(machine, leads[0], apart: null).Select(a => (circuit.NodeOf(a), black)));
        }

        var blacks = pairs.Select(p => p.Black).ToHashSet();
        List<(int, int)> read = [.. pairs.Where(p => !blacks.Contains(p.Red)).DistinctBy(p => p.Red)];
        if (read.Count > 0)
        {
            yield return Turning(
                circuit,
                own,
                DutySpeed.Crank,
                Quantity.PeakVolts,
                read,
                "everything joined · " + own.Words(machine)
            );
        }
    }

    /// <summary>Whether a part is a winding that ignition draws its energy or its time from.</summary>
    private static bool IsTimed(Circuit circuit, Part part) =>
        circuit.HasDevice(part.Id)
        && circuit.DeviceOf(part.Id) is INeedsEngine and not IChargeWinding
        && part.Terminals.Count <= 2;

    private static Condition Turning(
        Circuit circuit,
        ControlSetting setting,
        DutySpeed speed,
        Quantity quantity,
        IReadOnlyList<(int Red, int Black)> pairs,
        string words
    ) =>
        Describe(circuit, setting, false) with
        {
            Quantity = quantity,
            Speed = speed,
            MayTurnEngine = true,
            Pairs = pairs,
            Words = $"{words} · {SpeedWords(speed)}",
        };
}
