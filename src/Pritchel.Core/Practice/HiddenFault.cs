using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Practice;

/// <summary>How the machines that faults are hidden in differ from what is believed of them.</summary>
/// <param name="Widen">Factor on healthy spreads; 1 as believed.</param>
/// <param name="Slips">Share of readings taken with a slipped probe, which then shows anything.</param>
/// <param name="Presence">Share of tries in which the fault is there; 1 when it always is.</param>
/// <param name="Severities">Severities tried before a fault counts as one that does not give the complaint.</param>
public sealed record World(double Widen = 1, double Slips = 0, double Presence = 1, int Severities = 12)
{
    /// <summary>How people and their meters are, apart from what is believed; null for as believed.</summary>
    public Habits? Habits { get; init; }

    /// <summary>Old machines, and people's habits with them.</summary>
    public static readonly World Habitual = new(Widen: 1.5, Slips: 0.02) { Habits = new Habits() };

    /// <summary>What the machine is built otherwise in, and nobody knows; null for as drawn.</summary>
    public Difference? Differs { get; init; }

    /// <summary>As believed.</summary>
    public static readonly World Believed = new();

    /// <summary>Spreads half as wide again, and three readings in a hundred with a slipped probe.</summary>
    public static readonly World Differing = new(Widen: 1.5, Slips: 0.03);
}

/// <summary>
/// A world built from habits and not from the beliefs' own draws. Shares are judgement: common practice, no source.
/// </summary>
/// <param name="Rounds">Share of volts readings that are told to one decimal.</param>
/// <param name="Mishears">Share of complaints heard by one class otherwise: a click missed, a chatter told as a click.</param>
/// <param name="OneTerminalOff">Share of readings with the red probe on another terminal of the same part.</param>
/// <param name="NearlyOpen">How far severities lie towards the worst: the power that an even draw is raised to.</param>
/// <param name="LeftOff">Share of readings for which what was off for the one before is still off.</param>
/// <param name="CheapMeter">Share of meters whose gain is twice as far off as is believed.</param>
/// <param name="DrawingWrong">Share of machines that differ from their drawing by a lead and do their duty all the same.</param>
/// <param name="TwoFaults">Share of hunts of two faults at once.</param>
public sealed record Habits(
    double Rounds = 0.3,
    double Mishears = 0.1,
    double OneTerminalOff = 0.02,
    double NearlyOpen = 0.35,
    double LeftOff = 0.02,
    double CheapMeter = 0.3,
    double DrawingWrong = 0.05,
    double TwoFaults = 0.1
);

/// <summary>
/// A machine with faults that only it knows, answering as an owner and a meter would: complaint from what is heard and
/// seen, readings with this meter's gain error, noise and rounding.
/// </summary>
public sealed class HiddenFault
{
    private readonly PredictionTable table;
    private readonly Misdrawn built;
    private readonly Circuit circuit;
    private readonly double[] parameters;
    private readonly IReadOnlyList<PlantedFault> planted;
    private readonly Meter meter;
    private readonly Random random;
    private readonly double gain;
    private readonly World world;
    private bool present = true;
    private IReadOnlyList<Disconnection> off = [];
    private IReadOnlyList<Disconnection> leftOff = [];

    private HiddenFault(
        PredictionTable table,
        Misdrawn built,
        double[] parameters,
        IReadOnlyList<PlantedFault> planted,
        Meter meter,
        Random random,
        World world
    )
    {
        this.table = table;
        this.built = built;
        circuit = built.Circuit;
        this.parameters = parameters;
        this.planted = planted;
        this.meter = meter;
        this.random = random;
        this.world = world;
        const double CheapGain = 2;
        var cheap = world.Habits is { } habits && random.NextDouble() < habits.CheapMeter;
        gain = 1 + (meter.GainSigma * (cheap ? CheapGain : 1) * HealthyMachine.Normal(random));
    }

    /// <summary>Its first fault, or what is not as drawn where that is all that is wrong.</summary>
    public FaultId Id => planted.Count > 0 ? planted[0].Fault.Id : built.Id;

    /// <summary>All of its faults.</summary>
    public IEnumerable<Fault> Faults => planted.Select(p => p.Fault);

    /// <summary>
    /// Whether a repair cures one of its faults or, where nothing is broken, sends whoever makes it to what is not as drawn.
    /// </summary>
    public bool IsCuredBy(RepairId? repair) =>
        planted.Any(p => p.Fault.Repair.Id == repair)
        || ((planted.Count == 0 || built.IsFoundAlone) && built.LeadsTo(table.Circuit, repair));

