using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Faults;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests;

/// <summary>
/// What each reading of a sheet would show, for every way in which the part may be, on many parts of its kind: figures drawn as
/// makes differ, windings of one part alike, severities as faults come.
/// </summary>
public sealed class SheetTable
{
    private const int UsualParticles = 1200;
    private const int ParticlesOfWaves = 320;
    private const int ParticlesOfCharging = 64;
    private const int ParticlesOfMany = 8;
    private const int ManyStates = 100;

    // Windings of one part differ among themselves by about three in a hundred: a third of what makes differ. From memory.
    private const double AmongThemselves = 0.3;

    // Leads that were shorted first and noted still differ by a fifth from press to press: from memory.
    private const double LeadDoubtShare = 0.2;
    private const int Seed = 20260;

    // On an observable's scale: under what any meter resolves.
    private const double NothingShown = 0.01;
    private const double PlainlyShown = 0.3;

    private readonly double[][][] figures;
    private readonly bool[] hidden;
    private readonly Lazy<int[][]>[] bins;

    private SheetTable(
        PartSheet sheet,
        TestedPart tested,
        Meter meter,
        IReadOnlyList<SheetReading> readings,
        IReadOnlyList<PartState> states,
        double[][][] figures
    )
    {
        (Sheet, Tested, Meter, Readings, States) = (sheet, tested, meter, readings, states);
        this.figures = figures;
        hidden = [.. states.Select((s, i) => !s.IsSound && ShowsNothing(i))];
        bins = [.. readings.Select((_, r) => new Lazy<int[][]>(() => Binned(r)))];
    }

    /// <summary>The sheet.</summary>
    public PartSheet Sheet { get; }

    /// <summary>The part.</summary>
    public TestedPart Tested { get; }

    /// <summary>The meter.</summary>
    public Meter Meter { get; }

    /// <summary>Readings, in order.</summary>
    public IReadOnlyList<SheetReading> Readings { get; }

    /// <summary>States, the sound one first.</summary>
    public IReadOnlyList<PartState> States { get; }

    /// <summary>Whether no reading of the sheet shows a state from a sound part: it is not weighed, and said to be unproved.</summary>
    public bool IsHidden(int state) => hidden[state];

    /// <summary>States that no reading of the sheet shows.</summary>
    public IEnumerable<PartState> Hidden => States.Where((_, i) => hidden[i]);

    /// <summary>On how many of the parts drawn some reading shows a fault plainly, by its id: 0 to 1.</summary>
    public double Shows(string fault)
    {
        var states = Enumerable
            .Range(0, States.Count)
            .Where(s => States[s].Faults.Any(f => f.Id.Text == fault))
            .ToList();
        var readings = Enumerable.Range(0, Readings.Count).ToList();
        return states.Count == 0
            ? 0
            : Enumerable
                .Range(0, Particles)
                .Average(p => states.Average(s => readings.Exists(r => Shows(s, p, r)) ? 1.0 : 0));
    }

    /// <summary>Number of parts drawn.</summary>
    public int Particles => figures[0].Length;

    /// <summary>What a reading shows in a state on one part drawn, in its unit; infinite for OL.</summary>
    public double Figure(int state, int particle, int reading) => figures[state][particle][reading];

    /// <summary>Bins that its figures fall into by state and part drawn: the same whatever was read, and so worked out once.</summary>
    internal int[][] Bins(int reading) => bins[reading].Value;

    private int[][] Binned(int reading) =>
        [.. figures.Select(s => s.Select(p => SheetDoubt.Bin(this, reading, p[reading])).ToArray())];

    /// <summary>Whether a state shows at a reading plainly enough that one who watches the display sees it come and go.</summary>
    public bool Shows(int state, int particle, int reading) => Apart(state, particle, reading) > PlainlyShown;

