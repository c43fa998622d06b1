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

    /// <summary>Share of readings taken with a slipped probe.</summary>
    private double Slips { get; init; }

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
    /// <param name="slips">Share of readings taken with a slipped probe, which then shows anything.</param>
    public static HiddenFault? Hide(
        PredictionTable table,
        Fault fault,
        Meter meter,
        Random random,
        double widen = 1,
        double slips = 0
    )
    {
        const int Tries = 12;
        for (var attempt = 0; attempt < Tries; attempt++)
        {
            var parameters = HealthyMachine.Draw(table.Circuit, random, widen);
            var planted = new PlantedFault(fault, random.NextDouble());
            var runner = new CaseRunner(table, table.Circuit.With([fault]), 1e-9);
            var heard = runner.Begin(fault, parameters, planted.Fraction);
            if (
                heard is Heard.Nothing or Heard.OneClick or Heard.Chatter
                || (heard == Heard.Slow && table.Sign != SignKind.Turns)
            )
            {
                var complaint = new Complaint
                {
                    Duty = table.Duty.Id,
                    Heard = heard,
                    Lamps = [.. LampsSeen(table, runner)],
                    Failed = 3,
                    Tried = 3,
                };
                return new HiddenFault(table, parameters, planted, meter, random)
                {
                    Complaint = complaint,
                    Slips = slips,
                };
            }
        }

        return null;
    }

    /// <summary>Takes a reading, with noise, rounded as the display does; volts are null when the figure jumps.</summary>
    public Reading Read(ProbePair at)
    {
        var condition = table.Conditions[at.Condition];
        if (Slips > 0 && random.NextDouble() < Slips)
        {
            const double Least = -2;
            const double Most = 16;
            return new Reading(at, Least + ((Most - Least) * random.NextDouble()), SymptomNow.Present);
        }

        if (condition.Quantity == Quantity.Spark)
        {
            return new Reading(at, Scale.Of(Quantity.Spark, Sparks(condition)), SymptomNow.Present);
        }

        var function = condition.Quantity switch
        {
            Quantity.Ohms => MeterFunction.Ohms,
            Quantity.Diode => MeterFunction.Diode,
            _ => MeterFunction.DcVolts,
        };
        var @case = Standing(at.Condition);
        if (condition.Quantity == Quantity.Amps)
        {
            var amps = Math.Max(0, -Outcome.Of(@case).Charges[table.Duty.Load]);
            return new Reading(at, Noisy(Quantity.Amps, amps), SymptomNow.Present);
        }

        var display = Bench.Read(@case, meter with { LeadsNulled = true }, function, at.Red, at.Black);
        if (display.Jumps)
        {
            return new Reading(at, null, SymptomNow.Present);
        }

        if (Scale.FeedsItself(condition.Quantity))
        {
            return new Reading(at, Noisy(condition.Quantity, display.Value!.Value), SymptomNow.Present);
        }

        var volts =
            (display.Value!.Value * gain)
            + (meter.Noise(new Volts(display.Value.Value)).Value * HealthyMachine.Normal(random));
        var step = meter.Step(new Volts(volts)).Value;
        return new Reading(at, Math.Round(volts / step) * step, SymptomNow.Present);
    }

    private double Noisy(Quantity quantity, double figure)
    {
        var scaled = Scale.Of(quantity, figure);
        return scaled >= Scale.Open - 0.01
            ? Scale.Open
            : Math.Clamp(
                scaled + (Scale.Noise(meter, quantity, scaled) * HealthyMachine.Normal(random)),
                0,
                Scale.Open
            );
    }

    private double Sparks(Condition condition)
    {
        var level = Outcome
            .Of(Standing(table.Conditions.ToList().IndexOf(condition)))
            .Sparks.FirstOrDefault(s => s.Part == table.Duty.Load)
            ?.Level;
        return level switch
        {
            >= 1 => 2,
            >= 0.5 => 1,
            _ => 0,
        };
    }

    /// <summary>The machine as it stands in a condition, after the duty was tried.</summary>
    private Case Standing(int index)
    {
        var condition = table.Conditions[index];
        var rest = table.Circuit.Setting(null);
        return new Case
        {
            Circuit = table.Circuit,
            Settings =
                index == 0 || condition.Off.Count > 0 || condition.Tester
                    ? [condition.Setting]
                    : [table.Conditions[0].Setting, rest, condition.Setting],
            Speeds = table.Circuit.Engines.ToDictionary(
                e => e.Id,
                e => new Rpm(Symptoms.RpmOf(e, condition.Speed)),
                StringComparer.Ordinal
            ),
            Off = condition.Off,
            SparkTester = condition.Tester,
            BatteryDisconnected = Scale.FeedsItself(condition.Quantity),
            Faults = [planted],
            Parameters = parameters,
        };
    }

    private static IEnumerable<LampSeen> LampsSeen(PredictionTable table, CaseRunner runner)
    {
        for (var c = 0; c < table.Conditions.Count; c++)
        {
            if (!table.Conditions[c].IsFree)
            {
                continue;
            }

            runner.Visit(c);
            foreach (var lamp in table.LampsLit(c))
            {
                var level = runner.State.Circuit.DeviceOf(lamp).Sign(runner.State).Level;
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
