using Pritchel.Core.Circuits;
using Pritchel.Core.Faults;
using Pritchel.Core.Units;

namespace Pritchel.Core.Meters;

/// <summary>A fault planted in a case.</summary>
/// <param name="Fault">Which.</param>
/// <param name="Fraction">How bad, 0 mildest to 1 worst of its range.</param>
public readonly record struct PlantedFault(Fault Fault, double Fraction);

/// <summary>A machine in a certain state, waiting for probes.</summary>
public sealed record Case
{
    /// <summary>The circuit.</summary>
    public required Circuit Circuit { get; init; }

    /// <summary>Control settings in the order they were moved through; the last is the one measured in.</summary>
    public required IReadOnlyList<ControlSetting> Settings { get; init; }

    /// <summary>Faults present together.</summary>
    public IReadOnlyList<PlantedFault> Faults { get; init; } = [];

    /// <summary>Whether the battery's grounded post is off.</summary>
    public bool BatteryDisconnected { get; init; }

    /// <summary>Parameters before faults; nominal when null.</summary>
    public double[]? Parameters { get; init; }

    /// <summary>Parameters with the faults applied.</summary>
    public double[] FaultyParameters()
    {
        var values = Parameters is null ? Circuit.NominalParameters() : [.. Parameters];
        foreach (var (fault, fraction) in Faults)
        {
            fault.Apply(values, fault.Severity.At(fraction));
        }

        if (BatteryDisconnected)
        {
            var wear = Circuit.Parameters.ToList().FindIndex(p => p.Name.EndsWith("/wear", StringComparison.Ordinal));
            values[wear] = double.PositiveInfinity;
        }

        return values;
    }
}

/// <summary>Takes readings of a case with a meter, by solving the circuit with the meter in it.</summary>
public static class Bench
{
    // Above battery negative, a point counts as fed; between the probes, even this little upsets the reading.
    private const double FedVolts = 0.05;
    private const double UpsettingVolts = 0.0001;

    // Open-circuit test volts and ranges of a common meter: from memory.
    private const double TestVolts = 0.5;
    private static readonly double[] OhmRanges = [200, 2e3, 20e3, 200e3, 2e6, 20e6];

    /// <summary>What the meter shows with its red probe at one node and black at another.</summary>
    public static MeterDisplay Read(Case @case, Meter meter, MeterFunction function, int red, int black)
    {
        if (red == black)
        {
            return Shorted(meter, function);
        }

        return function switch
        {
            MeterFunction.DcVolts => ReadVolts(@case, meter, red, black),
            MeterFunction.Ohms => ReadOhms(@case, meter, red, black),
            MeterFunction.Beep => Beep(meter, ReadOhms(@case, meter, red, black)),
            MeterFunction.Diode => ReadDiode(@case, meter, red, black),
            MeterFunction.DcAmps => ReadAmps(@case, meter, red, black),
            _ => TestLamp.Read(@case, meter, red, black),
        };
    }

    /// <summary>Both probes on one piece of metal.</summary>
    private static MeterDisplay Shorted(Meter meter, MeterFunction function) =>
        function switch
        {
            MeterFunction.Ohms => ShowOhms(meter, meter.LeadsNulled ? 0 : meter.Leads.Value, OhmRanges[0]),
            MeterFunction.Beep => Beep(meter, ShowOhms(meter, 0, OhmRanges[0])),
            MeterFunction.DcAmps => new MeterDisplay(0, "0 A", null, false),
            MeterFunction.TestLamp => new MeterDisplay(0, "out", null, false),
            _ => MeterDisplay.OfVolts(meter, new Volts(0), jumps: false),
        };

    private static MeterDisplay Beep(Meter meter, MeterDisplay ohms) =>
        ohms.Refusal is not null ? ohms
        : ohms.Value < meter.BeepsUnder.Value ? ohms with { Shown = "beep" }
        : ohms with { Shown = "silent" };

