using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Diagnosis.Complaints;

/// <summary>
/// How a battery stands while a complaint is looked into, where somebody said so; what nobody said is as the machine's file
/// has it. Everything is then solved with it.
/// </summary>
/// <param name="Battery">Which.</param>
public sealed record BatteryAsFound(PartId Battery)
{
    private const string ChargeFigure = "charge";
    private const string WarmthFigure = "celsius";

    /// <summary>Types that can be fitted, as machine files name them.</summary>
    public static IReadOnlyList<string> Types { get; } =
    [
        .. DeviceKinds
            .All.Where(k => k.Traits.HasFlag(PartTraits.StoresCharge))
            .Select(k => k.Name)
            .Order(StringComparer.Ordinal),
    ];

    /// <summary>Type fitted, one of <see cref="Types"/>; null for the file's.</summary>
    public string? Type { get; init; }

    /// <summary>Share of its charge, to 1; null when nobody knows.</summary>
    public double? Charge { get; init; }

    /// <summary>How warm it is; null for an ordinary day.</summary>
    public Celsius? Warmth { get; init; }

    /// <summary>Whether anything was said.</summary>
    public bool SaysAnything => Type is not null || Charge is not null || Warmth is not null;

    /// <summary>Charge and temperature, in °C, that a battery of a type may have: the limits of machine files.</summary>
    public static (ValueRule Charge, ValueRule Warmth) Limits(string type)
    {
        var figures = DeviceKinds.Named(type)!.Values;
        return (figures.First(v => v.Name == ChargeFigure), figures.First(v => v.Name == WarmthFigure));
    }

    /// <summary>A machine with its batteries as found.</summary>
    /// <param name="machine">As its file has it.</param>
    /// <param name="found">Batteries told; those that it has not are passed over.</param>
    public static Machine Fit(Machine machine, IReadOnlyList<BatteryAsFound> found) =>
        machine with
        {
            Parts =
            [
                .. machine.Parts.Select(p => found.FirstOrDefault(b => b.Battery == p.Id) is { } told ? told.On(p) : p),
            ],
        };

    private Part On(Part part)
    {
        var values = new SortedDictionary<string, double>(StringComparer.Ordinal);
        foreach (var (name, figure) in part.Values ?? new Dictionary<string, double>())
        {
            values[name] = figure;
        }

        if (Charge is { } charge)
        {
            values[ChargeFigure] = charge;
        }

        if (Warmth is { } warmth)
        {
            values[WarmthFigure] = warmth.Value;
        }

        return part with
        {
            Kind = Type ?? part.Kind,
            Values = values,
        };
    }
}
