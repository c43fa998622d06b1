using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Complaints;

/// <summary>What a complaint of a running engine tells without a word: the engine was started.</summary>
public static class ToldByRunning
{
    /// <summary>
    /// How surely an engine that was seen running had been started by its own starter, with the fault there already: not
    /// jumped, pulled or towed, and nothing gone since. Judgement, common practice, no source.
    /// </summary>
    public const double Sure = 0.75;

    /// <summary>Duties that were done before the complaint could be seen; none when no engine ran.</summary>
    /// <param name="circuit">The machine.</param>
    /// <param name="complaint">What was told.</param>
    /// <param name="duty">The duty that failed, as it was tried.</param>
    public static IEnumerable<DutyId> Done(Circuit circuit, Complaint complaint, Duty duty) =>
        duty.Speed <= DutySpeed.Crank
            ? []
            : circuit
                .Machine.Duties.Where(d => !d.Refuses && circuit.DeviceOf(d.Load) is ICranks)
                .Select(d => d.Id)
                .Where(id => id != complaint.Duty && !complaint.Also.Any(a => a.Duty == id));
}
