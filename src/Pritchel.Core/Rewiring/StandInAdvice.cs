using Pritchel.Core.Machines;

namespace Pritchel.Core.Rewiring;

/// <summary>What rests on parts that stand in for what nobody has seen, and the reading that settles it.</summary>
public static class StandInAdvice
{
    /// <summary>What must be settled of an end before it is cut; null where its part is drawn as it is, or was followed or read.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="end">The end.</param>
    /// <returns>Whether it is wrong to cut as it stands, and what to say.</returns>
    public static (bool Grave, string Words)? Of(RewirePlan plan, EndFunction end) =>
        KnownBy(plan, end) switch
        {
            HowKnown.ByColour => (
                end.Kind is not (EndKind.Signal or EndKind.Alternating or EndKind.Ground),
                $"What leads to {RewireWords.LeadsTo(end)} was guessed by its colour. Stop, start and feed leads are not cut on a guess: {SettledBy(end)}."
            ),
            HowKnown.OnPaper => (
                false,
                $"What leads to {RewireWords.LeadsTo(end)} is known from paper alone. Before it is cut: {SettledBy(end)}."
            ),
            _ => null,
        };

    /// <summary>Parts of a plan that stand in, in the order of its sides.</summary>
    public static IReadOnlyList<Part> In(RewirePlan plan) =>
        [.. plan.Sides.SelectMany(s => s.Machine.Parts.Where(p => p.StandsIn == true && s.Has(p.Id)))];

    /// <summary>The reading that settles what an end is for, from its own side, apart from the other.</summary>
    /// <remarks>Common practice, no source.</remarks>
    public static string SettledBy(EndFunction end) =>
        (end.Kind, end.Gives) switch
        {
            (EndKind.Ground, _) =>
                "a bulb from battery + to it burns as bright as on the battery’s own post, whatever is switched",
            (EndKind.BatteryFeed, true) => "a bulb from it to ground burns in every position of every switch",
            (EndKind.SwitchedFeed, true) =>
                "a bulb from it to ground burns with its switch on, and goes out with it off",
            (EndKind.StartFeed, true) =>
                "a bulb from it to ground burns at START alone, with every interlock as it should be",
            (EndKind.StartFeed, false) =>
                "a few ohms from it to the metal; fed by a fused lead, seconds only, the solenoid clicks",
            (EndKind.BatteryFeed or EndKind.SwitchedFeed, false) =>
                "fed by a fused lead, what it should feed works, and nothing else does",
            (EndKind.GroundToKill, true) =>
                "no volts in any position; it beeps to ground where it stops, and is silent where it runs",
            (EndKind.GroundToKill, false) =>
                "a few ohms or a diode to the block; grounded, there is no spark at a tester, and loose there is",
            (EndKind.Alternating, true) => "a few ohms to its like or to the block, and AC volts there at idle",
            _ => "followed with eye and meter to its part",
        };

    private static HowKnown? KnownBy(RewirePlan plan, EndFunction end) =>
        end.End.Wire is { } wire ? plan.Side(end.End.Side)!.Machine.Index.Wire(wire.Wire)!.Known : null;
}
