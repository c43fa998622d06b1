using System.Globalization;
using Pritchel.Core.Metering;

namespace Pritchel.Core.Observables;

/// <summary>What is seen or heard in three steps: 0 nothing, 1 weakly, 2 well.</summary>
public abstract class SeenObservable : Observable
{
    private const double PerStep = 2;

    /// <inheritdoc/>
    public override bool IsSeen => true;

    /// <inheritdoc/>
    public override double Most => 2;

    /// <inheritdoc/>
    public override double Scaled(double figure) => PerStep * figure;

    /// <inheritdoc/>
    public override double Figure(double scaled) => scaled / PerStep;

    /// <inheritdoc/>
    public override double Doubt(Meter meter, double figure) => Eyesight.Seen / PerStep;

    /// <summary>One of its answers: nobody sees half of one.</summary>
    protected override double? Within(double value, out string error)
    {
        var isAnswer = Answers.Any(a => double.Parse(a.Typed, CultureInfo.InvariantCulture).Equals(value));
        error = isAnswer
            ? ""
            : $"{Name} is answered with {string.Join(", ", Answers.Select(a => $"{a.Typed} ({a.Words.ToLowerInvariant()})"))}.";
        return isAnswer ? value : null;
    }
}

/// <summary>What is seen while two points are joined.</summary>
public abstract class JoinedObservable : SeenObservable
{
    /// <inheritdoc/>
    public override bool IsToldByPoints => false;

    /// <inheritdoc/>
    protected override double Predict(IPredictedCase @case, int red, int black) => @case.WhileJoined(red, black);

    /// <inheritdoc/>
    public override double? Simulate(ISimulatedCase @case, int red, int black) => Scaled(@case.WhileJoined());
}

/// <summary>What happens while two points are joined by a lead: 0 nothing, 1 weakly, slowly or a click, 2 as it should.</summary>
public sealed class ActionSeen : JoinedObservable
{
    /// <summary>The one there is.</summary>
    public static ActionSeen Instance { get; } = new();

    /// <inheritdoc/>
    public override string Key => "action";

    /// <inheritdoc/>
    public override string Name => "Join and see";

    /// <inheritdoc/>
    public override double OnBench(IBenchCase part) => part.Does();

    /// <inheritdoc/>
    public override string HowToSet(Meter meter, Jump? jump) =>
        jump?.IsHeavy == true
            ? "a starting lead or a remote button made for it, never a spanner or a screwdriver"
            : "a lead with a 15 A fuse and a button in it";

    /// <inheritdoc/>
    public override string Caution(Jump? jump) => Jump.CautionOf(jump?.IsHeavy == true);

    /// <inheritdoc/>
    public override IReadOnlyList<(string Typed, string Words)> Answers =>
        [("2", "It does"), ("1", "Weak, or clicks"), ("0", "Nothing")];
}

/// <summary>How a bulb or a test lamp put in looks: 0 out, 1 dim, 2 bright.</summary>
public sealed class GlowSeen : JoinedObservable
{
    /// <summary>The one there is.</summary>
    public static GlowSeen Instance { get; } = new();

    /// <inheritdoc/>
    public override string Key => "glow";

    /// <inheritdoc/>
    public override string Name => "Bulb";

    /// <inheritdoc/>
    public override string HowToSet(Meter meter, Jump? jump) =>
        jump?.Kind == JumpKind.TestLamp
            ? "a test lamp of about a quarter of an amp, proved on the battery first"
            : "a 12 V 21 W bulb on two leads";

    /// <inheritdoc/>
    public override string Caution(Jump? jump) =>
        jump?.Kind == JumpKind.TestLamp
            ? "Never on a kill wire, a controller or an injector. A lit lamp clears what feeds a quarter of an amp, not what feeds a starter."
            : "Bulb and fuse holder get hot. Bright is a short or a stalled load, dim an ordinary load.";

    /// <inheritdoc/>
    public override IReadOnlyList<(string Typed, string Words)> Answers =>
        [("2", "Bright"), ("1", "Dim"), ("0", "Out")];
}
