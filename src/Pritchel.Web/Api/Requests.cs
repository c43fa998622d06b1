using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;

namespace Pritchel.Web.Api;

/// <summary>A fault to plant.</summary>
/// <param name="Id">Fault id, as /faults lists them.</param>
/// <param name="Severity">0 mildest to 1 worst; 0.5 when left out.</param>
public sealed record FaultRequest(string Id, double? Severity = null);

/// <summary>What to measure.</summary>
public sealed record MeasureRequest
{
    /// <summary>Position of controls by id; the rest are at rest.</summary>
    public Dictionary<string, string>? Setting { get; init; }

    /// <summary>Settings moved through before, in order: fuses and relays remember.</summary>
    public IReadOnlyList<Dictionary<string, string>>? Before { get; init; }

    /// <summary>Faults present together.</summary>
    public IReadOnlyList<FaultRequest>? Faults { get; init; }

    /// <summary>Address under the red probe, as /points lists them.</summary>
    public required string Red { get; init; }

    /// <summary>Address under the black probe.</summary>
    public required string Black { get; init; }

    /// <summary>Speed of engines by id, in revolutions a minute; those not named stand.</summary>
    public Dictionary<string, double>? Speeds { get; init; }

    /// <summary>Seconds that the setting has stood; timers run.</summary>
    public double WaitedSeconds { get; init; }

    /// <summary>Couplings apart, by part id, and wire ends off, as "wire@from" or "wire@to".</summary>
    public IReadOnlyList<string>? Off { get; init; }

    /// <summary>dcVolts, acVolts, peakVolts, ohms, beep, diode, dcAmps or testLamp.</summary>
    public MeterFunction Function { get; init; }

    /// <summary>Full scale of the range in volts or ohms; the meter ranges by itself when left out.</summary>
    public double? Range { get; init; }

    /// <summary>Whether the battery's grounded post is off.</summary>
    public bool BatteryDisconnected { get; init; }

    /// <summary>Lead resistance in ohms, both leads; the meter in use when left out.</summary>
    public double? LeadOhms { get; init; }

    /// <summary>Whether the leads are nulled; the meter in use when left out.</summary>
    public bool? LeadsNulled { get; init; }

    /// <summary>A meter to read with, as meter files give it; the meter in use when left out.</summary>
    public System.Text.Json.JsonElement? Meter { get; init; }
}

/// <summary>What to measure on a machine that comes with the request.</summary>
public sealed record PostedMeasureRequest
{
    /// <summary>The machine file.</summary>
    public required System.Text.Json.JsonElement Machine { get; init; }

    /// <summary>What to measure on it.</summary>
    public required MeasureRequest Measure { get; init; }
}

/// <summary>What the meter shows.</summary>
/// <param name="Value">In volts or ohms, before rounding; null when refused, over range or jumping.</param>
/// <param name="Shown">Text on the display.</param>
/// <param name="OverRange">Whether it shows OL.</param>
/// <param name="Jumps">Whether the figure will not stand still.</param>
/// <param name="Refused">Why the reading is refused, or null.</param>
/// <param name="Doubt">The most the display may be off by the meter's accuracy; null where that is not said.</param>
public sealed record MeasureResponse(
    double? Value,
    string Shown,
    bool OverRange,
    bool Jumps,
    string? Refused,
    double? Doubt
);

/// <summary>A job to open.</summary>
/// <param name="Machine">Machine id.</param>
/// <param name="Duty">Duty that fails, as the machine file names it.</param>
public sealed record OpenJobRequest(string Machine, string Duty);

/// <summary>How a lamp looked.</summary>
/// <param name="Lamp">Part id.</param>
/// <param name="Setting">Setting it was seen in; controls not named are at rest.</param>
/// <param name="Look">How it looked.</param>
/// <param name="Speed">How fast the engine turned.</param>
public sealed record LampRequest(
    string Lamp,
    Dictionary<string, string> Setting,
    LampLook Look,
    DutySpeed Speed = DutySpeed.Rest
);

/// <summary>Another duty that was tried.</summary>
/// <param name="Duty">Which.</param>
/// <param name="Works">Whether it was done.</param>
public sealed record AlsoRequest(string Duty, bool Works);

/// <summary>Something renewed or mended before the job began.</summary>
/// <param name="Repair">What, by its repair: "part:starter", "wire:12".</param>
/// <param name="Effect">What that did.</param>
public sealed record CureRequest(string Repair, CureEffect Effect);

/// <summary>How a battery stands.</summary>
/// <param name="Battery">Which, by id.</param>
/// <param name="Type">Type fitted: "battery" flooded, "agm-battery", "lithium-battery"; the file's when left out.</param>
/// <param name="Charge">Share of its charge, 0.05 to 1; left out when nobody knows.</param>
/// <param name="Celsius">Its temperature in °C, -40 to 60; left out on an ordinary day.</param>
public sealed record BatteryRequest(string Battery, string? Type, double? Charge, double? Celsius);

/// <summary>A complaint.</summary>
public sealed record ComplaintRequest
{
    /// <summary>What is heard in the duty's setting.</summary>
    public required Heard Heard { get; init; }

    /// <summary>Tries that failed.</summary>
    public int Failed { get; init; } = 1;

    /// <summary>Tries.</summary>
    public int Tried { get; init; } = 1;

    /// <summary>Lamps looked at.</summary>
    public IReadOnlyList<LampRequest>? Lamps { get; init; }

    /// <summary>Found altered: contacts bridged, "part/contact"; couplings left apart, "apart/part"; wires off, "off/wire".</summary>
    public IReadOnlyList<string>? Bridged { get; init; }

