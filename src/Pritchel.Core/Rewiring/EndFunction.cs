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
    /// <summary>Kind of the part and its terminal: what two machines may have in common.</summary>
    public (string, string) Like => (Part.Kind, Terminal.Text);
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
    private const double AlternatesFromVolts = 1;

    /// <summary>Settings, by number, in which it is live when taken off by itself.</summary>
    internal IReadOnlySet<int> Fed { get; private init; } = new HashSet<int>();

    /// <summary>What every loose end of a plan is for.</summary>
    public static IReadOnlyList<EndFunction> Of(RewirePlan plan) => [.. plan.Sides.SelectMany(s => Of(plan, s))];

    private static IEnumerable<EndFunction> Of(RewirePlan plan, RewireSide side)
    {
        var ends = side.LooseEnds.ToList();
        if (ends.Count == 0)
        {
            yield break;
        }

        var whole = Circuit.Compile(side.Machine with { Duties = [] });
        var apart = Marriage.Apart(new RewirePlan(side, null, []));
        var cut = Circuit.Compile(apart.Machine with { Duties = [] });
        var ground = whole.Topology.Ground();
        var bulb = new FeedTest(whole, side.Machine.Duties);
        var kills = whole.Topology.KillWiring;
        var waves = Waves(whole);
        foreach (var end in ends)
        {
            var node = whole.NodeOf(Point(side, end));
            var loose = cut.NodeOf(apart.Of(end)!.Value);
            var stays = Terminals(side, cut, cut.Topology.MetalOf([loose])).Where(t => side.Has(t.Part.Id)).ToList();
            var lost = Terminals(side, whole, whole.Topology.MetalOf([node])).Where(t => !stays.Contains(t)).ToList();
            var live = bulb.LitIn(node);
            var kind =
                end.Mount is not null || ground.Contains(node) ? EndKind.Ground
                : kills.Contains(node) ? EndKind.GroundToKill
                : waves?.Alternating(node, whole.Reference) > AlternatesFromVolts
                && live.Count == 0
                && stays.Concat(lost).Any(t => IsChargeWinding(whole, t))
                    ? EndKind.Alternating
                : live.Count == bulb.Settings.Count ? EndKind.BatteryFeed
                : live.Count > 0 && live.IsSubsetOf(bulb.Cranking) ? EndKind.StartFeed
                : live.Count > 0 ? EndKind.SwitchedFeed
                : EndKind.Signal;
            var fed = end.Wire is { } off ? bulb.LitIn(node, off) : [];
            var gives = kind switch
            {
                EndKind.Ground => end.Mount is null && stays.Exists(t => IsGround(t.Part, t.Terminal)),
                EndKind.GroundToKill => !cut.Topology.KillWiring.Contains(loose),
                EndKind.Alternating => stays.Exists(t => IsChargeWinding(whole, t)),
                _ => fed.Count > 0,
            };
            yield return new EndFunction(end, kind, gives, stays, lost) { Fed = fed };
        }
    }

    /// <summary>Terminals of parts, couplings and splices apart, on some nodes of a side or of what is left of it.</summary>
    private static IEnumerable<LedTo> Terminals(RewireSide side, Circuit circuit, HashSet<int> nodes) =>
        side
            .Machine.Parts.Where(p =>
                p.Kind is not (PartKinds.Coupling or PartKinds.Splice) && circuit.Machine.Index.Part(p.Id) is not null
            )
            .SelectMany(p =>
                p.Terminals.Where(t => nodes.Contains(circuit.NodeOf(p.At(t)))).Select(t => new LedTo(p, t))
            );

    private static PointId Point(RewireSide side, EndKey end) =>
        end.Wire is { } wire ? wire : side.Machine.Index.Mount(end.Mount!.Value)!.Terminal;

    /// <summary>A pickup alternates too, and is no charge winding.</summary>
    private static bool IsChargeWinding(Circuit whole, LedTo at) =>
        whole.HasDevice(at.Part.Id) && whole.DeviceOf(at.Part.Id) is IChargeWinding;

    private static bool IsGround(Part part, TerminalId terminal) =>
        part.Kind == PartKinds.Body || (PartKinds.IsBattery(part.Kind) && terminal.Text == "-");

    private static CircuitState? Waves(Circuit circuit) =>
        circuit.WaveEngine < 0 ? null : Trial.Turning(circuit, circuit.Setting(null), DutySpeed.Idle).State;
}
