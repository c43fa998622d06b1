using Pritchel.Core.Machines.Files;

namespace Pritchel.Core.Machines.Making;

/// <summary>
/// A machine being drawn or changed: what it began from and what it is now. It may have loose ends, but nothing in it is
/// ever wrong: a change that would make it so is refused as a whole.
/// </summary>
/// <param name="Start">What it began from.</param>
/// <param name="Now">What it is now.</param>
public sealed record MachineDraft(Machine Start, Machine Now)
{
    /// <summary>Checks a change before it is kept.</summary>
    /// <returns>Why it is refused; empty when it may be kept. Places are JSON pointers into the changed machine.</returns>
    public static IReadOnlyList<MachineProblem> Refusals(MachineChange change) =>
        [.. MachineValidator.Check(change.Machine).Where(p => !p.Unfinished)];

    /// <summary>What it still lacks before it can be saved.</summary>
    public IReadOnlyList<MachineProblem> Lacks => DutyCheck.Lacks(Now);

    /// <summary>What was changed since it began.</summary>
    public IReadOnlyList<string> Changes => MachineDifference.Between(Start, Now);
}