    /// <summary>Whether leads were put on wrongly at the part that a change of the drawing is said to be at.</summary>
    public bool IsAt(NotAsDrawn? said) => said is not null && built.At.Contains(said.At.Part);

    /// <summary>Whether leads were put on wrongly and nothing is broken.</summary>
    public bool IsMisdrawn => planted.Count == 0 && built.At.Count > 0;

    /// <summary>What its owner says.</summary>
    public required Complaint Complaint { get; init; }

    /// <summary>
    /// Hides a fault severe enough that the duty fails outright (nothing, a click, chatter); null when no severity
    /// tried does that.
    /// </summary>
    /// <param name="table">Duty and conditions; its predictions are not looked at.</param>
    /// <param name="fault">Fault to hide.</param>
    /// <param name="meter">Meter that will be used.</param>
    /// <param name="random">Source of chance.</param>
    /// <param name="world">How the machine differs from what is believed; as believed unless given.</param>
    public static HiddenFault? Hide(
        PredictionTable table,
        Fault fault,
        Meter meter,
        Random random,
        World? world = null
    ) => Hide(table, [fault], meter, random, world);

    /// <summary>Hides several faults at once.</summary>
    /// <inheritdoc cref="Hide(PredictionTable, Fault, Meter, Random, World?)"/>
    public static HiddenFault? Hide(
        PredictionTable table,
        IReadOnlyList<Fault> faults,
        Meter meter,
        Random random,
        World? world = null
    )
    {
        var like = world ?? World.Believed;
        if (Built(table, random, like) is not { } built)
        {
            return null;
        }

        var there = faults
            .Select(f => built.Circuit == table.Circuit ? f : built.Circuit.Faults.FirstOrDefault(c => c.Id == f.Id))
            .OfType<Fault>()
            .ToList();
        for (var attempt = 0; attempt < like.Severities && there.Count == faults.Count; attempt++)
        {
            var parameters = HealthyMachine.Draw(built.Circuit, random, like.Widen);
            var planted = there.Select(f => new PlantedFault(f, Fraction(random, like))).ToArray();
            if (Told(table, built, parameters, planted, like, random) is { } complaint)
            {
                return new(table, built, parameters, planted, meter, random, like) { Complaint = complaint };
            }
        }

        return null;
    }

    /// <summary>
    /// Hides nothing but what is not as drawn, so that the duty fails: leads put on wrongly, or a part of another kind in a world that
    /// has one. Null where none was found.
    /// </summary>
    /// <inheritdoc cref="Hide(PredictionTable, Fault, Meter, Random, World?)"/>
    public static HiddenFault? Misplace(PredictionTable table, Meter meter, Random random, World world)
    {
        var found = world.Differs is { } differs
            ? Misdrawn.Otherwise(table, differs, random, works: false)
            : Misdrawn.Failing(table, random);
        if (found is not { } built)
        {
            return null;
        }

        var parameters = HealthyMachine.Draw(built.Circuit, random, world.Widen);
        return Told(table, built, parameters, [], world, random) is { } complaint
            ? new(table, built, parameters, [], meter, random, world)
            {
                // Leads do not change places by themselves: whoever brings it knows that it was worked on.
                Complaint = complaint with
                {
                    Circumstances = new Circumstances(RecentWork: built.At.Count > 0),
                },
            }
            : null;
    }

    /// <summary>The machine that faults are hidden in; null where none differs as the world asks.</summary>
    private static Misdrawn? Built(PredictionTable table, Random random, World world)
    {
        if (world.Differs is { } differs)
        {
            return Misdrawn.Otherwise(table, differs, random, works: true);
        }

        var isMisdrawn = world.Habits is { } habits && random.NextDouble() < habits.DrawingWrong;
        return (isMisdrawn ? Misdrawn.Working(table, random) : null) ?? new Misdrawn(table.Circuit, []);
    }

    /// <summary>The same machine after a repair; null when it does its duty now.</summary>
    /// <param name="repair">What was renewed: every fault of its class is gone.</param>
    public HiddenFault? After(RepairId repair)
    {
        var left = planted.Where(p => p.Fault.Repair.Id != repair).ToArray();
        return left.Length > 0 && Told(table, built, parameters, left, world, random) is { } complaint
            ? new(table, built, parameters, left, meter, random, world) { Complaint = complaint }
            : null;
    }

