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
            return function == MeterFunction.DcVolts
                ? MeterDisplay.OfVolts(meter, new Volts(0), jumps: false)
                : ShowOhms(meter, 0, OhmRanges[0]);
        }

        return function == MeterFunction.DcVolts
            ? ReadVolts(@case, meter, red, black)
            : ReadOhms(@case, meter, red, black);
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
        var live = new CircuitState(@case.Circuit, @case.Circuit.WithMeter(red, black));
        Settle(live, @case, 0, meter.Input.Value);
        var reference = @case.Circuit.Reference;
        var most = new[] { live.Drop(red, black), live.Drop(red, reference), live.Drop(black, reference) }.Max(
            Math.Abs
        );
        if (most > FedVolts || Math.Abs(live.Drop(red, black)) > UpsettingVolts)
        {
            return MeterDisplay.Refused(
                $"Ohms are refused here: the battery feeds this circuit in this setting ({Engineering.Format(most, "V")}). Take the battery's grounded post off first."
            );
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

    private static Settlement Settle(CircuitState state, Case @case, double emf, double ohms)
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
