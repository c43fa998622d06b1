using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Jobs;

/// <summary>What was told cannot be, and what may be.</summary>
/// <param name="Field">What of it: "heard", "tried", "failed", "words", "years", "bridged", "setting", "speed", "also", "codes", "cures", "batteries", "lamps".</param>
/// <param name="Message">What is wrong and what is allowed.</param>
public sealed record Refusal(string Field, string Message);

/// <summary>What may be told of a complaint, whoever tells it: a form or a program.</summary>
public sealed class ComplaintRules
{
    /// <summary>Most tries that count.</summary>
    public const int MostTries = 200;

    /// <summary>Most characters of the owner's words.</summary>
    public const int MostWords = 300;

    /// <summary>Oldest wiring, in years.</summary>
    public const double MostYears = 100;

    // Switches of many contacts, keys mostly, are nobody's to bridge one by one.
    private const int MostBridgeable = 3;

    private readonly Circuit circuit;
    private readonly PredictionTable table;

    /// <summary>The rules of one complaint.</summary>
    /// <param name="own">The duty as its machine has it.</param>
    /// <param name="table">The sound machine's predictions, in the setting told so far.</param>
    /// <param name="symptoms">What the machine can be complained of.</param>
    /// <param name="codes">Codes that it can store; none where nothing stores any.</param>
    public ComplaintRules(Duty own, PredictionTable table, IEnumerable<Symptom> symptoms, IReadOnlyList<string> codes)
    {
        (Own, this.table, circuit, Codes) = (own, table, table.Circuit, codes);
        Alterations =
        [
            .. Alteration
                .Of(circuit)
                .Where(a =>
                    a.By != AlteredBy.Bridged
                    || circuit.Machine.Index.Part(a.Id.Part!.Value)?.Contacts is not { Count: > MostBridgeable }
                ),
        ];
        Others = [.. symptoms.Where(s => s.Duty.Id != own.Id && DutyTries.IsQuick(circuit, s.Duty))];
    }

    /// <summary>The duty as its machine has it.</summary>
    public Duty Own { get; }

    /// <summary>What may be heard of it.</summary>
    public IReadOnlyList<Heard> MayBeHeard => Symptoms.MayBeHeard(table.Effect, Own);

    /// <summary>What may have been altered before.</summary>
    public IReadOnlyList<Alteration> Alterations { get; }

    /// <summary>Other things that the machine does and that are quickly tried.</summary>
    public IReadOnlyList<Symptom> Others { get; }

    /// <summary>Whether jump leads may have been tried.</summary>
    public bool MayBeJumped => JumpStart.IsFor(circuit, Own);

    /// <summary>Codes that may have been read.</summary>
    public IReadOnlyList<string> Codes { get; }

    /// <summary>What may have been renewed or mended before, each repair once, parts before wires.</summary>
    public IReadOnlyList<Repair> Cures =>
        [
            .. circuit
                .Faults.Select(f => f.Repair)
                .DistinctBy(r => r.Id)
                .OrderBy(r => r.Id.Target)
                .ThenBy(r => r.Name, StringComparer.OrdinalIgnoreCase),
        ];

    /// <summary>Batteries of which it may be told how they stand.</summary>
    public IReadOnlyList<Part> Batteries => [.. circuit.PartsThat(PartTraits.StoresCharge)];

    /// <summary>Speeds that the engine may have turned at; none where the duty needs no engine.</summary>
    public IReadOnlyList<DutySpeed> Speeds =>
        Own.Speed == DutySpeed.Rest ? [] : [DutySpeed.Crank, DutySpeed.Idle, DutySpeed.Work];

    /// <summary>Conditions in which some lamp of the sound machine glows, so that its look tells something.</summary>
    public IEnumerable<(Condition Condition, IReadOnlyList<Part> Lamps)> LampRows()
    {
        for (var c = 0; c < table.Conditions.Count; c++)
        {
            var lit = table.LampsLit(c).ToHashSet();
            if (lit.Count > 0)
            {
                yield return (table.Conditions[c], [.. circuit.Machine.Parts.Where(p => lit.Contains(p.Id))]);
            }
        }
    }

