using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Machines;

namespace Pritchel.Web.Desk;

/// <summary>
/// How a sensor is brought to where a test wants it, when that is not a lever to move: heat, water, a level. Common
/// practice, no source.
/// </summary>
public static class SensorWords
{
    /// <summary>One line for each sensor that a test wants elsewhere than at rest.</summary>
    public static IEnumerable<string> BroughtAbout(Condition condition, Machine machine)
    {
        for (var c = 0; c < machine.Controls.Count; c++)
        {
            var control = machine.Controls[c];
            var position = control.Positions[condition.Setting[c]];
            if (position != control.Rest && How(position.Text) is { } how)
            {
                var sensor = machine.Parts.FirstOrDefault(p => p.Contacts?.Any(x => x.Control == control.Id) == true);
                yield return $"{sensor?.Name ?? control.Name.ToLowerInvariant()} {position}: {how}";
            }
        }
    }

    private static string? How(string position) =>
        position switch
        {
            "hot" =>
                "out of a cold engine and in a pan of water near boiling, its body joined to the block by a lead. Steam and coolant under pressure scald: never unscrew it from a hot one.",
            "wet" => "a cup of the water it works in, salt where that is salt, over the sensor; dry it after.",
            "low" =>
                "lift it out and tip it by hand, or drain to its mark. The engine is not run short of oil to try it.",
            _ => null,
        };
}
