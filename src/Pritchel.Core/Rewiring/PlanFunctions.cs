using System.Collections.Concurrent;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Rewiring;

/// <summary>What the loose ends and the terminals of a plan's sides are for: the same whatever is joined.</summary>
public sealed class PlanFunctions
{
    private readonly Dictionary<SideKey, Lazy<SideFunctions>> sides;
    private readonly ConcurrentDictionary<Landing, LandingFunction> landings = [];

    private PlanFunctions(RewirePlan plan)
    {
        sides = plan.Sides.ToDictionary(s => s.Key, s => new Lazy<SideFunctions>(() => new SideFunctions(s)));

        // A side of which nothing is chosen yet has no circuit to solve.
        Ends = [.. plan.Sides.Where(s => s.LooseEnds.Any()).SelectMany(s => sides[s.Key].Value.Ends)];
    }

    /// <summary>What every loose end is for, the host's first.</summary>
    public IReadOnlyList<EndFunction> Ends { get; }

    /// <summary>Solves the sides of a plan.</summary>
    public static PlanFunctions Of(RewirePlan plan) => new(plan);

    /// <summary>What a terminal that stays is for.</summary>
    /// <param name="at">The terminal, of a part that stays.</param>
    public LandingFunction At(Landing at) => landings.GetOrAdd(at, a => sides[a.Side].Value.At(a.At));
}

/// <summary>One side of a plan, solved whole as it was and as it is left.</summary>
internal sealed class SideFunctions
{
    private const double AlternatesFromVolts = 1;

    private readonly RewireSide side;
    private readonly Circuit whole;
    private readonly Circuit cut;
    private readonly Marriage apart;
    private readonly HashSet<int> ground;
    private readonly IReadOnlySet<int> kills;
    private readonly FeedTest bulb;
    private readonly CircuitState? waves;
    private readonly Lazy<FeedTest> left;
    private readonly Lazy<GroundTest> grounding;

    public SideFunctions(RewireSide side)
    {
        this.side = side;
        whole = Circuit.Compile(side.Machine with { Duties = [] });
        apart = Marriage.Apart(new RewirePlan(side, null, []));
        cut = apart.Machine.Parts.Any(p => p.Terminals.Count > 0)
            ? Circuit.Compile(apart.Machine with { Duties = [] })
            : whole;
        ground = whole.Topology.Ground();
        kills = whole.Topology.KillWiring;
        bulb = new FeedTest(whole, side.Machine.Duties);
        left = new Lazy<FeedTest>(() => new FeedTest(cut, []));
        grounding = new Lazy<GroundTest>(() => new GroundTest(whole));
        waves = whole.WaveEngine < 0 ? null : Trial.Turning(whole, whole.Setting(null), DutySpeed.Idle).State;
        Ends = [.. side.LooseEnds.Select(Of)];
    }

    public IReadOnlyList<EndFunction> Ends { get; }

    /// <summary>What a terminal of a part that stays is for.</summary>
    public LandingFunction At(TerminalAddress at)
    {
        var node = whole.NodeOf(at);
        var here = new LedTo(side.Machine.Index.PartAt(at)!, at.Terminal);
        var stands = cut.NodeOf(at);
        var kind = KindAt(node, [here, .. LedToFrom(whole, node)]);
        return new LandingFunction(
            kind,
            kind switch
            {
                EndKind.Ground => cut.Topology.Ground().Contains(stands),
                EndKind.GroundToKill => !HasIgnition(stands, LedToFrom(cut, stands)),
                EndKind.Alternating => LedToFrom(cut, stands).Any(t => side.Has(t.Part.Id) && IsChargeWinding(t)),
                _ => left.Value.LitIn(stands).Count > 0,
            }
        )
        {
            BringsCharge = BringsCharge(node),
        };
    }

