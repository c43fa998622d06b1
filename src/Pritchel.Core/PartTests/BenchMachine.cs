using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.PartTests;

/// <summary>
/// The machine of one part that a sheet solves: the part, a bench to count volts from, and what the sheet feeds it with. Wires
/// on the bench are short and heavy: none of their ohms counts.
/// </summary>
public sealed class BenchMachine
{
    /// <summary>Part id of the bench's own battery.</summary>
    public const string SupplyId = "bench-battery";

    /// <summary>Its positive post.</summary>
    public const string SupplyPlus = SupplyId + ".+";

    /// <summary>Its negative post.</summary>
    public const string SupplyMinus = SupplyId + ".-";

    /// <summary>The metal that volts are counted from: the bench's, or the machine's ground cable.</summary>
    public const string Ground = "bench.bolt";

    /// <summary>Part id of the bench's switch.</summary>
    public const string SwitchId = "bench-switch";

    // Against a battery's own milliohms an ordinary contact would count.
    private const double HeavyContactOhms = 0.0005;

    private readonly List<Part> parts = [];
    private readonly List<Wire> wires = [];
    private readonly List<Control> controls;

    /// <summary>The bench with a part on it.</summary>
    public BenchMachine(TestedPart tested)
    {
        controls = [.. tested.Controls];
        parts.Add(tested.Part);
        parts.Add(
            new Part
            {
                Id = new PartId("bench"),
                Name = "bench",
                Kind = PartKinds.Body,
                Place = Place,
                Terminals = [TerminalId.Of("bolt")],
            }
        );
    }

    /// <summary>Where everything lies.</summary>
    public static PlaceId Place { get; } = new("bench");

    /// <summary>Control that feeds what a supply is on: "off" or "fed".</summary>
    public static ControlId Fed { get; } = new("fed");

    /// <summary>Control that sends a bulb's current: "off", "amps", or a pair such as "a-b".</summary>
    public static ControlId Current { get; } = new("current");

    /// <summary>Part id of what sends that current.</summary>
    public const string CurrentId = "bench-current";

    /// <summary>Position of <see cref="Current"/> in which a meter in series closes the first pair's path.</summary>
    public const string AmpsPosition = "amps";

    /// <summary>Puts a full battery across two of the part's terminals, through a switch of its own.</summary>
    public BenchMachine Feed(Part part, string plus, string minus) => Battery().Coil(part, plus, minus).Grounded();

    /// <summary>Puts a load across two of the part's terminals, through a switch of its own.</summary>
    /// <param name="part">The part.</param>
    /// <param name="plus">Terminal at one end.</param>
    /// <param name="minus">Terminal at the other.</param>
    /// <param name="ohms">The load.</param>
    public BenchMachine Load(Part part, string plus, string minus, double ohms) =>
        Add("bench-load", "load", Value("ohms", ohms), "+", "-")
            .Switch("Load", part.At(plus).Text, "bench-load.+", HeavyContactOhms)
            .Join("bench-load.-", part.At(minus).Text)
            .Join(part.At(minus).Text, "bench.bolt");

    /// <summary>
    /// A bulb of two amps whose current is sent through one pair of terminals after the other: the control
    /// <see cref="Current"/> says which.
    /// </summary>
    /// <param name="part">The part.</param>
    /// <param name="pairs">The pairs; the first is also read in series for the amps.</param>
    public BenchMachine KnownCurrent(Part part, IReadOnlyList<(string From, string To)> pairs)
    {
        const string Id = CurrentId;
        PositionId[] positions =
        [
            new("off"),
            new(AmpsPosition),
            .. pairs.Select(p => new PositionId($"{p.From}-{p.To}")),
        ];
        controls.Add(new Control(Current, "Bulb", positions, positions[0], []));
        string[] own = [.. pairs.SelectMany(p => new[] { p.From, p.To }).Distinct()];
        Battery()
            .Add("bench-bulb", "load", Value("ohms", Observables.Jump.BulbOhms), "+", "-")
            .Add(Id, "switch", null, ["p", "n", .. own]);
        Contact Of(string pole, string to, params PositionId[] closed) =>
            new(new ContactId($"{pole}-{to}"), [TerminalId.Of(pole), TerminalId.Of(to)], Current, [.. closed]);
        PositionId[] Sends(Func<(string From, string To), string> end, string to) =>
            [.. pairs.Where(p => end(p) == to).Select(p => new PositionId($"{p.From}-{p.To}"))];
        parts[^1] = parts[^1] with
        {
            Contacts =
            [
                .. own.Select(t => (t, In: Sends(p => p.From, t)))
                    .Where(c => c.In.Length > 0)
                    .Select(c => Of("p", c.t, c.In)),
                .. own.Select(t =>
                        (
                            t,
                            In: (PositionId[])
                                [
                                    .. Sends(p => p.To, t),
                                    .. t == pairs[0].To ? [positions[1]] : Array.Empty<PositionId>(),
                                ]
                        )
                    )
                    .Where(c => c.In.Length > 0)
                    .Select(c => Of("n", c.t, c.In)),
            ],
        };
        Join(SupplyPlus, "bench-bulb.+").Join("bench-bulb.-", $"{Id}.p").Join($"{Id}.n", SupplyMinus).Grounded();
        foreach (var terminal in own)
        {
            Join(part.At(terminal).Text, $"{Id}.{terminal}");
        }

        return this;
    }

