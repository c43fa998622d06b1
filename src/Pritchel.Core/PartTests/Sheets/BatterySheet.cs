using System.Globalization;
using Pritchel.Core.Faults;
using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>A battery: rested volts, and volts under half its cold-cranking amps.</summary>
public sealed class BatterySheet : PartSheet
{
    // How long it rested and how warm it is; how true the load is and when one looks: from memory.
    private const double RestDoubtVolts = 0.04;
    private const double LoadDoubtVolts = 0.15;

    /// <inheritdoc/>
    public override string Key => "battery";

    /// <inheritdoc/>
    public override string Name => "Battery";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => kind.Traits.HasFlag(PartTraits.StoresCharge);

    /// <inheritdoc/>
    public override string Before =>
        "Grounded post off, at rest four hours since it was charged or run, or its surface charge taken off with a lamp for some minutes. Charge it to 12.4 V before the load test.";

    /// <inheritdoc/>
    public override string Caution =>
        "Hydrogen: no spark near it; the load is switched on and off at its own switch, with air moving. Eyes covered, ring and watch off. A frozen battery is not loaded and not charged.";

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "A battery that passes warm may fail at frost. Joints at its posts are not in these readings.";

    /// <inheritdoc/>
    public override IReadOnlyList<SheetLook> Looks =>
        [
            new("case", "case swollen or cracked"),
            new("posts", "posts green or loose"),
            new("cell", "one cell dry, or bubbling alone under load", FaultKind.Weak, FaultKind.Flat),
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        [
            "Rested flooded battery: 12.65 V full, 12.45 three quarters, 12.24 half, 12.06 a quarter, 11.89 flat (BCI, from memory).",
            "Load test: half the cold-cranking amps for 15 s, floor by temperature (BCI practice, from memory). Cold-cranking amps: SAE J537.",
            "Glass mat 12.85 V full, 12.6 three quarters, 12.3 half; gel near it (from memory).",
            "Holds about a seventh of its cold-cranking amps in Ah; while it cranks no less than the load test's floor: common practice, no source.",
            "Standing drain 10 to 50 mA with a clock or a module, none to speak of without: common practice, no source.",
            "Lithium iron phosphate: neither table applies, 13.2 V rested may be anything from a quarter to full; it may switch itself off.",
        ];

    /// <inheritdoc/>
    public override TestedPart At(TestedPart tested, double celsius) =>
        tested.Kind.Values.FirstOrDefault(v => v.Name == "celsius") is not { } warmth
            ? tested
            : tested with
            {
                Part = tested.Part with
                {
                    Values = new Dictionary<string, double>(
                        tested.Part.Values ?? new Dictionary<string, double>(),
                        StringComparer.Ordinal
                    )
                    {
                        [warmth.Name] = Math.Clamp(celsius, warmth.Least, warmth.Most),
                    },
                },
            };

    /// <inheritdoc/>
    public override Machine Rig(TestedPart tested) =>
        new BenchMachine(tested).Load(tested.Part, "+", "-", LoadOhms(tested)).Build();

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested) =>
        [
            new("rest", "Volts at rest", DirectVolts.Instance, At(tested, "+"), At(tested, "-"))
            {
                How = "on the lead of the posts, not on the clamps",
                Doubt = RestDoubtVolts,
            },
            new(
                "loaded",
                $"Volts under {LoadAmps(tested):0} A, at the end of 15 s",
                DirectVolts.Instance,
                At(tested, "+"),
                At(tested, "-")
            )
            {
                How = "half its cold-cranking amps, from a load with its own switch",
                Setting = new Dictionary<ControlId, PositionId> { [BenchMachine.Fed] = new("fed") },
                Caution = Caution,
                Doubt = LoadDoubtVolts,
            },
            new(
                "lamp",
                $"Volts with a 55 W lamp on it, about {LampAmps:0.0} A",
                DirectVolts.Instance,
                At(tested, "+"),
                At(tested, "-")
            )
            {
                How = "after ten seconds; with the load test it gives what is inside, surface charge left out",
                IsNoted = true,
            },
            new(
                "cranking",
                "Least volts while it cranks its own engine",
                DirectVolts.Instance,
                At(tested, "+"),
                At(tested, "-")
            )
            {
                How = "on the posts, the meter's MIN/MAX where it has one; ten seconds at the most",
                Caution =
                    "Everything that turns is clear, neutral, blades off, plug leads off and clipped to ground: the engine must not start.",
                IsNoted = true,
            },
            new(
                "drain",
                "Standing drain, in series at its grounded post",
                DirectAmps.Instance,
                TerminalAddress.Of(BenchMachine.Ground),
                At(tested, "-")
            )
            {
                How = "on its machine, key off and out, everything shut; after the modules have gone to sleep",
                Caution =
                    "Never crank or switch anything on through the meter. 10 A jack first; red lead back to volts at once after.",
                IsNoted = true,
            },
        ];

