using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Jobs;

/// <summary>A way to read between two points: with the meter, or by what is put in there and looked at.</summary>
/// <param name="Key">Its short name.</param>
/// <param name="Name">In words.</param>
/// <param name="Observable">What is read.</param>
/// <param name="Joins">What joins the two points; null for the meter.</param>
public sealed record ReadingWay(string Key, string Name, Observable Observable, JumpKind? Joins = null)
{
    /// <summary>A way of the meter's own.</summary>
    public static ReadingWay Of(Observable observable) => new(observable.Key, observable.Name, observable);
}

/// <summary>Any reading at any time: two points, how it was read, and how things stood.</summary>
/// <param name="Way">Key of how it was read.</param>
/// <param name="Setting">How the controls stood.</param>
/// <param name="Speed">How fast the engine turned.</param>
/// <param name="Off">What was off.</param>
/// <param name="Red">Under the red probe.</param>
/// <param name="Black">Under the black probe.</param>
public sealed record AnyReading(
    string Way,
    ControlSetting Setting,
    DutySpeed Speed,
    IReadOnlyList<Disconnection> Off,
    PointId Red,
    PointId Black
)
{
    /// <summary>What may be read so: what a meter shows between two points, a lamp there, or what a lead between them does.</summary>
    public static IReadOnlyList<ReadingWay> Offered { get; } =
    [
        ReadingWay.Of(DirectVolts.Instance),
        ReadingWay.Of(DeadOhms.Instance),
        ReadingWay.Of(Beep.Instance),
        ReadingWay.Of(DiodeVolts.Instance),
        ReadingWay.Of(AlternatingVolts.Instance),
        ReadingWay.Of(PeakVolts.Instance),
        new("testLamp", "Test lamp: bright, dim, out", GlowSeen.Instance, JumpKind.TestLamp),
        new("bulb", "21 W bulb: bright, dim, out", GlowSeen.Instance, JumpKind.Lamp),
        new("shows", "Something off: it still does it, weakly, it stops", LoadSeen.Instance),
        new("lead", "Joined by a lead: it does, weak, nothing", ActionSeen.Instance, JumpKind.Lead),
    ];

    private ReadingWay? By => Offered.FirstOrDefault(o => o.Key == Way);

    /// <summary>What cannot be; none when all can.</summary>
    public IEnumerable<Refusal> Check(Circuit circuit)
    {
        if (By is not { Observable: var observable } by)
        {
            yield return new("quantity", $"Allowed: {string.Join(", ", Offered.Select(o => o.Key))}.");
            yield break;
        }

        foreach (var (field, point) in new[] { ("red", Red), ("black", Black) })
        {
            if (!circuit.HasNode(point))
            {
                yield return new(field, $"“{point.Text}” is no point of this machine; choose one from the list.");
            }
        }

        if (circuit.HasNode(Red) && circuit.HasNode(Black) && circuit.NodeOf(Red) == circuit.NodeOf(Black))
        {
            yield return new("black", "Both probes are on one piece of metal: any meter shows nothing there.");
        }

        if (by.Joins is not null && Speed != DutySpeed.Rest)
        {
            yield return new("speed", "Nothing is put in or joined with an engine turning.");
        }
        else if (Speed != DutySpeed.Rest && circuit.Engines.Count == 0)
        {
            yield return new("speed", "Nothing on this machine turns.");
        }
        else if (Speed != DutySpeed.Rest && observable.WantsDeadCircuit)
        {
            yield return new("speed", $"{observable.Name} is read with the battery off and nothing turning.");
        }
        else if (Speed == DutySpeed.Rest && observable.Alternates)
        {
            yield return new("speed", $"{observable.Name} is read with an engine turning: say how fast.");
        }

        foreach (var off in Off.Where(o => !Case.CanComeOff(circuit, o)))
        {
            yield return new("off", $"“{off.Text}” does not come off on this machine.");
        }
    }

    /// <summary>Where it was read, as a job keeps it.</summary>
    public ProbedAt At(Circuit circuit) =>
        new(
            new ConditionKey(
                By!.Observable.Key,
                Setting.Named(circuit.Machine),
                Followed(circuit),
                Off,
                By.Joins is { } joins ? new JoinedKey(Red, Black, joins) : null,
                SparkTesterAt.Nowhere
            ),
            Red,
            Black
        );

    /// <summary>
    /// Speed that the figure hangs on. Volts while a starter turns the engine are told by the setting alone: the starter draws
    /// what its wiring lets it, and at that speed no charge winding overcomes a battery.
    /// </summary>
    private DutySpeed Followed(Circuit circuit) =>
        Speed == DutySpeed.Crank && By!.Observable is DirectVolts && circuit.PartsThat(PartTraits.StoresCharge).Any()
            ? DutySpeed.Rest
            : Speed;

    /// <summary>The reading as a job's event.</summary>
    /// <param name="kit">Predictions of the complaint: what they have already is an ordinary reading.</param>
    /// <param name="typed">As typed.</param>
    /// <param name="error">What is wrong with it; empty when nothing is.</param>
    public ReadingTaken? Taken(DiagnosisKit kit, string? typed, out string error)
    {
        var at = At(kit.Circuit);
        if ((typed ?? "").Trim() == "jumps" && By!.Joins is null)
        {
            error = "";
            return new ReadingTaken(at, "jumps", null, Diagnosis.Evidence.SymptomNow.Present, kit.Pair(at) is null);
        }

        return By!.Observable.Read(typed, out error) is { } figure
            ? new ReadingTaken(
                at,
                typed!.Trim(),
                figure.Value,
                Diagnosis.Evidence.SymptomNow.Present,
                kit.Pair(at) is null
            )
            : null;
    }
}
