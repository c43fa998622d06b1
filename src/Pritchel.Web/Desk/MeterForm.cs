using System.Text.Json.Nodes;
using Pritchel.Core.Metering;
using Pritchel.Core.Units;

namespace Pritchel.Web.Desk;

/// <summary>One figure of a meter on its form.</summary>
/// <param name="Name">Its name in a meter file.</param>
/// <param name="Label">What it is called on the form.</param>
/// <param name="Group">Heading it stands under.</param>
public sealed record MeterFigure(string Name, string Label, string Group);

/// <summary>A meter as a form of text, and back through the same checks as a meter file.</summary>
public static class MeterForm
{
    private const string Volts = "Volts";
    private const string Ohms = "Ohms and beep";
    private const string Rest = "Amps and test lamp";

    /// <summary>Figures that are one number, in the order of the form.</summary>
    public static IReadOnlyList<MeterFigure> Figures { get; } =
    [
        new("inputOhms", "Input resistance, ohms", Volts),
        new("voltsAccuracyPercent", "Accuracy on DC volts, percent", Volts),
        new("acAccuracyPercent", "Accuracy on AC volts, percent", Volts),
        new("acFadesAtHertz", "AC reading fades to 0.7 at, hertz", Volts),
        new("displayCounts", "Display counts (2000 shows 1999)", Volts),
        new("accuracyCounts", "Last digit wanders by, counts", Volts),
        new("ohmsAccuracyPercent", "Accuracy on ohms, percent", Ohms),
        new("leadOhms", "Leads, shorted, ohms", Ohms),
        new("beepsUnderOhms", "Beeps under, ohms", Ohms),
        new("ohmsSourceVolts", "Ohms range feeds, volts", Ohms),
        new("diodeSourceVolts", "Diode range feeds, volts", Ohms),
        new("diodeInsideOhms", "Diode range, ohms inside", Ohms),
        new("ampsBurdenOhms", "Shunt and leads on the amp jack, ohms", Rest),
        new("ampsFuse", "Fuse of the amp jack, amps", Rest),
        new("testLampAmps", "Test lamp draws at 12 V, amps", Rest),
    ];

    /// <summary>Lists of full scales.</summary>
    public static IReadOnlyList<MeterFigure> Scales { get; } =
    [new("voltsRanges", "Full scales, volts", Volts), new("ohmsRanges", "Full scales, ohms", Ohms)];

    /// <summary>What the meter has or has not.</summary>
    public static IReadOnlyList<MeterFigure> Switches { get; } =
    [new("trueRms", "true r.m.s. on AC", Volts), new("peakAdapter", "peak-reading adapter to hand", Volts)];

    /// <summary>Functions and how they are called.</summary>
    public static IReadOnlyList<(MeterFunction Function, string Label)> Functions { get; } =
    [
        (MeterFunction.DcVolts, "DC volts"),
        (MeterFunction.AcVolts, "AC volts"),
        (MeterFunction.Ohms, "ohms"),
        (MeterFunction.Beep, "beep"),
        (MeterFunction.Diode, "diode"),
        (MeterFunction.DcAmps, "DC amps"),
        (MeterFunction.TestLamp, "test lamp"),
    ];

    /// <summary>A meter as the form shows it, by figure name.</summary>
    public static Dictionary<string, string> Of(Meter meter)
    {
        var file = JsonNode.Parse(MeterFile.Write(meter))!.AsObject();
        return file.ToDictionary(
            f => f.Key,
            f => f.Value is JsonArray list ? string.Join("  ", list.Select(v => v!.ToString())) : f.Value!.ToString(),
            StringComparer.Ordinal
        );
    }

    /// <summary>The meter that a form describes, or what is wrong with it by figure name.</summary>
    public static (Meter? Meter, IReadOnlyDictionary<string, string> Problems) Read(
        string name,
        IReadOnlyDictionary<string, string> typed,
        IReadOnlyCollection<MeterFunction> functions
    )
    {
        var problems = new Dictionary<string, string>(StringComparer.Ordinal);
        var file = new JsonObject { ["name"] = name.Trim() };
        foreach (var figure in Figures)
        {
            if (!typed.ContainsKey(figure.Name))
            {
                // A form of before this figure was asked for: an ordinary meter's stands.
                continue;
            }

            if (Number(typed.GetValueOrDefault(figure.Name)) is { } number)
            {
                file[figure.Name] = figure.Name.EndsWith("Counts", StringComparison.Ordinal)
                    ? Math.Round(number)
                    : number;
            }
            else
            {
                problems[figure.Name] = "Not a number: “" + typed.GetValueOrDefault(figure.Name) + "”.";
            }
        }

        foreach (var scale in Scales)
        {
            var parts = (typed.GetValueOrDefault(scale.Name) ?? "").Split(
                [' ', ';'],
                StringSplitOptions.RemoveEmptyEntries
            );
            var numbers = parts.Select(Number).ToList();
            if (numbers.Contains(null))
            {
                problems[scale.Name] = "Numbers with spaces between them, such as “2 20 200 600”.";
                continue;
            }

            file[scale.Name] = new JsonArray([.. numbers.Select(n => JsonValue.Create(n!.Value))]);
        }

        foreach (var has in Switches)
        {
            file[has.Name] = typed.ContainsKey(has.Name);
        }

        if (functions.Count == 0)
        {
            problems["functions"] = "A meter without any function reads nothing: tick at least one.";
        }

        var meter = (Meter?)null;
        if (problems.Count == 0)
        {
            var reading = MeterFile.Read(file.ToJsonString());
            meter = reading.Meter is { } read ? read with { Functions = [.. functions.Order()] } : null;
            foreach (var problem in reading.Problems)
            {
                problems[problem.Pointer.TrimStart('/')] = problem.Message;
            }
        }

        return (meter, problems);
    }

    private static double? Number(string? typed) =>
        ReadingText.TryParse(typed, 1e12, out var reading, out _) && !reading.IsOverRange ? reading.Value : null;
}
