using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Faults;
using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Simulation;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>What the page of a repair shows: what is mended, how, and what proves the place first.</summary>
/// <param name="Repair">Repair decided on; null where nothing electrical is to be mended.</param>
/// <param name="Guide">How it is done.</param>
/// <param name="Clip">A clip lead that would prove the place, or null.</param>
/// <param name="Elsewhere">Other circuits of this machine that can keep it from running.</param>
public sealed record RepairShown(Repair? Repair, RepairGuide Guide, ClipLead? Clip, IReadOnlyList<Symptom> Elsewhere)
{
    /// <summary>What it is called.</summary>
    public string Name => Repair?.Name ?? "Nothing to mend in this circuit";

    /// <summary>For a job; null where no verdict was taken.</summary>
    public static RepairShown? Of(OpenJob open)
    {
        if (open.State.Verdict is not { } verdict)
        {
            return null;
        }

        var repair = verdict.On.Repair is { } mended
            ? open.Circuit.Faults.Select(f => f.Repair).FirstOrDefault(r => r.Id == mended)
            : null;
        var likeliest = open.Diagnosis.Beliefs.Suspects.FirstOrDefault(s => s.Id == verdict.On)?.Likeliest;
        return new RepairShown(
            repair,
            repair is not null ? RepairSteps.For(repair.Kind, likeliest?.Kind, open.Circuit.HasIgnition)
                : verdict.On == SuspectId.AsDesigned
                    ? (IsTrueWarning(open) ? RepairSteps.TrueWarning : RepairSteps.AsDesigned)
                : open.Circuit.HasIgnition ? RepairSteps.NotElectrical
                : RepairSteps.NotElectricalDiesel,
            likeliest is null ? null : ClipLead.For(open.Kit, likeliest),
            verdict.On == SuspectId.Sound ? [.. OthersThatStop(open)] : []
        );
    }

    /// <summary>Whether what it warns of is so: neither put in the way by hand nor given by what was altered.</summary>
    private static bool IsTrueWarning(OpenJob open) =>
        open.Kit.Table.Duty.Warns && open.Design is not { AsDesigned: true, MayBeTrue: false };

    private static IEnumerable<Symptom> OthersThatStop(OpenJob open) =>
        open.Version.Symptoms.Where(s =>
            s.Group is CircuitGroup.Fuel or CircuitGroup.Ignition
            && !s.Duty.Refuses
            && s.Duty.Id != open.State.Complaint!.Duty
        );
}