    /// <summary>What the owner says of it; null where the duty does not fail outright.</summary>
    private static Complaint? Told(
        PredictionTable table,
        Misdrawn built,
        double[] parameters,
        IReadOnlyList<PlantedFault> planted,
        World world,
        Random random
    )
    {
        const int Tried = 3;
        PlantedFault[] there = [.. planted, .. built.Always];
        var wired = built.Circuit.With(there.Select(p => p.Fault));
        var runner = new CaseRunner(table, wired, 1e-9);
        var heard = runner.Begin(there, parameters);

        // A fault that comes and goes was away then.
        if (world.Presence >= 1 && !DoneBefore.Of(table).WouldHave(wired, there, parameters, random))
        {
            return null;
        }

        return
            heard is Heard.Nothing or Heard.OneClick or Heard.Chatter or Heard.TooMuch
            || (heard == Heard.Slow && table.Effect != EffectKind.Turns)
            ? new Complaint
            {
                Duty = table.Duty.Id,
                Heard = world.Habits is { } habits && random.NextDouble() < habits.Mishears ? Misheard(heard) : heard,
                Lamps = [.. LampsSeen(table, runner)],
                Failed = Math.Max(1, (int)Math.Round(Tried * world.Presence)),
                Tried = Tried,
            }
            : null;
    }

    private static double Fraction(Random random, World world) =>
        world.Habits is { } habits ? Math.Pow(random.NextDouble(), habits.NearlyOpen) : random.NextDouble();

    /// <summary>What is told by who did not listen.</summary>
    private static Heard Misheard(Heard heard) =>
        heard switch
        {
            Heard.OneClick => Heard.Nothing,
            Heard.Chatter => Heard.OneClick,
            _ => heard,
        };

    /// <summary>Takes a reading, with noise, rounded as the display does; volts are null when the figure jumps.</summary>
    public Reading Read(ProbePair at)
    {
        var condition = table.Conditions[at.Condition];
        var symptom = Appears(condition);
        if (world.Slips > 0 && random.NextDouble() < world.Slips)
        {
            const double Least = -2;
            const double Most = 16;
            return new Reading(at, Least + ((Most - Least) * random.NextDouble()), symptom);
        }

        if (world.Habits is not { } habits)
        {
            return Taken(at, condition, symptom);
        }

        var elsewhere = random.NextDouble() < habits.OneTerminalOff ? Beside(at) : at;
        leftOff = random.NextDouble() < habits.LeftOff ? off : [];
        off = condition.Off;
        var taken = Taken(elsewhere, condition, symptom) with { At = at };
        const double Tenth = 0.1;
        return taken.Value is { } volts && condition.Observable is DirectVolts && random.NextDouble() < habits.Rounds
            ? taken with
            {
                Value = Math.Round(volts, 1),
                Digits = new TypedDigits(Tenth),
            }
            : taken;
    }

    /// <summary>The same pair with the red probe on another terminal of the part under it; itself where there is none.</summary>
    private ProbePair Beside(ProbePair at)
    {
        var drawn = table.Circuit;
        var others = drawn
            .TerminalsAt(at.Red)
            .SelectMany(t => drawn.Machine.Index.Part(t.Part)!.Addresses)
            .Select(a => drawn.NodeOf(a))
            .Where(n => n != at.Red && n != at.Black)
            .Distinct()
            .ToList();
        return others.Count == 0 ? at : at with { Red = others[random.Next(others.Count)] };
    }

    private Reading Taken(ProbePair at, Condition condition, SymptomNow symptom) =>
        new(
            at,
            condition.Observable.Simulate(new Taking(this, at.Condition), NodeHere(at.Red), NodeHere(at.Black)),
            symptom
        );

    /// <summary>A node of the drawing on the machine as it is built.</summary>
    private int NodeHere(int drawn) =>
        circuit == table.Circuit ? drawn : circuit.NodeOf(table.Circuit.NodePoints[drawn][0]);

    /// <summary>
    /// A part tested by itself: its sheet finds that it is to be renewed or not, is wrong as often as is believed of it, and says nothing of
    /// what else is mended there, as a coil's says nothing of its plug.
    /// </summary>
    public TestedAlone TestAlone(PartId part)
    {
        var renewed = RepairId.OfPart(part);
        var isMissed = random.NextDouble() < SideEvidence.SheetMisses;
        return new TestedAlone(
            part,
            planted.Any(p => p.Fault.Repair.Id == renewed) == isMissed,
            circuit
                .Faults.Where(f => f.Id.Of.Owner.Part == part && f.Repair.Id != renewed)
                .Select(f => f.Id)
                .ToHashSet()
        );
    }

