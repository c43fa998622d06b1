using Pritchel.Core.Identity;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Faults;

/// <summary>The two faults of anything that current passes through: it conducts poorly, or not at all.</summary>
internal sealed record SeriesFaults
{
    /// <summary>What they sit in.</summary>
    public required Element Place { get; init; }

    /// <summary>What it is, in words.</summary>
    public required string Words { get; init; }

    /// <summary>How conducting poorly is said.</summary>
    public required string Poor { get; init; }

    /// <summary>How not conducting is said.</summary>
    public required string Gone { get; init; }

    /// <summary>What cures either.</summary>
    public required Repair Repair { get; init; }

    /// <summary>Its resistance.</summary>
    public required ParameterId Ohms { get; init; }

    /// <summary>Nodes it lies between.</summary>
    public required (int From, int To) Nodes { get; init; }

    /// <summary>Relative rate of conducting poorly.</summary>
    public required double PoorRate { get; init; }

    /// <summary>Relative rate of not conducting.</summary>
    public required double GoneRate { get; init; }

    /// <summary>Ohms added when it conducts poorly; 0.05 ohm to 10 kilohm unless said otherwise (common practice, no source).</summary>
    public Severity Added { get; init; } = new(0.05, 10_000);

    /// <summary>Conducting poorly, and not at all.</summary>
    public IEnumerable<Fault> Both()
    {
        yield return Of(
            "resistive",
            FaultKind.HighResistance,
            Poor,
            PoorRate,
            new ParameterChange(Ohms, ChangeRule.AddSeverity)
        ) with
        {
            Severity = Added,
        };
        yield return Of(
            "open",
            FaultKind.Open,
            Gone,
            GoneRate,
            new ParameterChange(Ohms, ChangeRule.Set, double.PositiveInfinity)
        );
    }

    private Fault Of(string role, FaultKind kind, string said, double rate, ParameterChange change) =>
        new()
        {
            Id = new FaultId(Place, role),
            Kind = kind,
            Words = $"{Words}: {said}",
            Repair = Repair,
            Rate = rate,
            Changes = [change],
            Nodes = Nodes,
            ComesAndGoes = true,
        };
}
