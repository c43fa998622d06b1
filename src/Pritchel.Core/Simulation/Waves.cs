using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation;

/// <summary>
/// One period of everything that alternates, found by stepping through it until it repeats. With a regulator, twice:
/// windings let through, and held back; the battery's slowness makes what is seen the mean of the two, in the share that
/// keeps the regulator's volts (docs/method.md, "Charging").
/// </summary>
internal sealed class Waves
{
    // Steps in a period; half as many where values need only come near their rest.
    private const int FineSteps = 48;
    private const int RoughSteps = 24;

    private const int MostPeriods = 64;

    // A winding with little ohms lets a false direct current go over many periods. It goes by the same share in each, so
    // from three of them where it ends is known.
    private const int ForeseenFrom = 15;
    private const int PeriodsToForesee = 4;
    private const double RepeatsWithin = 5e-6;

    // While values are still on their way, waves follow them for a period or two at a time: windings carry on from
    // where they were. Only what is decided on must repeat.
    private const int PeriodsInHurry = 2;
    private const double RepeatsInHurry = 5e-4;

    private readonly CircuitState state;
    private readonly Elimination elimination;
    private readonly int nodes;
    private readonly double[] lastStep;
    private Turn? through;
    private Turn? back;
    private double share;
    private double within;
    private int most = MostPeriods;

    private int Steps => state.IsRough ? RoughSteps : FineSteps;

    public Waves(CircuitState state, Elimination elimination)
    {
        this.state = state;
        this.elimination = elimination;
        nodes = elimination.Network.NodeCount;
        lastStep = new double[nodes];
    }

    /// <summary>Whether the waves last followed came to repeat as far as was asked.</summary>
    public bool Repeated { get; private set; }

    /// <summary>Starts the next waves with no current in any winding.</summary>
    public void Forget()
    {
        through?.Forget();
        back?.Forget();
    }

    /// <summary>Notes where waves ended, for the next to carry on from there.</summary>
    public void Mark(Snapshot here) => here.Carried = (through?.Marked(), back?.Marked());

    /// <summary>Takes up where waves ended when marked.</summary>
    public void Back(Snapshot there)
    {
        Forget();
        through?.TakeUp(there.Carried.Through);
        back?.TakeUp(there.Carried.Back);
    }

    /// <summary>Follows the waves at a frequency in hertz.</summary>
    /// <param name="hertz">The frequency.</param>
    /// <param name="care">How far they must repeat.</param>
    public void Run(double hertz, WaveCare care)
    {
        within = care == WaveCare.Full ? RepeatsWithin : RepeatsInHurry;
        most = care == WaveCare.OnTheWay ? PeriodsInHurry : MostPeriods;
        Repeated = true;
        through ??= new Turn(nodes, Steps, state.Circuit.Carried.Length);
        state.StepSeconds = 1 / hertz / Steps;
        share = 1;
        Follow(through, heldBack: false);
        foreach (var regulator in state.Circuit.Regulators)
        {
            var (holds, sees) = Seen(regulator);
            if (sees <= holds)
            {
                continue;
            }

            back ??= new Turn(nodes, Steps, state.Circuit.Carried.Length);
            Follow(back, heldBack: true);
            share = 0;
            var (_, held) = Seen(regulator);
            share = held >= holds ? 0 : (holds - held) / (sees - held);
        }
    }

    public double Mean(int a, int b) => Mixed(a, b, (drop, _) => drop, 0);

    public double Effective(int a, int b) => Math.Sqrt(Mixed(a, b, (drop, _) => drop * drop, 0));

    public double Alternating(int a, int b) =>
        Math.Sqrt(Mixed(a, b, (drop, mean) => (drop - mean) * (drop - mean), Mean(a, b)));

    public double RectifiedMean(int a, int b) => Mixed(a, b, (drop, mean) => Math.Abs(drop - mean), Mean(a, b));

    public double Peak(int a, int b)
    {
        var peak = share > 0 ? through!.Peak(a, b) : 0;
        return share < 1 ? Math.Max(peak, back!.Peak(a, b)) : peak;
    }

    public bool Joined(int a, int b) => (share > 0 ? through! : back!).Joined(a, b);

    private (double Holds, double Sees) Seen(IRegulator regulator)
    {
        state.ReadMeans(on: true);
        var seen = regulator.Regulation(state);
        state.ReadMeans(on: false);
        return seen;
    }

    private double Mixed(int a, int b, Func<double, double, double> of, double mean)
    {
        var sum = share > 0 ? share * through!.Mean(a, b, of, mean) : 0;
        return share < 1 ? sum + ((1 - share) * back!.Mean(a, b, of, mean)) : sum;
    }

