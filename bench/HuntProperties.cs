using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Practice;
using Pritchel.Core.Simulation;

namespace Pritchel.Hunts;

/// <summary>
/// The program's own strategy, watched: what must hold of every hunt is checked at every step of it, from what is asked and believed and
/// not from how either came about.
/// </summary>
/// <param name="kit">What is hunted with.</param>
internal sealed class HuntProperties(DiagnosisKit kit) : IStrategy
{
    // Shares are estimates from a few dozen draws.
    private const double Slack = 0.05;

    private readonly ByInformation inner = new();

    private readonly Circuit circuit = kit.Circuit;

    /// <summary>What did not hold, in words.</summary>
    public List<string> Broken { get; } = [];

    /// <summary>How often something was checked.</summary>
    public int Checked { get; private set; }

    /// <inheritdoc/>
    public string Name => inner.Name;

    /// <inheritdoc/>
    public PlannedWiggle? Stir(WiggleTests wiggleTests, Beliefs beliefs, Situation situation) =>
        ((IStrategy)inner).Stir(wiggleTests, beliefs, situation);

    /// <inheritdoc/>
    public PlannedTest? Next(TestPlan plan, Beliefs beliefs, Situation situation)
    {
        var next = inner.Next(plan, beliefs, situation);
        if (beliefs.Readings.Count == 0)
        {
            LooselyToldSharpensNothing(beliefs);
            IsNotAsDesigned();
        }

        if (next is not null)
        {
            TwoAnswersPointApart(beliefs, next);
            TheMeterCanTell(beliefs, next);
            NobodyProbesWhereTheEngineMayNotTurn(next);
            NothingHangsOnDamp(next);
            SoundIsNotEverything(beliefs, next);
        }

        return next;
    }

    /// <inheritdoc/>
    public Decision Decide(Beliefs beliefs, PlannedTest? next, PlannedWiggle? stir = null)
    {
        var decided = ((IStrategy)inner).Decide(beliefs, next, stir);
        if (decided.Repair is not null)
        {
            OrderDoesNotMatter(beliefs);
            WhatIsDearWasReadItself(beliefs);
        }

        return decided;
    }

    private void Check(bool holds, Func<string> words)
    {
        Checked++;
        if (!holds)
        {
            Broken.Add($"{circuit.Machine.Id} {kit.Table.Duty.Id}: {words()}");
        }
    }

    /// <summary>What is told loosely is one of what may be told closely: no share is larger than with every one of those.</summary>
    private void LooselyToldSharpensNothing(Beliefs beliefs)
    {
        Beliefs Told(Heard heard) =>
            Beliefs.Weigh(
                kit.Table,
                beliefs.Complaint with
                {
                    Heard = heard,
                    Lamps = [],
                },
                beliefs.Meter,
                [],
                beliefs.SideEvidence
            );
        var closely = Symptoms
            .MayBeHeard(kit.Table.Effect, kit.Table.Duty)
            .Where(h => h is not (Heard.NotSaid or Heard.Works))
            .ToList();
        if (closely.Count < 2)
        {
            return;
        }

        var loose = Told(Heard.NotSaid);
        var told = closely.ConvertAll(h => Told(h).Suspects.ToDictionary(s => s.Id, s => s.Share));
        foreach (var suspect in loose.Suspects.Take(8))
        {
            var most = told.Max(t => t.GetValueOrDefault(suspect.Id));
            Check(
                suspect.Share <= most + Slack,
                () => $"told loosely {suspect.Id} has {suspect.Share:0.000}, closely {most:0.000} at the most"
            );
        }
    }

    /// <summary>In the moment that the duty itself is, the sound machine does it, so nothing is put aside as designed.</summary>
    private void IsNotAsDesigned() =>
        Check(
            !DesignCheck.Of(circuit, kit.Table.Duty, circuit.Setting(kit.Table.Duty.Setting)).AsDesigned,
            () => "called as designed where the sound machine does it"
        );

    /// <summary>
    /// Before one suspect stands nearly clear a card's two answers point to different ones; then to it here, or not here. What is asked once
    /// more is answered as before or otherwise.
    /// </summary>
    private void TwoAnswersPointApart(Beliefs beliefs, PlannedTest next)
    {
        if (beliefs.Readings.Any(r => r.At == next.At))
        {
            return;
        }

        var card = Outlook.Of(beliefs, next.At);
        Check(
            beliefs.Suspects[0].Share >= Isolation.Nearly || !card.PointsAlike,
            () =>
                $"{Words(next.At)} points to {Names(card.First.PointsTo)} ({card.First.Chance:0.0000}) and to {Names(card.Second.PointsTo)}, {next.Bits:0.000} bits"
        );
    }

    /// <summary>
    /// Before one suspect stands nearly clear what is asked tells, by one figure and by the meter in use, whatever shares were reckoned with;
    /// but to have the meter say what alone is left or what is left over.
    /// </summary>
    private void TheMeterCanTell(Beliefs beliefs, PlannedTest next)
    {
        if (
            beliefs.Suspects[0].Share >= Isolation.Nearly
            || next.Bits < TestPlan.LeastBits
            || next.IsToMakeSure
            || beliefs.Readings.Any(r => r.At == next.At)
        )
        {
            return;
        }

        var told = Outlook.Told(beliefs, next.At);
        Check(
            told >= TestPlan.LeastBits,
            () => $"{Words(next.At)} tells {told:0.000} bits by one figure of {next.Bits:0.000} reckoned"
        );
    }