    /// <summary>What cannot be told so; none when all can.</summary>
    public IEnumerable<Refusal> Check(Complaint told)
    {
        if (!MayBeHeard.Contains(told.Heard))
        {
            yield return new("heard", "Say what it does in that setting: choose one of the answers.");
        }

        if (told.Tried is < 1 or > MostTries)
        {
            yield return new("tried", $"Tries: {told.Tried} is not a count of tries; 1 to {MostTries}.");
        }

        if (told.Failed < 0 || told.Failed > told.Tried)
        {
            yield return new(
                "failed",
                $"Failed tries: {told.Failed} is more than the {told.Tried} tries made; at most as many can have failed."
            );
        }

        if (told.Words.Length > MostWords)
        {
            yield return new(
                "words",
                $"Owner's words: {told.Words.Length} characters; at most {MostWords} fit the tag."
            );
        }

        if (told.Circumstances.Years is not (>= 0 and <= MostYears))
        {
            yield return new("years", $"Age of the wiring: 0 to {MostYears} years.");
        }

        foreach (var refusal in Details(told))
        {
            yield return refusal;
        }
    }

    private IEnumerable<Refusal> Details(Complaint told)
    {
        foreach (var altered in told.Bridged.Where(b => Alteration.Find(circuit, b) is null))
        {
            yield return new("bridged", $"“{altered}” is not on this machine.");
        }

        foreach (var (control, position) in told.Setting ?? new NamedSetting([]))
        {
            if (circuit.Machine.Index.Control(control) is not { } moved)
            {
                yield return new("setting", $"“{control}” is not a control of this machine.");
            }
            else if (!moved.Positions.Contains(position))
            {
                yield return new(
                    "setting",
                    $"{moved.Name}: “{position}” is not one of its positions; allowed {string.Join(", ", moved.Positions)}."
                );
            }
        }

        if (told.Speed is { } speed && !Speeds.Contains(speed))
        {
            yield return new(
                "speed",
                Speeds.Count == 0 ? "This is tried with the engine at rest." : $"Allowed: {string.Join(", ", Speeds)}."
            );
        }

        foreach (var also in told.Also.Where(a => Others.All(o => o.Duty.Id != a.Duty)))
        {
            yield return new("also", $"“{also.Duty}” is not something else that this machine is quickly tried for.");
        }

        if (told.JumpStarted is not null && !MayBeJumped)
        {
            yield return new(
                "jumpStarted",
                "Jump leads are told of a starter that should turn, and of no other complaint."
            );
        }

        foreach (var code in (told.Codes ?? []).Where(c => !Codes.Contains(c)))
        {
            yield return new(
                "codes",
                Codes.Count == 0
                    ? "Nothing on this machine stores codes."
                    : $"“{code}” is not a code of this machine; allowed: {string.Join(", ", Codes)}."
            );
        }

        foreach (var cure in told.Cures.Where(c => circuit.Faults.All(f => f.Repair.Id != c.Repair)))
        {
            yield return new("cures", $"“{cure.Repair}” is not something of this machine that is renewed or mended.");
        }

        foreach (var twice in told.Cures.GroupBy(c => c.Repair).Where(g => g.Count() > 1))
        {
            yield return new("cures", $"“{twice.Key}” is told twice; say once what it did.");
        }

        foreach (var refusal in told.Batteries.SelectMany(CheckBattery))
        {
            yield return refusal;
        }

        foreach (var lamp in told.Lamps.Where(l => !table.Lamps.Contains(l.Lamp)))
        {
            yield return new(
                "lamps",
                $"“{lamp.Lamp}” is not a lamp of this machine; allowed: {string.Join(", ", table.Lamps)}."
            );
        }
    }

    private IEnumerable<Refusal> CheckBattery(BatteryAsFound told)
    {
        if (Batteries.FirstOrDefault(b => b.Id == told.Battery) is not { } battery)
        {
            yield return new(
                "batteries",
                $"“{told.Battery}” is not a battery of this machine; allowed: {string.Join(", ", Batteries.Select(b => b.Id))}."
            );
            yield break;
        }

        if (told.Type is { } type && !BatteryAsFound.Types.Contains(type))
        {
            yield return new(
                "batteries",
                $"Type of the {battery.Name}: “{type}” is not a type of battery; allowed: {string.Join(", ", BatteryAsFound.Types)}."
            );
        }

        var (charge, warmth) = BatteryAsFound.Limits(battery.Kind);
        if (told.Charge is { } share && !(share >= charge.Least && share <= charge.Most))
        {
            yield return new(
                "batteries",
                $"Charge of the {battery.Name}: it is told from {charge.Least * 100:0} to {charge.Most * 100:0} %; leave it empty when nobody knows."
            );
        }

        if (told.Warmth is { } celsius && !(celsius.Value >= warmth.Least && celsius.Value <= warmth.Most))
        {
            yield return new(
                "batteries",
                $"Temperature of the {battery.Name}: it is told from {warmth.Least:0} to {warmth.Most:0} °C; leave it empty on an ordinary day."
            );
        }
    }
}
