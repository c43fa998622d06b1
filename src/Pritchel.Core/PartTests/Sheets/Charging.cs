using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>What a regulator and an alternator share when they are judged running: rise, speed, load and state of charge, together.</summary>
public abstract class Charging : PartSheet
{
    private const double LampOhms = 2.6;

    // How often it is the battery, for a part of the charger's own faults together: common practice, no source.
    private const double BatteryRate = 3;
    private static readonly Dictionary<ControlId, PositionId> Off = new() { [BenchMachine.Fed] = new("off") };
    private static readonly Dictionary<ControlId, PositionId> Loaded = new() { [BenchMachine.Fed] = new("fed") };

    // How long it rested; how steady a throttle is held, and what lies between the chargers drawn: from memory.
    private const double RestDoubtVolts = 0.08;
    private const double RunningDoubtVolts = 0.15;

    /// <inheritdoc/>
    public override bool IsAtWork => true;

    /// <inheritdoc/>
    public override string Before =>
        "On its engine, everything plugged. Probes on the battery's posts. Rest it a few minutes first with a lamp on for the first of them: a surface charge reads as a good battery.";

    /// <inheritdoc/>
    public override string Caution =>
        "The engine runs: hand stop ready, belts and blades clear, exhaust outdoors. Never take the battery off while it runs.";

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "One school is content when the meter rises a few tenths, the other wants 13.8 V or more: a flat battery holds an honest source at 12.9 V for a while, a full one that stays at 12.8 V is not being charged. What fails hot reads well cold.";

    /// <inheritdoc/>
    public override IReadOnlyList<SheetLook> Looks =>
        [
            new("plugs", "a plug browned, green or not home", FaultKind.Open, FaultKind.HighResistance),
            new("fins", "its metal not bolted to clean metal", FaultKind.Overcharging, FaultKind.Open),
            new("battery", "battery wet about its vents, or smelling of eggs", FaultKind.Overcharging),
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        [
            "Held at 13.8 to 14.8 V, over 15 V overcharges: common practice, no source; the battery's maker sets its own limits.",
        ];

    /// <summary>Puts the part on the running bench, its output on a battery that is grounded.</summary>
    protected abstract BenchMachine Running(TestedPart tested);

    /// <summary>What else is read with the key on and the engine standing; none for most.</summary>
    protected virtual IEnumerable<SheetReading> Standing(TestedPart tested) => [];

    /// <summary>What else is read at 3000 rpm; none for most.</summary>
    protected virtual IEnumerable<SheetReading> AtSpeed(TestedPart tested) => [];

    /// <summary>States of what it runs with, each with how often.</summary>
    protected virtual IEnumerable<PartState> Beside(Circuit circuit) => [];

    /// <inheritdoc/>
    public override Machine Rig(TestedPart tested) =>
        Running(tested)
            .Add("bench-load", "load", BenchMachine.Value("ohms", LampOhms), "+", "-")
            .Switch("Lamps", BenchMachine.SupplyPlus, "bench-load.+")
            .Join("bench-load.-", BenchMachine.SupplyMinus)
            .Grounded()
            .Build();

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested) =>
        [
            Posts("rest", "at rest, engine stopped", DutySpeed.Rest, Off) with
            {
                Doubt = RestDoubtVolts,
            },
            .. Standing(tested),
            Posts("idle", "at idle, lamps off", DutySpeed.Idle, Off),
            Posts("speed", "at 3000 rpm, lamps off", DutySpeed.Work, Off),
            Posts("loaded", "at 3000 rpm, lamps on", DutySpeed.Work, Loaded),
            .. AtSpeed(tested).Select(r => r with { Speed = DutySpeed.Work, Setting = Off, Caution = Caution }),
        ];

    /// <inheritdoc/>
    public override IEnumerable<PartState> States(TestedPart tested, Circuit circuit) =>
        // Diodes of one kind that fail alike read alike.
        base.States(tested, circuit)
            .GroupBy(s => s.Words, StringComparer.Ordinal)
            .Select(g => g.First() with { Rate = g.Sum(s => s.Rate) })
            .Concat(Beside(circuit))
            .Concat(
                circuit
                    .Faults.Where(f =>
                        f.Id.Of.Owner.Part?.Text == BenchMachine.SupplyId && f.Kind is FaultKind.Flat or FaultKind.Weak
                    )
                    .Select(f => new PartState([f], BatteryRate)
                    {
                        Said =
                            f.Words.Replace("bench battery", "battery", StringComparison.Ordinal) + ": judge it first",
                    })
            );

    /// <inheritdoc/>
    public override IEnumerable<ArithmeticLine> Arithmetic(
        TestedPart tested,
        IReadOnlyDictionary<string, double> read,
        double celsius
    )
    {
        static string Volts(double volts) => Units.Engineering.Format(volts, "V");
        if (!read.TryGetValue("rest", out var rest))
        {
            yield break;
        }

        yield return new(
            $"{Volts(rest)} rested: state of charge by the BCI table",
            Handbook
                .BatteryTables.ChargeAt(new Units.Volts(rest))
                .ToString("P0", System.Globalization.CultureInfo.InvariantCulture)
        );
        foreach (var (id, words) in new[] { ("idle", "idle"), ("speed", "speed"), ("loaded", "speed with lamps on") })
        {
            if (read.TryGetValue(id, out var volts))
            {
                yield return new($"rise at {words}: {Volts(volts)} − {Volts(rest)}", Volts(volts - rest));
            }
        }
    }

