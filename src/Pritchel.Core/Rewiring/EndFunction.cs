using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Rewiring;

/// <summary>What a lead is for, by its electrical kind.</summary>
public enum EndKind
{
    /// <summary>Joined to battery negative or to metal in every setting.</summary>
    Ground,

    /// <summary>Feeds a bulb in every setting.</summary>
    BatteryFeed,

    /// <summary>Feeds a bulb in some settings.</summary>
    SwitchedFeed,

    /// <summary>Feeds a bulb only while a starter turns.</summary>
    StartFeed,

    /// <summary>Stops an ignition when it is grounded.</summary>
    GroundToKill,

    /// <summary>Alternating volts of a charge winding.</summary>
    Alternating,

    /// <summary>Something else: a sender, a switch to ground, a lead that nothing tells of.</summary>
    Signal,
}

/// <summary>A terminal of a part that a lead runs to.</summary>
/// <param name="Part">The part.</param>
/// <param name="Terminal">Its terminal.</param>
public sealed record LedTo(Part Part, TerminalId Terminal)
{
    /// <summary>
    /// Whether it is what another machine may have in its place: the same terminal of the same kind of part, or of another unit
    /// of electronics that does the same work.
    /// </summary>
    public bool IsLike(LedTo other) =>
        Terminal == other.Terminal && (Part.Kind == other.Part.Kind || (IsUnit(Part.Kind) && IsUnit(other.Part.Kind)));

    private static bool IsUnit(string kind) => DeviceKinds.Named(kind)?.HidesInside == true;
}

/// <summary>
/// What a loose end is for, found by solving the machine it was cut from as it was: nothing is told by a colour.
/// </summary>
/// <param name="End">The end.</param>
/// <param name="Kind">Its electrical kind.</param>
/// <param name="Gives">
/// Whether its own side gives it (feeds it, switches it to ground) rather than waits for it: taken off by itself, all else as it
/// was.
/// </param>
/// <param name="Stays">Terminals of parts that stay, that it leads to.</param>
/// <param name="Lost">Terminals of parts that do not stay, that it led to.</param>
public sealed record EndFunction(
    EndKey End,
    EndKind Kind,
    bool Gives,
    IReadOnlyList<LedTo> Stays,
    IReadOnlyList<LedTo> Lost
)
{
    /// <summary>Settings, by number, in which it is live when taken off by itself.</summary>
    internal IReadOnlySet<int> Fed { get; init; } = new HashSet<int>();

    /// <summary>What every loose end of a plan is for.</summary>
    public static IReadOnlyList<EndFunction> Of(RewirePlan plan) => PlanFunctions.Of(plan).Ends;
}

/// <summary>What a terminal that stays is for, as a landing: found as the functions of ends are.</summary>
/// <param name="Kind">Its electrical kind on the machine that it is of.</param>
/// <param name="Gives">Whether what stays of its side gives it, with every loose end off.</param>
public sealed record LandingFunction(EndKind Kind, bool Gives)
{
    /// <summary>Whether what charges comes back through it.</summary>
    public bool BringsCharge { get; init; }
}
