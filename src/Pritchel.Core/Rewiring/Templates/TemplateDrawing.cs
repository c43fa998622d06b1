using System.Globalization;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Rewiring.Templates;

/// <summary>Draws a template: what is new, and the battery, key, engine and metal that it is joined to.</summary>
internal sealed class TemplateDrawing
{
    private static readonly PlaceId New = new("new");
    private static readonly PlaceId There = new("there");
    private readonly List<Part> parts = [];
    private readonly List<Wire> wires = [];
    private readonly List<Mount> mounts = [];
    private readonly List<Control> controls = [];
    private readonly List<PartId> own = [];
    private readonly List<Duty> duties = [];
    private bool hasEngine;

    /// <summary>Parts that are new.</summary>
    public IReadOnlyList<PartId> Own => own;

    /// <summary>A battery, grounded on a frame, with a key behind a fuse: "key.I" is fed at RUN, "key.S" at START, "key.M" grounded at OFF.</summary>
    public TemplateDrawing Vehicle()
    {
        Old("battery", "battery", "battery", "+", "-");
        Old("frame", "frame", PartKinds.Body, "ground", "bolt 1", "bolt 2", "bolt 3");
        Cable("battery.-", "frame.ground");
        Old("main-fuse", "main fuse", "fuse", "1", "2");
        Figure("ratingAmps", 30);
        Lead("battery.+", "main-fuse.1", "4 mm2", 0.3, "red");
        Control("key", "Key", ["OFF", "RUN", "START"], "START");
        Old("key", "key switch", "switch", "B", "I", "S", "M", "G");
        Contact("run", "B", "I", "key", "RUN", "START");
        Contact("start", "B", "S", "key", "START");
        Contact("kill", "M", "G", "key", "OFF");
        Lead("main-fuse.2", "key.B", "4 mm2", 0.6, "red");
        Lead("key.G", "frame.bolt 1", "1.5 mm2", 0.6, "black");
        return this;
    }

    /// <summary>An engine of its own metal, with a magneto that the key kills.</summary>
    public TemplateDrawing Engine()
    {
        hasEngine = true;
        Old("block", "engine block", PartKinds.Body, "boss", "post", "shroud", "strap");
        Cable("block.strap", "frame.bolt 2");
        Old("magneto", "magneto", "magneto", "kill", "case");
        Bolted("magneto.case", "block.post");
        return Lead("magneto.kill", "key.M", "1 mm2", 0.8, "white");
    }

    /// <summary>A part that the machine has already.</summary>
    public TemplateDrawing Old(string id, string name, string kind, params string[] terminals) =>
        Add(There, id, name, kind, terminals);

    /// <summary>A part that is new.</summary>
    public TemplateDrawing Fit(string id, string name, string kind, params string[] terminals)
    {
        own.Add(new PartId(id));
        return Add(New, id, name, kind, terminals);
    }

    /// <summary>A figure of the part last added.</summary>
    public TemplateDrawing Figure(string name, double value)
    {
        var figures = new SortedDictionary<string, double>(StringComparer.Ordinal) { [name] = value };
        foreach (var had in parts[^1].Values ?? new Dictionary<string, double>())
        {
            figures[had.Key] = had.Value;
        }

        parts[^1] = parts[^1] with { Values = figures };
        return this;
    }

    /// <summary>The part last added turns with the engine.</summary>
    public TemplateDrawing OnEngine()
    {
        parts[^1] = parts[^1] with { Engine = EngineId };
        return this;
    }

    /// <summary>A contact of the part last added.</summary>
    public TemplateDrawing Contact(string id, string a, string b, string control, params string[] closedIn)
    {
        parts[^1] = parts[^1] with
        {
            Contacts =
            [
                .. parts[^1].Contacts ?? [],
                new Contact(
                    new ContactId(id),
                    [TerminalId.Of(a), TerminalId.Of(b)],
                    new ControlId(control),
                    [.. closedIn.Select(p => new PositionId(p))]
                ),
            ],
        };
        return this;
    }