    /// <summary>Feeds a coil of a part from the bench's battery, which is there already, through a switch of its own.</summary>
    public BenchMachine Coil(Part part, string plus, string minus) =>
        Switch("Coil", SupplyPlus, part.At(plus).Text).Join(part.At(minus).Text, SupplyMinus);

    /// <summary>Adds a battery of the bench's own.</summary>
    public BenchMachine Battery() => Add(SupplyId, PartKinds.Battery, null, "+", "-");

    /// <summary>Joins the bench's battery to the bench.</summary>
    public BenchMachine Grounded() => Join(SupplyMinus, "bench.bolt");

    /// <summary>Adds a part of the bench's own.</summary>
    /// <param name="id">What it is known by.</param>
    /// <param name="kind">Its kind.</param>
    /// <param name="values">Its figures; those usual for the kind where null.</param>
    /// <param name="terminals">Its terminals.</param>
    public BenchMachine Add(string id, string kind, Dictionary<string, double>? values, params string[] terminals)
    {
        parts.Add(
            new Part
            {
                Id = new PartId(id),
                Name = id.Replace('-', ' '),
                Kind = kind,
                Place = Place,
                Terminals = [.. terminals.Select(TerminalId.Of)],
                Values = values,
            }
        );
        return this;
    }

    /// <summary>Puts the bench's switch between two terminals: the control <see cref="Fed"/> closes it.</summary>
    /// <param name="feeds">What it is called.</param>
    /// <param name="from">One terminal, as "part.terminal".</param>
    /// <param name="to">The other.</param>
    /// <param name="contactOhms">Its contact; an ordinary one where null.</param>
    public BenchMachine Switch(string feeds, string from, string to, double? contactOhms = null)
    {
        controls.Add(
            new Control(Fed, feeds, [new PositionId("off"), new PositionId("fed")], new PositionId("off"), [])
        );
        Add(SwitchId, "switch", contactOhms is { } ohms ? Value("contactOhms", ohms) : null, "1", "2");
        parts[^1] = parts[^1] with
        {
            Contacts =
            [
                new Contact(
                    new ContactId("fed"),
                    [TerminalId.Of("1"), TerminalId.Of("2")],
                    Fed,
                    [new PositionId("fed")]
                ),
            ],
        };
        return Join(from, "bench-switch.1").Join("bench-switch.2", to);
    }

    /// <summary>Puts a plug of several poles between pairs of terminals: the control <see cref="Fed"/> has it home or apart.</summary>
    /// <param name="poles">From and to of each, as "part.terminal".</param>
    public BenchMachine Plug(IReadOnlyList<(string From, string To)> poles)
    {
        controls.Add(
            new Control(Fed, "Plug", [new PositionId("off"), new PositionId("fed")], new PositionId("off"), [])
        );
        Add(SwitchId, PartKinds.Switch, null, [.. poles.SelectMany((_, i) => new[] { $"{i}-from", $"{i}-to" })]);
        parts[^1] = parts[^1] with
        {
            Contacts =
            [
                .. poles.Select(
                    (_, i) =>
                        new Contact(
                            new ContactId($"pole-{i}"),
                            [TerminalId.Of($"{i}-from"), TerminalId.Of($"{i}-to")],
                            Fed,
                            [new PositionId("fed")]
                        )
                ),
            ],
        };
        foreach (var (i, (from, to)) in poles.Index())
        {
            Join(from, $"{SwitchId}.{i}-from").Join($"{SwitchId}.{i}-to", to);
        }

        return this;
    }

    /// <summary>Makes a part that was added a contact that closes with the feed: a lead that is only on then.</summary>
    public BenchMachine Closed(string id)
    {
        var at = parts.FindIndex(p => p.Id.Text == id);
        parts[at] = parts[at] with
        {
            Contacts = [new Contact(new ContactId("strap"), [.. parts[at].Terminals], Fed, [new PositionId("fed")])],
        };
        return this;
    }

    /// <summary>Joins two terminals.</summary>
    /// <param name="from">One, as "part.terminal".</param>
    /// <param name="to">The other.</param>
    /// <param name="gauge">Its copper: short and heavy unless told otherwise.</param>
    /// <param name="metres">Its length.</param>
    public BenchMachine Join(string from, string to, string gauge = "25 mm2", double metres = 0.1)
    {
        wires.Add(
            new Wire
            {
                Id = new WireId($"bench-{wires.Count + 1}"),
                From = new WireEnd(TerminalAddress.Of(from), "ring"),
                To = new WireEnd(TerminalAddress.Of(to), "ring"),
                Gauge = gauge,
                LengthM = metres,
                Colours = ["black"],
                Zone = "bench",
            }
        );
        return this;
    }

    /// <summary>One figure of a part of the bench's own.</summary>
    public static Dictionary<string, double> Value(string name, double value) =>
        new(StringComparer.Ordinal) { [name] = value };

    /// <summary>The machine.</summary>
    public Machine Build() =>
        new()
        {
            Format = Machine.CurrentFormat,
            Id = new MachineId("bench"),
            Name = "Bench",
            Kind = "bench",
            Summary = "One part on the bench.",
            MayDiffer = "It is the part in hand.",
            StopByHand = "Nothing turns.",
            TurningCautions = [],
            Places = [new Place(Place, "bench", "bench", 0, true)],
            Controls = controls,
            Parts = parts,
            Wires = wires,
            Mounts = [],
            Engines = [new Engine(new EngineId("bench"), "engine", 300, 1000, 3000, 6)],
            Duties = [],
        };
}
