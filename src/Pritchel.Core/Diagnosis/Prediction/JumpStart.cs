using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <summary>
/// Jump leads from a good battery, which everybody tries before a meter is out. What the starter does on them tells the battery from all
/// that comes behind it. The machine is solved with a second battery in it: its leads on the battery's posts, or with the negative one
/// on metal away from it, as handbooks for booster cables advise, where they bridge the negative cable and its joints as well. Nobody says
/// which: each is taken for half. A clamp on the positive post may bite on the cable's end too, so that its joint is bridged in half of them.
/// Shares, and how often leads that bite badly do nothing, are judgement: common practice, no source.
/// </summary>
public static class JumpStart
{
    // A car's battery, nearly full, and a pair of leads of three metres.
    private const double DonorColdCranking = 600;
    private const double DonorCharge = 0.95;
    private const string LeadGauge = "16 mm2";
    private const double LeadMetres = 3;

    /// <summary>Whether it can be told of a complaint: a starter that does not do what it should, and a battery.</summary>
    /// <param name="circuit">The machine.</param>
    /// <param name="duty">The duty that fails.</param>
    public static bool IsFor(Circuit circuit, Duty duty) =>
        !duty.Refuses
        && circuit.DeviceOf(duty.Load) is ICranks
        && circuit.PartsThat(PartTraits.StoresCharge).Any()
        && DutyTries.IsQuick(circuit, duty);

    /// <summary>How the starter does on the leads with each fault that keeps it from doing so without them.</summary>
    /// <param name="circuit">The machine.</param>
    /// <param name="duty">The duty that fails, as it was tried; one that <see cref="IsFor"/> allows.</param>
    /// <param name="altered">What was found altered.</param>
    public static DutyTries Tries(Circuit circuit, Duty duty, IReadOnlyList<AlterationId> altered)
    {
        var battery = Helped(circuit, duty);
        var (positive, negative) = (battery.At("+"), battery.At("-"));
        var away = circuit.Machine.Mounts.FirstOrDefault(m => m.Terminal.Part == duty.Load)?.On ?? negative;
        return DutyTries.Mean(
            Tries(circuit, duty, altered, battery, negative),
            Tries(circuit, duty, altered, battery, away),
            fault =>
                fault.Joint is { } end && circuit.Machine.Index.Wire(end.Wire)?.End(end.Side).At == positive ? 0.5 : 0
        );
    }

    /// <summary>The battery that the starter is fed from; the first where that is none.</summary>
    private static Part Helped(Circuit circuit, Duty duty)
    {
        var batteries = circuit.PartsThat(PartTraits.StoresCharge).ToList();
        var line = LinePath.Through(circuit, circuit.Setting(duty.Setting), duty.Load).Nodes.ToHashSet();
        return batteries.Find(b => line.Contains(circuit.NodeOf(b.At("+")))) ?? batteries[0];
    }

    private static DutyTries Tries(
        Circuit circuit,
        Duty duty,
        IReadOnlyList<AlterationId> altered,
        Part battery,
        TerminalAddress negative
    )
    {
        var helped = Circuit.Compile(With(circuit.Machine, battery, negative));
        var donor = new PartId(DonorName);
        var off = ((IStoresCharge)helped.DeviceOf(donor)).Isolation;
        var apart = helped.Faults.First(f =>
            f.Id.Of.Owner.Part == donor
            && f.Changes is [{ Rule: ChangeRule.Set, Amount: double.PositiveInfinity } change]
            && change.Parameter == off
        );
        return DutyTries.Build(helped, duty, altered, duty, new PlantedFault(apart, 1));
    }

    // No machine's file may call anything so: its ids have no blanks.
    private const string DonorName = "battery that helps";

    private static Machine With(Machine machine, Part battery, TerminalAddress negative)
    {
        // Of the kind that it helps.
        var donor = battery with
        {
            Id = new PartId(DonorName),
            Name = DonorName,
            Values = new SortedDictionary<string, double>(StringComparer.Ordinal)
            {
                ["coldCrankingAmps"] = DonorColdCranking,
                ["charge"] = DonorCharge,
            },
        };
        Wire Lead(string id, TerminalAddress from, TerminalAddress to) =>
            machine.Wires[0] with
            {
                Id = new WireId(id),
                From = new(from, "ring"),
                To = new(to, "ring"),
                Gauge = LeadGauge,
                LengthM = LeadMetres,
                Cable = true,
            };
        return machine with
        {
            Parts = [.. machine.Parts, donor],
            Wires =
            [
                .. machine.Wires,
                Lead("jump lead, red", donor.At("+"), battery.At("+")),
                Lead("jump lead, black", donor.At("-"), negative),
            ],
        };
    }
}
