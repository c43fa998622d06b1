using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <summary>
/// Healthy machines that differ within the spread of their parts: the same draws for every hypothesis, so that
/// hypotheses are compared on like machines.
/// </summary>
internal sealed class ParticleDraws
{
    private readonly double[][] parameters;
    private readonly double[] severities;

    public ParticleDraws(Circuit circuit, int count, int seed)
    {
        var random = new Random(seed);
        parameters = new double[count][];
        for (var p = 0; p < count; p++)
        {
            parameters[p] = HealthyMachine.Draw(circuit, random, 1);
        }

        // Stratified, so that 64 particles cover every decade of severity alike.
        severities = [.. Enumerable.Range(0, count).Select(p => (p + random.NextDouble()) / count)];
        random.Shuffle(severities);
    }

    /// <summary>Particles that tell soonest whether a fault matters: the worst, the mildest, one between.</summary>
    public IEnumerable<int> Screen
    {
        get
        {
            var order = Enumerable.Range(0, severities.Length).OrderByDescending(p => severities[p]).ToArray();
            return [order[0], order[^1], order[order.Length / 2], order[order.Length / 4]];
        }
    }

    public int Count => parameters.Length;

    public ReadOnlySpan<double> Parameters(int particle) => parameters[particle];

    public double Severity(int particle) => severities[particle];
}

/// <summary>Draws a healthy machine's parameters.</summary>
public static class HealthyMachine
{
    /// <summary>Parameters of one healthy machine.</summary>
    /// <param name="circuit">The circuit.</param>
    /// <param name="random">Source of chance.</param>
    /// <param name="widen">Factor on every spread; 1 as believed, more for a world that differs.</param>
    public static double[] Draw(Circuit circuit, Random random, double widen)
    {
        var values = new double[circuit.Parameters.Count];
        for (var i = 0; i < values.Length; i++)
        {
            var (nominal, spread) = (circuit.Parameters[i].Nominal, circuit.Parameters[i].Spread);
            values[i] =
                spread.IsUniform ? spread.Low + ((spread.High - spread.Low) * random.NextDouble())
                : spread.LogSigma > 0 ? nominal * Math.Exp(spread.LogSigma * widen * Normal(random))
                : nominal;
        }

        return values;
    }

    /// <summary>A standard normal deviate (Box–Muller).</summary>
    public static double Normal(Random random) =>
        Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
}
