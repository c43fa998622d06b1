using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Observables;

namespace Pritchel.Core.Diagnosis.Evidence;

/// <summary>Whether the symptom was there while a reading was taken.</summary>
public enum SymptomNow
{
    /// <summary>It was, or the setting cannot show it.</summary>
    Present,

    /// <summary>It was not: the machine worked just then.</summary>
    Absent,

    /// <summary>Nobody tried.</summary>
    NotWatched,
}

/// <summary>A reading gathered after the complaint.</summary>
/// <param name="At">Where the probes were.</param>
/// <param name="Value">What was read, on the scale of what is read there; null when the figure jumped about.</param>
/// <param name="Symptom">Whether the symptom was there.</param>
/// <param name="Digits">How finely it was typed; null where the display is taken as it is.</param>
public sealed record Reading(ProbePair At, double? Value, SymptomNow Symptom, TypedDigits? Digits = null);
