using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>What somebody has read already, wherever it was: predicted so that it weighs.</summary>
public sealed class BroughtReadings : Procedure
{
    /// <inheritdoc/>
    public override string Key => "brought";

    /// <inheritdoc/>
    public override string Why => "it was read already";

    /// <summary>After all tests of the complaint's own, so that theirs keep their numbers.</summary>
    public override int Rank => 5000;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        var circuit = tested.Circuit;
        foreach (
            var alike in tested
                .Duty.Brought.Where(b => circuit.HasNode(b.Red) && circuit.HasNode(b.Black))
                .GroupBy(b =>
                    (b.Observable, Setting: circuit.Setting(b.Setting), b.Speed, Off: Together(b), Put: PutIn(b))
                )
        )
        {
            if (ObservableCatalogue.Named(alike.Key.Observable) is not { } observable)
            {
                continue;
            }

            var first = alike.First();
            var jump = Enum.TryParse<JumpKind>(first.Joined, out var kind)
                ? new Jump(circuit.NodeOf(first.Red), circuit.NodeOf(first.Black), kind)
                : null;
            var condition = tested.In(alike.Key.Setting);
            yield return condition with
            {
                Observable = observable,
                Jump = jump,
                Speed = first.Speed,
                Off = first.Off,
                MayTurnEngine =
                    first.Speed != DutySpeed.Rest || (condition.MayTurnEngine && !observable.WantsDeadCircuit),
                Pairs = [.. alike.Select(b => (circuit.NodeOf(b.Red), circuit.NodeOf(b.Black))).Distinct()],
                Words = Words(tested, alike.Key.Setting, first),
            };
        }
    }

    /// <summary>What was put in stays between its two points: each such reading is a condition of its own.</summary>
    private static string PutIn(BroughtReading brought) =>
        brought.Joined is { } joined ? $"{joined} {brought.Red.Text} {brought.Black.Text}" : "";

    private static string Together(BroughtReading brought) =>
        string.Join(',', brought.Off.Select(o => o.Text).Order(StringComparer.Ordinal));

    private static string Words(TestedDuty tested, ControlSetting setting, BroughtReading brought)
    {
        var words = setting.Words(tested.Machine);
        var off = brought.Off.Count > 0 ? $"{string.Join(", ", brought.Off.Select(o => o.Text))} off · " : "";
        var put = brought.Joined is { } joined
            ? $"{JumpWords.Of(joined)} from {tested.Circuit.Called(tested.Circuit.NodeOf(brought.Red))} to {tested.Circuit.Called(tested.Circuit.NodeOf(brought.Black))} · "
            : "";
        return put + off + words + (brought.Speed == DutySpeed.Rest ? "" : $" · {SpeedWords.Of(brought.Speed)}");
    }
}

/// <summary>What is put between two points, in words.</summary>
internal static class JumpWords
{
    public static string Of(string kind) =>
        kind switch
        {
            nameof(JumpKind.TestLamp) => "test lamp",
            nameof(JumpKind.Lamp) => "21 W bulb",
            _ => "lead",
        };
}
