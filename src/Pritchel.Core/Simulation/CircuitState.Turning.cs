namespace Pritchel.Core.Simulation;

/// <summary>The engine's turning: waves of the charge windings, the moments of a spark, and time passing.</summary>
public sealed partial class CircuitState
{
    private const int MostFastSwitchings = 60;
    private const int SwitchedTogether = 3;
    private const double ClosenessOfWaves = 1e-5;
    private const double ClosenessInHurry = 2e-3;

    private readonly double[] speeds;
    private readonly Waves waves;
    private bool averaged;
    private bool stands;
    private bool hurried;
    private WaveCare care;

    /// <summary>Whether the waves of charge windings are followed; without them only means and sparks are known.</summary>
    public bool FollowsWaves { get; init; } = true;

    /// <summary>Part of the turn being solved.</summary>
    public Moment Moment { get; private set; }

    /// <summary>Electrical angle of the wave, in radians.</summary>
    public double Angle { get; internal set; }

    /// <summary>Length of one step of the wave, in seconds.</summary>
    public double StepSeconds { get; internal set; }

    /// <summary>Whether the wave begins here, with nothing known of the step before.</summary>
    public bool FirstStep { get; internal set; }

    /// <summary>Whether a regulator holds its windings back in the turn being solved.</summary>
    public bool HeldBack { get; internal set; }

    /// <summary>Whether waves were followed in the last move, so that readings are means over a turn.</summary>
    public bool IsTurning => averaged;

    /// <summary>Speed of an engine, in revolutions a minute.</summary>
    public double Rpm(int engine) => engine < 0 ? 0 : speeds[engine];

    /// <summary>Sets the speed that an engine is turned at, for moves from now on; zero stops it.</summary>
    /// <param name="engine">Index of the engine.</param>
    /// <param name="rpm">Revolutions a minute, not negative.</param>
    public void SetSpeed(int engine, double rpm) => speeds[engine] = rpm;

    /// <summary>Sets every engine to its own speed at a duty.</summary>
    public void SetSpeeds(Machines.DutySpeed speed)
    {
        for (var e = 0; e < speeds.Length; e++)
        {
            speeds[e] = circuit.Engines[e].At(speed).Value;
        }
    }

    /// <summary>Lets time pass with the controls as they are, stopping at each timer that runs out on the way.</summary>
    /// <param name="seconds">How long.</param>
    public Settlement Elapse(double seconds)
    {
        var settlement = Settlement.Settled;
        for (var left = seconds; left > 0; )
        {
            var step = left;
            foreach (var device in circuit.Devices)
            {
                step = Math.Min(step, device.Due(this));
            }

            foreach (var device in circuit.Devices)
            {
                device.Elapse(this, step);
            }

            left -= step;
            Array.Clear(changedSince);
            settlement = Settle();
        }

        return settlement;
    }

    /// <summary>
    /// Lets starters that turn take their engines with them, at the cranking speed of a sound machine in proportion, and
    /// settles again at that speed.
    /// </summary>
    public Settlement FollowStarters(Settlement soFar)
    {
        var turned = false;
        foreach (var device in circuit.Cranking)
        {
            var engine = ((ICranks)device).Engine;
            var share = device.Effect(this).Level;
            if (engine >= 0 && share > 0 && speeds[engine] <= 0)
            {
                speeds[engine] = circuit.Engines[engine].CrankRpm * share;
                turned = true;
            }
        }

        if (!turned)
        {
            return soFar;
        }

        Array.Clear(changedSince);
        return Settle();
    }

    /// <summary>Frequency of the waves followed, in hertz; zero without.</summary>
    public double WaveHertz =>
        circuit.WaveEngine < 0 ? 0 : speeds[circuit.WaveEngine] / 60 * circuit.Engines[circuit.WaveEngine].PolePairs;

    /// <summary>Peak volts seen between two nodes over the last wave; the steady drop without one.</summary>
    public double Peak(int red, int black) =>
        averaged ? waves.Peak(red, black) : Math.Abs(elimination.Drop(red, black));

    /// <summary>Root mean square of the volts between two nodes with their mean taken away: what alternates.</summary>
    public double Alternating(int red, int black) =>
        averaged ? waves.Alternating(red, black) : Swing(red, black) / Math.Sqrt(2);

    /// <summary>Mean of the rectified volts with the mean taken away, as an averaging meter forms it.</summary>
    public double RectifiedMean(int red, int black) =>
        averaged ? waves.RectifiedMean(red, black) : Swing(red, black) * 2 / Math.PI;

    /// <summary>
    /// Half of what volts between two nodes swing by between the peaks of ignition windings, where no charge winding's wave is
    /// followed: taken for a sine's, as along a wave.
    /// </summary>
    private double Swing(int red, int black)
    {
        Span<double> highest = [0];
        Span<double> lowest = [0];
        Turn([(red, black)], highest, lowest, last: Moment.Negative);
        return (highest[0] - lowest[0]) / 2;
    }

