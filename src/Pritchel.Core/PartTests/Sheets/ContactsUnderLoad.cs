using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>
/// What passes current, with current in it: volts lost over a switch, a relay, a solenoid's posts, a fuse or a breaker while a
/// bulb burns through it. A contact that beeps may lose a volt at two amps.
/// </summary>
public sealed class ContactsUnderLoad : PartSheet
{
    // How true the current stays from one to the next, and what clips and blades add between the probes: from memory.
    private const double DoubtShare = 0.03;
    private const double DoubtVolts = 0.01;

    private static readonly (string[] Terminals, (string Plus, string Minus) Coil, (string, string) Contact)[] Fed =
    [
        (["85", "86", "30", "87", "87a"], ("86", "85"), ("30", "87")),
        (["B", "M", "S", "case"], ("S", "case"), ("B", "M")),
    ];

    /// <inheritdoc/>
    public override string Key => "under-load";

    /// <inheritdoc/>
    public override string Name => "With a bulb’s current in it";

    /// <inheritdoc/>
    public override int Rank => 150;

    /// <inheritdoc/>
    public override bool IsAtWork => true;

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) =>
        (kind.Traits & (PartTraits.IsSwitched | PartTraits.PullsOut | PartTraits.Trips)) != PartTraits.None
        || FedAs(kind) is not null;

    /// <inheritdoc/>
    public override string Before =>
        "Off its plug or cables: battery plus through a fuse and a 21 W bulb to one side, its other side to battery minus. The bulb must burn bright; volts are read on the part's own blades, inside the clips.";

    /// <inheritdoc/>
    public override string Caution =>
        "A fused lead. The bulb gets hot enough to burn hands and plastics. Nothing petrol-wet near it.";

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "Two amps are not fifty: a solenoid's heavy contacts are judged by their volts while it cranks. What opens when hot or shaken passes cold and still: tap it, and warm it, with the probes on. A fuse's rating is read off it, not measured.";

    /// <inheritdoc/>
    public override IEnumerable<PartState> States(TestedPart tested, Circuit circuit) =>
        base.States(tested, circuit).Where(s => !s.Faults.Any(f => f.Kind == FaultKind.WrongPart));

    /// <inheritdoc/>
    public override IReadOnlyList<SheetLook> Looks =>
        [
            new("browned", "a blade or a holder browned by heat", FaultKind.HighResistance),
            new("green", "green or white salts between blade and clip", FaultKind.HighResistance, FaultKind.Open),
            new("loose", "a clip that no longer grips", FaultKind.HighResistance, FaultKind.Open),
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        [
            "Some hundredths of a volt over a sound contact at a bulb's two amps, a tenth at the most; a fuse in its holder the same: common practice, no source.",
        ];

    /// <inheritdoc/>
    public override Machine Rig(TestedPart tested)
    {
        var bench = new BenchMachine(tested).KnownCurrent(tested.Part, [.. Pairs(tested).Select(p => p.Pair)]);
        return (FedAs(tested.Kind) is var (plus, minus) ? bench.Coil(tested.Part, plus, minus) : bench).Build();
    }

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested) =>
        [
            .. Pairs(tested)
                .Select(p => new SheetReading(
                    $"lost-{p.Pair.From}-{p.Pair.To}",
                    $"Volts lost, {p.Pair.From} to {p.Pair.To}, {p.How}",
                    DirectVolts.Instance,
                    At(tested, p.Pair.From),
                    At(tested, p.Pair.To)
                )
                {
                    Doubt = DoubtVolts,
                    DoubtShare = DoubtShare,
                    How =
                        "2 V range or millivolts; worked three times, keep the worst; all the battery's volts there, and the bulb dark, is open",
                    Setting = new Dictionary<ControlId, PositionId>(p.Setting)
                    {
                        [BenchMachine.Current] = new($"{p.Pair.From}-{p.Pair.To}"),
                    },
                    Caution = Caution,
                }),
        ];

    /// <inheritdoc/>
    public override IEnumerable<ArithmeticLine> Arithmetic(
        TestedPart tested,
        IReadOnlyDictionary<string, double> read,
        double celsius
    )
    {
        const double BulbAmps = 2;
        return Pairs(tested)
            .Where(p => read.TryGetValue($"lost-{p.Pair.From}-{p.Pair.To}", out var volts) && double.IsFinite(volts))
            .Select(p =>
            {
                var volts = Math.Abs(read[$"lost-{p.Pair.From}-{p.Pair.To}"]);
                return new ArithmeticLine(
                    $"{p.Pair.From} to {p.Pair.To}: {Engineering.Format(volts, "V")} ÷ about {BulbAmps} A, while the bulb is bright",
                    Engineering.Format(volts / BulbAmps, "Ω")
                );
            });
    }

    private static (string Plus, string Minus)? FedAs(DeviceKind kind) =>
        Fed.Where(f => kind.Terminals.SequenceEqual(f.Terminals) && kind.Values.Any(v => v.Name == "coilOhms"))
            .Select(f => ((string, string)?)f.Coil)
            .FirstOrDefault();

    private static IEnumerable<(
        (string From, string To) Pair,
        string How,
        Dictionary<ControlId, PositionId> Setting
    )> Pairs(TestedPart tested)
    {
        if (FedAs(tested.Kind) is not null)
        {
            var contact = Fed.First(f => tested.Kind.Terminals.SequenceEqual(f.Terminals)).Contact;
            return [(contact, "coil fed", new() { [BenchMachine.Fed] = new("fed") })];
        }

        if (tested.Part.Contacts is not { Count: > 0 } contacts)
        {
            return [((tested.Part.Terminals[0].Text, tested.Part.Terminals[1].Text), "in its holder", [])];
        }

        return contacts
            .Where(c => c.ClosedIn.Count > 0)
            .Select(c =>
            {
                var control = tested.Controls.First(k => k.Id == c.Control);
                return (
                    (c.Between[0].Text, c.Between[1].Text),
                    control.Said(c.ClosedIn[0]),
                    new Dictionary<ControlId, PositionId> { [c.Control] = c.ClosedIn[0] }
                );
            })
            .DistinctBy(p => p.Item1);
    }
}
