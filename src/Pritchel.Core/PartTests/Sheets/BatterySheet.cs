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
            "Lithium iron phosphate: neither table applies; it may switch itself off.",
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
        ];

    /// <inheritdoc/>
    public override IEnumerable<ArithmeticLine> Arithmetic(
        TestedPart tested,
        IReadOnlyDictionary<string, double> read,
        double celsius
    )
    {
        if (read.TryGetValue("rest", out var rest))
        {
            yield return new(
                $"{Volts(rest)} rested: state of charge by the BCI table",
                BatteryTables.ChargeAt(new Volts(rest)).ToString("P0", CultureInfo.InvariantCulture)
            );
        }

        if (!read.TryGetValue("loaded", out var loaded))
        {
            yield break;
        }

        yield return new(
            $"floor for the load test at {celsius.ToString("0", CultureInfo.InvariantCulture)} °C",
            Volts(LoadTest.Floor(celsius))
        );
        yield return new("over the floor by", Volts(loaded - LoadTest.Floor(celsius)));
        if (read.ContainsKey("rest"))
        {
            yield return new(
                $"({Volts(rest)} − {Volts(loaded)}) ÷ {LoadAmps(tested):0} A: inside",
                Engineering.Format((rest - loaded) / LoadAmps(tested), "Ω")
            );
        }
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
