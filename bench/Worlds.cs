using Pritchel.Core.Practice;

namespace Pritchel.Bench;

/// <summary>Worlds that hidden faults are drawn from, as arguments name them.</summary>
internal static class Worlds
{
    // A fault that is there in a third of the tries.
    private const double Seldom = 1.0 / 3;

    /// <summary>The world that arguments ask for; of several named, the first.</summary>
    public static World First(IReadOnlyList<string> args) => Of(args)[0].World;

    /// <summary>The worlds that arguments name, by name; what the program believes in where none is named.</summary>
    public static List<(string Name, World World)> Of(IReadOnlyList<string> args)
    {
        var named = new (string Name, World World)[]
        {
            ("differing", World.Differing),
            ("habits", World.Habitual),
            ("believed", World.Believed),
        }.Where(w => args.Contains(w.Name, StringComparer.Ordinal));
        var differs = Enum.GetValues<Difference>()
            .Where(d => args.Contains(d.ToString(), StringComparer.OrdinalIgnoreCase))
            .ToList();
        return
        [
            .. named
                .DefaultIfEmpty((Name: "", World: World.Believed))
                .Select(w =>
                    w with
                    {
                        World = w.World with
                        {
                            Presence = args.Contains("seldom", StringComparer.Ordinal) ? Seldom : w.World.Presence,
                            Differs = differs.Count > 0 ? differs[0] : w.World.Differs,
                        },
                    }
                ),
        ];
    }
}
