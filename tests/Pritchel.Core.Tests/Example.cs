using System.Collections.Concurrent;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Tests;

/// <summary>The small machine files beside the tests, one for each kind of circuit.</summary>
internal sealed class Example
{
    private static readonly ConcurrentDictionary<string, Example> Loaded = new();

    private Example(Circuit circuit) => Circuit = circuit;

    public static IReadOnlyList<string> Names { get; } =
    [
        .. Directory
            .EnumerateFiles(Path.Combine(AppContext.BaseDirectory, "examples"))
            .Select(f => Path.GetFileNameWithoutExtension(f)!)
            .Order(StringComparer.Ordinal),
    ];

    public Circuit Circuit { get; }

    public static Example Of(string name) =>
        Loaded.GetOrAdd(
            name,
            n =>
            {
                var reading = MachineFile.Read(
                    File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "examples", n + ".json"))
                );
                Assert.Empty(reading.Problems);
                return new Example(Circuit.Compile(reading.Machine!));
            }
        );

    /// <summary>A case in a setting written "key=ON brake=down", at a speed, with faults written "id" or "id:severity".</summary>
    public Case Case(string setting, double rpm = 0, string faults = "", string before = "", double waited = 0) =>
        new()
        {
            Circuit = Circuit,
            Settings = before.Length == 0 ? [Setting(setting)] : [Setting(before), Setting(setting)],
            Speeds = Circuit.Engines.ToDictionary(e => e.Id, _ => new Rpm(rpm)),
            Waited = new Seconds(waited),
            Faults = [.. faults.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(Planted)],
        };

    public Outcome Outcome(string setting, double rpm = 0, string faults = "", string before = "", double waited = 0) =>
        Simulation.Outcome.Of(Case(setting, rpm, faults, before, waited));

    public double Volts(Case @case, string red, string black, MeterFunction function = MeterFunction.DcVolts) =>
        Read(@case, red, black, function).Value!.Value;

    public MeterDisplay Read(Case @case, string red, string black, MeterFunction function, Meter? meter = null) =>
        Bench.Read(@case, meter ?? Fine, function, Circuit.NodeOf(red), Circuit.NodeOf(black));

    /// <summary>A meter that adds nothing of its own.</summary>
    public static Meter Fine { get; } =
        Meter.Ordinary with
        {
            TrueRms = true,
            AcFadesAt = new Hertz(1e9),
            PeakAdapter = true,
            LeadsNulled = true,
            DisplayCounts = 1_000_000,
            AmpsFuse = new Amps(1000),
            AmpsBurden = new Ohms(1e-4),
            Input = new Ohms(1e9),
        };

    private ControlSetting Setting(string text) =>
        Circuit.Setting(
            text.Split(' ', StringSplitOptions.RemoveEmptyEntries)
                .Select(p => p.Split('='))
                .ToDictionary(p => p[0], p => p[1])
        );

    private PlantedFault Planted(string text)
    {
        var at = text.LastIndexOf(':');
        var id = at < 0 ? text : text[..at];
        var fault =
            Circuit.Faults.FirstOrDefault(f => f.Id.Text == id)
            ?? throw new ArgumentException($"no fault {id}", nameof(text));
        return new PlantedFault(
            fault,
            at < 0 ? 0.5 : double.Parse(text[(at + 1)..], System.Globalization.CultureInfo.InvariantCulture)
        );
    }
}