    /// <summary>Whether a rectifier or a regulator, with a charge winding behind it, is on the metal of a node.</summary>
    private bool BringsCharge(int node) =>
        LedToFrom(whole, node)
            .Select(t => t.Part)
            .Where(p => p.Contacts is null && !PartKinds.IsBattery(p.Kind))
            .Any(p => p.Addresses.SelectMany(a => LedToFrom(whole, whole.NodeOf(a))).Any(IsChargeWinding));

    private EndFunction Of(EndKey end)
    {
        var node = whole.NodeOf(Point(end));
        var loose = cut.NodeOf(apart.Of(end)!.Value);
        var stays = LedToFrom(cut, loose).Where(t => side.Has(t.Part.Id)).ToList();
        var lost = LedToFrom(whole, node).Where(t => !stays.Contains(t)).ToList();
        var kind = end.Mount is not null ? EndKind.Ground : KindAt(node, [.. stays, .. lost]);
        var fed = end.Wire is { } off ? bulb.LitIn(node, off) : [];
        var gives = kind switch
        {
            EndKind.Ground => end.Mount is null && stays.Exists(t => IsGround(t.Part, t.Terminal)),
            EndKind.GroundToKill => !HasIgnition(loose, stays),
            EndKind.Alternating => stays.Exists(IsChargeWinding),
            _ => fed.Count > 0,
        };
        return new EndFunction(end, kind, gives, stays, lost) { Fed = fed };
    }

    /// <summary>Electrical kind of a node of the whole machine.</summary>
    private EndKind KindAt(int node, IReadOnlyCollection<LedTo> ledTo)
    {
        if (ground.Contains(node))
        {
            return EndKind.Ground;
        }

        if (kills.Contains(node))
        {
            return EndKind.GroundToKill;
        }

        var live = bulb.LitIn(node);
        return waves?.Alternating(node, whole.Reference) > AlternatesFromVolts
            && live.Count == 0
            && ledTo.Any(IsChargeWinding)
                ? EndKind.Alternating
            : live.Count == bulb.Settings.Count ? EndKind.BatteryFeed
            : live.Count > 0 && live.IsSubsetOf(bulb.Cranking) ? EndKind.StartFeed
            : live.Count > 0 ? EndKind.SwitchedFeed
            : ledTo.Any(t => t.Part.Contacts is not null) && grounding.Value.Stops(node) ? EndKind.GroundToKill
            : EndKind.Signal;
    }

    /// <summary>Terminals of parts, couplings and splices apart, on the metal of a node of the side or of what is left of it.</summary>
    private IEnumerable<LedTo> LedToFrom(Circuit circuit, int node)
    {
        var metal = circuit.Topology.MetalOf([node]);
        return side
            .Machine.Parts.Where(p =>
                p.Kind is not (PartKinds.Coupling or PartKinds.Splice) && circuit.Machine.Index.Part(p.Id) is not null
            )
            .SelectMany(p =>
                p.Terminals.Where(t => metal.Contains(circuit.NodeOf(p.At(t)))).Select(t => new LedTo(p, t))
            );
    }

    private PointId Point(EndKey end) =>
        end.Wire is { } wire ? wire : side.Machine.Index.Mount(end.Mount!.Value)!.Terminal;

    /// <summary>A pickup alternates too, and is no charge winding.</summary>
    private bool IsChargeWinding(LedTo at) =>
        whole.HasDevice(at.Part.Id) && whole.DeviceOf(at.Part.Id) is IChargeWinding;

    /// <summary>Whether an ignition hangs on a node of what is left: on its metal, or behind the diodes of a kill lead.</summary>
    private bool HasIgnition(int node, IEnumerable<LedTo> ledTo) =>
        cut.Topology.KillWiring.Contains(node)
        || ledTo.Any(t => whole.HasDevice(t.Part.Id) && whole.DeviceOf(t.Part.Id) is IIgnition);

    private static bool IsGround(Part part, TerminalId terminal) =>
        part.Kind == PartKinds.Body || (PartKinds.IsBattery(part.Kind) && terminal.Text == "-");
}