    /// <summary>
    /// Whether what is watched changes as a place is stirred: with a fault that comes and goes by how it answers there, and
    /// where a reading is watched only if that shows it.
    /// </summary>
    public bool Wiggles(PlannedWiggle stir)
    {
        var comesAndGoes = new WiggleEvidence([], Complaint);
        return planted.Any(p =>
            random.NextDouble() < comesAndGoes.Changes(p.Fault, stir.Reach, stir.By) && Shows(stir)
        );
    }

    /// <summary>Whether what is watched differs while the fault is there; the duty itself always does.</summary>
    private bool Shows(PlannedWiggle stir)
    {
        if (stir.Watch is not { } watch)
        {
            return true;
        }

        const double LeastSeen = 0.3;
        present = false;
        var away = Exactly(watch.At);
        present = true;
        var there = Exactly(watch.At);
        return away is null || there is null || Math.Abs(away.Value - there.Value) > LeastSeen;
    }

    /// <summary>What is read with the fault there or not as it stands, on the scale, by its own meter; null when it jumps.</summary>
    private double? Exactly(ProbePair at) => Taken(at, table.Conditions[at.Condition], SymptomNow.Present).Value;

    /// <summary>Whether the fault is there for this reading, and what can be said of it: a dead circuit shows no symptom.</summary>
    private SymptomNow Appears(Condition condition)
    {
        present = world.Presence >= 1 || random.NextDouble() < world.Presence;
        return world.Presence < 1 && condition.Observable.WantsDeadCircuit ? SymptomNow.NotWatched
            : present ? SymptomNow.Present
            : SymptomNow.Absent;
    }

    /// <summary>The machine as it stands in a condition, after the duty was tried.</summary>
    private Case Standing(int index)
    {
        var condition = table.Conditions[index];
        var rest = circuit.Setting(null);
        return new Case
        {
            Circuit = circuit,
            Settings =
                index == 0
                || condition.Off.Count > 0
                || condition.Tester != SparkTesterAt.Nowhere
                || condition.Jump is not null
                    ? index == 0
                        ? DutyMoment.Settings(circuit, table.Duty)
                        : [condition.Setting]
                    : [.. DutyMoment.Settings(circuit, table.Duty), rest, condition.Setting],
            Speeds = circuit.Engines.ToDictionary(e => e.Id, e => e.At(condition.Speed)),
            Off = [.. condition.Off.Union(leftOff)],
            SparkTester = condition.Tester,
            BatteryDisconnected = condition.Observable.WantsDeadCircuit,
            Faults = [.. present ? planted : [], .. built.Always],
            Parameters = parameters,
        };
    }

    private static IEnumerable<LampSeen> LampsSeen(PredictionTable table, CaseRunner runner)
    {
        for (var c = 0; c < table.Conditions.Count; c++)
        {
            if (!table.Conditions[c].IsFree)
            {
                continue;
            }

            runner.Visit(c);
            foreach (var lamp in table.LampsLit(c))
            {
                var level = runner.State.Circuit.DeviceOf(lamp).Effect(runner.State).Level;
                var look = level switch
                {
                    >= Filament.BrightFrom => LampLook.Bright,
                    >= Filament.GlowsFrom => LampLook.Dim,
                    _ => LampLook.Out,
                };
                yield return new LampSeen(
                    lamp,
                    table.Conditions[c].Setting.Named(table.Circuit.Machine),
                    table.Conditions[c].Speed,
                    look
                );
            }
        }
    }

    /// <summary>One reading being taken of it.</summary>
    private sealed class Taking(HiddenFault hidden, int condition) : ISimulatedCase
    {
        public Case Case { get; } = hidden.Standing(condition);

        public Meter Meter => hidden.meter;

        public double Gain => hidden.gain;

        public PartId Load => hidden.table.Duty.Load;

        public Jump? Jump { get; } =
            hidden.table.Conditions[condition].Jump is { } jump
                ? jump with
                {
                    From = hidden.NodeHere(jump.From),
                    To = hidden.NodeHere(jump.To),
                }
                : null;

        public double Chance() => HealthyMachine.Normal(hidden.random);

        public double WhileJoined()
        {
            var jump = Jump!;
            var wired = Case.Wired;
            var state = new CircuitState(wired, wired.WithMeter(jump.From, jump.To));
            return jump.Seen(
                state,
                ohms => Case.Settle(state, () => state.ConnectMeter(0, ohms)),
                wired.DeviceOf(Load),
                hidden.table.Duty.Control is { } control ? wired.DeviceOf(control) : null,
                Meter
            );
        }
    }
}
