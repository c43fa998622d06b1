using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Faults;

/// <summary>What is wrong at a place.</summary>
public enum FaultKind
{
    /// <summary>Nothing conducts.</summary>
    Open,

    /// <summary>Conducts poorly; shows under load only.</summary>
    HighResistance,

    /// <summary>Conducts when it should not.</summary>
    StuckClosed,

    /// <summary>Fused or welded element gone.</summary>
    Blown,

    /// <summary>Not enough charge.</summary>
    Flat,

    /// <summary>Charge enough, but cannot deliver it.</summary>
    Weak,

    /// <summary>Turns, but with more effort than it should.</summary>
    Dragging,

    /// <summary>Does not turn though fed.</summary>
    Stalled,

    /// <summary>Insulation gone: touches ground, always or when moved.</summary>
    Chafed,

    /// <summary>Touches its neighbour.</summary>
    ShortedToNeighbour,

    /// <summary>Two wires changed places.</summary>
    Swapped,

    /// <summary>Turns of a winding shorted among themselves, or a winding to its core.</summary>
    ShortedWinding,

    /// <summary>Gives less than it should.</summary>
    Feeble,

    /// <summary>Holds too high a voltage.</summary>
    Overcharging,

    /// <summary>Something else of the same looks is fitted.</summary>
    WrongPart,

    /// <summary>Left unplugged by someone.</summary>
    Unplugged,

    /// <summary>Takes current with everything off.</summary>
    Drain,
}

/// <summary>Range a fault's severity is drawn from, logarithmically; what it counts is the fault's own matter.</summary>
/// <param name="Least">Mildest.</param>
/// <param name="Most">Worst.</param>
public readonly record struct Severity(double Least, double Most)
{
    /// <summary>There are no degrees: it is there or not.</summary>
    public static readonly Severity Complete = new(1, 1);

    /// <summary>Severity at a fraction of the way along the range, logarithmically.</summary>
    /// <param name="fraction">0 for the mildest to 1 for the worst.</param>
    public double At(double fraction) => Least >= Most ? Least : Least * Math.Pow(Most / Least, fraction);
}

/// <summary>How a fault changes a parameter.</summary>
public enum ChangeRule
{
    /// <summary>Becomes the change's amount.</summary>
    Set,

    /// <summary>The severity is added.</summary>
    AddSeverity,

    /// <summary>Multiplied by the severity.</summary>
    MultiplyBySeverity,

    /// <summary>Becomes the severity.</summary>
    SetToSeverity,
}

/// <summary>One parameter changed by a fault.</summary>
/// <param name="Parameter">Which.</param>
/// <param name="Rule">How.</param>
/// <param name="Amount">Used by <see cref="ChangeRule.Set"/> only.</param>
public readonly record struct ParameterChange(ParameterId Parameter, ChangeRule Rule, double Amount = 0);

/// <summary>
/// A fault that can sit in one place. Repair classes (<see cref="Repair"/>) are fixed by the machine: what one
/// repair would renew.
/// </summary>
public sealed record Fault
{
    private readonly Weakness? weakness;

    /// <summary>"place/kind", unique in a machine.</summary>
    public required string Id { get; init; }

    /// <summary>What kind.</summary>
    public required FaultKind Kind { get; init; }

    /// <summary>In words: "brake switch, start contact burnt".</summary>
    public required string Words { get; init; }

    /// <summary>Which repair cures it.</summary>
    public required Repair Repair { get; init; }

    /// <summary>Relative rate; only ratios matter. Common practice, no source.</summary>
    public required double Rate { get; init; }

    /// <summary>How bad it may be.</summary>
    public Severity Severity { get; init; } = Severity.Complete;

    /// <summary>Circumstances that make it likelier; those of its kind unless it says otherwise.</summary>
    public Weakness Weakness
    {
        get => weakness ?? WeaknessOf(Kind);
        init => weakness = value;
    }

    /// <summary>Paths it lays where the machine has none; its severity is their ohms.</summary>
    public IReadOnlyList<LaidPath> Paths { get; init; } = [];

