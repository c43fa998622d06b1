using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Rewiring.Tracing;

namespace Pritchel.Core.PartTests.Looms;

/// <summary>An unknown loom as a sheet of the record.</summary>
public static class LoomSheet
{
    /// <summary>Key that it is kept by.</summary>
    public const string Key = "loom";

    /// <summary>Most characters of what an end was followed to.</summary>
    public const int MostFollowed = 80;

    /// <summary>What can hurt, and what misleads, said before the first beep.</summary>
    public const string Caution =
        "Battery off, both posts; capacitors of an ignition unit left alone for some minutes. Unplug what can be unplugged: windings and coils of tenths of an ohm beep like copper, filaments beep too, diodes and a loose bullet are silent. No pin is forced: a probe thicker than the terminal spreads it.";

    /// <summary>A loom to be traced.</summary>
    /// <param name="name">What it is called.</param>
    public static SheetBegan Begin(string name) =>
        new(
            Key,
            new TestedPart(
                new Part
                {
                    Id = new PartId("loom"),
                    Name = name,
                    Kind = Key,
                    Place = BenchMachine.Place,
                    Terminals = [],
                },
                [],
                FiguresKnown: false
            ),
            null,
            null
        );

    /// <summary>What a sheet stands at; null where no loom was listed.</summary>
    public static (Loom Loom, LoomTrace Trace, IReadOnlyDictionary<int, string> Followed)? Of(SheetState state)
    {
        if (state.Stand<LoomListed>().LastOrDefault()?.Loom is not { } loom)
        {
            return null;
        }

        var answers = state.Stand<LoomProbed>().Select(p => p.Answer).Where(a => IsOf(loom, a.Question)).ToList();
        var followed = state
            .Stand<LoomFollowed>()
            .Where(f => f.End >= 0 && f.End < loom.Ends.Count)
            .GroupBy(f => f.End)
            .ToDictionary(g => g.Key, g => g.Last().To);
        return (loom, new LoomTrace(loom, answers), followed);
    }

    /// <summary>Whether a question is about ends and positions that a loom has.</summary>
    public static bool IsOf(Loom loom, LoomQuestion question)
    {
        var (setting, one, other) = (question.Setting, question.One, question.Other);
        return one != other
            && one >= 0
            && other >= 0
            && one < loom.Ends.Count
            && other < loom.Ends.Count
            && (
                setting == LoomSetting.Rest
                || (
                    setting.Control >= 0
                    && setting.Control < loom.Controls.Count
                    && setting.Position > 0
                    && setting.Position < loom.Controls[setting.Control].Positions.Count
                )
            );
    }
}
