using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>
/// Amps out of a battery with everything off but what was left on, and with each fuse, coupling, wire at its post or lead of what is dear to renew off in turn.
/// </summary>
public sealed class StandingDrain : Procedure
{
    /// <inheritdoc/>
    public override string Key => "standing-drain";

    /// <inheritdoc/>
    public override string Why => "the branch whose fuse stops the drain is the one that drains";

    /// <inheritdoc/>
    public override int Rank => 300;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        var (circuit, machine) = (tested.Circuit, tested.Machine);
        if (tested.Effect != EffectKind.Charges || !tested.Duty.Refuses)
        {
            yield break;
        }

        var pair = (circuit.NodeOf(tested.Duty.Load.At("-")), circuit.NodeOf(tested.Duty.Load.At("+")));
        Condition In(ControlSetting setting, IReadOnlyList<Disconnection> off, string words) =>
            tested.In(setting) with
            {
                Observable = DirectAmps.Instance,
                Off = off,
                Pairs = [pair],
                Words = setting.Equals(tested.Rest) ? words : $"{words} · {setting.Words(machine)}",
            };

        var post = circuit.PartsThat(PartTraits.StoresCharge).Skip(1).Any()
            ? $"the {tested.Load.Name}'s negative post"
            : "the negative post";

        // A battery switch that was left on overnight is left on: what drains behind it is fed in no other way.
        Condition Reading(IReadOnlyList<Disconnection> off, string words) => In(tested.Own, off, words);
        foreach (var setting in new[] { tested.Own, tested.Rest }.Distinct())
        {
            yield return In(setting, [], $"in series between {post} and its cable");
        }

        foreach (var part in circuit.Couplings())
        {
            yield return Reading([part.Id], $"in series at {post}, {part.Name} apart");
        }

        // What shares the battery's post comes off it one by one; what would be dear to renew wrongly is freed of its lead.
        var fed = tested.Feeding.In(tested.Own);
        bool IsFreed(Part part, TerminalAddress at) =>
            part.Id != tested.Duty.Load
            && fed.Contains(circuit.NodeOf(at))
            && DeviceKinds.Named(part.Kind) is { IsCostly: true };
        foreach (var wire in machine.Wires)
        {
            foreach (var (end, at) in wire.Ends)
            {
                var part = machine.Index.PartAt(at)!;
                if (circuit.Is(part.Id, PartTraits.PullsOut) && at.Terminal == part.Terminals[^1])
                {
                    yield return Reading([end], $"in series at {post}, {part.Name} out");
                }
                else if (circuit.Is(part.Id, PartTraits.Trips) || circuit.NodeOf(at) == pair.Item2 || IsFreed(part, at))
                {
                    yield return Reading([end], $"in series at {post}{Wiring.Pulled(wire, part)}");
                }
            }
        }
    }
}

/// <summary>
/// What may have blown a fuse, by ohms with the fuse out and the battery off: its load side to ground, everything joined,
/// with each coupling apart, and with wires pulled off one by one.
/// </summary>
public sealed class FuseOut : Procedure
{
    /// <inheritdoc/>
    public override string Key => "fuse-out";

    /// <inheritdoc/>
    public override string Why => "what blew the fuse is still to ground with the fuse out";

    /// <inheritdoc/>
    public override int Rank => 400;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        var (circuit, machine) = (tested.Circuit, tested.Machine);
        var fuses = (
            tested.Effect == EffectKind.Holds
                ? [tested.Duty.Load]
                : circuit.PartsThat(PartTraits.PullsOut).Select(p => p.Id)
        )
            .Select(id => tested.Feeding.Sides(id, tested.Own))
            .ToList();
        var nodes = fuses.Select(f => circuit.NodeOf(f.Load)).Where(n => n != circuit.Reference).Distinct().ToList();
        if (!tested.HasBattery || tested.Duty.Refuses || nodes.Count == 0)
        {
            yield break;
        }

        var feeds = fuses.SelectMany(f => machine.Index.EndsAt(f.Feed)).Select(e => (Disconnection)e.Name).ToList();
        Condition Out(ControlSetting setting, IReadOnlyList<Disconnection> off, string words) =>
            tested.Dead(
                setting,
                [.. feeds, .. off],
                [.. nodes.Select(n => (n, circuit.Reference))],
                $"fuse out{words} · {setting.Words(machine)}"
            );
        foreach (var setting in tested.Settings())
        {
            yield return Out(setting, [], "");
        }

        var fed = tested.Feeding.In(tested.Own);
        foreach (var coupling in circuit.Couplings())
        {
            // Each side by itself: what lies to ground beyond it is then on that side or the other.
            var sides = coupling.Addresses.Select(a => circuit.NodeOf(a)).Where(fed.Contains).Except(nodes).Distinct();
            var apart = Out(tested.Own, [coupling.Id], $", {coupling.Name} apart");
            yield return apart with
            {
                Pairs = [.. apart.Pairs!, .. sides.Select(n => (n, circuit.Reference))],
            };
        }

