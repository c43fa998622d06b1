using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;
using Pritchel.Core.Units;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A switch worked by controls: key, pedal switch, seat switch. Contacts close by control position.</summary>
internal sealed class Switch(Part part, PartFigures figures) : Device, INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            PartKinds.Switch,
            [],
            "two or more, any names; \"contacts\" says what joins them",
            [new ValueRule("contactOhms", 0.0005, 0.5, 0.008)],
            (part, figures) => new Switch(part, figures)
        );

    private readonly List<Pole> poles = [];

    public override string PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        foreach (var contact in part.Contacts ?? [])
        {
            var name = $"{part.Id}/{contact.Id}";
            var (a, b) = ($"{part.Id}.{contact.Between[0]}", $"{part.Id}.{contact.Between[1]}");
            poles.Add(
                new Pole(
                    contact,
                    declaration.Control(contact.Control),
                    declaration.Parameter(name + "/ohms", figures["contactOhms"], Spread.Contact),
                    declaration.Parameter(name + "/welded", 0, Spread.None),
                    declaration.Parameter(name + "/leakOhms", double.PositiveInfinity, Spread.None),
                    declaration.Branch(name, a, b),
                    (declaration.Node(a), declaration.Node(b))
                )
            );
        }

        foreach (var pole in poles)
        {
            pole.Closed =
            [
                .. declaration
                    .PositionsOf(pole.Contact.Control)
                    .Select(p => pole.Contact.ClosedIn.Contains(p, StringComparer.Ordinal)),
            ];
        }
    }

    public override void Stamp(CircuitState state)
    {
        foreach (var pole in poles)
        {
            var closed = pole.Closed[state.Position(pole.Control)] || state[pole.Welded] > 0;
            state.SetOhms(pole.Branch, closed ? state[pole.Ohms] : state[pole.Leak]);
        }
    }

    public override IEnumerable<Fault> Faults() => poles.SelectMany(PoleFaults);

    private IEnumerable<Fault> PoleFaults(Pole pole)
    {
        var words = poles.Count == 1 ? part.Name : $"{part.Name}, {pole.Contact.Id} contact";
        var repair = new Repair("part:" + part.Id, part.Name, part.Name, RepairKind.ReplaceSwitch, part.Place);
        var name = $"{part.Id}/{pole.Contact.Id}";
        foreach (var fault in OpenOrPoor(name, words, repair, pole).Both())
        {
            yield return fault;
        }

        yield return new Fault
        {
            Id = name + "/welded",
            Kind = FaultKind.StuckClosed,
            Words = words + ": stays closed",
            Repair = repair,
            Rate = 0.5,
            Changes = [new(pole.Welded, ChangeRule.Set, 1)],
            Nodes = pole.Nodes,
        };
        yield return new Fault
        {
            Id = name + "/wet",
            Kind = FaultKind.ShortedToNeighbour,
            Words = words + ": damp or salt bridges it",
            Repair = repair,
            Rate = 0.3,
            Severity = new Severity(20, 20_000),
            Changes = [new(pole.Leak, ChangeRule.SetToSeverity)],
            Nodes = pole.Nodes,
            ComesAndGoes = true,
            Weakness = Weakness.Damp | Weakness.Salt,
        };
    }

    private static SeriesFaults OpenOrPoor(string name, string words, Repair repair, Pole pole) =>
        new()
        {
            Place = name,
            Words = words,
            Poor = "burnt",
            Gone = "does not close, or out of adjustment",
            Repair = repair,
            Ohms = pole.Ohms,
            Nodes = pole.Nodes,
            PoorRate = 2.5,
            GoneRate = 3,
        };

    private sealed record Pole(
        Contact Contact,
        int Control,
        ParameterId Ohms,
        ParameterId Welded,
        ParameterId Leak,
        BranchId Branch,
        (int, int) Nodes
    )
    {
        public bool[] Closed { get; set; } = [];
    }
}
