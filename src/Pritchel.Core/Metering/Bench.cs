using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Metering;

/// <summary>Takes readings of a case with a meter, by solving the circuit with the meter in it.</summary>
public static class Bench
{
    // Above battery negative, a point counts as fed; between the probes, even this little upsets the reading.
    private const double FedVolts = 0.05;
    private const double UpsettingVolts = 0.0001;

    /// <summary>Past this the diode range shows OL: from memory, as common meters do.</summary>
    public const double MostDiodeVolts = 2;

    /// <summary>What the meter shows with its red probe at one node and black at another.</summary>
    /// <param name="case">The machine as it stands.</param>
    /// <param name="meter">The meter.</param>
    /// <param name="function">What it is switched to.</param>
    /// <param name="red">Node under the red probe.</param>
    /// <param name="black">Node under the black probe.</param>
    /// <param name="range">Full scale it is set to, in volts or ohms; it ranges by itself when null.</param>
    public static MeterDisplay Read(
        Case @case,
        Meter meter,
        MeterFunction function,
        int red,
        int black,
        double? range = null
    )
    {
        if (!meter.Has(function))
        {
            return MeterDisplay.Refused(
                function == MeterFunction.PeakVolts
                    ? "Peaks of ignition windings need a peak-reading adapter, which this meter is without."
                    : $"{meter.Name} has no such function."
            );
        }

        if (red == black)
        {
            return Shorted(meter, function);
        }

        return function switch
        {
            MeterFunction.DcVolts => ReadVolts(@case, meter, red, black, range),
            MeterFunction.AcVolts => Alternating.Read(@case, meter, red, black, range),
            MeterFunction.PeakVolts => Alternating.ReadPeak(@case, meter, red, black, range),
            MeterFunction.Ohms => ReadOhms(@case, meter, red, black, range),
            MeterFunction.Beep => Beep(meter, ReadOhms(@case, meter, red, black, null)),
            MeterFunction.Diode => ReadDiode(@case, meter, red, black),
            MeterFunction.DcAmps => ReadAmps(@case, meter, red, black),
            _ => TestLamp.Read(@case, meter, red, black),
        };
    }

    /// <summary>Both probes on one piece of metal.</summary>
    private static MeterDisplay Shorted(Meter meter, MeterFunction function) =>
        function switch
        {
            MeterFunction.Ohms => ShowOhms(meter, meter.LeadsNulled ? 0 : meter.Leads.Value, meter.OhmsRanges[0]),
            MeterFunction.Beep => Beep(meter, ShowOhms(meter, 0, meter.OhmsRanges[0])),
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

        var (state, _) = Connected(@case, red, black, meter.DiodeSource.Value, meter.DiodeInside.Value);
        var volts = state.Drop(red, black);
        return Math.Abs(volts) > MostDiodeVolts
            ? MeterDisplay.Over
            : MeterDisplay.OfVolts(meter, new Volts(volts), false);
    }

    private static MeterDisplay ReadAmps(Case @case, Meter meter, int red, int black)
    {
        const double StillAmps = 0.05;
        var (state, settlement) = Connected(@case, red, black, 0, meter.AmpsBurden.Value);
        var amps = state.Drop(red, black) / meter.AmpsBurden.Value;
        return Math.Abs(amps) > meter.AmpsFuse.Value
            ? MeterDisplay.Refused(
                $"That would drive {Engineering.Format(Math.Abs(amps), "A")} through the meter and blow its {Engineering.Format(meter.AmpsFuse.Value, "A")} fuse. Amps are read in series with a load, never across a feed."
            )
            : new MeterDisplay(
                amps,
                Engineering.Format(amps, "A"),
                null,
                Jumps(state, settlement, red, black, StillAmps * meter.AmpsBurden.Value)
            );
    }

