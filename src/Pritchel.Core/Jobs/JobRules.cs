namespace Pritchel.Core.Jobs;

/// <summary>In which order things can happen on a job, whoever asks: a page or a program.</summary>
public static class JobRules
{
    /// <summary>Why something cannot happen now, in words with what is to be done first; null when it can.</summary>
    /// <param name="state">What the job stands at.</param>
    /// <param name="next">What would happen.</param>
    public static string? Refusal(JobState state, JobEvent next) =>
        state.IsReadOnly
            ? "An entry of this job cannot be read here, so nothing is added to it; what there is can be read and printed."
        : state.Closed is not null ? "This job is closed; nothing was added. Start a new job for the same machine."
        : next switch
        {
            ComplaintMade or Undone or HelpChanged => null,
            ReadingTaken
            or TestPassedOver
            or LookedAt
            or Wiggled
            or PartTested
            or VerdictTaken
            or MeasuredOn
            or PartsPriced when !state.ComplaintTold => "Write the complaint down first.",
            LeadPut when state.Verdict is null => "A lead is tried over what a verdict names: take the verdict first.",
            LeadPut when state is { Lead: not null, LeadOff: null } => "A lead is on already; take it off first.",
            LeadOff when state is not { Lead: not null, LeadOff: null } => "No lead is on.",
            RepairDone when state.Verdict is null => "Take the verdict first.",
            ProofGiven when state.Repair is null => "Write down what was done first; then it is proved.",
            JobClosed when state.Repair is null => "Write down what was done before the job is closed.",
            BypassRemoved removed when !state.OpenBypasses.Contains(removed.Bypass) =>
                "That is not in the register of bypasses any more.",
            _ => null,
        };
}
