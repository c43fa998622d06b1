using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation;

/// <summary>How a setting settled.</summary>
public enum Settlement
{
    /// <summary>Every relay and motor came to rest in a state that agrees with its volts.</summary>
    Settled,

    /// <summary>Something pulls in and drops out for ever: chatter.</summary>
    Chatters,
}

/// <summary>
/// One case being solved: parameters, control positions, states and volts. Controls are moved in sequence by
/// <see cref="Move"/>, since relays and fuses depend on what went before. For one thread; moving allocates nothing.
/// </summary>
public sealed partial class CircuitState
{
    private const int MostRefinements = 80;
    private const double Rough = 1e-5;

    private readonly Circuit circuit;
    private readonly Elimination elimination;
    private readonly double[] parameters;
    private readonly double[] conductances;
    private readonly double[] emfs;
    private readonly double[] sourceConductances;
    private readonly int[] states;
    private readonly int[] changedSince;
    private readonly double[] memories;
    private readonly ulong[] visited;
    private readonly Change[] opening;
    private Change opens;
    private ControlSetting? setting;

    /// <summary>Prepares working memory for cases of a circuit.</summary>
    public CircuitState(Circuit circuit)
        : this(circuit, circuit.Network) { }

    /// <summary>For a circuit with a meter connected; the meter's source is the network's last.</summary>
    internal CircuitState(Circuit circuit, Network network)
    {
        this.circuit = circuit;
        elimination = new Elimination(network);
        parameters = new double[circuit.Parameters.Count];
        conductances = new double[network.Branches.Count];
        emfs = new double[network.Sources.Count];
        sourceConductances = new double[network.Sources.Count];
        states = new int[circuit.States.Count];

        // What comes back to where it was chatters. Each state may switch a few times on the way to rest, so this many
        // without coming back is far more than anything real needs: a guard, not a verdict.
        var most = 64 + (8 * states.Length);
        (visited, opening) = (new ulong[most], new Change[most]);
        changedSince = new int[states.Length];
        memories = new double[circuit.Memories.Count];
        speeds = new double[circuit.Engines.Count];
        waves = new Waves(this, elimination);
    }

    /// <summary>Relative change below which nonlinear values count as settled. Beliefs are content with less than drawings.</summary>
    public double Tolerance { get; init; } = 1e-10;

    /// <summary>Whether values need only come near their rest.</summary>
    internal bool IsRough => Tolerance > Rough;

    /// <summary>Relative change below which a nonlinear value counts as settled now: waves repeat less closely than still circuits.</summary>
    public double Closeness =>
        averaged ? Math.Max(Tolerance, hurried ? ClosenessInHurry : ClosenessOfWaves) : Tolerance;

    /// <summary>The circuit.</summary>
    public Circuit Circuit => circuit;

    /// <summary>Conductances as stamped, in siemens by branch.</summary>
    public ReadOnlySpan<double> Conductances => conductances;

    /// <summary>E.m.f.s as stamped, in volts by source.</summary>
    public ReadOnlySpan<double> Emfs => emfs;

    /// <summary>Series conductances as stamped, in siemens by source.</summary>
    public ReadOnlySpan<double> SourceConductances => sourceConductances;

    /// <summary>Value of a parameter in this case.</summary>
    public double this[ParameterId parameter] => parameters[parameter.Index];

    /// <summary>Value of a discrete state.</summary>
    public int this[StateId state] => states[state.Index];

    /// <summary>A continuous working value.</summary>
    public ref double this[MemoryId memory] => ref memories[memory.Index];

    /// <summary>Starts a case afresh: engines at rest, all relays out, fuses whole, lamps cold, timers run down.</summary>
    /// <param name="values">Parameters by index.</param>
    public void Begin(ReadOnlySpan<double> values)
    {
        values.CopyTo(parameters);
        Array.Clear(states);
        Array.Clear(speeds);
        waves.Forget();
        for (var m = 0; m < memories.Length; m++)
        {
            memories[m] = circuit.Memories[m];
        }
    }

    /// <summary>Notes how the case stands, to come <see cref="Back"/> to.</summary>
    internal void Mark(Snapshot here)
    {
        parameters.CopyTo(here.Parameters, 0);
        states.CopyTo(here.States, 0);
        memories.CopyTo(here.Memories, 0);
        waves.Mark(here);
    }

    /// <summary>
    /// Takes up the currents that windings carried in a like case, and where what rests on their means came to: nearer to
    /// what repeats than none.
    /// </summary>
    internal void CarryOn(Snapshot like)
    {
        waves.Back(like);
        foreach (var guess in circuit.Guesses)
        {
            this[guess] = like.Memories[guess.Index];
        }
    }

    /// <summary>Puts everything back as it stood when marked; the next move solves from there.</summary>
    internal void Back(Snapshot there)
    {
        there.Parameters.CopyTo(parameters, 0);
        there.States.CopyTo(states, 0);
        there.Memories.CopyTo(memories, 0);
        waves.Back(there);
    }

    /// <summary>Moves the controls to a setting and lets everything settle.</summary>
    public Settlement Move(ControlSetting to)
    {
        setting = to;
        Array.Clear(changedSince);
        return Settle();
    }

