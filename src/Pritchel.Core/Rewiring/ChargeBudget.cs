using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Rewiring;

/// <summary>What the battery gets, or gives, with the engine running.</summary>
/// <param name="Setting">How the controls stand.</param>
/// <param name="Heaviest">Whether most is switched on; otherwise least is.</param>
/// <param name="AtIdle">Amps into the battery at idle; out of it when negative.</param>
/// <param name="AtWork">The same at work.</param>
public sealed record ChargeLine(ControlSetting Setting, bool Heaviest, Amps AtIdle, Amps AtWork);

/// <summary>
/// What a machine's charging leaves for its battery with least and with most switched on, solved with the waves of its charge
/// windings; and how long a start takes to be paid back.
/// </summary>
/// <param name="Lines">Least switched on, then most; one where that is the same; none where nothing charges or runs.</param>
/// <param name="PaidBack">
/// Minutes at work, with least on, until a start of six seconds is paid back; null where it never is, or nothing cranks.
/// </param>
public sealed record ChargeBudget(IReadOnlyList<ChargeLine> Lines, Minutes? PaidBack)
{
    private const int MostMoved = 4;
    private const double StartSeconds = 6;

    // Of what goes into a lead-acid battery some 85 % comes out again: from memory.
    private const double Efficiency = 0.85;

    /// <summary>The budget of a machine.</summary>
    public static ChargeBudget Of(Circuit circuit)
    {
        if (!circuit.PartsThat(PartTraits.StoresCharge).Any() || circuit.Engines.Count == 0)
        {
            return new ChargeBudget([], null);
        }

        var trial = new Trial(circuit);
        var seen = circuit.SettingsNearRest(MostMoved).Select(s => (Setting: s, Does: trial.In(s))).ToList();
        var running = seen.Where(s => s.Does is { Runs: true, Cranks: false }).ToList();
        if (running.Count == 0)
        {
            return new ChargeBudget([], null);
        }

        var (least, most) = (running[0], running.MaxBy(s => s.Does.DrainAmps));
        ChargeLine Line(ControlSetting setting, bool heaviest) =>
            new(
                setting,
                heaviest,
                new Amps(Trial.AmpsIn(circuit, setting, DutySpeed.Idle)),
                new Amps(Trial.AmpsIn(circuit, setting, DutySpeed.Work))
            );
        var lines = new List<ChargeLine> { Line(least.Setting, heaviest: false) };
        if (most.Does.DrainAmps > least.Does.DrainAmps)
        {
            lines.Add(Line(most.Setting, heaviest: true));
        }

        var start = seen.Where(s => s.Does.Cranks).Select(s => s.Does.DrainAmps).DefaultIfEmpty(0).First();
        var gets = lines[0].AtWork.Value;
        return new ChargeBudget(
            lines,
            start > 0 && gets > 0 ? new Minutes(start * StartSeconds / 60 / (gets * Efficiency)) : null
        );
    }
}
