using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>
/// A starter on its engine: volts at four points while it cranks, and amps where there is a clamp. Dragging, stalled, open and
/// starved by its cables are told apart by where the volts go.
/// </summary>
public sealed class StarterCranking : PartSheet
{
    private const string Cable = "25 mm2";
    private const double CableMetres = 1;
    private static readonly Dictionary<ControlId, PositionId> Cranking = new() { [BenchMachine.Fed] = new("fed") };

    /// <inheritdoc/>
    public override string Key => "starter";

    /// <inheritdoc/>
    public override string Name => "Starter, cranking";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => kind.Name == "starter";

    /// <inheritdoc/>
    public override bool IsAtWork => true;

    /// <inheritdoc/>
    public override string Before =>
        "On its engine, battery charged, spark or fuel cut off so that it does not start. Probes on the posts and studs themselves, not on clamps and lugs.";

    /// <inheritdoc/>
    public override string Caution =>
        "Where a hand would be near what turns, leads are clipped on first and hands are away before it cranks. Everything that turns is clear, neutral, blades off, plug leads off and clipped to ground. Ten seconds at most, a minute's rest between. A wet exhaust floods: seacock shut and reopened.";

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "Dragging may be the starter, thick oil or a stiff engine: turn it by hand with its plugs out. A drop on a cable is at one of its ends more often than in it.";

    /// <inheritdoc/>
    public override IReadOnlyList<SheetLook> Looks =>
        [
            new("cables", "a lug green, loose or warm after cranking", FaultKind.HighResistance),
            new("smell", "smell or smoke at the starter", FaultKind.Dragging, FaultKind.Stalled),
            new("slow", "it turns slowly or in jerks", FaultKind.Dragging, FaultKind.HighResistance, FaultKind.Weak),
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        [
            "While cranking 0.1 V a joint, 0.2 V a cable, 0.3 V a solenoid contact, 0.5 V the whole of one side: common practice, no source.",
            "Amps: small single 60 to 120, V-twin 100 to 250, three-cylinder diesel 150 to 350: common practice, no source.",
        ];

    /// <inheritdoc/>
    public override Machine Rig(TestedPart tested) =>
        new BenchMachine(tested)
            .Battery()
            .Switch("Start", BenchMachine.SupplyPlus, "cable-end.1", HeavyContactOhms)
            .Add("cable-end", PartKinds.Splice, null, "1")
            .Join("cable-end.1", tested.Part.At("post").Text, Cable, CableMetres)
            .Join(tested.Part.At("case").Text, "bench.bolt")
            .Join("bench.bolt", BenchMachine.SupplyMinus, Cable, CableMetres)
            .Build();

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested)
    {
        var (plus, minus) = (TerminalAddress.Of(BenchMachine.SupplyPlus), TerminalAddress.Of(BenchMachine.SupplyMinus));
        return
        [
            new("rest", "Volts at the battery's posts, at rest", DirectVolts.Instance, plus, minus)
            {
                Doubt = RestDoubtVolts,
            },
            Volts("battery", "the battery's posts", plus, minus) with
            {
                Doubt = CrankDoubtVolts,
            },
            Volts("starter", "the starter's stud to its body", At(tested, "post"), At(tested, "case")) with
            {
                Doubt = CrankDoubtVolts,
            },
            Volts("plus-side", "battery + to the starter's stud", plus, At(tested, "post")) with
            {
                How = "over 0.5 V the whole plus side is too much: then each piece",
                Doubt = DropDoubtVolts,
            },
            Volts("ground-side", "the starter's body to battery −", At(tested, "case"), minus) with
            {
                How = "over 0.5 V the whole ground side is too much",
                Doubt = DropDoubtVolts,
            },
            new("amps", "Amps in the battery's cable, cranking", ClampAmps.Instance, plus, minus)
            {
                How = "a DC clamp; leave it out where there is none",
                Setting = Cranking,
                Caution = Caution,
                Doubt = ClampDoubtAmps,
            },
            new("turns", "Does it turn the engine?", ActionSeen.Instance, At(tested, "post"), At(tested, "case"))
            {
                Setting = Cranking,
                Caution = Caution,
            },
        ];
    }

    /// <inheritdoc/>
    public override IEnumerable<PartState> States(TestedPart tested, Circuit circuit)
    {
        foreach (var own in base.States(tested, circuit))
        {
            yield return own;
        }

        // Starved: battery and cables are judged with it, since they are what it stands in. Rates: common practice, no source.
        foreach (var fault in circuit.Faults.Where(f => f.Id.Of.Owner.Part?.Text == BenchMachine.SupplyId))
        {
            yield return new PartState([fault], BatteryRate * fault.Rate)
            {
                Said = fault.Words.Replace("bench battery", "battery", StringComparison.Ordinal),
            };
        }

        foreach (
            var (fault, side) in from fault in circuit.Faults
            where fault.Kind == FaultKind.HighResistance
            let side = fault.Id.Of.Owner.Wire?.Text switch
            {
                "bench-3" => "plus side: a joint, contact or cable resistive",
                "bench-5" => "ground side: a joint, strap or cable resistive",
                _ => null,
            }
            where side is not null
            group fault by side into sides
            select (sides.First(), sides.Key)
        )
        {
            yield return new PartState([fault], JointRate) { Said = side };
        }
    }

    /// <inheritdoc/>
    public override IEnumerable<ArithmeticLine> Arithmetic(
        TestedPart tested,
        IReadOnlyDictionary<string, double> read,
        double celsius
    )
    {
        static string Volts(double volts) => Units.Engineering.Format(volts, "V");
        if (read.TryGetValue("battery", out var posts) && read.TryGetValue("starter", out var stud))
        {
            yield return new($"{Volts(posts)} − {Volts(stud)}: lost on the way there and back", Volts(posts - stud));
            if (read.TryGetValue("plus-side", out var plus) && read.TryGetValue("ground-side", out var ground))
            {
                yield return new($"of that {Volts(plus)} + {Volts(ground)} by the two sides", Volts(plus + ground));
            }
        }

        if (
            read.TryGetValue("rest", out var rest)
            && read.TryGetValue("battery", out var sagged)
            && read.TryGetValue("amps", out var amps)
            && amps > 0
        )
        {
            yield return new(
                $"({Volts(rest)} − {Volts(sagged)}) ÷ {Units.Engineering.Format(amps, "A")}: inside the battery",
                Units.Engineering.Format((rest - sagged) / amps, "Ω")
            );
        }
    }

    private const double HeavyContactOhms = 0.0006;
    private const double RestDoubtVolts = 0.05;
    private const double CrankDoubtVolts = 0.25;
    private const double DropDoubtVolts = 0.04;
    private const double ClampDoubtAmps = 8;
    private const double BatteryRate = 0.3;
    private const double JointRate = 4;

    private SheetReading Volts(string id, string where, TerminalAddress red, TerminalAddress black) =>
        new(id, $"Volts, {where}, cranking", DirectVolts.Instance, red, black)
        {
            Setting = Cranking,
            Caution = Caution,
        };
}