    /// <summary>Owner's words.</summary>
    public string? Words { get; init; }

    /// <summary>How the controls stood when it happened; the duty's own when left out. Controls not named are at rest.</summary>
    public Dictionary<string, string>? Setting { get; init; }

    /// <summary>How fast the engine turned when it happened; the duty's own when left out.</summary>
    public DutySpeed? Speed { get; init; }

    /// <summary>The machine's life so far.</summary>
    public Circumstances? Circumstances { get; init; }

    /// <summary>Codes stored or blinked; empty when it was read and showed none, left out when nobody read it.</summary>
    public IReadOnlyList<string>? Codes { get; init; }

    /// <summary>What else was tried.</summary>
    public IReadOnlyList<AlsoRequest>? Also { get; init; }

    /// <summary>Whether it did it on jump leads from a good battery; left out when nobody tried.</summary>
    public bool? JumpStarted { get; init; }

    /// <summary>When it fails sooner or oftener.</summary>
    public IReadOnlyList<WorseWhen>? WorseWhen { get; init; }

    /// <summary>What was renewed or mended before, and what that did.</summary>
    public IReadOnlyList<CureRequest>? Cures { get; init; }

    /// <summary>How its batteries stand, those of which something is known; everything is solved with it.</summary>
    public IReadOnlyList<BatteryRequest>? Batteries { get; init; }
}

/// <summary>A reading.</summary>
public sealed record ReadingRequest
{
    /// <summary>What was read where no test asks for it: "volts", "ohms", "beep", "diode", "acVolts", "peakVolts", or what was put in or joined there and looked at: "testLamp", "bulb", "lead"; an ordinary reading when left out.</summary>
    public string? Quantity { get; init; }

    /// <summary>How fast the engine turned, with <see cref="Quantity"/>.</summary>
    public DutySpeed Speed { get; init; }

    /// <summary>Couplings apart, by id, and wire ends off, "wire@from" or "wire@to"; with <see cref="Quantity"/>.</summary>
    public IReadOnlyList<string>? Off { get; init; }

    /// <summary>Setting it was taken in, for volts; one of the job's conditions.</summary>
    public Dictionary<string, string>? Setting { get; init; }

    /// <summary>Or the condition's number, as next-test gives it: for ohms, spark and amps.</summary>
    public int? Condition { get; init; }

    /// <summary>Address under the red probe.</summary>
    public required string Red { get; init; }

    /// <summary>Address under the black probe.</summary>
    public required string Black { get; init; }

    /// <summary>As shown: "12.6", "12,6", "-0.02", "350m", or "jumps".</summary>
    public required string Reading { get; init; }

    /// <summary>Whether the symptom was there.</summary>
    public SymptomNow Symptom { get; init; }
}

/// <summary>Something moved, warmed or wetted while the fault was watched for.</summary>
public sealed record WiggleRequest
{
    /// <summary>Id of the place.</summary>
    public required string Place { get; init; }

    /// <summary>Id of the one repair there that was stirred; everything at the place when left out.</summary>
    public string? Repair { get; init; }

    /// <summary>moving, warming or wetting.</summary>
    public required WiggledBy By { get; init; }

    /// <summary>Whether what was watched came or went with it.</summary>
    public required bool Changed { get; init; }
}

/// <summary>A look at a place.</summary>
/// <param name="Repair">What would be mended there, as /suspects names it.</param>
/// <param name="Found">What was found.</param>
public sealed record LookRequest(string Repair, LookFound Found);

/// <summary>A test passed over.</summary>
public sealed record PassedOverRequest
{
    /// <summary>Condition of the test, as next-test gives it.</summary>
    public int? Condition { get; init; }

    /// <summary>Or its setting, for volts.</summary>
    public Dictionary<string, string>? Setting { get; init; }

    /// <summary>Address under the red probe.</summary>
    public required string Red { get; init; }

    /// <summary>Address under the black probe.</summary>
    public required string Black { get; init; }

    /// <summary>The place that cannot be reached; left out when the reading cannot be trusted.</summary>
    public string? Place { get; init; }
}

/// <summary>A helper came or went.</summary>
/// <param name="Alone">Whether the person now works alone.</param>
public sealed record HelpRequest(bool Alone);

/// <summary>A request without anything to say.</summary>
public sealed record NothingRequest;

/// <summary>A clip lead over the verdict's place.</summary>
/// <param name="Worked">With the lead on: whether the duty was done.</param>
/// <param name="FailsAgain">With the lead off again: whether it failed as before.</param>
public sealed record LeadRequest(bool? Worked = null, bool? FailsAgain = null);

/// <summary>What was done.</summary>
/// <param name="Done">In words.</param>
/// <param name="Minutes">Minutes it took.</param>
/// <param name="Parts">Parts used.</param>
public sealed record RepairRequest(string Done, double Minutes, string? Parts = null);

/// <summary>One check of the proof.</summary>
/// <param name="Check">Its id, as GET proof gives it.</param>
/// <param name="Passed">Whether it passed, when it is judged by eye.</param>
/// <param name="Reading">What was read, when it is a reading.</param>
/// <param name="Better">Whether the duty did better than before and is not right yet.</param>
public sealed record ProofRequest(string Check, bool? Passed = null, string? Reading = null, bool Better = false);

/// <summary>A bypass taken out.</summary>
/// <param name="Bypass">Its id, as the job's openBypasses give it.</param>
public sealed record BypassRequest(string Bypass);

/// <summary>A job closed.</summary>
/// <param name="Note">Closing remark.</param>
public sealed record CloseRequest(string? Note = null);