    /// <summary>Parameters it changes.</summary>
    public required IReadOnlyList<ParameterChange> Changes { get; init; }

    /// <summary>Nodes it lies between, for drawings.</summary>
    public (int From, int To) Nodes { get; init; }

    /// <summary>Whether shaking, warming or damp makes it come and go: joints and contacts.</summary>
    public bool ComesAndGoes { get; init; }

    /// <summary>Relative rate under circumstances.</summary>
    public double RateUnder(Circumstances circumstances) => Rate * circumstances.Times(Weakness);

    /// <summary>What each kind is weak to: common practice, no source.</summary>
    private static Weakness WeaknessOf(FaultKind kind) =>
        kind switch
        {
            FaultKind.HighResistance => Weakness.Age | Weakness.Salt | Weakness.Damp | Weakness.Vibration,
            FaultKind.Open => Weakness.Age | Weakness.Vibration,
            FaultKind.Blown => Weakness.Vibration | Weakness.RecentWork,
            FaultKind.Chafed => Weakness.Vibration | Weakness.Rodents | Weakness.RecentWork,
            FaultKind.ShortedToNeighbour => Weakness.Salt | Weakness.Damp,
            FaultKind.Swapped or FaultKind.Unplugged or FaultKind.WrongPart => Weakness.RecentWork,
            _ => Weakness.Age,
        };

    /// <summary>Applies the fault to a case's parameters.</summary>
    /// <param name="parameters">Parameters by index; changed in place.</param>
    /// <param name="severity">From <see cref="Severity.At"/>.</param>
    public void Apply(Span<double> parameters, double severity)
    {
        foreach (var change in Changes)
        {
            ref var value = ref parameters[change.Parameter.Index];
            value = change.Rule switch
            {
                ChangeRule.Set => change.Amount,
                ChangeRule.AddSeverity => value + severity,
                ChangeRule.MultiplyBySeverity => value * severity,
                ChangeRule.SetToSeverity => severity,
                _ => value,
            };
        }
    }
}

/// <summary>A path that a fault lays between two places.</summary>
/// <param name="From">Address of one end.</param>
/// <param name="To">Address of the other.</param>
/// <param name="FixedOhms">Its resistance, or null when that is the fault's severity.</param>
/// <param name="BreaksDownAt">Volts under which it is open: a track or gap that only ignition jumps. Zero conducts always.</param>
/// <param name="Through">Coupling whose halves it joins, by part id: apart when that is; null for none.</param>
public sealed record LaidPath(
    string From,
    string To,
    double? FixedOhms = null,
    double BreaksDownAt = 0,
    string? Through = null
);

/// <summary>What a repair renews, and the steps kind it takes.</summary>
/// <param name="Id">Unique in a machine: "wire:w5", "part:key".</param>
/// <param name="Name">What is repaired, in words.</param>
/// <param name="Short">The same in two or three words.</param>
/// <param name="Kind">Which sort of work it is.</param>
/// <param name="Place">Where it is done, a place's id.</param>
public sealed record Repair(string Id, string Name, string Short, RepairKind Kind, string Place);

/// <summary>Sorts of repair work.</summary>
public enum RepairKind
{
    /// <summary>New wire, or new ends on it.</summary>
    RenewWire,

    /// <summary>Heavy cable: clean or renew its ends, or the cable.</summary>
    RenewCable,

    /// <summary>Clean, tighten or re-crimp a joint.</summary>
    CleanJoint,

    /// <summary>Clean or renew both contacts of a coupling's cavity.</summary>
    RenewCavity,

    /// <summary>Bring bolted metal back to bright and tighten.</summary>
    BrightenGround,

    /// <summary>Adjust, clean or replace a switch.</summary>
    ReplaceSwitch,

    /// <summary>Replace a part.</summary>
    ReplacePart,

    /// <summary>Charge and load-test the battery; replace it if it fails.</summary>
    ServiceBattery,

    /// <summary>Find what blew it, then one new fuse.</summary>
    ReplaceFuse,

    /// <summary>Overhaul or replace the starter, after turning the engine by hand.</summary>
    ServiceStarter,
}
