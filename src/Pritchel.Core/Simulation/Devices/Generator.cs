using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A brushed single-phase generator: a wound rotor behind brushes and rings, two output legs and an excitation winding.
/// Its magnetism is a residue plus what the rotor's current adds, saturating; fed the wrong way round, that current takes
/// the residue away. Leg volts at speed follow.
/// </summary>
internal sealed class Generator(Part part, PartFigures figures) : WindingGroup(part), INamedDevice
{
    // Residual magnetism alone gives about 1–5 V: common practice, no source.
    private const double Residue = 0.02;
    private const double Knee = 0.8;

    public static DeviceKind Kind { get; } =
        new(
            PartKinds.Generator,
            ["1a", "1b", "2a", "2b", "ea", "eb", "F+", "F-", "R+", "R-", "case"],
            "\"1a\" \"1b\" and \"2a\" \"2b\" (output legs), \"ea\" \"eb\" (excitation), \"F+\" \"F-\" (brushes), \"R+\" \"R-\" (rings) and \"case\"",
            [
                // Outlets are made for few voltages.
                new ValueRule("legVolts", 20, 300, 120) { Differs = 0.1 },
                new ValueRule("legOhms", 0.05, 20, 0.5),
                new ValueRule("excitationVolts", 10, 300, 110) { Differs = 0.3 },
                new ValueRule("excitationOhms", 0.1, 50, 1.6),
                new ValueRule("rotorOhms", 1, 200, 45),
                new ValueRule("rotorAmps", 0.1, 20, 1),
                new ValueRule("ratedRpm", 500, 6000, 3000),
            ],
            (part, figures) => new Generator(part, figures)
        )
        {
            Traits = PartTraits.MakesMains,
        };

    private Resistance rotor = null!;
    private Resistance[] brushes = [];
    private ParameterId residue;
    private MemoryId magnetism;

    public override void Declare(Declaration declaration)
    {
        magnetism = declaration.Memory(double.NaN);
        residue = declaration.Parameter(Part.Element(), "residueShare", Residue, new Spread(0.3, 0, 0));
        Add(declaration, "leg1", "1a", "1b", "legVolts", "legOhms");
        Add(declaration, "leg2", "2a", "2b", "legVolts", "legOhms");
        Add(declaration, "excitation", "ea", "eb", "excitationVolts", "excitationOhms");
        rotor = new Resistance(declaration, Part, "rotorOhms", "R+", "R-", figures["rotorOhms"], Spread.Winding);
        brushes =
        [
            new Resistance(declaration, Part, "brushPlusOhms", "F+", "R+", 0.1, Spread.Contact),
            new Resistance(declaration, Part, "brushMinusOhms", "R-", "F-", 0.1, Spread.Contact),
        ];
        declaration.Node(Part.At("case"));
    }

    public override void Stamp(CircuitState state)
    {
        if (double.IsNaN(state[magnetism]))
        {
            state[magnetism] = state[residue];
        }

        base.Stamp(state);
        rotor.Stamp(state);
        foreach (var brush in brushes)
        {
            brush.Stamp(state);
        }
    }

    public override Change Step(CircuitState state)
    {
        if (!state.IsTurning)
        {
            state[magnetism] = state[residue];
            return Change.None;
        }

        var excited = state.Through(rotor.Branch) / figures["rotorAmps"];
        var added = excited / (Math.Abs(excited) + Knee) * (1 + Knee);
        var wanted = Math.Max(0, state[residue] + ((1 - Residue) * added));
        var now = state[magnetism];
        state[magnetism] = wanted;
        return Math.Abs(wanted - now) <= 1e-7 + (state.Closeness * wanted) ? Change.None : Change.Refine;
    }

    public override IEnumerable<Fault> Faults()
    {
        foreach (var fault in Windings.SelectMany(w => w.Faults("winding", Part.At("case"))))
        {
            yield return fault;
        }

        yield return rotor.Gone("rotor-open", "rotor winding open", 2);
        yield return PartFault.Of(
            Part,
            "rotor-turns",
            FaultKind.ShortedWinding,
            "rotor turns shorted",
            1,
            rotor.Nodes,
            new ParameterChange(rotor.Ohms, ChangeRule.MultiplyBySeverity)
        ) with
        {
            Severity = new Severity(0.7, 0.1),
        };
        yield return PartFault.Of(
            Part,
            "rotor-to-core",
            FaultKind.ShortedWinding,
            "rotor grounded",
            1,
            rotor.Nodes
        ) with
        {
            Severity = new Severity(20, 0.1),
            Paths = [new LaidPath(Part.At("R+"), Part.At("case"))],
        };
        // They wear, and stick after a winter: looked at before anything else. Common practice, no source.
        yield return brushes[0].Gone("brush-worn", "brush worn or stuck", 15) with
        {
            ComesAndGoes = true,
            Repair = new Repair(
                new RepairId(RepairTarget.Brushes, Part.Id.Text),
                Part.Name + ", brushes",
                "brushes",
                RepairKind.ReplacePart,
                Part.Place
            ),
        };
        yield return PartFault.Of(
            Part,
            "residue-lost",
            FaultKind.Feeble,
            "no residual magnetism",
            1.5,
            rotor.Nodes,
            new ParameterChange(residue, ChangeRule.Set, 0.0005)
        ) with
        {
            Repair = new Repair(
                new RepairId(RepairTarget.Residue, Part.Id.Text),
                Part.Name + ", magnetism lost",
                "flash the field",
                RepairKind.FlashField,
                Part.Place
            ),
        };
    }

    private void Add(Declaration declaration, string name, string from, string to, string volts, string ohms)
    {
        const double MillihenriesPerOhm = 1.5;
        var perThousand = figures[volts] * 1000 / figures["ratedRpm"];
        Windings.Add(
            new Winding(
                declaration,
                Part,
                name,
                from,
                to,
                (perThousand, figures[ohms], figures[ohms] * MillihenriesPerOhm)
            )
            {
                Magnetism = magnetism,
            }
        );
    }
}
