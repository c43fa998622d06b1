using Pritchel.Core.Jobs;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation.Devices;
using Pritchel.Core.Units;

namespace Pritchel.Web.Desk;

/// <summary>Reads a figure as typed for a test, or says what is allowed.</summary>
public static class TypedFigure
{
    // No reading on these circuits can be larger; more is a slip of the finger.
    private const double MostVolts = 60;
    private const double MostOhms = 40e6;
    private const double MostAmps = 20;
    private const double MostPeak = 1000;

    /// <summary>A figure in the quantity's unit, or null with what was wrong.</summary>
    /// <param name="quantity">What was read.</param>
    /// <param name="typed">As typed.</param>
    /// <param name="error">What was wrong and what is allowed; empty when nothing was.</param>
    public static double? Read(Quantity quantity, string? typed, out string error)
    {
        var most = quantity switch
        {
            Quantity.Ohms => MostOhms,
            Quantity.Diode => 4,
            Quantity.Amps => MostAmps,
            Quantity.AcVolts or Quantity.PeakVolts => MostPeak,
            _ when Scale.IsSeen(quantity) => 2,
            _ => MostVolts,
        };
        if (!ReadingText.TryParse(typed, most, out var reading, out error))
        {
            return null;
        }

        if (reading.IsOverRange && Scale.FeedsItself(quantity))
        {
            return ReadingTaken.OpenCircuit;
        }

        if (reading.IsOverRange && quantity == Quantity.Amps)
        {
            return Scale.MostAmps;
        }

        if (reading.IsOverRange)
        {
            error = "OL on DC volts means the range is too small. Turn it up one and type the figure.";
            return null;
        }

        if (quantity is not (Quantity.Volts or Quantity.Amps) && reading.Value < 0)
        {
            error = "Ohms and the diode range never read below zero. Type 0 or more, or OL.";
            return null;
        }

        return Math.Abs(reading.Value) * (quantity == Quantity.Volts ? Math.Sign(reading.Value) : 1);
    }
}
