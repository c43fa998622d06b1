using Pritchel.Core.Units;

namespace Pritchel.Core.Machines;

/// <summary>How a wire end is joined to a terminal.</summary>
/// <param name="Name">Name used in machine files.</param>
/// <param name="Words">How it is said.</param>
/// <param name="Ohms">Healthy resistance: from memory.</param>
/// <param name="ResistiveRate">Relative rate of going resistive: common practice, no source.</param>
/// <param name="OpenRate">Relative rate of coming off.</param>
public sealed record JointKind(string Name, string Words, Ohms Ohms, double ResistiveRate, double OpenRate)
{
    /// <summary>What its metal is called, where a probe touches it.</summary>
    public string Metal { get; init; } = "crimp";

    /// <summary>Whether the joint is modelled apart from what it joins to; a cavity's contact is the coupling's own.</summary>
    public bool HasResistance => Ohms.Value > 0;
}

/// <summary>The joints a machine file may name.</summary>
public static class JointKinds
{
    /// <summary>All joint kinds.</summary>
    public static IReadOnlyList<JointKind> All { get; } =
    [
        new("push-on", "push-on", new Ohms(0.003), 2, 1.5),
        new("ring", "ring", new Ohms(0.0003), 2, 0.5) { Metal = "ring" },
        new("screw", "screw terminal", new Ohms(0.001), 1, 0.5),
        new("splice", "crimp in splice", new Ohms(0.001), 1, 0.5),
        new("cavity", "pin", new Ohms(0), 0, 0),
    ];

    /// <summary>The joint kind of that name, or null.</summary>
    public static JointKind? Named(string name) => All.FirstOrDefault(k => k.Name == name);
}
