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

    /// <summary>Least charge that can be told: below it a battery is flat, which is a fault and no setting.</summary>
    public const double LeastCharge = 0.05;

    /// <summary>Coldest and warmest that can be told.</summary>
    public static readonly (Celsius Coldest, Celsius Warmest) Warmths = (new(-40), new(60));

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

    /// <summary>Batteries of a machine.</summary>
    public static IEnumerable<Part> Of(Machine machine) =>
        machine.Parts.Where(p => DeviceKinds.Named(p.Kind)?.Traits.HasFlag(PartTraits.StoresCharge) ?? false);

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
