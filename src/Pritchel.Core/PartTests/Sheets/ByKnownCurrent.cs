using Pritchel.Core.Identity;
using Pritchel.Core.Observables;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>
/// Low ohms by a known current and volts: a bulb's two amps through a winding tell hundredths of an ohm where two leads guess.
/// </summary>
internal static class ByKnownCurrent
{
    // How true the current stays from one to the next, and what lies between the windings drawn: from memory.
    private const double DoubtShare = 0.03;

    private const string Caution =
        "Engine stopped, everything unplugged. The bulb and its lead get hot: seconds only. Red lead back to the volts jack at once after the amps: in that jack across a battery it is a blown fuse or a fire.";

    /// <summary>Volts across each pair with the current in it, and the amps, in series with the first.</summary>
    public static IEnumerable<SheetReading> Readings(TestedPart tested, IReadOnlyList<(string From, string To)> pairs)
    {
        foreach (var (from, to) in pairs)
        {
            yield return new(
                $"current-{from}-{to}",
                $"Volts across {from} to {to}, a 21 W bulb's current in it",
                DirectVolts.Instance,
                tested.Part.At(from),
                tested.Part.At(to)
            )
            {
                DoubtShare = DoubtShare,
                How = "2 V range or millivolts, probes inside the clips of the bulb's leads",
                Setting = Set($"{from}-{to}"),
                Caution = Caution,
            };
        }

        yield return new(
            "current-amps",
            $"Amps of that bulb, in series with {pairs[0].From} to {pairs[0].To}",
            DirectAmps.Instance,
            TerminalAddress.Of(BenchMachine.CurrentId + ".p"),
            tested.Part.At(pairs[0].From)
        )
        {
            How = "10 A jack; read it again after the volts, a battery sags",
            Setting = Set(BenchMachine.AmpsPosition),
            Caution = Caution,
        };
    }

    /// <summary>Whether a reading is volts across a winding with a known current in it.</summary>
    public static bool Is(SheetReading reading) =>
        reading.Observable is DirectVolts && reading.Setting.ContainsKey(BenchMachine.Current);

    /// <summary>Volts over amps, pair by pair.</summary>
    public static IEnumerable<ArithmeticLine> Arithmetic(
        IReadOnlyDictionary<string, double> read,
        IReadOnlyList<(string From, string To)> pairs
    )
    {
        if (!read.TryGetValue("current-amps", out var amps) || !double.IsFinite(amps) || amps <= 0)
        {
            yield break;
        }

        foreach (var (from, to) in pairs)
        {
            if (read.TryGetValue($"current-{from}-{to}", out var volts) && double.IsFinite(volts))
            {
                yield return new(
                    $"{from} to {to}: {Units.Engineering.Format(volts, "V")} ÷ {Units.Engineering.Format(amps, "A")}",
                    Units.Engineering.Format(volts / amps, "Ω")
                );
            }
        }
    }

    private static Dictionary<ControlId, PositionId> Set(string position) =>
        new() { [BenchMachine.Current] = new(position) };
}
