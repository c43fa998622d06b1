using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>Each winding by itself, its wires off: ohms between its terminals.</summary>
public sealed class WindingOhms : Procedure
{
    /// <inheritdoc/>
    public override string Key => "winding-ohms";

    /// <inheritdoc/>
    public override string Why => "a winding by itself is open, or has lost turns, or neither";

    /// <inheritdoc/>
    public override int Rank => 700;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        var (circuit, machine) = (tested.Circuit, tested.Machine);
        if (tested.HasBattery && !tested.IsEnergy)
        {
            yield break;
        }

        foreach (var part in machine.Parts.Where(p => IsWinding(tested, p)))
        {
            var pairs = NormalReadings
                .Across(machine, part)
                .Select(a => (Red: circuit.NodeOf(a.Red), Black: circuit.NodeOf(a.Black)))
                .Where(a => a.Red != a.Black)
                .ToList();
            if (pairs.Count > 0)
            {
                yield return tested.Dead(
                    tested.Own,
                    [.. machine.EndsOn(part).Select(e => (Disconnection)e)],
                    pairs,
                    $"wires off the {part.Name}"
                );
            }
        }
    }

    private static bool IsWinding(TestedDuty tested, Part part) =>
        tested.Circuit.HasDevice(part.Id)
        && (
            DeviceKinds.Named(part.Kind)!.NeedsEngine
            || tested.Circuit.DeviceOf(part.Id).Effect(tested.AtRest).Kind == EffectKind.Sparks
        );
}

/// <summary>
/// A winding, or the coil that is to spark, as seen from along its leads: each coupling on the way apart, then the wires off
/// what it feeds. From lead to lead where it has several, to its case where it has one.
/// </summary>
public sealed class LeadOhms : Procedure
{
    /// <inheritdoc/>
    public override string Key => "lead-ohms";

    /// <inheritdoc/>
    public override string Why =>
        "a winding that is sound at its own terminals and not from further off has a bad lead";

    /// <inheritdoc/>
    public override int Rank => 701;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        if (tested.HasBattery && !tested.IsEnergy)
        {
            return [];
        }

