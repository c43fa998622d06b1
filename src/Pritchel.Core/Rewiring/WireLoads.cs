using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Rewiring;

/// <summary>What a wire carries in its worst moment.</summary>
/// <param name="Wire">The wire.</param>
/// <param name="Amps">Effective amps.</param>
/// <param name="Setting">Setting of that moment.</param>
/// <param name="Running">Whether the engine runs in it.</param>
/// <param name="Drop">Volts lost along the wire alone, at its working temperature.</param>
/// <param name="Needs">
/// The size that it would have to have at this length, if it is thinner than that; null where it will do, for cranking cables,
/// which go by cranking limits, and for what a winding feeds by itself.
/// </param>
public sealed record WireLoad(Wire Wire, Amps Amps, ControlSetting Setting, bool Running, Volts Drop, SizedWire? Needs);

/// <summary>Amps in every wire of a machine in the worst of its settings, and whether it is thick enough for them.</summary>
public static class WireLoads
{
    private const int MostMoved = 3;
    private const double OrdinaryVolts = 12;

    /// <summary>The wires of a machine, the most loaded for their size first.</summary>
    /// <param name="circuit">The machine.</param>
    /// <param name="engineSpace">Whether its wires run through engine spaces.</param>
    /// <param name="dropShare">Share of the volts that a circuit may lose there and back.</param>
    public static IReadOnlyList<WireLoad> Of(Circuit circuit, bool engineSpace, double dropShare)
    {
        var branches = circuit
            .BranchKeys.Select((key, i) => (key, i))
            .Where(b => b.key.Role == BranchRole.Conductor)
            .ToDictionary(b => b.key.Of.Owner.Wire!.Value, b => new BranchId(b.i));
        var worst = circuit.Machine.Wires.ToDictionary(
            w => w.Id,
            _ => (Amps: 0.0, Setting: circuit.Setting(null), Running: false)
        );
        var settings = circuit.SettingsNearRest(MostMoved).ToList();
        var atRest = new double[settings.Count][];
        double[] Amps(CircuitState at) => [.. branches.Values.Select(b => at.Heating(b) * at.Siemens(b))];
        void Note(double[] amps, ControlSetting setting, bool running)
        {
            foreach (var (wire, carried) in branches.Keys.Zip(amps))
            {
                if (double.IsFinite(carried) && carried > worst[wire].Amps)
                {
                    worst[wire] = (carried, setting, running);
                }
            }
        }

        Parallel.For(
            0,
            settings.Count,
            Cores.All,
            () => new CircuitState(circuit) { FollowsWaves = false, Tolerance = DutyWaves.BeliefTolerance },
            (s, _, state) =>
            {
                state.Begin(circuit.NominalParameters());
                state.Move(settings[0]);
                state.Move(settings[s]);
                atRest[s] = Amps(state);
                return state;
            },
            _ => { }
        );
        for (var s = 0; s < settings.Count; s++)
        {
            Note(atRest[s], settings[s], running: false);
        }

        var trial = new Trial(circuit);
        if (settings.Find(trial.Runs) is { } runs)
        {
            Note(Amps(Trial.Turning(circuit, runs, DutySpeed.Work).State), runs, running: true);
        }

        var windings = circuit.Topology.MetalOf(
            circuit
                .Devices.Where(d => d is IChargeWinding && d.PartId is not null)
                .SelectMany(d => circuit.Machine.Index.Part(d.PartId!.Value)!.Addresses)
                .Select(a => circuit.NodeOf(a))
        );
        return
        [
            .. circuit
                .Machine.Wires.Select(w =>
                    Judged(w, worst[w.Id], engineSpace, dropShare, windings.Contains(circuit.NodeOf(w.Id.From)))
                )
                .OrderByDescending(l => l.Needs is not null)
                .ThenByDescending(l => l.Amps.Value / Conductors.Parse(l.Wire.Gauge)!.Value.Area.Value),
        ];
    }

    private static WireLoad Judged(
        Wire wire,
        (double Amps, ControlSetting Setting, bool Running) worst,
        bool engineSpace,
        double dropShare,
        bool limitsItself
    )
    {
        var copper = Conductors.Parse(wire.Gauge)!.Value;
        var amps = new Amps(worst.Amps);

        // Along the wire alone: the way back is a wire of its own.
        var drop = new Volts(WireSizing.Drop(copper, amps, new Metres(wire.LengthM)).Value / 2);
        var need = new WireNeed(
            amps,
            new Metres(wire.LengthM / 2),
            new Volts(OrdinaryVolts),
            dropShare / 2,
            engineSpace,
            limitsItself
        );
        var series = wire.Gauge.EndsWith("AWG", StringComparison.Ordinal) ? WireSizing.Awg : WireSizing.Metric;
        var own = new WireSize(wire.Gauge, copper, WireSizing.OfArea(copper.Area));
        var sized =
            wire.Cable == true || WireSizing.Size(need, [own]) is not null ? null : WireSizing.Size(need, series);
        return new WireLoad(
            wire,
            amps,
            worst.Setting,
            worst.Running,
            drop,
            sized is not null && sized.Size.Copper.Area.Value > copper.Area.Value * 1.001 ? sized : null
        );
    }
}
