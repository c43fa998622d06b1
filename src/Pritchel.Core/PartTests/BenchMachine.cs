using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.PartTests;

/// <summary>
/// The machine of one part that a sheet solves: the part, a bench to count volts from, and what the sheet feeds it with. Wires
/// on the bench are short and heavy: none of their ohms counts.
/// </summary>
public sealed class BenchMachine
{
    private const string SupplyId = "bench-supply";
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

    /// <summary>Puts a full battery across two of the part's terminals, through a switch of its own.</summary>
    public BenchMachine Feed(Part part, string plus, string minus)
    {
        parts.Add(Loose(SupplyId, PartKinds.Battery, "+", "-"));
        Switch("Coil", contactOhms: null);
        Join($"{SupplyId}.+", "bench-switch.1");
        Join("bench-switch.2", part.At(plus).Text);
        Join(part.At(minus).Text, $"{SupplyId}.-");
        Join($"{SupplyId}.-", "bench.bolt");
        return this;
    }

    /// <summary>Puts a load across two of the part's terminals, through a switch of its own.</summary>
    /// <param name="part">The part.</param>
    /// <param name="plus">Terminal at one end.</param>
    /// <param name="minus">Terminal at the other.</param>
    /// <param name="ohms">The load.</param>
    public BenchMachine Load(Part part, string plus, string minus, double ohms)
    {
        // Against a battery's own milliohms an ordinary contact would count.
        const double HeavyContactOhms = 0.0005;
        parts.Add(Loose("bench-load", "load", "+", "-") with { Values = Value("ohms", ohms) });
        Switch("Load", HeavyContactOhms);
        Join(part.At(plus).Text, "bench-switch.1");
        Join("bench-switch.2", "bench-load.+");
        Join("bench-load.-", part.At(minus).Text);
        Join(part.At(minus).Text, "bench.bolt");
        return this;
    }

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

    private static Part Loose(string id, string kind, params string[] terminals) =>
        new()
        {
            Id = new PartId(id),
            Name = id,
            Kind = kind,
            Place = Place,
            Terminals = [.. terminals.Select(TerminalId.Of)],
        };

    private static Dictionary<string, double> Value(string name, double value) =>
        new(StringComparer.Ordinal) { [name] = value };

    private void Switch(string feeds, double? contactOhms)
    {
        controls.Add(
            new Control(Fed, feeds, [new PositionId("off"), new PositionId("fed")], new PositionId("off"), [])
        );
        parts.Add(
            Loose("bench-switch", "switch", "1", "2") with
            {
                Values = contactOhms is { } ohms ? Value("contactOhms", ohms) : null,
                Contacts =
                [
                    new Contact(
                        new ContactId("fed"),
                        [TerminalId.Of("1"), TerminalId.Of("2")],
                        Fed,
                        [new PositionId("fed")]
                    ),
                ],
            }
        );
    }

    private void Join(string from, string to) =>
        wires.Add(
            new Wire
            {
                Id = new WireId($"bench-{wires.Count + 1}"),
                From = new WireEnd(TerminalAddress.Of(from), "ring"),
                To = new WireEnd(TerminalAddress.Of(to), "ring"),
                Gauge = "25 mm2",
                LengthM = 0.1,
                Colours = ["black"],
                Zone = "bench",
            }
        );
}