    private void Follow(Turn turn, bool heldBack)
    {
        var steps = Steps;
        // From where the same wave ended last time: little has changed since.
        state.Restore(turn.Carried);
        state.BeginWave(heldBack, first: !turn.HasRun);
        Array.Clear(lastStep);
        var repeats = false;
        for (var period = 0; period < (turn.HasRun ? most : MostPeriods) && !repeats; period++)
        {
            for (var step = 0; step < steps; step++)
            {
                state.Angle = 2 * Math.PI * step / steps;
                state.StampStep();
                state.SolveInstant();
                foreach (var device in state.Circuit.RotatingDevices)
                {
                    device.Advance(state);
                }

                state.FirstStep = false;
                turn.Keep(step, elimination);
            }

            repeats = Repeats(turn) && period > 0;
            state.Save(turn.Ends(period));
            if (!repeats && period > ForeseenFrom && period % PeriodsToForesee == 0)
            {
                state.Restore(turn.Foreseen(period));
            }
        }

        Repeated &= repeats;

        turn.HasRun = true;
        state.Save(turn.Carried);
    }

    private bool Repeats(Turn turn)
    {
        double largest = 0;
        for (var n = 0; n < nodes; n++)
        {
            var now = turn.Volts(Steps - 1, n);
            largest = Math.Max(largest, Math.Abs(now - lastStep[n]));
            lastStep[n] = now;
        }

        return largest < within;
    }

    /// <summary>Every node's volts at every step of one period.</summary>
    private sealed class Turn(int nodes, int steps, int carried)
    {
        public double[] Carried { get; } = new double[carried];

        public bool HasRun { get; set; }

        private readonly double[][] ends = [new double[carried], new double[carried], new double[carried]];
        private readonly double[] foreseen = new double[carried];

        /// <summary>What windings carry at the end of a period; the last three are kept.</summary>
        public double[] Ends(int period) => ends[period % ends.Length];

        /// <summary>
        /// What windings will carry in the end, by Aitken's extrapolation of the last three periods: x₂ + d₂·q/(1 − q) with
        /// q = d₂/d₁; where what is left does not shrink evenly, what they carry now.
        /// </summary>
        public double[] Foreseen(int period)
        {
            const double Slowest = 0.9999;
            var (x0, x1, x2) = (Ends(period - 2), Ends(period - 1), Ends(period));
            for (var i = 0; i < foreseen.Length; i++)
            {
                var (d1, d2) = (x1[i] - x0[i], x2[i] - x1[i]);
                var share = d1 == 0 ? 0 : d2 / d1;
                foreseen[i] = share is > 0 and < Slowest ? x2[i] + (d2 * share / (1 - share)) : x2[i];
            }

            return foreseen;
        }

        public void Forget()
        {
            HasRun = false;
            Array.Clear(Carried);
        }

        public double[]? Marked() => HasRun ? [.. Carried] : null;

        public void TakeUp(double[]? marked)
        {
            marked?.CopyTo(Carried, 0);
            HasRun = marked is not null;
        }

        private readonly double[] volts = new double[steps * nodes];
        private readonly int[] islands = new int[steps * nodes];

        public double Volts(int step, int node) => volts[(step * nodes) + node];

        public void Keep(int step, Elimination elimination) =>
            elimination.CopyTo(volts.AsSpan(step * nodes, nodes), islands.AsSpan(step * nodes, nodes));

        public double Mean(int a, int b, Func<double, double, double> of, double mean)
        {
            double sum = 0;
            for (var at = 0; at < volts.Length; at += nodes)
            {
                sum += of(Drop(at, a, b), mean);
            }

            return sum / steps;
        }

        public double Peak(int a, int b)
        {
            double peak = 0;
            for (var at = 0; at < volts.Length; at += nodes)
            {
                peak = Math.Max(peak, Math.Abs(Drop(at, a, b)));
            }

            return peak;
        }

        public bool Joined(int a, int b)
        {
            for (var at = 0; at < islands.Length; at += nodes)
            {
                if (islands[at + a] == islands[at + b])
                {
                    return true;
                }
            }

            return false;
        }

        private double Drop(int at, int a, int b) =>
            islands[at + a] == islands[at + b] ? volts[at + a] - volts[at + b] : 0;
    }
}

/// <summary>How far waves must repeat before they are judged.</summary>
internal enum WaveCare
{
    /// <summary>Values are still on their way: a period or two will do.</summary>
    OnTheWay,

    /// <summary>Something is about to switch: nearly.</summary>
    Near,

    /// <summary>They are what is read.</summary>
    Full,
}