    private SheetReading Posts(string id, string when, DutySpeed speed, Dictionary<ControlId, PositionId> setting) =>
        new(
            id,
            $"Volts at the battery's posts, {when}",
            DirectVolts.Instance,
            TerminalAddress.Of(BenchMachine.SupplyPlus),
            TerminalAddress.Of(BenchMachine.SupplyMinus)
        )
        {
            Speed = speed,
            Setting = setting,
            Caution = speed == DutySpeed.Rest ? null : Caution,
            Doubt = RunningDoubtVolts,
        };
}

/// <summary>A permanent-magnet stator's regulator, running.</summary>
public sealed class RegulatorRunning : Charging
{
    // Chopped by the regulator, read by a meter that averages, at about that speed: many volts or few is all it tells.
    private const double LegsDoubtVolts = 5;

    // One leg or the whole winding, for a part of the regulator's own faults together: common practice, no source.
    private const double StatorRate = 3;

    /// <inheritdoc/>
    public override string Key => "regulator";

    /// <inheritdoc/>
    public override string Name => "Regulator, running";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => Stator(kind) is not null;

    /// <inheritdoc/>
    protected override BenchMachine Running(TestedPart tested)
    {
        var (stator, ends) = Stator(tested.Kind)!.Value;
        var bench = new BenchMachine(tested)
            .Battery()
            .Add("stator", stator, null, [.. DeviceKinds.Named(stator)!.Terminals])
            .Join(tested.Part.At("dc").Text, BenchMachine.SupplyPlus)
            .Join(tested.Part.At("case").Text, "bench.bolt");
        if (tested.Part.Terminals.Any(t => t.Text == "sense"))
        {
            bench.Join(tested.Part.At("sense").Text, BenchMachine.SupplyPlus);
        }

        if (DeviceKinds.Named(stator)!.Terminals.Contains("case"))
        {
            bench.Join("stator.case", "bench.bolt");
        }

        foreach (var (winding, leg) in ends)
        {
            bench.Join($"stator.{winding}", tested.Part.At(leg).Text);
        }

        return bench;
    }

    /// <inheritdoc/>
    protected override IEnumerable<SheetReading> AtSpeed(TestedPart tested)
    {
        var legs = Stator(tested.Kind)!.Value.Ends.Select(e => e.Item2).ToList();
        var (red, black) = (legs[0], legs.Count > 1 && legs[1] != "lamp" ? legs[1] : "case");
        yield return new(
            "legs",
            $"AC volts at its plug, back-probed, {red} to {black}, at 3000 rpm",
            AlternatingVolts.Instance,
            At(tested, red),
            At(tested, black)
        )
        {
            How =
                "plugged; many volts here and none at the battery is the regulator, none here the winding or its plug",
        };
    }

    /// <inheritdoc/>
    protected override IEnumerable<PartState> Beside(Circuit circuit)
    {
        var faults = circuit
            .Faults.Where(f => f.Id.Of.Owner.Part?.Text == "stator" && f.Kind == FaultKind.Open)
            .ToList();
        return faults
            .Take(1)
            .Select(f => new PartState([f], StatorRate) { Said = "a leg of its winding, or a plug on the way, open" });
    }

    /// <summary>Winding that a kind of regulator stands behind, and which of its ends goes to which leg.</summary>
    private static (string Kind, (string, string)[] Ends)? Stator(DeviceKind kind) =>
        kind.Name switch
        {
            "regulator-3" or "series-regulator-3" => ("stator-3", [("a", "a"), ("b", "b"), ("c", "c")]),
            "regulator-1" => ("stator-1", [("a", "a"), ("b", "b")]),
            "regulator-half-wave" => ("charge-winding", [("out", "ac")]),
            "regulator-tapped" => ("tapped-winding", [("out", "ac"), ("tap", "lamp")]),
            _ => null,
        };
}

/// <summary>An alternator with a field, running: its lamp circuit standing, then volts by speed and load.</summary>
public sealed class AlternatorRunning : Charging
{
    /// <inheritdoc/>
    public override string Key => "alternator";

    /// <inheritdoc/>
    public override string Name => "Alternator, running";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => kind.Name == "alternator";

    /// <inheritdoc/>
    protected override BenchMachine Running(TestedPart tested) =>
        new BenchMachine(tested)
            .Battery()
            .Join(tested.Part.At("B+").Text, BenchMachine.SupplyPlus)
            .Join(tested.Part.At("case").Text, "bench.bolt")
            .Add("charge-lamp", "lamp", null, "+", "-")
            .Join(BenchMachine.SupplyPlus, "charge-lamp.+")
            .Join("charge-lamp.-", tested.Part.At("D+").Text);

    /// <inheritdoc/>
    protected override IEnumerable<SheetReading> Standing(TestedPart tested) =>
        [
            new(
                "field-volts",
                "Volts, D+ to its body, key on, engine standing",
                DirectVolts.Instance,
                At(tested, "D+"),
                At(tested, "case")
            )
            {
                How =
                    "a volt or two with the lamp lit: field sound; battery volts and a dark lamp: field open; nothing and a dark lamp: lamp or its feed",
            },
            new(
                "field-ohms",
                "Ohms, D+ to its body, its lead off",
                DeadOhms.Instance,
                At(tested, "D+"),
                At(tested, "case")
            )
            {
                How = "turn it by hand, keep the worst: brushes on their rings",
            },
        ];

    /// <inheritdoc/>
    protected override IEnumerable<PartState> Beside(Circuit circuit) =>
        circuit
            .Faults.Where(f => f.Id.Of.Owner.Part?.Text == "charge-lamp" && f.Kind == FaultKind.Open)
            .Take(1)
            .Select(f => new PartState([f], LampRate) { Said = "charge lamp or its feed open" });

    private const double LampRate = 2;
}
