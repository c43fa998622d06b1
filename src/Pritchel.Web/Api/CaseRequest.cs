using Pritchel.Core.Identity;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Web.Api;

/// <summary>Turns what a request says of a machine into a case, refusing by field what cannot be.</summary>
internal static class CaseRequest
{
    private const double FastestRpm = 20_000;
    private const double LongestSeconds = 86_400;

    public static Case Of(Circuit circuit, MeasureRequest wanted, string at) =>
        new()
        {
            Circuit = circuit,
            Settings =
            [
                .. (wanted.Before ?? []).Select((s, i) => ApiSetting.Of(circuit, s, $"{at}before[{i}]")),
                ApiSetting.Of(circuit, wanted.Setting, at + "setting"),
            ],
            Faults = [.. (wanted.Faults ?? []).Select((f, i) => Planted(circuit, f, $"{at}faults[{i}]"))],
            Speeds = (wanted.Speeds ?? []).ToDictionary(
                s => new EngineId(s.Key),
                s => Speed(circuit, s.Key, s.Value, $"{at}speeds.{Excerpt.Of(s.Key)}")
            ),
            Waited = wanted.WaitedSeconds is >= 0 and <= LongestSeconds
                ? new Seconds(wanted.WaitedSeconds)
                : throw new RefusedException(at + "waitedSeconds", $"Allowed: 0 to {LongestSeconds}."),
            Off = [.. (wanted.Off ?? []).Select((what, i) => ComingOff(circuit, what, $"{at}off[{i}]"))],
            BatteryDisconnected = wanted.BatteryDisconnected,
        };

    private static Rpm Speed(Circuit circuit, string engine, double rpm, string field) =>
        !circuit.Engines.Any(e => e.Id.Text == engine)
            ? throw new RefusedException(
                field,
                $"“{Excerpt.Of(engine)}” is not an engine of this machine; it has: {string.Join(", ", circuit.Engines.Select(e => e.Id.Text).DefaultIfEmpty("none"))}."
            )
        : rpm is >= 0 and <= FastestRpm ? new Rpm(rpm)
        : throw new RefusedException(field, $"Allowed: 0 to {FastestRpm} rpm.");

    private static Disconnection ComingOff(Circuit circuit, string? what, string field) =>
        what is not null && Case.CanComeOff(circuit, Disconnection.Of(what))
            ? Disconnection.Of(what)
            : throw new RefusedException(
                field,
                $"“{Excerpt.Of(what)}” does not come off: name a coupling, or a wire end that is not in one, as \"w1@from\"."
            );

    private static PlantedFault Planted(Circuit circuit, FaultRequest? wanted, string field)
    {
        const double Middling = 0.5;
        var fault =
            circuit.Faults.FirstOrDefault(f => f.Id.Text == wanted?.Id)
            ?? throw new RefusedException(
                field + ".id",
                $"“{Excerpt.Of(wanted?.Id)}” is not a fault of this machine; /faults lists them."
            );
        var severity = wanted!.Severity ?? Middling;
        return severity is >= 0 and <= 1
            ? new PlantedFault(fault, severity)
            : throw new RefusedException(field + ".severity", "Allowed: 0 to 1.");
    }
}
