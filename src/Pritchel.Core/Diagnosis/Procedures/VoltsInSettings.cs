using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>Volts anywhere, in the failing setting and in those about it.</summary>
public sealed class VoltsInSettings : Procedure
{
    /// <inheritdoc/>
    public override string Key => "volts-in-settings";

    /// <inheritdoc/>
    public override string Why => "volts are lost where the current has to fight its way";

    /// <inheritdoc/>
    public override int Rank => 0;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        var duty = tested.Duty;
        var first = tested.In(tested.Own, isDuty: true) with { Speed = duty.Speed };
        if (duty.Speed != DutySpeed.Rest)
        {
            first = first with { MayTurnEngine = true, Words = $"{first.Words} · {SpeedWords.Of(duty.Speed)}" };
        }

        // Without a battery the duty itself is all that can be told of it.
        yield return tested.HasBattery ? first : first with { Pairs = [] };
        foreach (
            var setting in tested.HasBattery
                ? tested.Settings().Where(s => duty.Speed != DutySpeed.Rest || !s.Equals(tested.Own))
                : []
        )
        {
            var there = tested.In(setting);
            if (!there.MayTurnEngine || !IsIndicated(tested))
            {
                yield return there;
            }
        }
    }

    /// <summary>Whether the duty is a lamp, a buzzer or a gauge: nobody holds START to read an alarm.</summary>
    private static bool IsIndicated(TestedDuty tested) =>
        tested.Effect is EffectKind.Glows or EffectKind.Sounds or EffectKind.Reads;
}