    /// <summary>The one of several magnetos that the magnet is passing; null when all windings are passed together.</summary>
    internal Device? Passed { get; private set; }

    /// <summary>Takes the ignition through one turn.</summary>
    public void Fire() => Turn([], [], [], last: Moment.Firing);

    /// <summary>The same with a peak adapter between two nodes; the highest volts between them, the spark's instant included.</summary>
    public double Fire(int red, int black)
    {
        Span<double> peak = [0];
        Fire([(red, black)], peak);
        return peak[0];
    }

    /// <summary>The same with peak adapters between several pairs at once.</summary>
    /// <param name="pairs">Nodes under the red and black leads.</param>
    /// <param name="peaks">Filled with the highest volts between each pair, either way; as long as the pairs.</param>
    internal void Fire(IReadOnlyList<(int Red, int Black)> pairs, Span<double> peaks)
    {
        var lowest = new double[pairs.Count];
        Turn(pairs, peaks, lowest, last: Moment.Firing);
        for (var i = 0; i < pairs.Count; i++)
        {
            peaks[i] = Math.Max(Math.Abs(peaks[i]), Math.Abs(lowest[i]));
        }
    }

    /// <summary>
    /// Takes the ignition through a turn: windings at their positive and negative peaks, then the instant of the spark;
    /// where several magnetos share a flywheel, each in its turn with the others still. Relays and means stay as they are.
    /// The highest and lowest volts between pairs of nodes are noted.
    /// </summary>
    private void Turn(IReadOnlyList<(int Red, int Black)> pairs, Span<double> highest, Span<double> lowest, Moment last)
    {
        var means = averaged;
        averaged = false;
        highest.Fill(double.NegativeInfinity);
        lowest.Fill(double.PositiveInfinity);
        foreach (var passed in circuit.Passings)
        {
            Passed = passed;
            for (var moment = Moment.Positive; moment <= last; moment++)
            {
                Moment = moment;
                StampActive();
                SolveInstant();
                foreach (var ignition in circuit.IgnitionDevices)
                {
                    ignition.Observe(this);
                }

                for (var i = 0; i < pairs.Count; i++)
                {
                    var volts = elimination.Drop(pairs[i].Red, pairs[i].Black);
                    (highest[i], lowest[i]) = (Math.Max(highest[i], volts), Math.Min(lowest[i], volts));
                }
            }
        }

        Passed = null;
        (Moment, averaged) = (Moment.Still, means);
        StampActive();
        if (!means)
        {
            SolveInstant();
        }
    }

    /// <summary>Whether volts are read as means over the waves kept.</summary>
    internal void ReadMeans(bool on) => averaged = on;

    /// <summary>Begins a wave with everything stamped for it.</summary>
    internal void BeginWave(bool heldBack, bool first)
    {
        (Moment, HeldBack, FirstStep) = (Moment.Wave, heldBack, first);
        averaged = false;
        StampActive();
    }

    /// <summary>Takes up what windings carried at the end of an earlier wave.</summary>
    internal void Restore(ReadOnlySpan<double> carried)
    {
        for (var i = 0; i < carried.Length; i++)
        {
            this[circuit.Carried[i]] = carried[i];
        }
    }

    /// <summary>Keeps what windings carry now.</summary>
    internal void Save(Span<double> carried)
    {
        for (var i = 0; i < carried.Length; i++)
        {
            carried[i] = this[circuit.Carried[i]];
        }
    }

    /// <summary>Enters a step of the wave: what rotates is stamped anew.</summary>
    internal void StampStep()
    {
        foreach (var device in circuit.RotatingDevices)
        {
            device.Stamp(this);
        }
    }

    /// <summary>Solves the present instant, diodes and breakdowns included; everything slower stays as it is.</summary>
    internal void SolveInstant()
    {
        for (var switchings = 0; ; switchings++)
        {
            SolveAsStamped(quick: Moment == Moment.Wave);
            var switched = false;
            foreach (var device in circuit.FastDevices)
            {
                var change = device.Step(this);
                if (!change.Switches)
                {
                    continue;
                }

                states[change.State.Index] = change.To;
                device.Stamp(this);
                switched = true;
                if (switchings >= SwitchedTogether)
                {
                    break;
                }
            }

            if (!switched || switchings >= MostFastSwitchings)
            {
                return;
            }
        }
    }

    private void SolveNow()
    {
        averaged = false;
        if (FollowsWaves && circuit.WaveEngine >= 0 && speeds[circuit.WaveEngine] > 0)
        {
            waves.Run(WaveHertz, care);
            Moment = Moment.Still;
            averaged = true;
            return;
        }

        SolveAsStamped(quick: false);
    }

    /// <summary>After everything has been stamped, from the ground up; after active devices only, on what stands.</summary>
    private void SolveAsStamped(bool quick)
    {
        if (!stands)
        {
            elimination.Solve(conductances, emfs, sourceConductances);
            stands = true;
            if (!quick)
            {
                return;
            }
        }

        elimination.SolveAgain(conductances, emfs, sourceConductances, quick);
    }
}
