using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Complaints;

/// <summary>Sparks that fail: at starting, once the engine turns fast, or on one cylinder of several.</summary>
public sealed partial class Symptoms
{
    private void FindSpark(Part part, IReadOnlyList<Part> sparking)
    {
        if (First(s => Level(part, s, DutySpeed.Crank) >= 1) is not { } go)
        {
            return;
        }

        AddSpark(go, "", "sparks", "no spark", DutySpeed.Crank, []);
        if (Running.FirstOrDefault(s => Level(part, s, DutySpeed.Work) >= 1 && EngineRuns(s)) is { } running)
        {
            // It started and idled, or nobody could have opened the throttle.
            AddSpark(
                running,
                "-fast",
                "sparks at speed",
                "misses or cuts out above idle",
                DutySpeed.Work,
                [Sparks(part)]
            );

            // On the same engine, what fires yet keeps it running.
            var others = sparking
                .Where(p =>
                    p != part
                    && Level(p, running, DutySpeed.Idle) >= 1
                    && FiredBy(p, running).SequenceEqual(FiredBy(part, running))
                )
                .Select(Sparks)
                .ToList();
            if (others.Count > 0)
            {
                AddSpark(running, "-alone", "fires with the others", "misses, the others fire", DutySpeed.Idle, others);
            }
        }

        // An engine goes out with all that fires it: it is asked once, of the first.
        var firing = sparking.TakeWhile(p => p != part).ToList();
        if (
            Running.FirstOrDefault(s => Level(part, s, DutySpeed.Idle) >= 1 && EngineRuns(s)) is { } idling
            && !firing.Exists(p => FiredBy(p, idling).SequenceEqual(FiredBy(part, idling)))
        )
        {
            AddSpark(
                idling,
                "-idle",
                "goes on firing",
                "starts, then dies",
                DutySpeed.Idle,
                [Sparks(part)],
                goesOn: true
            );
            FindGoesOut(part, CircuitGroup.Ignition, idling, new DutyId($"{Sparks(part)}-idle"));
        }

        FindStops(part, go);
        return;

        void AddSpark(
            ControlSetting setting,
            string id,
            string does,
            string fails,
            DutySpeed speed,
            IReadOnlyList<DutyId> onTheWay,
            bool goesOn = false
        ) =>
            Add(
                CircuitGroup.Ignition,
                $"{Sparks(part)}{id}",
                $"{SymptomWords.Said(part)} {does}",
                setting,
                part,
                speed,
                $"{SymptomWords.Said(part)}: {fails}",
                onTheWay: onTheWay,
                goesOn: goesOn
            );
    }

    private static DutyId Sparks(Part part) => new("sparks-" + part.Id);

    /// <summary>Engines each of which by itself makes a part spark.</summary>
    private List<int> FiredBy(Part part, ControlSetting running) =>
        [
            .. Enumerable
                .Range(0, circuit.Engines.Count)
                .Where(e =>
                {
                    state.Begin(circuit.NominalParameters());
                    state.SetSpeeds(DutySpeed.Rest);
                    state.SetSpeed(e, circuit.Engines[e].At(DutySpeed.Idle).Value);
                    state.Move(running);
                    state.Fire();
                    return circuit.DeviceOf(part.Id).Effect(state).Level >= 1;
                }),
        ];
}
