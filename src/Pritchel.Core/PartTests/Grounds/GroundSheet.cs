using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.PartTests.Grounds;

/// <summary>A ground survey as a part test of the record: its part is the machine's battery, a reading is a point by its address.</summary>
public static class GroundSheet
{
    /// <summary>Key that it is kept by.</summary>
    public const string Key = "grounds";

    /// <summary>Most millivolts that can be meant: a whole battery's.</summary>
    public const double MostMillivolts = 30_000;

    /// <summary>What can hurt, said before the first point.</summary>
    public const string Caution =
        "Points are read with the machine drawing amps: nothing may move that can hurt. Cranking: plug leads off and clipped to ground, neutral, blades off, ten seconds at most. The bulb goes from battery + to points of this list only, never to a kill lead, a module's pin or a sensor's wire. In a petrol bilge the blower runs first and no clip is made or broken live.";

    /// <summary>A survey of a machine's grounds.</summary>
    /// <param name="machine">The machine.</param>
    /// <param name="version">Its version.</param>
    /// <param name="job">Job that it belongs to; null for none.</param>
    /// <returns>Its first step; null on a machine without a battery.</returns>
    public static SheetBegan? Begin(Machine machine, int version, string? job) =>
        machine.Parts.FirstOrDefault(p => PartKinds.IsBattery(p.Kind)) is not { } battery
            ? null
            : new SheetBegan(
                Key,
                TestedPart.Of(machine, battery with { Name = "grounds" }),
                (machine.Id.Text, version),
                job
            );

    /// <summary>A figure as a step.</summary>
    /// <param name="at">The point.</param>
    /// <param name="typed">As typed, in millivolts.</param>
    /// <param name="millivolts">As understood.</param>
    /// <param name="meter">Name of the meter.</param>
    public static SheetRead Read(TerminalAddress at, string typed, double millivolts, string meter) =>
        new(at.Text, typed, millivolts / 1000, meter);

    /// <summary>Volts by number of the point; points that the machine no longer has are left out.</summary>
    public static IReadOnlyDictionary<int, double> Figures(GroundSurvey survey, SheetState state) =>
        Enumerable
            .Range(0, survey.Points.Count)
            .Select(p => (Point: p, Read: state.Read.FirstOrDefault(r => r.Reading == survey.Points[p].At.Text)))
            .Where(p => p.Read is not null)
            .ToDictionary(p => p.Point, p => p.Read!.Figure);
}
