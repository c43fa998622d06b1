using Pritchel.Core.Identity;

namespace Pritchel.Core.Faults;

/// <summary>
/// A fault that can sit in one place. Repair classes (<see cref="Repair"/>) are fixed by the machine: what one
/// repair would renew.
/// </summary>
public sealed record Fault
{
    private readonly Weakness? weakness;

    /// <summary>What it sits in and what is wrong there; unique in a machine.</summary>
    public required FaultId Id { get; init; }

    /// <summary>What kind.</summary>
    public required FaultKind Kind { get; init; }

    /// <summary>In words: "brake switch, start contact burnt".</summary>
    public required string Words { get; init; }

    /// <summary>Which repair cures it.</summary>
    public required Repair Repair { get; init; }

    /// <summary>Relative rate; only ratios matter. Common practice, no source.</summary>
    public required double Rate { get; init; }

    /// <summary>Times as often where it stands at an ignition's hundreds of volts: common practice, no source.</summary>
    public double TimesAtIgnition { get; init; } = 1;

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