        PartId? coil = tested.Effect == EffectKind.Sparks ? tested.Duty.Load : null;
        return tested
            .Machine.Parts.Where(p => p.Id == coil || DeviceKinds.Named(p.Kind) is { NeedsEngine: true })
            .SelectMany(p => Of(tested, p));
    }

    private static IEnumerable<Condition> Of(TestedDuty tested, Part part)
    {
        var circuit = tested.Circuit;
        var (terminals, ground) = circuit.LeadsOf(part);
        var reached = terminals.Select(t => circuit.Reached(t)).ToList();
        var far = circuit.FarEnds(part, reached).ToList();
        foreach (
            var coupling in circuit.Couplings().Where(c => c.Addresses.Any(a => reached.Exists(r => r.Contains(a))))
        )
        {
            foreach (var seen in FromCoupling(tested, part, coupling, terminals, ground, far))
            {
                yield return seen;
            }
        }

        // The quickest look at a lead with all its joints: what else joins its ends has more ohms than they.
        var along = terminals
            .Zip(reached)
            .SelectMany(t =>
                t.Second.Where(a => circuit.LeadsTo(a, t.First))
                    .Select(a => (Red: circuit.NodeOf(a), Black: circuit.NodeOf(t.First)))
            )
            .Where(p => p.Red != p.Black)
            .DistinctBy(p => p.Red)
            .ToList();
        if (along.Count > 0)
        {
            yield return tested.Dead(
                tested.Own,
                [],
                along,
                $"engine stopped, along each lead of the {part.Name}, all joined"
            );
        }

        var near = tested.Machine.EndsOn(part);
        if (Along(tested, near, reached, $"wires off the {part.Name}, engine stopped") is { } nearAlong)
        {
            yield return nearAlong;
        }

        foreach (var (fed, ends) in far)
        {
            var words = $"wires of the {part.Name} off the {fed.Name}, engine stopped";
            foreach (var pairs in Wiring.Pairs([.. ends.Select(e => circuit.NodeOf(e)).Distinct()], ground))
            {
                yield return tested.Dead(tested.Own, Off(ends), pairs, words);
            }

            if (Along(tested, ends, reached, words) is { } farAlong)
            {
                yield return farAlong;
            }
        }
    }

    private static IEnumerable<Condition> FromCoupling(
        TestedDuty tested,
        Part part,
        Part coupling,
        List<TerminalAddress> terminals,
        int ground,
        List<(Part Fed, List<WireEndId> Ends)> far
    )
    {
        var circuit = tested.Circuit;
        var side = terminals
            .Select(t => circuit.Reached(t, coupling.Id))
            .SelectMany(r => coupling.Addresses.Where(r.Contains).Take(1))
            .Select(a => circuit.NodeOf(a))
            .Distinct()
            .ToList();
        foreach (var pairs in Wiring.Pairs(side, ground))
        {
            yield return tested.Dead(tested.Own, [coupling.Id], pairs, $"{coupling.Name} apart, engine stopped");
        }

        // Joints at the winding, or at what it feeds, come off with the wires: read from here they are in.
        var fed = far.SelectMany(f => f.Ends.Select(e => tested.Machine.Index.TerminalOf(e)!.Value));
        foreach (
            var (ends, words) in new[]
            {
                (terminals, $"{coupling.Name} apart, each lead to the {part.Name}"),
                (fed.ToList(), $"{coupling.Name} apart, each lead of the {part.Name} to what it feeds"),
            }
        )
        {
            if (Joined(circuit, coupling, ends) is { Count: > 0 } joined)
            {
                yield return tested.Dead(tested.Own, [coupling.Id], joined, words);
            }
        }
    }

    /// <summary>
    /// Each lead by itself, from its loose end to every coupling on it and to what it ends on beyond; null where there is none.
    /// </summary>
    private static Condition? Along(
        TestedDuty tested,
        List<WireEndId> ends,
        List<HashSet<TerminalAddress>> reached,
        string words
    )
    {
        var circuit = tested.Circuit;
        var loose = ends.Select(e => circuit.NodeOf(e)).ToHashSet();
        var pairs = ends.SelectMany(e =>
            {
                var at = tested.Machine.Index.TerminalOf(e)!.Value;
                return (reached.Find(r => r.Contains(at)) ?? [])
                    .Where(a => circuit.LeadsTo(a, at))
                    .Select(a => (Red: circuit.NodeOf(a), Black: circuit.NodeOf(e)));
            })
            .Where(a => !loose.Contains(a.Red))
            .DistinctBy(a => a.Red)
            .ToList();
        return pairs.Count == 0 ? null : tested.Dead(tested.Own, Off(ends), pairs, words + ", along each lead");
    }

    private static IReadOnlyList<Disconnection> Off(IEnumerable<WireEndId> ends) =>
        [.. ends.Select(e => (Disconnection)e)];

    /// <summary>From a coupling's cavities to the terminals that each side of it leads to.</summary>
    private static List<(int Red, int Black)> Joined(
        Circuit circuit,
        Part coupling,
        IEnumerable<TerminalAddress> terminals
    ) =>
        [
            .. terminals
                .SelectMany(t =>
                {
                    var led = circuit.Reached(t, coupling.Id);
                    return coupling
                        .Addresses.Where(led.Contains)
                        .Take(1)
                        .Select(c => (Red: circuit.NodeOf(c), Black: circuit.NodeOf(t)));
                })
                .DistinctBy(p => p.Red),
        ];
}

/// <summary>
/// What a load of a machine without a battery is fed through, engine stopped: ohms from its far terminal to every point of
/// the loop, which a break cuts in two.
/// </summary>
public sealed class DeadLoadOhms : Procedure
{
    // Less than this on the sound machine, and a point lies on the way: from memory.
    private const double OnTheWayOhms = 60;

    /// <inheritdoc/>
    public override string Key => "dead-load-ohms";

    /// <inheritdoc/>
    public override string Why => "a break cuts the loop that feeds it in two";

    /// <inheritdoc/>
    public override int Rank => 702;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        var (circuit, load) = (tested.Circuit, tested.Load);
        if (
            tested.HasBattery
            || tested.Effect is not (EffectKind.Works or EffectKind.Glows)
            || load.Terminals.Count < 2
        )
        {
            yield break;
        }

        var black = circuit.NodeOf(load.At(load.Terminals[1]));
        var @case = new Case { Circuit = circuit, Settings = [tested.Own] };
        var reds = Enumerable
            .Range(0, circuit.Network.NodeCount)
            .Where(n =>
                n != black
                && circuit.IsTerminal(n)
                && Metering.Bench.Read(@case, Meter.Ordinary, MeterFunction.Ohms, n, black)
                    is { OverRange: false, Value: < OnTheWayOhms }
            );
        yield return tested.Dead(
            tested.Own,
            [],
            [.. reds.Select(n => (n, black))],
            $"engine stopped · {tested.Own.Words(tested.Machine)}"
        );
    }
}
