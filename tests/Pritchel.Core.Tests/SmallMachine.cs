using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Simulation;
using Pritchel.Core.Simulation.Devices;

namespace Pritchel.Core.Tests;

/// <summary>Small machines for trying one device: a battery, a key, a frame, and what the test adds.</summary>
internal sealed class SmallMachine
{
    private readonly List<Part> parts =
    [
        new()
        {
            Id = "battery",
            Name = "battery",
            Kind = "battery",
            Place = "bench",
            Terminals = ["+", "-"],
        },
        new()
        {
            Id = "key",
            Name = "key",
            Kind = "switch",
            Place = "bench",
            Terminals = ["B", "A"],
            Contacts = [new Contact("B-A", ["B", "A"], "key", ["ON"])],
        },
        new()
        {
            Id = "frame",
            Name = "frame",
            Kind = "body",
            Place = "bench",
            Terminals = ["bolt"],
        },
    ];

    private readonly List<Wire> wires = [];
    private readonly List<Control> controls = [new("key", "Key", ["OFF", "ON"], "OFF", [])];

    public SmallMachine()
    {
        Wire("battery.+", "key.B");
        Wire("battery.-", "frame.bolt");
    }

    public SmallMachine Part(string id, string kind, params string[] terminals)
    {
        parts.Add(
            new Part
            {
                Id = id,
                Name = id,
                Kind = kind,
                Place = "bench",
                Terminals = terminals,
            }
        );
        return this;
    }

    public SmallMachine Lamp(string id, double watts) => Load(id, "lamp", "watts", watts);

    public SmallMachine Load(string id, string kind, string figure, double value)
    {
        Part(id, kind, "+", "-");
        parts[^1] = parts[^1] with { Values = new Dictionary<string, double> { [figure] = value } };
        return this;
    }

    /// <summary>A switch "id.1" to "id.2" worked by a control of its own, OFF or ON.</summary>
    public SmallMachine Switch(string id)
    {
        controls.Add(new Control(id, id, ["OFF", "ON"], "OFF", []));
        Part(id, "switch", "1", "2");
        parts[^1] = parts[^1] with { Contacts = [new Contact("1-2", ["1", "2"], id, ["ON"])] };
        return this;
    }

    public SmallMachine Wire(string from, string to)
    {
        wires.Add(
            new Wire
            {
                Id = $"w{wires.Count + 1}",
                From = new WireEnd(from, "screw"),
                To = new WireEnd(to, "screw"),
                Gauge = "2.5 mm2",
                LengthM = 0.5,
                Colours = ["red"],
                Zone = "bench",
            }
        );
        return this;
    }

    public bool IsWired(string terminal) => wires.Exists(w => w.From.At == terminal || w.To.At == terminal);

    public Circuit Compile()
    {
        var machine = new Machine
        {
            Format = Machine.CurrentFormat,
            Id = "small",
            Name = "Small",
            Kind = "bench",
            Summary = "For a test.",
            MayDiffer = "It does not.",
            StopByHand = "Nothing turns.",
            TurningCautions = [],
            Places = [new Place("bench", "bench", "bench", 0, true)],
            Controls = controls,
            Parts = parts,
            Wires = wires,
            Mounts = [],
            Duties = [],
        };
        Assert.Empty(MachineValidator.Check(machine));
        return Circuit.Compile(machine);
    }
}
