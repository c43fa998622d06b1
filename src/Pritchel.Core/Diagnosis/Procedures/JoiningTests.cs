using Pritchel.Core.Identity;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>What tests share that put something between two points.</summary>
internal static class Joining
{
    // Clipping a lead or a bulb on, and the price of what can go wrong with live heavy posts: common practice, no source.
    private static readonly Minutes Clipping = new(0.7);
    private static readonly Minutes HeavyPosts = new(2);

    /// <summary>Whether anything may be put in for a duty: never where petrol vapour gathers.</summary>
    public static bool Allowed(TestedDuty tested) => tested.HasLine && tested.Machine.PetrolVapour != true;

    /// <summary>A condition with two points joined.</summary>
    public static Condition With(TestedDuty tested, ControlSetting setting, Jump jump, string words) =>
        tested.In(setting) with
        {
            Jump = jump,
            Observable = jump.Kind == JumpKind.Lead ? ActionSeen.Instance : GlowSeen.Instance,
            Pairs = [(jump.From, jump.To)],
            Words = $"{words} · {setting.Words(tested.Machine)}",
            SettingUp = jump.IsHeavy ? HeavyPosts : Clipping,
        };

    /// <summary>The command itself goes back to rest; whatever else the duty wants, a battery switch or a pedal, stays.</summary>
    public static ControlSetting Released(TestedDuty tested)
    {
        var machine = tested.Machine;
        var command = tested.Own.Held(machine).FirstOrDefault(c => c.Positions.Count > 2);
        return command is null
            ? tested.Own
            : tested.Own.With(machine.Index.ControlNumber(command.Id), command.IndexOf(command.Rest));
    }

    /// <summary>Battery positive.</summary>
    public static int Top(Circuit circuit) =>
        circuit.NodeOf(circuit.PartsThat(PartTraits.StoresCharge).First().At("+"));
}

/// <summary>A lead across a contact, from the battery to a coil, or from a coil to battery negative, and see.</summary>
public sealed class JoinAndSee : Procedure
{
    /// <inheritdoc/>
    public override string Key => "join-and-see";

    /// <inheritdoc/>
    public override string Why => "a lead that stands in for what is missing sets everything beyond it to work";

    /// <inheritdoc/>
    public override int Rank => 600;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        if (!Joining.Allowed(tested))
        {
            yield break;
        }

        var (turns, released) = (tested.Effect == EffectKind.Turns, Joining.Released(tested));
        foreach (var (jump, words) in Leads(tested, turns).DistinctBy(l => (l.Jump.From, l.Jump.To)))
        {
            // A lead to ground shows only while the feed is there.
            var setting = jump.To == tested.Circuit.Reference ? tested.Own : released;
            yield return Joining.With(tested, setting, jump, words) with
            {
                MayTurnEngine = turns,
            };
        }
    }

    private static IEnumerable<(Jump Jump, string Words)> Leads(TestedDuty tested, bool turns)
    {
        var circuit = tested.Circuit;
        var top = Joining.Top(circuit);
        foreach (var contact in tested.Line(tested.Duty.Load).Pieces.Where(p => p.Role == BranchRole.Contact))
        {
            yield return (
                new Jump(contact.From, contact.To, JumpKind.Lead) { IsHeavy = turns },
                $"{circuit.Called(contact.From)} joined to {circuit.Called(contact.To)}"
            );
        }

        foreach (var part in tested.LineParts.Where(p => p != tested.Duty.Load || !turns))
        {
            var pieces = tested.Line(part).Pieces.Where(p => p.Of.Owner.Part == part).ToList();
            var coil =
                pieces.Find(p => p.Role == BranchRole.Coil)
                ?? (part == tested.Duty.Load ? pieces.FirstOrDefault() : null);
            if (coil is null)
            {
                continue;
            }

            if (coil.From != top)
            {
                yield return (
                    new Jump(top, coil.From, JumpKind.Lead),
                    $"battery + by a fused lead to {circuit.Called(coil.From)}"
                );
            }

            if (coil.To != circuit.Reference)
            {
                yield return (
                    new Jump(coil.To, circuit.Reference, JumpKind.Lead),
                    $"{circuit.Called(coil.To)} by a lead to battery −"
                );
            }
        }
    }
}

/// <summary>A bulb in the place of each fuse on the duty's way, everything joined and with each coupling apart.</summary>
public sealed class BulbForFuse : Procedure
{
    /// <inheritdoc/>
    public override string Key => "bulb-for-fuse";

    /// <inheritdoc/>
    public override string Why => "bright is a short, dim an ordinary load; watch it while couplings come apart";

    /// <inheritdoc/>
    public override int Rank => 601;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        if (!Joining.Allowed(tested))
        {
            yield break;
        }

        if (tested.Effect == EffectKind.Holds)
        {
            foreach (var condition in AtItsOwn(tested))
            {
                yield return condition;
            }

            yield break;
        }

