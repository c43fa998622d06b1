using System.Globalization;
using System.Text.Json;
using System.Text.Json.Serialization;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Units;

namespace Pritchel.Core.Metering;

/// <summary>What reading a meter file gave: a meter, or the reasons it was refused.</summary>
/// <param name="Meter">The meter when there are no problems.</param>
/// <param name="Problems">Every problem found, with its JSON place.</param>
public sealed record MeterReading(Meter? Meter, IReadOnlyList<MachineProblem> Problems);

/// <summary>Reads and writes meter files (JSON, format 1), so that meters are data. Figures not given are an ordinary meter's.</summary>
public static class MeterFile
{
    private const int MostRanges = 12;
    private const int MostName = 40;

    private static readonly JsonSerializerOptions Options = new()
    {
        PropertyNamingPolicy = JsonNamingPolicy.CamelCase,
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
        RespectNullableAnnotations = true,
        AllowDuplicateProperties = false,
        WriteIndented = true,
        NewLine = "\n",
        MaxDepth = 4,
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false) },
    };

    /// <summary>Reads and checks a meter file.</summary>
    public static MeterReading Read(string json)
    {
        try
        {
            var described = JsonSerializer.Deserialize<Described>(json, Options);
            return described is null ? Refused("", "A meter file is one JSON object.") : Checked(described);
        }
        catch (JsonException e)
        {
            var at = (e.Path ?? "").Replace("$", "", StringComparison.Ordinal).Replace('.', '/');
            return Refused(at, "Not readable as a meter file here; docs/machine-format.md lists the fields.");
        }
    }

    /// <summary>Writes a meter as JSON with line feeds and a final newline.</summary>
    public static string Write(Meter meter) => JsonSerializer.Serialize(Described.Of(meter), Options) + "\n";

    private static MeterReading Checked(Described described)
    {
        var problems = new List<MachineProblem>();
        void Within(string at, double value, double least, double most)
        {
            if (!(value >= least && value <= most))
            {
                problems.Add(
                    new MachineProblem(
                        at,
                        string.Create(
                            CultureInfo.InvariantCulture,
                            $"{value} is out of range; allowed: {least} to {most}."
                        )
                    )
                );
            }
        }

        void Ranges(string at, IReadOnlyList<double> scales)
        {
            if (
                scales.Count is 0 or > MostRanges
                || !scales.All(s => s is > 0 and <= 1e9)
                || !scales.SequenceEqual(scales.Order())
            )
            {
                problems.Add(new MachineProblem(at, $"Must be 1 to {MostRanges} full scales above 0, ascending."));
            }
        }

        if (
            string.IsNullOrWhiteSpace(described.Name)
            || described.Name.Length > MostName
            || described.Name.Any(char.IsControl)
        )
        {
            problems.Add(new MachineProblem("/name", $"Must be 1 to {MostName} characters."));
        }

        Within("/inputOhms", described.InputOhms, 1e3, 1e9);
        Within("/voltsAccuracyPercent", described.VoltsAccuracyPercent, 0.001, 10);
        Within("/acAccuracyPercent", described.AcAccuracyPercent, 0.001, 20);
        Within("/ohmsAccuracyPercent", described.OhmsAccuracyPercent, 0.001, 20);
        Within("/acFadesAtHertz", described.AcFadesAtHertz, 50, 1e6);
        Within("/accuracyCounts", described.AccuracyCounts, 0, 50);
        Within("/displayCounts", described.DisplayCounts, 200, 1_000_000);
        Within("/leadOhms", described.LeadOhms, 0, 100);
        Within("/beepsUnderOhms", described.BeepsUnderOhms, 0.1, 1000);
        Within("/ohmsSourceVolts", described.OhmsSourceVolts, 0.05, 0.5);
        Within("/diodeSourceVolts", described.DiodeSourceVolts, 1, 9);
        Within("/diodeInsideOhms", described.DiodeInsideOhms, 100, 1e5);
        Within("/ampsBurdenOhms", described.AmpsBurdenOhms, 1e-5, 100);
        Within("/ampsFuse", described.AmpsFuse, 0.01, 1000);
        Within("/testLampAmps", described.TestLampAmps, 0.01, 5);
        Ranges("/voltsRanges", described.VoltsRanges);
        Ranges("/ohmsRanges", described.OhmsRanges);
        return new MeterReading(problems.Count == 0 ? described.ToMeter() : null, problems);
    }

    private static MeterReading Refused(string at, string message) => new(null, [new MachineProblem(at, message)]);

    /// <summary>A meter as its file gives it, in the units the names end with.</summary>
    private sealed record Described
    {
        public string Name { get; init; } = "";
        public double InputOhms { get; init; } = Meter.Ordinary.Input.Value;
        public double VoltsAccuracyPercent { get; init; } = Meter.Ordinary.VoltsAccuracyPercent;
        public double AcAccuracyPercent { get; init; } = Meter.Ordinary.AcAccuracyPercent;
        public double OhmsAccuracyPercent { get; init; } = Meter.Ordinary.OhmsAccuracyPercent;
        public int AccuracyCounts { get; init; } = Meter.Ordinary.AccuracyCounts;
        public int DisplayCounts { get; init; } = Meter.Ordinary.DisplayCounts;
        public IReadOnlyList<double> VoltsRanges { get; init; } = Meter.Ordinary.VoltsRanges;
        public IReadOnlyList<double> OhmsRanges { get; init; } = Meter.Ordinary.OhmsRanges;
        public double LeadOhms { get; init; } = Meter.Ordinary.Leads.Value;
        public bool TrueRms { get; init; }
        public double AcFadesAtHertz { get; init; } = Meter.Ordinary.AcFadesAt.Value;
        public bool PeakAdapter { get; init; }
        public double BeepsUnderOhms { get; init; } = Meter.Ordinary.BeepsUnder.Value;
        public double OhmsSourceVolts { get; init; } = Meter.Ordinary.OhmsSource.Value;
        public double DiodeSourceVolts { get; init; } = Meter.Ordinary.DiodeSource.Value;
        public double DiodeInsideOhms { get; init; } = Meter.Ordinary.DiodeInside.Value;
        public double AmpsBurdenOhms { get; init; } = Meter.Ordinary.AmpsBurden.Value;
        public double AmpsFuse { get; init; } = Meter.Ordinary.AmpsFuse.Value;
        public double TestLampAmps { get; init; } = Meter.Ordinary.TestLamp.Value;
        public IReadOnlyList<MeterFunction> Functions { get; init; } = Meter.Ordinary.Functions;

        public static Described Of(Meter meter) =>
            new()
            {
                Name = meter.Name,
                InputOhms = meter.Input.Value,
                VoltsAccuracyPercent = meter.VoltsAccuracyPercent,
                AcAccuracyPercent = meter.AcAccuracyPercent,
                OhmsAccuracyPercent = meter.OhmsAccuracyPercent,
                AccuracyCounts = meter.AccuracyCounts,
                DisplayCounts = meter.DisplayCounts,
                VoltsRanges = meter.VoltsRanges,
                OhmsRanges = meter.OhmsRanges,
                LeadOhms = meter.Leads.Value,
                TrueRms = meter.TrueRms,
                AcFadesAtHertz = meter.AcFadesAt.Value,
                PeakAdapter = meter.PeakAdapter,
                BeepsUnderOhms = meter.BeepsUnder.Value,
                OhmsSourceVolts = meter.OhmsSource.Value,
                DiodeSourceVolts = meter.DiodeSource.Value,
                DiodeInsideOhms = meter.DiodeInside.Value,
                AmpsBurdenOhms = meter.AmpsBurden.Value,
                AmpsFuse = meter.AmpsFuse.Value,
                TestLampAmps = meter.TestLamp.Value,
                Functions = meter.Functions,
            };

        public Meter ToMeter() =>
            new()
            {
                Name = Name,
                Input = new Ohms(InputOhms),
                VoltsAccuracyPercent = VoltsAccuracyPercent,
                AcAccuracyPercent = AcAccuracyPercent,
                OhmsAccuracyPercent = OhmsAccuracyPercent,
                AccuracyCounts = AccuracyCounts,
                DisplayCounts = DisplayCounts,
                VoltsRanges = VoltsRanges,
                OhmsRanges = OhmsRanges,
                Leads = new Ohms(LeadOhms),
                TrueRms = TrueRms,
                AcFadesAt = new Hertz(AcFadesAtHertz),
                PeakAdapter = PeakAdapter,
                BeepsUnder = new Ohms(BeepsUnderOhms),
                OhmsSource = new Volts(OhmsSourceVolts),
                DiodeSource = new Volts(DiodeSourceVolts),
                DiodeInside = new Ohms(DiodeInsideOhms),
                AmpsBurden = new Ohms(AmpsBurdenOhms),
                AmpsFuse = new Amps(AmpsFuse),
                TestLamp = new Amps(TestLampAmps),
                Functions = Functions,
            };
    }
}
