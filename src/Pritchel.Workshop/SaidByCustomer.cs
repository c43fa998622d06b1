using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Workshop;

/// <summary>
/// Complaints found by what a customer says: every word must be of the machine, of the complaint, or one that people use for
/// such a complaint.
/// </summary>
public static class SaidByCustomer
{
    // What people say, and the circuits that it may be of. Common practice, no source.
    private static readonly (string Word, Func<Symptom, EffectKind, bool> Means)[] Sayings =
    [
        ("click", (s, _) => s is { Group: CircuitGroup.Starting, Duty.Refuses: false }),
        ("crank", (s, _) => s.Group == CircuitGroup.Starting),
        ("turn", (s, _) => s.Group == CircuitGroup.Starting),
        (
            "start",
            (s, k) =>
                s.Group is CircuitGroup.Starting or CircuitGroup.Fuel || (k == EffectKind.Sparks && !s.Duty.Refuses)
        ),
        ("dead", (s, _) => s is { Group: CircuitGroup.Starting, Duty.Refuses: false }),
        ("spark", (s, k) => k == EffectKind.Sparks && !s.Duty.Refuses),
        ("misfire", (s, k) => k == EffectKind.Sparks && !s.Duty.Refuses),
        ("cut", (s, k) => k is EffectKind.Sparks or EffectKind.LetsRun && !s.Duty.Refuses),
        ("miss", (s, k) => k == EffectKind.Sparks && !s.Duty.Refuses),
        ("stop", (s, k) => s.Duty.Refuses && k is EffectKind.Sparks or EffectKind.LetsRun),
        ("kill", (s, k) => s.Duty.Refuses && k is EffectKind.Sparks or EffectKind.LetsRun),
        ("dies", (s, k) => k == EffectKind.LetsRun && !s.Duty.Refuses || (k == EffectKind.Sparks && !s.Duty.Refuses)),
        ("flat", (s, _) => s.Group == CircuitGroup.Charging),
        ("charge", (s, _) => s.Group == CircuitGroup.Charging),
        ("charging", (s, _) => s.Group == CircuitGroup.Charging),
        ("boil", (s, _) => s is { Group: CircuitGroup.Charging, Duty.Refuses: false }),
        ("light", (_, k) => k == EffectKind.Glows),
        ("lamp", (_, k) => k == EffectKind.Glows),
        ("beep", (s, k) => k == EffectKind.Sounds || s.Group == CircuitGroup.Alarms),
        ("alarm", (s, k) => k == EffectKind.Sounds || s.Group == CircuitGroup.Alarms),
        ("gauge", (_, k) => k == EffectKind.Reads),
        ("needle", (_, k) => k == EffectKind.Reads),
        ("pegged", (_, k) => k == EffectKind.Reads),
        ("fuse", (_, k) => k == EffectKind.Holds),
        ("breaker", (_, k) => k == EffectKind.Holds),
        ("blow", (_, k) => k == EffectKind.Holds),
        ("blown", (_, k) => k == EffectKind.Holds),
        ("pop", (_, k) => k == EffectKind.Holds),
        ("trip", (_, k) => k == EffectKind.Holds),
        ("short", (_, k) => k == EffectKind.Holds),
        ("keep", (_, k) => k == EffectKind.Holds),
        ("power", (_, k) => k == EffectKind.Works),
    ];

    private static readonly HashSet<string> Empty = new(
        [
            "the",
            "a",
            "my",
            "our",
            "it",
            "just",
            "only",
            "no",
            "not",
            "wont",
            "won't",
            "does",
            "doesnt",
            "doesn't",
            "is",
            "and",
            "when",
            "with",
            "to",
            "on",
            "of",
        ],
        StringComparer.OrdinalIgnoreCase
    );

    // What people call machines, and words of their kinds.
    private static readonly Dictionary<string, string[]> Called = new(StringComparer.Ordinal)
    {
        ["boat"] = ["inboard", "outboard", "cruiser"],
        ["bike"] = ["motorcycle", "scooter"],
        ["motorbike"] = ["motorcycle"],
        ["atv"] = ["quad", "carrier"],
        ["buggy"] = ["carrier"],
        ["digger"] = ["dumper"],
        ["rider"] = ["ride-on", "tractor"],
    };

    private const int MostWords = 12;

    /// <summary>Complaints that may be meant, the machine's own words first.</summary>
    /// <param name="machines">Machines that there are.</param>
    /// <param name="said">What was said.</param>
    public static IEnumerable<(MachineVersion Machine, Symptom Symptom)> Find(
        IEnumerable<MachineVersion> machines,
        string said
    )
    {
        var words = said.Split([' ', ',', '.', '!', '?', ';', ':'], StringSplitOptions.RemoveEmptyEntries)
            .Where(w => !Empty.Contains(w))
            .Take(MostWords)
            .ToList();
        if (words.Count == 0)
        {
            yield break;
        }

        foreach (var machine in machines)
        {
            var named = $"{machine.Machine.Name} {machine.Machine.Kind}";
            foreach (var symptom in machine.Symptoms)
            {
                var kind = DutyEffect.Of(machine.Circuit, symptom.Duty);
                if (words.TrueForAll(w => Named(named, w) || Has(Words(symptom.Duty), w) || Meant(w, symptom, kind)))
                {
                    yield return (machine, symptom);
                }
            }
        }
    }

    private static bool Named(string named, string word) =>
        Has(named, word)
        || (Called.TryGetValue(Stem(word).ToLowerInvariant(), out var kinds) && kinds.Any(k => Has(named, k)));

    private static string Words(Duty duty) => $"{duty.Complaint} {duty.Name}";

    private static bool Meant(string word, Symptom symptom, EffectKind kind) =>
        Sayings.Any(s =>
            Stem(word).StartsWith(Stem(s.Word), StringComparison.OrdinalIgnoreCase) && s.Means(symptom, kind)
        );

    private static bool Has(string text, string word) =>
        text.Split([' ', ':', ',', '(', ')', '-'], StringSplitOptions.RemoveEmptyEntries)
            .Any(t => Stem(t).Equals(Stem(word), StringComparison.OrdinalIgnoreCase));

    private static string Stem(string word) =>
        word.Length > 3 && word.EndsWith('s') ? word[..^1]
        : word.Length > 5 && word.EndsWith("ing", StringComparison.OrdinalIgnoreCase) ? word[..^3]
        : word;
}
