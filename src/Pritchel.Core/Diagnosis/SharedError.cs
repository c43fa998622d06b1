namespace Pritchel.Core.Diagnosis;

/// <summary>
/// What readings of one condition have in common besides the circuit: the gap to the nearest particle and the model's own
/// error lie under all of them alike. A second probe on the same metal says nothing new, and without this it would be
/// counted as if it did. Each reading is taken given the one before it that a particle shows most nearly the same for: the
/// conditional of two normal variables whose errors agree the less, the further apart their figures are.
/// </summary>
internal sealed class SharedError
{
    // Agreement of errors: whole on the same metal, gone by a quarter of a volt or so; by eye on rehearsals.
    private const double AlikeVolts = 0.25;

    // What two probes on the same metal differ by besides the meter's noise: from memory. The same for every suspect,
    // however doubtful its figure is as a whole.
    private const double PointVolts = 0.003;

    // A reading that a particle does not explain at all tells nothing of that particle's error.
    private const double FarOff = 4;

    private readonly List<Taken> taken = [];

    /// <summary>
    /// Readings whose errors are shared, by number: volts of one condition, and all that is seen of one kind, since one eye
    /// judges it in every setting; null for the rest.
    /// </summary>
    public static int? GroupOf(PredictionTable table, int condition) =>
        table.Conditions[condition].Quantity switch
        {
            Quantity.Volts => condition,
            var seen when Scale.IsSeen(seen) => -1 - (int)seen,
            _ => null,
        };

    /// <summary>Mean and standard deviation of a reading, given those kept before it in its condition.</summary>
    /// <param name="group">What it shares its error with.</param>
    /// <param name="particle">Particle that is to explain it.</param>
    /// <param name="predicted">What that particle shows.</param>
    /// <param name="spread">Standard deviation of what may be shared.</param>
    /// <param name="noise">Standard deviation of the meter's own noise.</param>
    public (double Mean, double Sigma) Given(int group, int particle, double predicted, double spread, double noise)
    {
        var (mean, variance) = (predicted, (spread * spread) + (noise * noise));
        var most = 0.0;
        foreach (var before in taken)
        {
            if (before.Group != group || double.IsNaN(before.Predicted[particle]))
            {
                continue;
            }

            var off = before.Volts - before.Predicted[particle];
            var its = before.Spread[particle];
            var whole = (its * its) + (before.Noise * before.Noise);
            var apart = (predicted - before.Predicted[particle]) / AlikeVolts;
            var alike = off * off > FarOff * FarOff * whole ? 0 : Math.Exp(-apart * apart);
            if (alike > most)
            {
                most = alike;
                var shared = alike * Common(spread) * Common(its);
                mean = predicted + (shared / whole * off);
                variance = (spread * spread) + (noise * noise) - (shared * shared / whole);
            }
        }

        return (mean, Math.Sqrt(variance));
    }

    private static double Common(double spread) =>
        Math.Sqrt(Math.Max(0, (spread * spread) - (PointVolts * PointVolts)));

    /// <summary>Keeps a reading for those after it; not a number where a particle's figure is not known.</summary>
    public void Keep(int group, double volts, double noise, double[] predicted, double[] spread) =>
        taken.Add(new Taken(group, volts, noise, predicted, spread));

    private sealed record Taken(int Group, double Volts, double Noise, double[] Predicted, double[] Spread);
}