        var circuit = tested.Circuit;
        var passed = tested
            .LineParts.SelectMany(p => tested.Line(p).Pieces)
            .Select(p => p.Of.Owner.Part)
            .Where(p => p is not null)
            .Select(p => p!.Value)
            .Distinct()
            .ToList();
        foreach (var fuse in passed.Where(p => circuit.Is(p, PartTraits.PullsOut) && HasFeedWire(tested, p)))
        {
            yield return Bulb(tested, fuse, tested.Own, [], "");
            foreach (var coupling in circuit.Couplings().Where(c => passed.Contains(c.Id)))
            {
                yield return Bulb(tested, fuse, tested.Own, [coupling.Id], $", {coupling.Name} apart");
            }
        }
    }

    /// <summary>
    /// Where it is the fuse that blows: the bulb watched in each position of its key, as couplings on what it feeds come apart,
    /// and as wires are pulled off what uses it.
    /// </summary>
    private static IEnumerable<Condition> AtItsOwn(TestedDuty tested)
    {
        var (circuit, fuse) = (tested.Circuit, tested.Duty.Load);
        if (!HasFeedWire(tested, fuse))
        {
            yield break;
        }

        foreach (var setting in tested.Settings())
        {
            yield return Bulb(tested, fuse, setting, [], "");
        }

        var guarded = tested.Feeding.Through(fuse, tested.Own);
        foreach (
            var coupling in circuit.Couplings().Where(c => c.Addresses.Any(a => guarded.Contains(circuit.NodeOf(a))))
        )
        {
            yield return Bulb(tested, fuse, tested.Own, [coupling.Id], $", {coupling.Name} apart");
        }

        foreach (var (end, words) in Wiring.LeavingGuarded(tested))
        {
            yield return Bulb(tested, fuse, tested.Own, [end], words);
        }
    }

    private static bool HasFeedWire(TestedDuty tested, PartId fuse) =>
        tested.Machine.Index.EndsAt(tested.Feeding.Sides(fuse, tested.Own).Feed).Any();

    private static Condition Bulb(
        TestedDuty tested,
        PartId fuse,
        ControlSetting setting,
        IReadOnlyList<Disconnection> off,
        string words
    )
    {
        var (circuit, machine) = (tested.Circuit, tested.Machine);
        var (feed, load) = tested.Feeding.Sides(fuse, tested.Own);
        var pulled = machine.Index.EndsAt(feed).First().Name;
        var jump = new Jump(circuit.NodeOf(pulled), circuit.NodeOf(load), JumpKind.Lamp);
        return Joining.With(
            tested,
            setting,
            jump,
            $"{machine.Index.Part(fuse)!.Name} out, a bulb in its place{words}"
        ) with
        {
            Off = [pulled, .. off],
            MayTurnEngine = false,
        };
    }
}

/// <summary>
/// A test lamp to battery negative behind each fuse and contact that feeds the duty: it draws what a meter does not.
/// Never on a kill wire, nor where a controller or an ignition unit may lie on the way.
/// </summary>
public sealed class TestLampBehind : Procedure
{
    private const int MostPlaces = 3;

    /// <inheritdoc/>
    public override string Key => "test-lamp-behind";

    /// <inheritdoc/>
    public override string Why => "a lamp draws current, and shows up a joint that a meter reads full volts through";

    /// <inheritdoc/>
    public override int Rank => 602;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        var circuit = tested.Circuit;
        if (!Joining.Allowed(tested))
        {
            return [];
        }

        var ways = tested
            .LineParts.SelectMany(part => tested.Line(part).Pieces.TakeWhile(p => p.Of.Owner.Part != part))
            .ToList();
        if (ways.Exists(w => w.Of.Owner.Part is { } part && IsElectronic(circuit, part)))
        {
            return [];
        }

        const PartTraits Feeding = PartTraits.PullsOut | PartTraits.Trips | PartTraits.IsSwitched;
        var kill = circuit.Topology.KillMetal().ToHashSet();
        var behind = ways.Where(p =>
                p.Role == BranchRole.Contact || (p.Of.Owner.Part is { } part && circuit.Is(part, Feeding))
            )
            .Select(p => p.To)
            .Where(n => n != circuit.Reference && !kill.Contains(n))
            .Distinct()
            .ToList();
        var places = Math.Min(MostPlaces, behind.Count);
        var setting = tested.Effect == EffectKind.Turns ? Joining.Released(tested) : tested.Own;

        // The first, the last and one between: enough to halve the way.
        return Enumerable
            .Range(0, places)
            .Select(i => behind[i * (behind.Count - 1) / Math.Max(1, places - 1)])
            .Select(n =>
                Joining.With(
                    tested,
                    setting,
                    new Jump(n, circuit.Reference, JumpKind.TestLamp),
                    $"test lamp from {circuit.Called(n)} to battery −"
                ) with
                {
                    MayTurnEngine = false,
                }
            );
    }

    private static bool IsElectronic(Circuit circuit, PartId part) =>
        circuit.Is(part, PartTraits.IsElectronic)
        || (circuit.Machine.Index.Part(part) is { } its && DeviceKinds.Named(its.Kind) is { NeedsEngine: true });
}