    private static MeterDisplay ReadDiode(Case @case, Meter meter, int red, int black)
    {
        if (Live(@case, meter, red, black) is { } refused)
        {
            return refused;
        }

        // About 1 mA into a short, 2.8 V open; anything over 2 V shows as over-range: from memory.
        const double OpenVolts = 2.8;
        const double InsideOhms = 2800;
        const double MostShown = 2;
        var state = new CircuitState(@case.Circuit, @case.Circuit.WithMeter(red, black));
        Settle(state, @case, OpenVolts, InsideOhms);
        var volts = state.Drop(red, black);
        return Math.Abs(volts) > MostShown
            ? new MeterDisplay(double.PositiveInfinity, "OL", null, false)
            : MeterDisplay.OfVolts(meter, new Volts(volts), jumps: false);
    }

    private static MeterDisplay ReadAmps(Case @case, Meter meter, int red, int black)
    {
        var state = new CircuitState(@case.Circuit, @case.Circuit.WithMeter(red, black));
        var settlement = Settle(state, @case, 0, meter.AmpsBurden.Value);
        var amps = state.Drop(red, black) / meter.AmpsBurden.Value;
        return Math.Abs(amps) > meter.AmpsFuse.Value
            ? MeterDisplay.Refused(
                $"That would drive {Engineering.Format(Math.Abs(amps), "A")} through the meter and blow its {Engineering.Format(meter.AmpsFuse.Value, "A")} fuse. Amps are read in series with a load, never across a feed."
            )
            : new MeterDisplay(amps, Engineering.Format(amps, "A"), null, settlement == Settlement.Chatters);
    }

    private static MeterDisplay ReadVolts(Case @case, Meter meter, int red, int black)
    {
        var state = new CircuitState(@case.Circuit, @case.Circuit.WithMeter(red, black));
        var settlement = Settle(state, @case, 0, meter.Input.Value);
        var volts = new Volts(state.Drop(red, black));
        return MeterDisplay.OfVolts(meter, volts, settlement == Settlement.Chatters);
    }

    private static MeterDisplay ReadOhms(Case @case, Meter meter, int red, int black)
    {
        if (Live(@case, meter, red, black) is { } refused)
        {
            return refused;
        }

        foreach (var range in OhmRanges)
        {
            var inside = range * 5;
            var state = new CircuitState(@case.Circuit, @case.Circuit.WithMeter(red, black));
            Settle(state, @case, TestVolts, inside);
            var volts = state.Drop(red, black);
            var ohms = volts >= TestVolts ? double.PositiveInfinity : volts / ((TestVolts - volts) / inside);
            var shown = ohms + (meter.LeadsNulled ? 0 : meter.Leads.Value);
            if (shown < range)
            {
                return ShowOhms(meter, shown, range);
            }
        }

        return new MeterDisplay(double.PositiveInfinity, "OL", null, false);
    }

    /// <summary>Refusal of anything that feeds a current of its own where the battery feeds one already; null where it may.</summary>
    private static MeterDisplay? Live(Case @case, Meter meter, int red, int black)
    {
        var live = new CircuitState(@case.Circuit, @case.Circuit.WithMeter(red, black));
        Settle(live, @case, 0, meter.Input.Value);
        var reference = @case.Circuit.Reference;
        var most = new[] { live.Drop(red, black), live.Drop(red, reference), live.Drop(black, reference) }.Max(
            Math.Abs
        );
        return most > FedVolts || Math.Abs(live.Drop(red, black)) > UpsettingVolts
            ? MeterDisplay.Refused(
                $"Refused here: the battery feeds this circuit in this setting ({Engineering.Format(most, "V")}). Take the battery's grounded post off first."
            )
            : null;
    }

    internal static Settlement Settle(CircuitState state, Case @case, double emf, double ohms)
    {
        state.Begin(@case.FaultyParameters());
        state.ConnectMeter(emf, ohms);
        var settlement = Settlement.Settled;
        foreach (var setting in @case.Settings)
        {
            settlement = state.Move(setting);
        }

        return settlement;
    }

    private static MeterDisplay ShowOhms(Meter meter, double ohms, double range)
    {
        var step = range / meter.DisplayCounts;
        var rounded = Math.Round(ohms / step) * step;
        return new MeterDisplay(ohms, Engineering.Format(rounded, "Ω"), null, false);
    }
}
