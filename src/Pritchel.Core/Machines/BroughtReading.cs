using Pritchel.Core.Identity;

namespace Pritchel.Core.Machines;

/// <summary>
/// A reading taken where no test of a complaint asks for one: what it was, so that it is predicted too and weighs.
/// </summary>
/// <param name="Observable">Key of what was read.</param>
/// <param name="Setting">Position of every control.</param>
/// <param name="Speed">How fast the engine turned.</param>
/// <param name="Off">What was off.</param>
/// <param name="Red">Under the red probe.</param>
/// <param name="Black">Under the black probe.</param>
/// <param name="Joined">What joined the two points, by its name, where something was put in and looked at; null for a meter.</param>
public sealed record BroughtReading(
    string Observable,
    NamedSetting Setting,
    DutySpeed Speed,
    IReadOnlyList<Disconnection> Off,
    PointId Red,
    PointId Black,
    string? Joined = null
)
{
    /// <summary>As one line: the same line means the same reading.</summary>
    public string Text =>
        $"{Observable} {Speed} {string.Join(',', Setting.OrderBy(s => s.Key.Text, StringComparer.Ordinal).Select(s => $"{s.Key}={s.Value}"))} {string.Join(',', Off.Select(o => o.Text).Order(StringComparer.Ordinal))} {Red.Text} {Black.Text}{(Joined is null ? "" : " " + Joined)}";
}
