using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Data.Events;

/// <summary>Names of one enumeration's values in the record, apart from how the program calls or orders them.</summary>
/// <typeparam name="T">The enumeration.</typeparam>
/// <param name="of">What it is called when a name is refused.</param>
/// <param name="names">Each value's name; a name once used is never given to another.</param>
internal sealed class Names<T>(string of, params (string Name, T Value)[] names)
    where T : struct, Enum
{
    private readonly Dictionary<string, T> values = names.ToDictionary(
        n => n.Name,
        n => n.Value,
        StringComparer.Ordinal
    );
    private readonly Dictionary<T, string> written = names.ToDictionary(n => n.Value, n => n.Name);

    /// <summary>All values that have a name.</summary>
    public IEnumerable<T> All => written.Keys;

    /// <summary>Name of a value.</summary>
    public string Of(T value) => written[value];

    /// <summary>Value of a name.</summary>
    /// <exception cref="UnreadableException">There is none of that name.</exception>
    public T Read(string name) =>
        values.TryGetValue(name, out var value)
            ? value
            : throw new UnreadableException($"{of} “{name}” is not known to this version.");

    /// <summary>Value that format 1 kept as a number; those numbers stay as they were then.</summary>
    /// <param name="number">Number as kept.</param>
    /// <param name="order">Names in the order that held then.</param>
    public T Read(int number, params ReadOnlySpan<string> order) =>
        number >= 0 && number < order.Length
            ? values[order[number]]
            : throw new UnreadableException($"{of} {number} was never one.");
}

/// <summary>Names of what events say, as the record keeps them.</summary>
internal static class Names
{
    public static Names<Heard> Heard { get; } =
        new(
            "What was heard,",
            ("not-said", Core.Diagnosis.Complaints.Heard.NotSaid),
            ("nothing", Core.Diagnosis.Complaints.Heard.Nothing),
            ("one-click", Core.Diagnosis.Complaints.Heard.OneClick),
            ("chatter", Core.Diagnosis.Complaints.Heard.Chatter),
            ("slow", Core.Diagnosis.Complaints.Heard.Slow),
            ("works", Core.Diagnosis.Complaints.Heard.Works),
            ("will-not-start", Core.Diagnosis.Complaints.Heard.WillNotStart),
            ("too-much", Core.Diagnosis.Complaints.Heard.TooMuch)
        );

    public static Names<LampLook> LampLook { get; } =
        new(
            "How a lamp looked,",
            ("not-seen", Core.Diagnosis.Complaints.LampLook.NotSeen),
            ("bright", Core.Diagnosis.Complaints.LampLook.Bright),
            ("dim", Core.Diagnosis.Complaints.LampLook.Dim),
            ("out", Core.Diagnosis.Complaints.LampLook.Out)
        );

    public static Names<DutySpeed> Speed { get; } =
        new(
            "Speed",
            ("rest", DutySpeed.Rest),
            ("crank", DutySpeed.Crank),
            ("idle", DutySpeed.Idle),
            ("work", DutySpeed.Work)
        );

    public static Names<SymptomNow> Symptom { get; } =
        new(
            "Whether the symptom was there,",
            ("present", SymptomNow.Present),
            ("absent", SymptomNow.Absent),
            ("not-watched", SymptomNow.NotWatched)
        );

    public static Names<PassedOver> PassedOver { get; } =
        new(
            "Why a test was passed over,",
            ("cannot-reach", Core.Jobs.PassedOver.CannotReach),
            ("not-sure", Core.Jobs.PassedOver.NotSure)
        );

    public static Names<LookFound> Found { get; } =
        new(
            "What a look found,",
            ("sound", LookFound.Sound),
            ("loose", LookFound.Loose),
            ("green", LookFound.Green),
            ("chafed", LookFound.Chafed),
            ("chewed", LookFound.Chewed),
            ("burnt", LookFound.Burnt),
            ("wet", LookFound.Wet),
            ("missing", LookFound.Missing)
        );

    public static Names<WorseWhen> WorseWhen { get; } =
        new(
            "When it is worse,",
            ("hot", Core.Diagnosis.Complaints.WorseWhen.Hot),
            ("wet", Core.Diagnosis.Complaints.WorseWhen.Wet),
            ("shaken", Core.Diagnosis.Complaints.WorseWhen.Shaken)
        );

    public static Names<CureEffect> CureEffect { get; } =
        new(
            "What a cure did,",
            ("none", Core.Diagnosis.Complaints.CureEffect.None),
            ("partly", Core.Diagnosis.Complaints.CureEffect.Partly),
            ("for a while", Core.Diagnosis.Complaints.CureEffect.ForAWhile)
        );

    public static Names<WiggledBy> WiggledBy { get; } =
        new(
            "What was done to a place,",
            ("moving", Core.Diagnosis.Evidence.WiggledBy.Moving),
            ("warming", Core.Diagnosis.Evidence.WiggledBy.Warming),
            ("wetting", Core.Diagnosis.Evidence.WiggledBy.Wetting)
        );

    public static Names<JumpKind> Joins { get; } =
        new(
            "What joins two points,",
            ("lead", JumpKind.Lead),
            ("lamp", JumpKind.Lamp),
            ("test-lamp", JumpKind.TestLamp)
        );

    public static Names<SparkTesterAt> Tester { get; } =
        new(
            "Where the spark tester sits,",
            ("nowhere", SparkTesterAt.Nowhere),
            ("plug-lead", SparkTesterAt.PlugLead),
            ("coil", SparkTesterAt.Coil)
        );

    public static Names<WireSide> Side { get; } = new("End of a wire,", ("from", WireSide.From), ("to", WireSide.To));

    public static Names<AlteredBy> AlteredBy { get; } =
        new(
            "Alteration",
            ("bridged", Core.Identity.AlteredBy.Bridged),
            ("apart", Core.Identity.AlteredBy.Apart),
            ("off", Core.Identity.AlteredBy.Off)
        );

    public static Names<SuspectKind> Suspect { get; } =
        new(
            "Verdict",
            ("repair", SuspectKind.Repair),
            ("sound", SuspectKind.Sound),
            ("as-designed", SuspectKind.AsDesigned),
            ("none", SuspectKind.None)
        );

    public static Names<RepairTarget> Repair { get; } =
        new(
            "Repair",
            ("part", RepairTarget.Part),
            ("wire", RepairTarget.Wire),
            ("joint", RepairTarget.Joint),
            ("cavity", RepairTarget.Cavity),
            ("pair", RepairTarget.Pair),
            ("plug", RepairTarget.Plug),
            ("lead", RepairTarget.Lead),
            ("studs", RepairTarget.Studs),
            ("brushes", RepairTarget.Brushes),
            ("residue", RepairTarget.Residue),
            ("loom", RepairTarget.Loom),
            ("mount", RepairTarget.Mount),
            ("not-as-drawn", RepairTarget.NotAsDrawn)
        );
}

/// <summary>What the record holds cannot be read by this version, and why.</summary>
internal sealed class UnreadableException(string message) : Exception(message);
