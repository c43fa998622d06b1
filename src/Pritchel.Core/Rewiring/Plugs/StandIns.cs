using System.Globalization;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Rewiring.Plugs;

/// <summary>
/// Draws what a plug's leads usually go to, on both halves: figures are the kinds' own. Battery, key and metal are drawn once, and
/// metal is joined by a strap outside the plug as engines' is.
/// </summary>
internal sealed partial class StandIns
{
    private const string Plug = "plug";
    private const string LeadGauge = "1.5 mm2";
    private const string CableGauge = "16 mm2";
    private const string UnknownColour = "grey";
    private static readonly PlaceId OnMachine = new("machine");
    private static readonly PlaceId OnEngine = new("engine");
    private static readonly EngineId EngineOf = new("engine");

    private readonly HandPlug hand;
    private readonly Dictionary<string, Part> parts = new(StringComparer.Ordinal);
    private readonly List<Wire> wires = [];
    private readonly List<Mount> mounts = [];
    private readonly List<Duty> duties = [];
    private HandLead? lead;

    public StandIns(HandPlug hand) => this.hand = hand;

    public Machine Build(MachineId id, string name)
    {
        Add(
            Plug,
            "the plug",
            PartKinds.Coupling,
            hand.Half == PlugHalf.OfMachine ? OnMachine : OnEngine,
            hand.Leads.SelectMany(l => new[] { l.Cavity + "a", l.Cavity + "b" })
        );
        parts[Plug] = parts[Plug] with
        {
            StandsIn = null,
            Sides = hand.Half == PlugHalf.OfMachine ? ["in hand", "the engine's"] : ["in hand", "the machine's"],
        };
        Metal();
        foreach (var drawn in hand.Leads)
        {
            lead = drawn;
            Draw(drawn);
        }

        lead = null;
        return new Machine
        {
            Format = Machines.Machine.CurrentFormat,
            Id = id,
            Name = name,
            Kind = "plug drawn by hand",
            Summary =
                $"A plug of {hand.Leads.Count} leads, drawn by hand; usual parts stand in for whatever they go to.",
            MayDiffer = "Figures are those of usual parts. What a lead is for is as sure as whoever drew it was.",
            StopByHand = "Not known: find it before anything turns.",
            TurningCautions =
            [
                "The engine may turn: plug lead off and clipped to the block, neutral, hands and leads clear.",
            ],
            Places =
            [
                new Place(OnMachine, "the machine's side", "machine", 2, EngineMayTurn: true),
                new Place(OnEngine, "the engine's side", "engine", 4, EngineMayTurn: false),
            ],
            Controls =
            [
                new Control(
                    new ControlId("key"),
                    "Key",
                    [new PositionId("OFF"), new PositionId("ON"), new PositionId("START")],
                    new PositionId("OFF"),
                    [new PositionId("START")]
                ),
            ],
            Parts = [.. parts.Values],
            Wires = wires,
            Mounts = mounts,
            Engines = [new Engine(EngineOf, "engine", 400, 1500, 3000, 6)],
            Duties = duties,
        };
    }

    private void Draw(HandLead drawn)
    {
        var n = drawn.Cavity;
        var leads = hand.Leads.Where(l => l.Function == drawn.Function).ToList();
        var (index, count) = (leads.IndexOf(drawn), leads.Count);
        switch (drawn.Function)
        {
            case LeadFunction.BatteryFeed:
                Through(Fused(n, "battery.+"), Load(n, "what is fed always"));
                break;
            case LeadFunction.FuelFeed:
                Through(KeyOn(), Grounded($"fuel-{n}", "fuel solenoid", "fuel-cut-solenoid", "in"));
                break;
            case LeadFunction.IgnitionFeed:
                Through(KeyOn(), Igniter());
                break;
            case LeadFunction.StartFeed:
                Through(Key("S"), StartSolenoid());
                break;
            case LeadFunction.Ground:
                Through($"frame.bolt {n}", $"block.bolt {n}");
                Bolt("frame", n);
                Bolt("block", n);
                break;
            case LeadFunction.Kill:
                Through(Key("M"), Grounded($"magneto-{n}", "ignition", "magneto", "kill"));
                break;
            case LeadFunction.ChargeWinding:
                var (regulator, winding) = Charging(count);
                Through($"regulator.{regulator[index]}", $"winding.{winding[index]}");
                break;
            case LeadFunction.ChargeOutput:
                Through(Fused(n, "battery.+"), Regulated());
                break;
            case LeadFunction.LightingWinding:
                Through(Lamp(n), Grounded("lighting", "lighting winding", "charge-winding", "out"));
                break;
            case LeadFunction.Pickup:
                Through($"igniter.{(index == 0 ? "pickup+" : "pickup-")}", $"pickup.{(index == 0 ? "+" : "-")}");
                Pulsed(count);
                break;
            case LeadFunction.OilSwitch:
                Through(WarningLamp(n), Grounded($"oil-{n}", "oil switch", "pressure-switch", "out"));
                break;
            case LeadFunction.Sender:
                Through(Gauge(n), Grounded($"sender-{n}", "sender", "sender", "out"));
                break;
            default:
                // Something on either half that takes next to nothing: nobody knows what.
                Through(NotKnown($"end-{n}-m", OnMachine), NotKnown($"end-{n}-e", OnEngine));
                break;
        }
    }

    /// <summary>A lead through its cavity: the half in hand is the plug's first.</summary>
    private void Through(string onMachine, string onEngine)
    {
        var (own, other) = hand.Half == PlugHalf.OfMachine ? (onMachine, onEngine) : (onEngine, onMachine);
        Wire(own, $"{Plug}.{lead!.Cavity}a");
        wires[^1] = wires[^1] with { Known = lead.Known };
        Wire($"{Plug}.{lead.Cavity}b", other);
    }

