using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>A test lamp is kept off everything that a coil's hundreds of volts can reach.</summary>
public class LampGuardTests
{
    public static TheoryData<string> Machines => [.. Shipped.Ids, .. Shipped.Variants];

    /// <summary>
    /// Kill wires as they are drawn in the file, followed here through wires, cavities, splices and diodes alone: refused in
    /// every setting, from plus and from ground, running or not.
    /// </summary>
    [Theory]
    [MemberData(nameof(Machines))]
    public void It_is_refused_all_along_every_kill_wire(string id)
    {
        var circuit = Shipped.Circuit(id);
        var machine = circuit.Machine;
        var wiring = Drawn(machine);
        var battery = machine.Parts.FirstOrDefault(p => p.Kind is "battery" or "lithium-battery");
        var plus = battery is null ? circuit.Reference : circuit.NodeOf(battery.At("+"));
        var taken = new List<string>();
        foreach (var setting in circuit.SettingsNearRest(2).Take(24))
        {
            var @case = new Case { Circuit = circuit, Settings = [setting] };
            foreach (var address in wiring)
            {
                var node = circuit.NodeOf(address);
                foreach (var from in new[] { plus, circuit.Reference }.Where(f => f != node))
                {
                    if (Bench.Read(@case, Meter.Ordinary, MeterFunction.TestLamp, node, from).Refusal is null)
                    {
                        taken.Add($"{address} in {setting.AllWords(machine)}");
                    }
                }
            }
        }

        Assert.True(taken.Count == 0, string.Join("\n", taken.Distinct().Take(20)));
    }

    /// <summary>What the lamp is for stays open to it: battery plus, and a fed wire.</summary>
    [Theory]
    [MemberData(nameof(Machines))]
    public void It_lights_from_plus_to_ground_on_every_machine_with_a_battery(string id)
    {
        var circuit = Shipped.Circuit(id);
        foreach (var battery in circuit.Machine.Parts.Where(p => p.Kind is "battery" or "lithium-battery"))
        {
            var (plus, minus) = (circuit.NodeOf(battery.At("+")), circuit.NodeOf(battery.At("-")));
            var @case = new Case { Circuit = circuit, Settings = [circuit.Setting(null)] };
            var shown = Bench.Read(@case, Meter.Ordinary, MeterFunction.TestLamp, plus, minus);
            Assert.StartsWith("bright", shown.Shown, StringComparison.Ordinal);
        }
    }

    private static HashSet<TerminalAddress> Drawn(Machine machine)
    {
        var links = machine
            .Wires.Select(w => (w.From.At, w.To.At))
            .Concat(
                machine.Parts.Where(p => p.Kind is "diode").Select(p => (p.At(p.Terminals[0]), p.At(p.Terminals[1])))
            )
            .Concat(
                machine
                    .Parts.Where(p => p.Kind == "coupling")
                    .SelectMany(p =>
                        p.Terminals.Where(t => t.Text.EndsWith('a'))
                            .Select(t => (p.At(t), p.At(new TerminalId(t.Text[..^1] + "b"))))
                    )
            )
            .ToList();
        var reached = machine
            .Parts.Where(p => p.Kind is "magneto" or "cdi-exciter-fed" or "ignition-module")
            .Where(p => p.Terminals.Contains(new TerminalId("kill")))
            .Select(p => p.At("kill"))
            .ToHashSet();
        for (var before = -1; before != reached.Count; )
        {
            before = reached.Count;
            foreach (var (a, b) in links)
            {
                if (reached.Contains(a) || reached.Contains(b))
                {
                    reached.UnionWith([a, b]);
                }
            }
        }

        return reached;
    }
}