    private static string Names(IEnumerable<Core.Faults.Repair> repairs) =>
        string.Join(" or ", repairs.Select(r => r.Short).DefaultIfEmpty("nothing"));

    /// <summary>
    /// No voltmeter is asked for what joins live metal to metal that floats on the sound machine: it shows nothing or all there is, by a leak
    /// that nobody knows.
    /// </summary>
    private void NothingHangsOnDamp(PlannedTest next)
    {
        if (!next.Condition.Observable.DampDecides)
        {
            return;
        }

        var sound = kit.Table.Healthy.Across(next.At);
        var byDamp = 0;
        for (var p = 0; p < kit.Table.Particles; p++)
        {
            byDamp += sound.IsByDamp(p) ? 1 : 0;
        }

        Check(byDamp < kit.Table.Particles / 2, () => $"{Words(next.At)}: sound, damp decides it");
    }

    /// <summary>No card calls everything from nothing to all there is sound: such a reading tells nothing, whatever it is.</summary>
    private void SoundIsNotEverything(Beliefs beliefs, PlannedTest next)
    {
        if (!next.Condition.Observable.DampDecides)
        {
            return;
        }

        var card = Outlook.Of(beliefs, next.At);
        Check(
            !card.BySoundness || card.First.High - card.First.Low < SoundBands.HalfTheVolts,
            () => $"{Words(next.At)}: {card.First.Low:0.00} to {card.First.High:0.00} V as sound"
        );
    }

    /// <summary>Where an engine may turn nobody's hands are where it may not.</summary>
    private void NobodyProbesWhereTheEngineMayNotTurn(PlannedTest next)
    {
        if (
            !next.Condition.MayTurnEngine
            || next.Condition.Observable.WantsDeadCircuit
            || !next.Condition.Observable.IsProbed
        )
        {
            return;
        }

        foreach (var node in new[] { next.At.Red, next.At.Black })
        {
            var there = circuit
                .TerminalsAt(node)
                .Select(a => circuit.Machine.Index.Part(a.Part)!.Place)
                .Any(p => circuit.Machine.Places.First(l => l.Id == p).EngineMayTurn);
            Check(
                there || !circuit.TerminalsAt(node).Any(),
                () => $"{Words(next.At)}: hands where the engine may not turn"
            );
        }
    }

    /// <summary>Readings taken in another order leave what they leave in this one.</summary>
    private void OrderDoesNotMatter(Beliefs beliefs)
    {
        var other = Beliefs.Weigh(
            kit.Table,
            beliefs.Complaint,
            beliefs.Meter,
            [.. beliefs.Readings.Reverse()],
            beliefs.SideEvidence
        );
        var first = beliefs.Suspects[0];
        var then = other.Suspects.First(s => s.Id == first.Id).Share;
        Check(
            Math.Abs(then - first.Share) < 1e-6,
            () => $"{first.Id} has {first.Share:0.000000}, the other way round {then:0.000000}"
        );
    }

    /// <summary>
    /// What is dear to renew wrongly was read at its own terminals, at what its leads go to, or at a plug on their way, as a pickup is at its
    /// unit's plug, or with a lead of it off (common practice, no source); where no hand may be while the engine may turn, at the battery's posts.
    /// </summary>
    private void WhatIsDearWasReadItself(Beliefs beliefs)
    {
        if (
            beliefs.Suspects[0] is not { Repair: { } repair, Likeliest.Id.Of.Owner.Part: { } id }
            || repair.Id != RepairId.OfPart(id)
            || circuit.Machine.Index.Part(id) is not { } part
            || DeviceKinds.Named(part.Kind) is not { IsCostly: true }
        )
        {
            return;
        }

        var own = part.Addresses.ToHashSet();
        if (!MachineWords.PlaceOf(circuit.Machine, part).EngineMayTurn)
        {
            own.UnionWith(
                circuit.Machine.Parts.Where(p => circuit.Is(p.Id, PartTraits.StoresCharge)).SelectMany(p => p.Addresses)
            );
        }

        var near = circuit
            .Machine.Wires.Where(w => w.Ends.Any(e => own.Contains(e.At)))
            .SelectMany(w => w.Ends.Select(e => e.At))
            .Concat(own)
            .Concat(own.SelectMany(a => circuit.Reached(a)).Where(a => circuit.Is(a.Part, PartTraits.ComesApart)))
            .Select(a => circuit.NodeOf(a))
            .Where(n => n != circuit.Reference)
            .ToHashSet();
        bool IsItsLead(Disconnection off) =>
            off.WireEnd is { } end && circuit.Machine.Index.TerminalOf(end) is { } at && own.Contains(at);
        Check(
            Isolation.Wanted(beliefs) is null,
            () =>
                $"{id} named on {string.Join("; ", beliefs.Readings.Select(r => Words(r.At) + " = " + r.Value))}, and no test isolated it"
        );
        Check(
            beliefs.SideEvidence.Tested(id)
                || beliefs.Readings.Any(r =>
                    near.Contains(r.At.Red)
                    || near.Contains(r.At.Black)
                    || kit.Table.Conditions[r.At.Condition].Off.Any(IsItsLead)
                ),
            () =>
                $"{id} condemned on {string.Join("; ", beliefs.Readings.Select(r => Words(r.At)))}, none of them its own"
        );
    }

    private string Words(ProbePair at) =>
        $"{kit.Table.Conditions[at.Condition].Observable.Key} {kit.Points.At(at.Red).Address} to {kit.Points.At(at.Black).Address} [{kit.Table.Conditions[at.Condition].Words}]";
}
