using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>
/// An engine that dies or misses while it runs: started once more with its kill wire off at the coil, and with half of what that goes to
/// off. What runs on now was killed by what came off. Common practice, no source; no spark tester runs with it, and a kill lead that
/// jumps to metal at an engine's running volts is sound in every other test.
/// </summary>
public sealed class RunsWithLeadOff : Procedure
{
    /// <inheritdoc/>
    public override string Key => "runs-with-lead-off";

    /// <inheritdoc/>
    public override string Why => "what runs on with the kill wire off was killed by it, and what still dies was not";

    /// <inheritdoc/>
    public override int Rank => 105;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        if (
            tested.Effect != EffectKind.Sparks
            || tested.Duty.Refuses
            || tested.Duty.Speed is not (DutySpeed.Idle or DutySpeed.Work)
        )
        {
            yield break;
        }

        var kill = new KillWiring(tested);
        if (kill.Leads.Count == 0)
        {
            yield break;
        }

        var halves = kill.Halves().Select(h => (Off: (IReadOnlyList<Disconnection>)[h.Off], h.Words));
        foreach (var (off, words) in halves.Prepend((kill.OffAtCoil, "kill wire off at the coil")))
        {
            // A plug that also feeds the fuel says nothing apart.
            if (HasFuel(tested, off) || !HasFuel(tested, []))
            {
                yield return Started(off, words);
            }
        }

        static bool HasFuel(TestedDuty tested, IReadOnlyList<Disconnection> off) =>
            Outcome
                .Of(
                    new Case
                    {
                        Circuit = tested.Circuit,
                        Settings = [tested.Own],
                        Speeds = tested.Circuit.Engines.ToDictionary(e => e.Id, e => e.At(tested.Duty.Speed)),
                        Off = off,
                    }
                )
                .FuelOn;

        Condition Started(IReadOnlyList<Disconnection> off, string words)
        {
            var load = tested.Circuit.NodeOf(tested.Load.At(tested.Load.Terminals[0]));
            return tested.Turning(
                tested.Own,
                tested.Duty.Speed,
                EngineRuns.Instance,
                [(load, kill.Ground)],
                $"{words} before it is started · {tested.Own.Words(tested.Machine)}"
            ) with
            {
                Off = off,
            };
        }
    }
}