    /// <summary>Works it out; a second or so.</summary>
    /// <param name="sheet">The sheet.</param>
    /// <param name="tested">The part.</param>
    /// <param name="meter">The meter in use: its leads are in every ohms reading unless nulled.</param>
    /// <param name="cancel">Stops it.</param>
    public static SheetTable Build(PartSheet sheet, TestedPart tested, Meter meter, CancellationToken cancel = default)
    {
        var readings = sheet.Readings(tested).Where(r => r.Observable.CanRead(meter)).ToList();
        var nominal = Circuit.Compile(sheet.Rig(tested));
        IReadOnlyList<PartState> states =
        [
            new PartState([], 0),
            .. sheet.States(tested, nominal).Where(s => s.Faults.Count > 0),
        ];
        var waves = nominal.WaveEngine >= 0;
        var particles =
            sheet.Draws is { } own ? own
            : states.Count > ManyStates ? ParticlesOfMany
            : waves && readings.Any(r => !r.Observable.Alternates && r.Speed != Machines.DutySpeed.Rest)
                ? ParticlesOfCharging
            : waves && readings.Any(r => r.Observable.Alternates) ? ParticlesOfWaves
            : UsualParticles;
        var figures = states.Select(_ => new double[particles][]).ToArray();
        Parallel.For(
            0,
            particles,
            Cores.Until(cancel),
            p => Draw(new Random(Seed + p), sheet, tested, meter, readings, states, figures, p)
        );
        return new SheetTable(sheet, tested, meter, readings, states, figures);
    }

    private static void Draw(
        Random random,
        PartSheet sheet,
        TestedPart tested,
        Meter meter,
        IReadOnlyList<SheetReading> readings,
        IReadOnlyList<PartState> states,
        double[][][] figures,
        int particle
    )
    {
        var leads =
            meter.Leads.Value * ((meter.LeadsNulled ? 0 : 1) + (LeadDoubtShare * HealthyMachine.Normal(random)));
        var (circuit, solver, parameters) = DrawSound(random, sheet, tested, meter, readings, leads);
        var faults = circuit.Faults.ToDictionary(f => f.Id);
        for (var s = 0; s < states.Count; s++)
        {
            Fault[] own = [.. states[s].Faults.Select(f => faults[f.Id])];

            // A fault that lays a path, as a winding burnt through to its core, is solved on a circuit that has it.
            var wired = own.Any(f => f.Paths.Count > 0) ? circuit.With(own) : circuit;
            var values = wired.NominalParameters();
            parameters.CopyTo(values, 0);
            foreach (var fault in own)
            {
                wired.Plant(fault, fault.Severity.At(Fraction(random)), values);
            }

            figures[s][particle] = (wired == circuit ? solver : new SheetSolver(wired, readings)).Solve(
                values,
                meter,
                leads
            );
        }
    }

    /// <summary>A part with its figures, drawn again while it is none that would work.</summary>
    private static (Circuit, SheetSolver, double[]) DrawSound(
        Random random,
        PartSheet sheet,
        TestedPart tested,
        Meter meter,
        IReadOnlyList<SheetReading> readings,
        double leads
    )
    {
        const int MostDraws = 30;
        for (var drawn = 1; ; drawn++)
        {
            var circuit = Circuit.Compile(sheet.Rig(tested.Drawn(random)));
            var solver = new SheetSolver(circuit, readings);
            var parameters = HealthyMachine.Draw(circuit, random, AmongThemselves);
            if (drawn == MostDraws || sheet.CouldBeSound(Named(solver.Solve(parameters, meter, leads))))
            {
                return (circuit, solver, parameters);
            }
        }

        Dictionary<string, double> Named(double[] figures) =>
            readings.Index().ToDictionary(r => r.Item.Id, r => figures[r.Index], StringComparer.Ordinal);
    }

    /// <summary>
    /// How bad a fault is, as a share of its range. Ranges begin where a machine fails outright; a part is put on the bench
    /// before that too.
    /// </summary>
    private static double Fraction(Random random)
    {
        const double Milder = 0.25;
        return ((1 + Milder) * random.NextDouble()) - Milder;
    }

    private bool ShowsNothing(int state)
    {
        for (var p = 0; p < Particles; p++)
        {
            for (var r = 0; r < Readings.Count; r++)
            {
                if (Apart(state, p, r) > NothingShown)
                {
                    return false;
                }
            }
        }

        return true;
    }

    /// <summary>How far a reading lies from what the same part would show were it sound, on the observable's scale.</summary>
    private double Apart(int state, int particle, int reading)
    {
        var observable = Readings[reading].Observable;
        return Math.Abs(
            observable.Scaled(Figure(state, particle, reading)) - observable.Scaled(Figure(0, particle, reading))
        );
    }
}
