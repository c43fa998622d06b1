namespace Pritchel.Core.Observables;

/// <summary>Every observable, found by itself: a new one is one new file.</summary>
public static class ObservableCatalogue
{
    private static readonly Lazy<Dictionary<string, Observable>> ByKey = new(() =>
        Simulation
            .Extensions.Of<Observable>()
            .OrderBy(o => o.Key, StringComparer.Ordinal)
            .ToDictionary(o => o.Key, StringComparer.Ordinal)
    );

    /// <summary>All of them.</summary>
    public static IReadOnlyCollection<Observable> All => ByKey.Value.Values;

    /// <summary>Number of one among them, from 0; for this run of the program only.</summary>
    public static int NumberOf(Observable observable) => ByKey.Value.Keys.ToList().IndexOf(observable.Key);

    /// <summary>The one of a key, or null.</summary>
    public static Observable? Named(string key) => ByKey.Value.GetValueOrDefault(key);
}