    /// <summary>A control; it rests in its first position.</summary>
    public TemplateDrawing Control(string id, string name, IReadOnlyList<string> positions, params string[] held)
    {
        controls.Add(
            new Control(
                new ControlId(id),
                name,
                [.. positions.Select(p => new PositionId(p))],
                new PositionId(positions[0]),
                [.. held.Select(p => new PositionId(p))]
            )
        );
        return this;
    }

    /// <summary>A wire.</summary>
    public TemplateDrawing Lead(string from, string to, string gauge, double metres, params string[] colours) =>
        Wire(from, to, gauge, metres, colours, cable: false);

    /// <summary>A heavy cable.</summary>
    public TemplateDrawing Cable(string from, string to) => Wire(from, to, "16 mm2", 0.6, ["black"], cable: true);

    /// <summary>Metal bolted to metal.</summary>
    public TemplateDrawing Bolted(string terminal, string on)
    {
        var (at, body) = (TerminalAddress.Of(terminal), TerminalAddress.Of(on));
        mounts.Add(new Mount(new MountId($"G{mounts.Count + 1}"), at, body, $"{at.Part} on {body.Part}"));
        return this;
    }

    /// <summary>What it is for: the part that does it, and the position of each control that matters.</summary>
    public TemplateDrawing Does(string load, string name, params (string Control, string Position)[] setting)
    {
        duties.Add(
            new Duty(
                new DutyId("does-" + load),
                name,
                setting.ToDictionary(s => new ControlId(s.Control), s => new PositionId(s.Position)),
                new PartId(load)
            )
        );
        return this;
    }

    /// <summary>The machine.</summary>
    public Machine Build(MachineId id, string name, string says) =>
        new()
        {
            Format = Machine.CurrentFormat,
            Id = id,
            Name = name,
            Kind = "circuit that is added",
            Summary = says,
            MayDiffer =
                "Battery, key, metal and engine stand for those of the machine that it is built into: its own come first.",
            StopByHand = "As the machine that it is built into stops.",
            TurningCautions = [],
            Places = [new Place(New, "new circuit", "new", 1, true), new Place(There, "machine", "machine", 1, true)],
            Controls = controls,
            Parts = parts,
            Wires = wires,
            Mounts = mounts,
            Engines = hasEngine ? [new Engine(EngineId, "engine", 350, 1500, 3000, 6)] : [],
            Duties = duties,
        };

    private static EngineId EngineId => new("engine");

    private TemplateDrawing Add(PlaceId place, string id, string name, string kind, string[] terminals)
    {
        parts.Add(
            new Part
            {
                Id = new PartId(id),
                Name = name,
                Kind = kind,
                Place = place,
                Terminals = [.. terminals.Select(TerminalId.Of)],
            }
        );
        return this;
    }

    /// <summary>Studs, posts and bolts take a ring, tabs a push-on.</summary>
    private WireEnd End(string at, bool cable)
    {
        var terminal = TerminalAddress.Of(at);
        var kind = parts.Find(p => p.Id == terminal.Part)?.Kind;
        return new WireEnd(
            terminal,
            cable || kind == PartKinds.Body || (kind is not null && PartKinds.IsBattery(kind)) ? "ring" : "push-on"
        );
    }

    private TemplateDrawing Wire(string from, string to, string gauge, double metres, string[] colours, bool cable)
    {
        wires.Add(
            new Wire
            {
                Id = new WireId((cable ? "C" : "") + (wires.Count + 1).ToString(CultureInfo.InvariantCulture)),
                From = End(from, cable),
                To = End(to, cable),
                Gauge = gauge,
                LengthM = metres,
                Colours = colours,
                Zone = "new",
                Cable = cable ? true : null,
            }
        );
        return this;
    }
}