    /// <summary>
    /// Stands in a setting as another state stood in it, with this one's own parameters and nothing solved: for a circuit
    /// with every e.m.f. off, in which no parameter moves a relay, on a state that is used for nothing else.
    /// </summary>
    /// <param name="to">The setting.</param>
    /// <param name="like">A state of the same circuit that settled there.</param>
    internal void StandAs(ControlSetting to, CircuitState like)
    {
        setting = to;
        like.states.CopyTo(states, 0);
        StampAll();

        // Lamps find their cold ohms at the zero volts that were never solved.
        for (var refinements = 0; refinements < MostRefinements && Ask().Refined; refinements++)
        {
            StampActive();
        }
    }

    private void StampAll()
    {
        (Moment, averaged, stands) = (Moment.Still, false, false);
        foreach (var device in circuit.Devices)
        {
            device.Stamp(this);
        }
    }

    /// <summary>Whether a state changed both ways during the last move: what chatters, or clicked and let go.</summary>
    public bool Wavered(int stateIndex) => changedSince[stateIndex] > 1;

    /// <summary>Value of a discrete state by index.</summary>
    public int StateAt(int index) => states[index];

    /// <summary>Position of a control, by index.</summary>
    public int Position(int control) => setting![control];

    /// <summary>Sets a branch's resistance in ohms; infinite opens it.</summary>
    public void SetOhms(BranchId branch, double ohms) => conductances[branch.Index] = 1 / ohms;

    /// <summary>Sets a branch's conductance in siemens.</summary>
    public void SetSiemens(BranchId branch, double siemens) => conductances[branch.Index] = siemens;

    /// <summary>Sets a source's e.m.f. in volts and series resistance in ohms; infinite ohms disconnect it.</summary>
    public void SetSource(SourceId source, double emf, double ohms)
    {
        emfs[source.Index] = emf;
        sourceConductances[source.Index] = 1 / ohms;
    }

    /// <summary>Connects a meter, on a state made for one: its own e.m.f. in volts behind its input resistance in ohms.</summary>
    internal void ConnectMeter(double emf, double ohms) => SetSource(new SourceId(emfs.Length - 1), emf, ohms);

    /// <summary>
    /// Ohms between a meter's two points with every e.m.f. dead and every contact as it stands; infinite when nothing
    /// joins them. Ends the case: volts afterwards are those of the test current.
    /// </summary>
    internal double OhmsAtMeter()
    {
        const double TestVolts = 1;
        const double TestOhms = 1000;
        Array.Clear(emfs);
        ConnectMeter(TestVolts, TestOhms);
        elimination.Solve(conductances, emfs, sourceConductances);
        var meter = elimination.Network.Sources[^1];
        var volts = elimination.Drop(meter.From, meter.To);
        return volts >= TestVolts ? double.PositiveInfinity : TestOhms * volts / (TestVolts - volts);
    }

    /// <summary>Whether volts are means over waves.</summary>
    internal bool IsAveraged => averaged;

    /// <summary>Whether volts between two nodes stand still: no wave runs, or its last instant is like its mean.</summary>
    internal bool Steady(int red, int black)
    {
        const double StillVolts = 0.05;
        return !averaged || Math.Abs(elimination.Drop(red, black) - waves.Mean(red, black)) < StillVolts;
    }

    /// <summary>Volts across a branch, first end above second: the mean, while waves run.</summary>
    public double Across(BranchId branch)
    {
        var ends = circuit.Network.Branches[branch.Index];
        return Drop(ends.From, ends.To);
    }

    /// <summary>Volts across a source's terminals, positive end above negative: the mean, while waves run.</summary>
    public double Across(SourceId source)
    {
        var ends = circuit.Network.Sources[source.Index];
        return Drop(ends.From, ends.To);
    }

    /// <summary>Amps that a source drives out of its positive end.</summary>
    public double Through(SourceId source) =>
        sourceConductances[source.Index] == 0
            ? 0
            : (emfs[source.Index] - Across(source)) * sourceConductances[source.Index];

    /// <summary>Amps through a branch whose conductance stands still, first end to second.</summary>
    public double Through(BranchId branch) => Across(branch) * conductances[branch.Index];

    /// <summary>Siemens of a branch as stamped.</summary>
    public double Siemens(BranchId branch) => conductances[branch.Index];

    /// <summary>Direct volts that would heat a branch as much: root mean square.</summary>
    public double Heating(BranchId branch)
    {
        var ends = circuit.Network.Branches[branch.Index];
        return averaged ? waves.Effective(ends.From, ends.To) : Math.Abs(elimination.Drop(ends.From, ends.To));
    }

    /// <summary>Volts between two nodes, the mean while waves run; zero where nothing joins them.</summary>
    public double Drop(int red, int black) => averaged ? waves.Mean(red, black) : elimination.Drop(red, black);

    /// <summary>Whether any conducting path joins two nodes.</summary>
    public bool Joined(int a, int b) => averaged ? waves.Joined(a, b) : elimination.Joined(a, b);
}
