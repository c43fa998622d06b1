using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <summary>
/// Which codes a controller would have stored with each fault of a machine: as seen with the controls as in the duty, at
/// rest, pulled over and running, each fault tried on a few machines.
/// </summary>
public sealed class StoredCodes
{
    private const int Draws = 4;
    private const int Seed = 27182;

    // A code left from another day, and one that was not stored or was read wrong: from memory.
    private const double Stale = 0.04;
    private const double Lost = 0.06;

    private readonly Dictionary<FaultId, double[]> seen;
    private readonly double[] sound;

    private StoredCodes(IReadOnlyList<string> possible, Dictionary<FaultId, double[]> seen, double[] sound)
    {
        Possible = possible;
        this.seen = seen;
        this.sound = sound;
    }

    /// <summary>Codes that some fault of the machine makes it store, in alphabetical order.</summary>
    public IReadOnlyList<string> Possible { get; }

    /// <summary>Whether a machine has a controller that stores codes.</summary>
    public static bool HasCodes(Circuit circuit) => circuit.Devices.Any(d => d is ICodes);

    /// <summary>Tries every fault.</summary>
    /// <param name="circuit">The machine.</param>
    /// <param name="duty">The duty, for how its controls stand.</param>
    /// <param name="cancel">Stops it.</param>
    public static StoredCodes Build(Circuit circuit, Duty duty, CancellationToken cancel = default)
    {
        var setting = circuit.Setting(duty.Setting);
        var draws = new ParticleDraws(circuit, Draws, Seed);
        var sets = new HashSet<string>[circuit.Faults.Count + 1][];
        Parallel.For(
            0,
            sets.Length,
            Cores.Until(cancel),
            f =>
            {
                var fault = f < circuit.Faults.Count ? circuit.Faults[f] : null;
                sets[f] = [.. Enumerable.Range(0, Draws).Select(p => Codes(circuit, setting, fault, draws, p))];
            }
        );
        string[] possible = [.. sets.SelectMany(s => s).SelectMany(s => s).Distinct().Order(StringComparer.Ordinal)];
        double[] Shares(HashSet<string>[] of) => [.. possible.Select(c => of.Average(s => s.Contains(c) ? 1.0 : 0))];
        return new StoredCodes(
            possible,
            circuit.Faults.Select((f, i) => (f.Id, Shares: Shares(sets[i]))).ToDictionary(x => x.Id, x => x.Shares),
            Shares(sets[^1])
        );
    }

    /// <summary>Chance of those codes, and no others, being stored with a fault; null for the sound machine.</summary>
    public double Of(IReadOnlyList<string> read, Fault? fault)
    {
        var shares = fault is null ? sound : seen[fault.Id];
        var chance = 1.0;
        for (var c = 0; c < shares.Length; c++)
        {
            var stored = Stale + ((1 - Lost - Stale) * shares[c]);
            chance *= read.Contains(Possible[c], StringComparer.Ordinal) ? stored : 1 - stored;
        }

        return chance;
    }

    /// <summary>Chance of those codes with a cause that is not among the faults: as good as with none of them to blame.</summary>
    public double OfUnknown(IReadOnlyList<string> read) =>
        Possible.Aggregate(1.0, (chance, code) => chance * (read.Contains(code, StringComparer.Ordinal) ? 0.2 : 0.8));

    private static HashSet<string> Codes(
        Circuit circuit,
        ControlSetting setting,
        Fault? fault,
        ParticleDraws draws,
        int particle
    )
    {
        var wired = fault is null ? circuit : circuit.With([fault]);
        var values = wired.NominalParameters();
        draws.Parameters(particle).CopyTo(values);
        if (fault is not null)
        {
            wired.Plant(fault, fault.Severity.At(draws.Severity(particle)), values);
        }

        var state = new CircuitState(wired) { FollowsWaves = false, Tolerance = DutyWaves.BeliefTolerance };
        var codes = new HashSet<string>(StringComparer.Ordinal);
        foreach (var speed in new[] { DutySpeed.Rest, DutySpeed.Crank, DutySpeed.Work })
        {
            state.Begin(values);
            state.SetSpeeds(speed);

            state.Move(setting);
            if (speed != DutySpeed.Rest)
            {
                state.Fire();
            }

            foreach (var code in wired.Devices.OfType<ICodes>().SelectMany(d => d.Codes(state)))
            {
                codes.Add(code);
            }
        }

        return codes;
    }
}
