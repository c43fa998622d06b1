using Pritchel.Core.Rewiring.Tracing;

namespace Pritchel.Data.Events;

/// <summary>An unknown loom as the record keeps it.</summary>
/// <param name="Plugs">Plugs with their leads' colours by cavity, and how far they lie.</param>
/// <param name="Switches">Switches left in.</param>
internal sealed record StoredLoom(IReadOnlyList<StoredPlug> Plugs, IReadOnlyList<StoredLoomSwitch> Switches);

/// <summary>A plug of it.</summary>
internal sealed record StoredPlug(string Name, double Metres, IReadOnlyList<string> Colours);

/// <summary>A switch of it.</summary>
internal sealed record StoredLoomSwitch(string Name, string Plug, IReadOnlyList<string> Positions);

/// <summary>Between looms and what the record keeps of them.</summary>
internal static class LoomFormat
{
    public static StoredLoom Keep(Loom loom) =>
        new(
            [
                .. loom
                    .Ends.GroupBy(e => e.Plug, StringComparer.Ordinal)
                    .Select(g => new StoredPlug(
                        g.Key,
                        loom.Metres.GetValueOrDefault(g.Key),
                        [.. g.Select(e => e.Colour)]
                    )),
            ],
            [.. loom.Controls.Select(c => new StoredLoomSwitch(c.Name, c.Plug, c.Positions))]
        );

    public static Loom Restore(StoredLoom? stored) =>
        stored is null
            ? throw new FormatException("it lists no loom")
            : new Loom(
                [
                    .. stored.Plugs.SelectMany(p =>
                        p.Colours.Select(
                            (c, i) =>
                                new LoomEnd(
                                    p.Name,
                                    (i + 1).ToString(System.Globalization.CultureInfo.InvariantCulture),
                                    c
                                )
                        )
                    ),
                ],
                [.. stored.Switches.Select(s => new LoomControl(s.Name, s.Positions, s.Plug))],
                stored.Plugs.ToDictionary(p => p.Name, p => p.Metres, StringComparer.Ordinal)
            );
}