        var leaving =
            tested.Effect == EffectKind.Holds
                ? Wiring.LeavingGuarded(tested)
                : Leaving(tested).Concat(LeavingFed(tested, fed));
        foreach (var (end, words) in leaving.DistinctBy(l => l.End))
        {
            // What it was pulled off is read by itself there: a load may be as near to a short as what else is still joined.
            var at = circuit.NodeOf(machine.Index.TerminalOf(end)!.Value);
            var pulled = Out(tested.Own, [end], words);
            yield return tested.Effect == EffectKind.Holds && at != circuit.Reference && !nodes.Contains(at)
                ? pulled with
                {
                    Pairs = [.. pulled.Pairs!, (at, circuit.Reference)],
                }
                : pulled;
        }

        foreach (var (wire, off, at, words) in tested.Effect == EffectKind.Holds ? ByThemselves(tested, fed) : [])
        {
            yield return Out(tested.Own, off, $", {Wiring.Called(wire)} by itself: {words}") with
            {
                Pairs = [(at, circuit.Reference)],
            };
        }
    }

    /// <summary>
    /// Wires that are fed there, freed at both ends: what still has ground then is the wire. Without it a lead behind a motor or
    /// a contact that rests on ground is never told from them.
    /// </summary>
    private static IEnumerable<(Wire Wire, IReadOnlyList<Disconnection> Off, int At, string Words)> ByThemselves(
        TestedDuty tested,
        IReadOnlySet<int> fed
    )
    {
        var (circuit, machine) = (tested.Circuit, tested.Machine);
        foreach (var wire in machine.Wires.Where(w => w.Cable != true))
        {
            var ends = wire.Ends.ToList();
            if (!ends.Exists(e => fed.Contains(circuit.NodeOf(e.At))) || ends.TrueForAll(e => IsApart(e.At)))
            {
                continue;
            }

            Disconnection[] off = [.. ends.Select(e => IsApart(e.At) ? (Disconnection)e.At.Part : e.Name)];
            var (loose, at) = ends.First(e => !IsApart(e.At));
            if (
                Array.TrueForAll(off, o => Case.CanComeOff(circuit, o))
                && ends.TrueForAll(e => e.At != tested.Duty.Load.At(e.At.Terminal))
            )
            {
                yield return (
                    wire,
                    off,
                    circuit.NodeOf(loose),
                    string.Join(
                        ", ",
                        ends.Select(e =>
                            IsApart(e.At)
                                ? $"{machine.Index.PartAt(e.At)!.Name} apart"
                                : $"off the {machine.Index.PartAt(e.At)!.Name}"
                        )
                    )
                );
            }
        }

        bool IsApart(TerminalAddress at) => circuit.Is(at.Part, PartTraits.ComesApart);
    }

    /// <summary>Wires of whatever else the battery feeds that can be pulled off where they leave a switch or a relay.</summary>
    private static IEnumerable<(WireEndId End, string Words)> LeavingFed(TestedDuty tested, IReadOnlySet<int> fed)
    {
        var (circuit, machine) = (tested.Circuit, tested.Machine);
        foreach (var wire in machine.Wires.Where(w => w.Cable != true))
        {
            foreach (var (end, at) in wire.Ends)
            {
                if (circuit.Is(at.Part, Wiring.Contacts) && fed.Contains(circuit.NodeOf(at)))
                {
                    yield return (end, Wiring.Pulled(wire, machine.Index.PartAt(at)!));
                }
            }
        }
    }

    /// <summary>Wires of the duty's line that can be pulled off where they leave a switch or a relay.</summary>
    private static IEnumerable<(WireEndId End, string Words)> Leaving(TestedDuty tested)
    {
        var (circuit, machine) = (tested.Circuit, tested.Machine);
        foreach (var piece in tested.IsEnergy ? [] : tested.Line(tested.Duty.Control ?? tested.Duty.Load).Pieces)
        {
            if (
                piece is not { Role: BranchRole.Conductor, Of.Owner.Wire: { } id }
                || machine.Index.Wire(id) is not { Cable: not true } wire
            )
            {
                continue;
            }

            var near = circuit.NodeOf(wire.Id.From) == piece.From ? wire.Id.From : wire.Id.To;
            var part = machine.Index.PartAt(machine.Index.TerminalOf(near)!.Value)!;
            if (circuit.Is(part.Id, Wiring.Contacts))
            {
                yield return (near, Wiring.Pulled(wire, part));
            }
        }
    }
}
