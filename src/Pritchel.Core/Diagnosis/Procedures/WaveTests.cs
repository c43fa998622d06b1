using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>Peaks at every point of the leads of exciters and pickups, everything joined, the engine pulled over.</summary>
public sealed class WindingPeaks : Procedure
{
    /// <inheritdoc/>
    public override string Key => "winding-peaks";

    /// <inheritdoc/>
    public override string Why => "what an exciter or a pickup gives is seen only while the magnet passes";

    /// <inheritdoc/>
    public override int Rank => 200;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        if (tested.Effect != EffectKind.Sparks)
        {
            yield break;
        }

        var circuit = tested.Circuit;
        var pairs = new List<(int Red, int Black)>();
        foreach (var part in tested.Machine.Parts.Where(p => IsTimed(circuit, p)))
        {
            var leads = circuit.LeadsOf(part).Leads;
            if (leads.Count == 0)
            {
                continue;
            }

            // To ground, or to where its other lead ends: nobody opens an engine for the black clip.
            var other = leads.Count > 1 ? circuit.Reached(leads[1]) : [];
            var end = other
                .Where(a => a != leads[1] && !circuit.Is(a.Part, Wiring.Passed))
                .Select(a => (TerminalAddress?)a)
                .FirstOrDefault();
            var black = leads.Count > 1 ? circuit.NodeOf(end ?? leads[1]) : circuit.Reference;
            pairs.AddRange(circuit.Reached(leads[0]).Select(a => (circuit.NodeOf(a), black)));
        }

        var blacks = pairs.Select(p => p.Black).ToHashSet();
        List<(int, int)> read = [.. pairs.Where(p => !blacks.Contains(p.Red)).DistinctBy(p => p.Red)];
        if (read.Count > 0)
        {
            yield return tested.Turning(
                tested.Own,
                DutySpeed.Crank,
                PeakVolts.Instance,
                read,
                "everything joined · " + tested.Own.Words(tested.Machine)
            );
        }
    }

    /// <summary>Whether a part is a winding that ignition draws its energy or its time from.</summary>
    private static bool IsTimed(Circuit circuit, Part part) =>
        circuit.HasDevice(part.Id)
        && circuit.DeviceOf(part.Id) is INeedsEngine and not IChargeWinding
        && part.Terminals.Count <= 2;
}

/// <summary>Along a circuit that is fed with AC: what is read to ground as it works.</summary>
public sealed class AlternatingFeed : Procedure
{
    // Less than this is no AC circuit: from memory.
    private const double SomeVolts = 1;

    /// <inheritdoc/>
    public override string Key => "ac-feed";

    /// <inheritdoc/>
    public override string Why => "volts are lost along a circuit fed with AC as along any other";

    /// <inheritdoc/>
    public override int Rank => 201;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        if (!tested.HasBattery || tested.Duty.Refuses || !tested.FollowsWaves || tested.Effect == EffectKind.Charges)
        {
            yield break;
        }

        var circuit = tested.Circuit;
        var state = DutyWaves.Tried(circuit, tested.Duty);
        var pairs = Enumerable
            .Range(0, circuit.Network.NodeCount)
            .Where(n =>
                circuit.IsTerminal(n) && n != circuit.Reference && state.Alternating(n, circuit.Reference) > SomeVolts
            )
            .Select(n => (n, circuit.Reference))
            .ToList();
        if (pairs.Count > 0)
        {
            yield return tested.Turning(
                tested.Own,
                tested.Duty.Speed,
                AlternatingVolts.Instance,
                pairs,
                tested.Own.Words(tested.Machine)
            );
        }
    }
}

/// <summary>For charging: AC of a charge winding's leads among themselves, its wires off what they feed.</summary>
public sealed class StatorVolts : Procedure
{
    /// <inheritdoc/>
    public override string Key => "stator-volts";

    /// <inheritdoc/>
    public override string Why => "open, a stator shows what it makes, and its legs alike";

    /// <inheritdoc/>
    public override int Rank => 202;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        var circuit = tested.Circuit;
        if (!tested.HasBattery || tested.Duty.Refuses || !tested.FollowsWaves || tested.Effect != EffectKind.Charges)
        {
            yield break;
        }

        foreach (
            var part in tested.Machine.Parts.Where(p =>
                circuit.HasDevice(p.Id) && circuit.DeviceOf(p.Id) is IChargeWinding
            )
        )
        {
            var (terminals, ground) = circuit.LeadsOf(part);
            var reached = terminals.Select(t => circuit.Reached(t)).ToList();
            foreach (var (fed, ends) in circuit.FarEnds(part, reached))
            {
                var leads = ends.Select(e => circuit.NodeOf(e)).Distinct().ToList();
                foreach (var pairs in Wiring.Pairs(leads, ground))
                {
                    yield return tested.Turning(
                        tested.Own,
                        tested.Duty.Speed,
                        AlternatingVolts.Instance,
                        pairs,
                        $"wires of the {part.Name} off the {fed.Name}"
                    ) with
                    {
                        Off = [.. ends.Select(e => (Disconnection)e)],
                    };
                }
            }
        }
    }
}
