using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Simulation;

namespace Pritchel.Web.Tests;

/// <summary>A kind of test that only these tests know: a working load by itself, one of its wires off.</summary>
public sealed class HeaterAlone : Procedure
{
    public override string Key => "heater-alone";

    public override string Why => "what is left of it shows with nothing beside it";

    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        if (tested.Effect != EffectKind.Works || tested.Duty.Refuses)
        {
            yield break;
        }

        var (from, to) = (tested.Load.At(tested.Load.Terminals[0]), tested.Load.At(tested.Load.Terminals[1]));
        foreach (var (end, _) in tested.Machine.Index.EndsAt(to).Take(1))
        {
            yield return tested.Dead(
                tested.Rest,
                [end],
                [(tested.Circuit.NodeOf(from), tested.Circuit.NodeOf(to))],
                $"{tested.Load.Name} by itself, one wire off"
            );
        }
    }
}