    private static MeterDisplay ReadVolts(Case @case, Meter meter, int red, int black, double? range)
    {
        const double StillVolts = 0.02;
        var (state, settlement) = Connected(@case, red, black, 0, meter.Input.Value);
        var volts = new Volts(state.Drop(red, black));
        return MeterDisplay.OfVolts(
            meter,
            volts,
            Jumps(state, settlement, red, black, StillVolts),
            range,
            alternating: false
        );
    }

    /// <summary>Whether a figure comes and goes with what chatters, rather than standing beside it.</summary>
    private static bool Jumps(CircuitState state, Settlement settlement, int red, int black, double still)
    {
        const double Share = 0.01;
        if (settlement != Settlement.Chatters)
        {
            return false;
        }

        var (least, most) = state.OverRound(() => state.Drop(red, black));
        return !(most - least < Math.Max(still, Share * Math.Max(Math.Abs(least), Math.Abs(most))));
    }

    private static MeterDisplay ReadOhms(Case @case, Meter meter, int red, int black, double? only)
    {
        if (Live(@case, meter, red, black) is { } refused)
        {
            return refused;
        }

        var source = meter.OhmsSource.Value;
        foreach (var range in only is { } set ? [set] : meter.OhmsRanges)
        {
            var inside = range * 5;
            var (state, _) = Connected(@case, red, black, source, inside);
            var volts = state.Drop(red, black);
            var ohms = volts >= source ? double.PositiveInfinity : volts / ((source - volts) / inside);
            var shown = ohms + (meter.LeadsNulled ? 0 : meter.Leads.Value);
            if (shown < range)
            {
                return ShowOhms(meter, shown, range);
            }
        }

        return MeterDisplay.Over;
    }

    /// <summary>The case settled with a meter connected: its own e.m.f. behind its resistance.</summary>
    internal static (CircuitState State, Settlement Settlement) Connected(
        Case @case,
        int red,
        int black,
        double emf,
        double ohms
    )
    {
        var wired = @case.Wired;
        var state = new CircuitState(wired, wired.WithMeter(red, black));
        return (state, @case.Settle(state, () => state.ConnectMeter(emf, ohms)));
    }

    /// <summary>Refusal of anything that feeds a current of its own where the battery feeds one already; null where it may.</summary>
    private static MeterDisplay? Live(Case @case, Meter meter, int red, int black)
    {
        if (@case.Speeds.Values.Any(s => s.Value > 0))
        {
            return MeterDisplay.Refused("Refused here: the engine turns and feeds this circuit. Stop it first.");
        }

        var (live, _) = Connected(@case, red, black, 0, meter.Input.Value);
        var reference = @case.Circuit.Reference;
        var most = new[] { live.Drop(red, black), live.Drop(red, reference), live.Drop(black, reference) }.Max(
            Math.Abs
        );
        return most > FedVolts || Math.Abs(live.Drop(red, black)) > UpsettingVolts
            ? MeterDisplay.Refused(
                $"Refused here: {Feeding(@case, live)} feeds this circuit in this setting ({Engineering.Format(most, "V")}). Take the battery's grounded post off first."
            )
            : null;
    }

    /// <summary>Which parts drive current now, by name.</summary>
    private static string Feeding(Case @case, CircuitState state)
    {
        var machine = @case.Circuit.Machine;
        var feeding = machine
            .Parts.Where(p => PartKinds.IsBattery(p.Kind))
            .Where(p => state.Drop(@case.Circuit.NodeOf(p.At("+")), @case.Circuit.NodeOf(p.At("-"))) > FedVolts)
            .Select(p => p.Name)
            .ToList();
        return feeding.Count == 0 ? "something" : string.Join(" and ", feeding);
    }

    private static MeterDisplay ShowOhms(Meter meter, double ohms, double range)
    {
        var step = range / meter.DisplayCounts;
        var rounded = Math.Round(ohms / step) * step;
        return new MeterDisplay(ohms, Engineering.Format(rounded, "Ω"), null, false)
        {
            Doubt = (ohms * meter.OhmsAccuracyPercent / 100) + (meter.AccuracyCounts * step),
        };
    }
}