    /// <inheritdoc/>
    public override IEnumerable<ArithmeticLine> Arithmetic(
        TestedPart tested,
        IReadOnlyDictionary<string, double> read,
        double celsius
    )
    {
        var holds = BatteryTables.HoldsAbout(new Amps(2 * LoadAmps(tested))).Value;
        double? charge =
            read.TryGetValue("rest", out var rest) && double.IsFinite(rest) && !IsLithium(tested)
                ? IsGlassMat(tested)
                    ? BatteryTables.GlassMatChargeAt(new Volts(rest))
                    : BatteryTables.ChargeAt(new Volts(rest))
                : null;
        if (charge is { } share)
        {
            yield return new(
                $"{Volts(rest)} rested: state of charge{(IsGlassMat(tested) ? ", glass mat or gel" : " by the BCI table")}",
                share.ToString("P0", CultureInfo.InvariantCulture)
            );
            yield return new(
                $"to be charged: {(1 - share).ToString("P0", CultureInfo.InvariantCulture)} of about {holds:0} Ah, and a fifth for what charging loses",
                $"{(1 - share) * holds * ChargingLoses:0} Ah"
            );
        }

        if (read.TryGetValue("drain", out var drain) && double.IsFinite(drain) && drain > 0)
        {
            yield return new(
                $"{Engineering.Format(drain, "A")} out of about {(charge ?? 1) * holds:0} Ah: too flat to crank, at half of it, after",
                Lasts((charge ?? 1) * holds / 2 / drain)
            );
        }

        if (read.TryGetValue("cranking", out var cranking) && double.IsFinite(cranking))
        {
            yield return new(
                $"{Volts(cranking)} cranking, against the least at {celsius.ToString("0", CultureInfo.InvariantCulture)} °C of {Volts(LoadTest.Floor(celsius))}",
                cranking >= LoadTest.Floor(celsius)
                    ? "enough"
                    : "too little: battery, its joints, or a starter that drags"
            );
        }

        if (!read.TryGetValue("loaded", out var loaded) || !double.IsFinite(loaded))
        {
            yield break;
        }

        yield return new(
            $"floor for the load test at {celsius.ToString("0", CultureInfo.InvariantCulture)} °C",
            Volts(LoadTest.Floor(celsius))
        );
        yield return new("over the floor by", Volts(loaded - LoadTest.Floor(celsius)));
        if (read.TryGetValue("lamp", out var lamp) && double.IsFinite(lamp))
        {
            yield return new(
                $"({Volts(lamp)} − {Volts(loaded)}) ÷ ({LoadAmps(tested):0} − {LampAmps:0.0}) A: inside, by two loads",
                Engineering.Format((lamp - loaded) / (LoadAmps(tested) - LampAmps), "Ω")
            );
        }
        else if (read.ContainsKey("rest"))
        {
            yield return new(
                $"({Volts(rest)} − {Volts(loaded)}) ÷ {LoadAmps(tested):0} A: inside",
                Engineering.Format((rest - loaded) / LoadAmps(tested), "Ω")
            );
        }
    }

    // What goes in and does not come out again: common practice, no source.
    private const double ChargingLoses = 1.2;

    // A 55 W lamp at what a loaded battery holds: arithmetic.
    private const double LampAmps = 4.5;

    private static bool IsGlassMat(TestedPart tested) => tested.Part.Kind == PartKinds.AgmBattery;

    private static bool IsLithium(TestedPart tested) => tested.Part.Kind == PartKinds.LithiumBattery;

    private static string Lasts(double hours)
    {
        const double Day = 24;
        const double Long = 90 * Day;
        return hours < 2 * Day ? $"about {hours:0} hours"
            : hours > Long ? "more than three months"
            : $"about {hours / Day:0} days";
    }

    private static string Volts(double volts) => volts.ToString("0.00", CultureInfo.InvariantCulture) + " V";

    private static double LoadAmps(TestedPart tested) =>
        (
            tested.Part.Values?.GetValueOrDefault("coldCrankingAmps") is { } given and > 0
                ? given
                : tested.Kind.Values.First(v => v.Name == "coldCrankingAmps").Default
        ) / 2;

    // About what its posts hold under that load.
    private static double LoadOhms(TestedPart tested) => 10.4 / LoadAmps(tested);
}
