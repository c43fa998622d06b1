using Pritchel.Core.PartTests;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Part tests that are kept hold readings by their ids: none of them may lose its name.</summary>
public class SheetRecordTests
{
    public static TheoryData<string, string, string> Kept =>
        new(
            File.ReadLines(Path.Combine(AppContext.BaseDirectory, "sheet-readings.txt"))
                .Where(l => !l.StartsWith('#'))
                .Select(l => l.Split(" | "))
                .Select(l => (l[0], l[1], l[2]))
        );

    /// <summary>Ids as an earlier version wrote them, from that version itself.</summary>
    [Theory]
    [MemberData(nameof(Kept))]
    public void What_records_hold_is_asked_for_still(string kind, string sheet, string readings)
    {
        var part = TestedPart.Loose(DeviceKinds.Named(kind)!);
        var asked = SheetCatalogue.Named(sheet)!.Readings(part).Select(r => r.Id).ToHashSet(StringComparer.Ordinal);
        Assert.Empty(readings.Split(' ').Except(asked));
    }
}
