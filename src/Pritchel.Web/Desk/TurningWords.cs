using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Web.Desk;

/// <summary>What is said before a test in which the engine may turn.</summary>
public static class TurningWords
{
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

        var runs = Runs(circuit, condition.Speed);
        var tester = condition.Observable is SparkSeen && !runs ? new[] { Tester } : [];
        return [.. First(circuit, condition.Setting, runs), .. tester, .. cautions];
    }

    /// <summary>A machine's first caution, before its complaint's own duty is tried; empty for none.</summary>
    public static string BeforeTrying(PredictionTable table)
    {
        var (circuit, own) = (table.Circuit, table.Conditions[0]);
        return string.Join(
            ' ',
            First(circuit, own.Setting, Runs(circuit, own.Speed)).Concat(circuit.Machine.TurningCautions.Take(1))
        );
    }

    private static bool Runs(Circuit circuit, DutySpeed speed) =>
        speed is DutySpeed.Idle or DutySpeed.Work && circuit.HasIgnition;

    /// <summary>What holds against what is said below: that the engine runs, and what goes round the machine's own interlocks.</summary>
    private static IEnumerable<string> First(Circuit circuit, ControlSetting setting, bool runs)
    {
        var otherwise = AgainstStart
            .Controls(circuit, setting, runs)
            .Select(c => c.Said(setting.Named(circuit.Machine)[c.Id]))
            .ToList();
        return (runs, otherwise) switch
        {
            (false, []) => [],
            (true, []) =>
            [
                "The engine runs for this one: plug leads and caps stay on, whatever is said of them below; all the rest holds.",
            ],
            (true, _) =>
            [
                $"The engine runs for this one, {string.Join(", ", otherwise)}: plug leads and caps stay on, and what that drives is off the ground, off its belt or held clear first, whatever is said of either below; all the rest holds.",
            ],
            _ =>
            [
                $"For this one it is cranked {string.Join(", ", otherwise)}: what it drives is off the ground and held clear first, whatever is said of that below; all the rest holds.",
            ],
        };
    }
}