    private void Metal()
    {
        Add("battery", "battery", PartKinds.Battery, OnMachine, ["+", "-"]);
        Add("frame", "frame", PartKinds.Body, OnMachine, ["battery bolt", "strap bolt"]);
        Add("block", "engine block", PartKinds.Body, OnEngine, ["strap bolt"]);
        Wire("battery.-", "frame.battery bolt", cable: true);
        Wire("frame.strap bolt", "block.strap bolt", cable: true);
    }

    private string Key(string terminal)
    {
        if (!parts.ContainsKey("key"))
        {
            Add("key", "key switch", PartKinds.Switch, OnMachine, ["B", "I", "S", "M", "G"]);
            parts["key"] = parts["key"] with
            {
                Contacts =
                [
                    Closes("B-I", "B", "I", "ON", "START"),
                    Closes("B-S", "B", "S", "START"),
                    Closes("M-G", "M", "G", "OFF"),
                ],
            };
            Add("key-fuse", "key fuse", PartKinds.Fuse, OnMachine, ["1", "2"]);
            Wire("battery.+", "key-fuse.1");
            Wire("key-fuse.2", "key.B");
            Bolt("frame", "key");
            Wire("key.G", "frame.bolt key");
        }

        return "key." + terminal;
    }

    private static Contact Closes(string id, string one, string other, params string[] closedIn) =>
        new(
            new ContactId(id),
            [new TerminalId(one), new TerminalId(other)],
            new ControlId("key"),
            [.. closedIn.Select(p => new PositionId(p))]
        );

    private string KeyOn() => Key("I");

    private string Fused(string n, string from)
    {
        Add($"fuse-{n}", $"fuse of {n}", PartKinds.Fuse, OnMachine, ["1", "2"]);
        Wire(from, $"fuse-{n}.1");
        return $"fuse-{n}.2";
    }

    private string Load(string n, string words)
    {
        Add($"load-{n}", words, "load", OnEngine, ["+", "-"]);
        Bolt("block", n);
        Wire($"load-{n}.-", $"block.bolt {n}");
        return $"load-{n}.+";
    }

    private string NotKnown(string id, PlaceId place)
    {
        Add(id, $"whatever {lead!.Cavity} goes to", "load", place, ["+", "-"]);
        parts[id] = parts[id] with { Values = Figures(("ohms", 100_000)) };
        return id + ".+";
    }

    /// <summary>A part on the engine that grounds through its own metal.</summary>
    private string Grounded(string id, string words, string kind, string terminal)
    {
        Add(id, words, kind, OnEngine, [terminal, "case"]);
        Mounted(id, "block");
        return $"{id}.{terminal}";
    }

    private void Mounted(string id, string body)
    {
        Bolt(body, id);
        mounts.Add(
            new Mount(
                new MountId($"on-{id}"),
                TerminalAddress.Of($"{id}.case"),
                TerminalAddress.Of($"{body}.bolt {id}"),
                $"{parts[id].Name} on the {parts[body].Name}"
            )
        );
    }

    private string Lamp(string n)
    {
        Add($"lamp-{n}", "headlamp", "lamp", OnMachine, ["+", "-"]);
        parts[$"lamp-{n}"] = parts[$"lamp-{n}"] with { Values = Figures(("watts", 35)) };
        Bolt("frame", n);
        Wire($"lamp-{n}.-", $"frame.bolt {n}");
        return $"lamp-{n}.+";
    }

    private string WarningLamp(string n)
    {
        Add($"warning-{n}", "oil lamp", "lamp", OnMachine, ["+", "-"]);
        Wire(KeyOn(), $"warning-{n}.+");
        return $"warning-{n}.-";
    }

    private string Gauge(string n)
    {
        Add($"gauge-{n}", "gauge", "gauge", OnMachine, ["+", "S"]);
        Wire(KeyOn(), $"gauge-{n}.+");
        return $"gauge-{n}.S";
    }

    private void Add(string id, string name, string kind, PlaceId place, IEnumerable<string> terminals)
    {
        var own = place == (hand.Half == PlugHalf.OfMachine ? OnMachine : OnEngine);
        parts[id] = new Part
        {
            Id = new PartId(id),
            Name = name,
            Kind = kind,
            Place = place,
            Terminals = [.. terminals.Select(TerminalId.Of)],
            StandsIn = own ? true : null,
        };
    }

    private void Bolt(string body, string bolt)
    {
        var terminal = new TerminalId("bolt " + bolt);
        if (!parts[body].Terminals.Contains(terminal))
        {
            parts[body] = parts[body] with { Terminals = [.. parts[body].Terminals, terminal] };
        }
    }

    private void Wire(string from, string to, bool cable = false) =>
        wires.Add(
            new Wire
            {
                Id = new WireId((wires.Count + 1).ToString(CultureInfo.InvariantCulture)),
                From = new WireEnd(TerminalAddress.Of(from), JointAt(from)),
                To = new WireEnd(TerminalAddress.Of(to), JointAt(to)),
                Gauge = cable ? CableGauge : LeadGauge,
                LengthM = 0.5,
                Colours = cable || lead is not { Colours.Count: > 0 } ? [UnknownColour] : lead.Colours,
                Zone = "loom",
                Cable = cable ? true : null,
            }
        );

    private static string JointAt(string terminal) =>
        terminal.StartsWith(Plug + ".", StringComparison.Ordinal) ? "cavity" : "ring";

    private static SortedDictionary<string, double> Figures(params (string Name, double Figure)[] figures)
    {
        var all = new SortedDictionary<string, double>(StringComparer.Ordinal);
        foreach (var (name, figure) in figures)
        {
            all[name] = figure;
        }

        return all;
    }
}
