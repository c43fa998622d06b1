using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Small machines for trying one device: a battery, a key, a frame, and what the test adds.</summary>
internal sealed class SmallMachine
{
    private readonly List<Part> parts =
    [
        new()
        {
            Id = new PartId("battery"),
            Name = "battery",
            Kind = "battery",
            Place = new PlaceId("bench"),
            Terminals = [new TerminalId("+"), new TerminalId("-")],
        },
        new()
        {
            Id = new PartId("key"),
            Name = "key",
            Kind = "switch",
            Place = new PlaceId("bench"),
            Terminals = [new TerminalId("B"), new TerminalId("A")],
            Contacts =
            [
                new Contact(
                    new ContactId("B-A"),
                    [new TerminalId("B"), new TerminalId("A")],
                    new ControlId("key"),
                    [new PositionId("ON")]
                ),
            ],
        },
        new()
        {
            Id = new PartId("frame"),
            Name = "frame",
            Kind = "body",
            Place = new PlaceId("bench"),
            Terminals = [new TerminalId("bolt")],
        },
    ];

    private readonly List<Wire> wires = [];
    private readonly List<Control> controls =
    [
        new(new ControlId("key"), "Key", [new PositionId("OFF"), new PositionId("ON")], new PositionId("OFF"), []),
    ];

    private readonly List<Engine> engines = [];

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
                Id = new PartId(id),
                Name = id,
                Kind = kind,
                Place = new PlaceId("bench"),
                Terminals = [.. terminals.Select(TerminalId.Of)],
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

    /// <summary>A part from "id.1" to "id.2" with one figure: a fuse, a breaker.</summary>
    public SmallMachine InLine(string id, string kind, string figure, double value)
    {
        Part(id, kind, "1", "2");
        parts[^1] = parts[^1] with { Values = new Dictionary<string, double> { [figure] = value } };
        return this;
    }

    /// <summary>A battery of another kind.</summary>
    public SmallMachine BatteryKind(string kind)
    {
        parts[0] = parts[0] with { Kind = kind };
        return this;
    }

    /// <summary>A battery of other figures than the usual.</summary>
    public SmallMachine Battery(string figure, double value)
    {
        var values = new Dictionary<string, double>(parts[0].Values ?? new Dictionary<string, double>())
        {
            [figure] = value,
        };
        parts[0] = parts[0] with { Values = values };
        return this;
    }

    /// <summary>A switch "id.1" to "id.2" worked by a control of its own, OFF or ON.</summary>
    public SmallMachine Switch(string id)
    {
        controls.Add(
            new Control(new ControlId(id), id, [new PositionId("OFF"), new PositionId("ON")], new PositionId("OFF"), [])
        );
        Part(id, "switch", "1", "2");
        parts[^1] = parts[^1] with
        {
            Contacts =
            [
                new Contact(
                    new ContactId("1-2"),
                    [new TerminalId("1"), new TerminalId("2")],
                    new ControlId(id),
                    [new PositionId("ON")]
                ),
            ],
        };
        return this;
    }

    /// <summary>A control of its own, at rest in the first of its positions, numbered from 0.</summary>
    public SmallMachine Control(string id, int positions)
    {
        PositionId[] all = [.. Enumerable.Range(0, positions).Select(p => new PositionId($"{p}"))];
        controls.Add(new Control(new ControlId(id), id, all, all[0], []));
        return this;
    }

    /// <summary>A contact "id.1" to "id.2" that a control closes in some of its positions.</summary>
    public SmallMachine Contact(string id, string control, IEnumerable<int> positions)
    {
        Part(id, "switch", "1", "2");
        parts[^1] = parts[^1] with
        {
            Contacts =
            [
                new Contact(
                    new ContactId("1-2"),
                    [new TerminalId("1"), new TerminalId("2")],
                    new ControlId(control),
                    [.. positions.Select(p => new PositionId($"{p}"))]
                ),
            ],
        };
        return this;
    }

    /// <summary>An engine, for what turns with one.</summary>
    public SmallMachine Engine()
    {
        engines.Add(new Engine(new EngineId("engine"), "engine", 400, 1500, 3000, 6));
        return this;
    }

    public SmallMachine Wire(string from, string to)
    {
        wires.Add(
            new Wire
            {
                Id = new WireId($"w{wires.Count + 1}"),
                From = new WireEnd(TerminalAddress.Of(from), "screw"),
                To = new WireEnd(TerminalAddress.Of(to), "screw"),
                Gauge = "2.5 mm2",
                LengthM = 0.5,
                Colours = ["red"],
                Zone = "bench",
            }
        );
        return this;
    }

    public bool IsWired(string terminal) => wires.Exists(w => w.From.At.Text == terminal || w.To.At.Text == terminal);

    public Circuit Compile()
    {
        var machine = new Machine
        {
            Format = Machine.CurrentFormat,
            Id = new MachineId("small"),
            Name = "Small",
            Kind = "bench",
            Summary = "For a test.",
            MayDiffer = "It does not.",
            StopByHand = "Nothing turns.",
            TurningCautions = [],
            Places = [new Place(new PlaceId("bench"), "bench", "bench", 0, true)],
            Controls = controls,
            Parts = parts,
            Wires = wires,
            Mounts = [],
            Engines = engines,
            Duties = [],
        };
        Assert.Empty(MachineValidator.Check(machine));
        return Circuit.Compile(machine);
    }
}
