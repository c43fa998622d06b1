using Pritchel.Core.Metering;

namespace Pritchel.Workshop;

/// <summary>Meters that come with the program, as files beside it; new ones can start from them.</summary>
public static class ShippedMeters
{
    private static readonly Lazy<IReadOnlyDictionary<string, Meter>> Read = new(() =>
        Directory
            .EnumerateFiles(Path.Combine(AppContext.BaseDirectory, "meters"), "*.json")
            .Order(StringComparer.Ordinal)
            .Select(f => (Id: Path.GetFileNameWithoutExtension(f), MeterFile.Read(File.ReadAllText(f)).Meter))
            .Where(m => m.Meter is not null)
            .ToDictionary(m => m.Id, m => m.Meter!, StringComparer.Ordinal)
    );

    /// <summary>By the name of their file.</summary>
    public static IReadOnlyDictionary<string, Meter> All => Read.Value;
}
