using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Complaints;

/// <summary>
/// What a complaint tells besides: what its words say was done, and what goes without saying, as that an engine seen running
/// was started.
/// </summary>
public static class ToldBesides
{
    // An engine seen running had been started by its own starter, with the fault there already: not jumped, pulled or towed,
    // and nothing gone since. Judgement, common practice, no source.
    private const double Sure = 0.75;

    // What the complaint itself says of it.
    private const double SureOfSaid = 0.97;

    /// <summary>Duties that were done before the complaint could be seen, and how surely; none when no engine ran.</summary>
    /// <param name="circuit">The machine.</param>
    /// <param name="complaint">What was told.</param>
    /// <param name="duty">The duty that failed, as it was tried.</param>
    public static IEnumerable<(DutyId Duty, double Sure)> Done(Circuit circuit, Complaint complaint, Duty duty) =>
        (complaint.Setting is null ? duty.OnTheWay : [])
            .Select(id => (id, SureOfSaid))
            .Concat((duty.Speed <= DutySpeed.Crank ? [] : Starts(circuit)).Select(id => (id, Sure)))
            .Where(d => d.id != complaint.Duty && !complaint.Also.Any(a => a.Duty == d.id));

    private static IEnumerable<DutyId> Starts(Circuit circuit) =>
        circuit.Machine.Duties.Where(d => !d.Refuses && circuit.DeviceOf(d.Load) is ICranks).Select(d => d.Id);
}
