using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Web.Desk;

/// <summary>What is said before a test in which the engine may turn.</summary>
public static class TurningWords
{
    private const string Runs =
        "The engine runs for this one: plug leads and caps stay on, whatever is said of them below; all the rest holds.";

    private const string Tester =
        "The spark tester’s lead is on the tester and the tester clipped to bare metal; every other plug lead is off and clipped.";

    /// <summary>A machine’s cautions as a condition wants them; none where nothing can turn.</summary>
    public static IEnumerable<string> Of(Circuit circuit, Condition condition)
    {
        var cautions = circuit.Machine.TurningCautions;
        if (!condition.MayTurnEngine)
        {
            return [];
        }

        var first =
            condition.Speed is DutySpeed.Idle or DutySpeed.Work && circuit.HasIgnition ? Runs
            : condition.Observable is SparkSeen ? Tester
            : null;
        return [.. Otherwise(circuit, condition.Setting), .. first is null ? [] : new[] { first }, .. cautions];
    }

    /// <summary>A machine's first caution, before its complaint's own duty is tried; empty for none.</summary>
    public static string BeforeTrying(PredictionTable table) =>
        string.Join(
            ' ',
            Otherwise(table.Circuit, table.Conditions[0].Setting).Concat(table.Circuit.Machine.TurningCautions.Take(1))
        );

    /// <summary>What goes round the machine's own interlocks, against what is said of it below.</summary>
    private static IEnumerable<string> Otherwise(Circuit circuit, ControlSetting setting)
    {
        var otherwise = CrankedOtherwise.Of(circuit, setting);
        return otherwise.Count == 0
            ? []
            :
            [
                $"For this one it is cranked {string.Join(", ", otherwise.Select(c => c.Said(setting.Named(circuit.Machine)[c.Id])))}: what it drives is off the ground and held clear first, whatever is said of that below; all the rest holds.",
            ];
    }
}
