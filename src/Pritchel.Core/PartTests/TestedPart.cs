using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests;

/// <summary>A part on the bench, or still on its machine with everything off: what a sheet is about.</summary>
/// <param name="Part">The part as a machine file would have it.</param>
/// <param name="Controls">What works its contacts; none where nothing does.</param>
/// <param name="FiguresKnown">Whether its figures are its maker's or the machine's own; otherwise they are those usual for its kind.</param>
public sealed record TestedPart(Part Part, IReadOnlyList<Control> Controls, bool FiguresKnown)
{
    // Figures of one kind differ by about so much from make to make: standard deviation of the logarithm, from memory.
    private const double BetweenMakes = 0.35;

    // And from one to the next of the same make, when its figures are known.
    private const double WithinMake = 0.08;

    /// <summary>Kind, as device kinds are named.</summary>
    public DeviceKind Kind => DeviceKinds.Named(Part.Kind)!;

    /// <summary>A loose part of a kind, with the figures usual for it.</summary>
    /// <param name="kind">Its kind.</param>
    /// <param name="name">What it is called; the kind's own name when null.</param>
    /// <param name="optional">Whether it has the terminals that some of its kind have.</param>
    public static TestedPart Loose(DeviceKind kind, string? name = null, bool optional = false) =>
        new(
            new Part
            {
                Id = new PartId("part"),
                Name = name ?? kind.Name.Replace('-', ' '),
                Kind = kind.Name,
                Place = BenchMachine.Place,
                Terminals = [.. kind.Terminals.Concat(optional ? kind.OptionalTerminals : []).Select(TerminalId.Of)],
            },
            [],
            FiguresKnown: false
        );

    /// <summary>Something of which only its points are known: leads, a switch's plug, any two points. No sheet solves it.</summary>
    /// <param name="id">What it is known by.</param>
    /// <param name="name">What it is called.</param>
    /// <param name="points">Its points.</param>
    public static TestedPart Unknown(string id, string name, IEnumerable<string> points) =>
        new(
            new Part
            {
                Id = new PartId(id),
                Name = name,
                Kind = PartKinds.Body,
                Place = BenchMachine.Place,
                Terminals = [.. points.Select(TerminalId.Of)],
            },
            [],
            FiguresKnown: false
        );

    /// <summary>A part of a machine, with the machine's figures.</summary>
    public static TestedPart Of(Machine machine, Part part) =>
        new(
            part with
            {
                Place = BenchMachine.Place,
                Engine = null,
            },
            [.. machine.Controls.Where(c => part.Contacts?.Any(p => p.Control == c.Id) == true)],
            FiguresKnown: true
        );

    /// <summary>
    /// The same part with figures drawn as they differ from make to make, or within one make where they are known. What several
    /// of its windings share is drawn once for all of them.
    /// </summary>
    public TestedPart Drawn(Random random)
    {
        var sigma = FiguresKnown ? WithinMake : BetweenMakes;
        return this with
        {
            Part = Part with
            {
                Values = Kind.Values.ToDictionary(
                    v => v.Name,
                    v =>
                        Math.Clamp(
                            Own(v) * Math.Exp(sigma * v.Differs * HealthyMachine.Normal(random)),
                            v.Least,
                            v.Most
                        ),
                    StringComparer.Ordinal
                ),
            },
        };
    }

    private double Own(ValueRule rule) =>
        Part.Values is { } given && given.TryGetValue(rule.Name, out var own) ? own : rule.Default;
}
