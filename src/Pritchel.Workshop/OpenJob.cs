using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;
using Pritchel.Data;

namespace Pritchel.Workshop;

/// <summary>A job laid out for work: its machine and, once the complaint is known, its diagnosis.</summary>
/// <param name="Job">The job.</param>
/// <param name="Version">Its machine, as it was when the job was opened.</param>
/// <param name="Meter">Meter in use.</param>
/// <param name="Kit">Predictions for its duty.</param>
/// <param name="Weighed">What its evidence comes to, weighed when it is asked for.</param>
/// <param name="Design">Whether a sound machine does the same where it happened; null when that is the duty's own setting.</param>
public sealed record OpenJob(
    Job Job,
    MachineVersion Version,
    Meter Meter,
    DiagnosisKit Kit,
    Lazy<JobDiagnosis> Weighed,
    DesignCheck? Design
)
{
    /// <summary>What its evidence comes to.</summary>
    public JobDiagnosis Diagnosis => Weighed.Value;

    /// <summary>Whether it stands that the machine works as designed, and nobody has chosen to measure on.</summary>
    public bool WorksAsDesigned => Design is { AsDesigned: true } && State.ComplaintTold && !State.GoesOn;

    /// <summary>Whether it has predictions; until then only what needs none may be shown.</summary>
    public bool IsWorkedOut { get; init; } = true;

    /// <summary>Whether its shares rest on a few cases of each fault, the rest being worked out while the first test is made.</summary>
    public bool IsCoarse => IsWorkedOut && Kit.Table.Grain == Grain.Coarse;

    /// <summary>Its circuit.</summary>
    public Circuit Circuit => Version.Circuit;

    /// <summary>Its machine.</summary>
    public Machine Machine => Version.Machine;

    /// <summary>Its state.</summary>
    public JobState State => Job.State;

    /// <summary>Stage, a waiting verdict included.</summary>
    public Stage Stage =>
        WorksAsDesigned && State.Stage == Stage.Measure ? Stage.Verdict
        : !IsWorkedOut ? State.Stage
        : Diagnosis.Stage;
}

/// <summary>What a job's evidence comes to, in what a list shows of it.</summary>
/// <param name="Stage">Stage, a waiting verdict included.</param>
/// <param name="TestsLeft">How many tests are about to go.</param>
/// <param name="MinutesLeft">How long they take.</param>
/// <param name="Sure">Share that the verdict which waits is stated at; null where none does.</param>
public sealed record JobStanding(Stage Stage, int TestsLeft, Minutes MinutesLeft, double? Sure)
{
    /// <summary>Works it out.</summary>
    public static JobStanding Of(JobDiagnosis diagnosis) =>
        diagnosis.Stage is not (Stage.Measure or Stage.Verdict)
            ? new JobStanding(diagnosis.Stage, 0, new Minutes(0), null)
            : new JobStanding(
                diagnosis.Stage,
                diagnosis.TestsLeft,
                diagnosis.MinutesLeft,
                diagnosis.Verdict.Suspect is { } suspect ? diagnosis.Certainty.Stated(suspect.Share) : null
            );
}

/// <summary>A job as its tag on the bench shows it.</summary>
/// <param name="Job">The job.</param>
/// <param name="Version">Its machine, as it was when the job was opened; null when that cannot be read.</param>
/// <param name="Duty">What fails; null when the machine, or that it failed, cannot be read.</param>
/// <param name="Design">Whether a sound machine does the same where it happened; null when that is the duty's own setting.</param>
/// <param name="Standing">What its evidence comes to; null until somebody has weighed it.</param>
public sealed record FloorJob(Job Job, MachineVersion? Version, Duty? Duty, DesignCheck? Design, JobStanding? Standing)
{
    /// <summary>Its state.</summary>
    public JobState State => Job.State;

    /// <summary>What of it cannot be read, in words; null when all can.</summary>
    public string? Unreadable =>
        State.Unreadable is [var (sequence, why), ..] ? $"Entry {sequence} cannot be read: {why}."
        : Version is null ? $"Version {Job.MachineVersion} of its machine cannot be read."
        : Duty is null ? "What it was opened for is not among what this machine does."
        : null;

    /// <summary>Whether it stands that the machine works as designed.</summary>
    public bool WorksAsDesigned => Design is { AsDesigned: true } && State.ComplaintTold && !State.GoesOn;

    /// <summary>Stage, a waiting verdict included where that is known.</summary>
    public Stage Stage =>
        WorksAsDesigned && State.Stage == Stage.Measure ? Stage.Verdict : Standing?.Stage ?? State.Stage;
}
