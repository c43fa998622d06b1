using Pritchel.Core.Circuits;
using Pritchel.Core.Circuits.Devices;
using Pritchel.Core.Diagnosis;
using Pritchel.Core.Faults;
using Pritchel.Core.Meters;
using Pritchel.Core.Reference;
using Pritchel.Core.Units;

namespace Pritchel.Core.Practice;

/// <summary>
/// A machine with a fault that only it knows, answering as an owner and a meter would: complaint from what is
/// heard and seen, readings with this meter's gain error, noise and rounding.
/// </summary>
public sealed class HiddenFault
{
    private readonly PredictionTable table;
    private readonly double[] parameters;
    private readonly PlantedFault planted;
    private readonly Meter meter;
    private readonly Random random;
    private readonly double gain;

    private HiddenFault(PredictionTable table, double[] parameters, PlantedFault planted, Meter meter, Random random)
    {
        this.table = table;
        this.parameters = parameters;
        this.planted = planted;
        this.meter = meter;
        this.random = random;
        gain = 1 + (meter.GainSigma * HealthyMachine.Normal(random));
    }

    /// <summary>The fault.</summary>
    public Fault Fault => planted.Fault;

    /// <summary>What its owner says.</summary>
    public required Complaint Complaint { get; init; }

    /// <summary>
    /// Hides a fault severe enough that the duty fails outright (nothing, a click, chatter); null when no severity
    /// tried does that.
    /// </summary>
    /// <param name="table">Duty and conditions; its predictions are not looked at.</param>
    /// <param name="fault">Fault to hide.</param>
    /// <param name="meter">Meter that will be used.</param>
    /// <param name="random">Source of chance.</param>
    /// <param name="widen">Factor on healthy spreads; 1 as believed.</param>
    public static HiddenFault? Hide(PredictionTable table, Fault fault, Meter meter, Random random, double widen = 1)
    {
        // Chafes, shorts and swaps need paths of their own and are not among what is believed yet.
        if (fault.Paths.Count > 0)
        {
            return null;
        }

        const int Tries = 12;
        for (var attempt = 0; attempt < Tries; attempt++)
        {
            var parameters = HealthyMachine.Draw(table.Circuit, random, widen);
            var planted = new PlantedFault(fault, random.NextDouble());
            var runner = new CaseRunner(table, 1e-9);
            var heard = runner.Begin(fault, parameters, planted.Fraction);
            if (heard is Heard.Nothing or Heard.OneClick or Heard.Chatter)
            {
                var complaint = new Complaint
                {
                    Duty = table.Duty.Id,
                    Heard = heard,
                    Lamps = [.. LampsSeen(table, runner)],
                    Failed = 3,
                    Tried = 3,
                };
                return new HiddenFault(table, parameters, planted, meter, random) { Complaint = complaint };
            }
        }

        return null;
    }

    /// <summary>Takes a reading, with noise, rounded as the display does; volts are null when the figure jumps.</summary>
    public Reading Read(ProbePair at)
    {
        var rest = table.Circuit.Setting(null);
        var duty = table.Conditions[0].Setting;
        var @case = new Case
        {
            Circuit = table.Circuit,
            Settings = at.Condition == 0 ? [duty] : [duty, rest, table.Conditions[at.Condition].Setting],
            Faults = [planted],
            Parameters = parameters,
        };
        var display = Bench.Read(@case, meter, MeterFunction.DcVolts, at.Red, at.Black);
        if (display.Jumps)
        {
            return new Reading(at, null, SymptomNow.Present);
        }

        var volts =
            (display.Value!.Value * gain)
            + (meter.Noise(new Volts(display.Value.Value)).Value * HealthyMachine.Normal(random));
        var step = meter.Step(new Volts(volts)).Value;
        return new Reading(at, Math.Round(volts / step) * step, SymptomNow.Present);
    }

    private static IEnumerable<LampSeen> LampsSeen(PredictionTable table, CaseRunner runner)
    {
        for (var c = 0; c < table.Conditions.Count; c++)
        {
            runner.Visit(c);
            foreach (var lamp in table.LampsLit(c))
            {
                var level = table.Circuit.DeviceOf(lamp).Sign(runner.State).Level;
                var look = level switch
                {
                    >= Filament.BrightFrom => LampLook.Bright,
                    >= Filament.GlowsFrom => LampLook.Dim,
                    _ => LampLook.Out,
                };
                yield return new LampSeen(lamp, c, look);
            }
        }
    }
}
