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
