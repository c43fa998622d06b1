using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A switch worked by controls: key, pedal switch, seat switch. Contacts close by control position.</summary>
internal sealed class Switch(Part part, PartFigures figures) : Device, INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            PartKinds.Switch,
            [],
            "two or more, any names; \"contacts\" says what joins them",
            [new ValueRule("contactOhms", 0.0005, 0.5, 0.008) { Differs = 0.6 }],
            (part, figures) => new Switch(part, figures)
        )
        {
            Traits = PartTraits.IsSwitched,
        };

    private readonly List<Pole> poles = [];

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        foreach (var contact in part.Contacts ?? [])
        {
            var of = part.Element(contact.Id.Text);
            var (a, b) = (part.At(contact.Between[0]), part.At(contact.Between[1]));
            poles.Add(
                new Pole(
                    contact,
                    declaration.Control(contact.Control),
                    declaration.Parameter(of, "ohms", figures["contactOhms"], Spread.Contact),
                    declaration.Parameter(of, "welded", 0, Spread.None),
                    declaration.Parameter(of, "leakOhms", double.PositiveInfinity, Spread.None),
                    declaration.Branch(of, a, b),
                    (declaration.Node(a), declaration.Node(b))
                )
            );
        }

        foreach (var pole in poles)
        {
            pole.Closed =
            [
                .. declaration.PositionsOf(pole.Contact.Control).Select(p => pole.Contact.ClosedIn.Contains(p)),
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
        var repair = part.Repaired(RepairKind.ReplaceSwitch);
        var of = part.Element(pole.Contact.Id.Text);
        foreach (var fault in OpenOrPoor(of, words, repair, pole).Both())
        {
            yield return fault;
        }

        yield return new Fault
        {
            Id = new FaultId(of, "welded"),
            Kind = FaultKind.StuckClosed,
            Words = words + ": stays closed, or its arm moves it too little",
            Repair = repair,
            Rate = 1.5,
            Changes = [new(pole.Welded, ChangeRule.Set, 1)],
            Nodes = pole.Nodes,
        };
        yield return new Fault
        {
            Id = new FaultId(of, "wet"),
            Kind = FaultKind.ShortedToNeighbour,
            Words = words + ": damp or salt bridges it",
            Repair = repair,
            Rate = 0.3,
            Severity = new Severity(20_000, 20),
            Changes = [new(pole.Leak, ChangeRule.SetToSeverity)],
            Nodes = pole.Nodes,
            ComesAndGoes = true,
            Weakness = Weakness.Damp | Weakness.Salt,
        };
    }

    private static SeriesFaults OpenOrPoor(Element of, string words, Repair repair, Pole pole) =>
        new()
        {
            Place = of,
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
