using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Observables;

namespace Pritchel.Core.Diagnosis.Inference;

/// <summary>
/// What readings have in common besides the circuit. The gap to the nearest particle lies under all of them as the
/// particles themselves vary: a battery a little fuller than any that was drawn lifts every point it feeds, in every
/// setting. The model's own error lies alike under readings of one metal. Counted reading by reading, either would be
/// counted as often as the meter was put there. Each reading is taken given the one before it that tells most of its
/// error: the conditional of two normal variables.
/// </summary>
internal sealed class SharedError
{
    // Agreement of the model's errors in one condition: whole on the same metal, gone by a quarter of a volt or so; by eye
    // on rehearsals.
    private const double AlikeVolts = 0.25;

    // What two probes on the same metal differ by besides the meter's noise: from memory. The same for every suspect,
    // however doubtful its figure is as a whole.
    private const double PointVolts = 0.003;

    // A reading that a particle does not explain at all tells nothing of that particle's error.
    private const double FarOff = 4;

    // Particles on either side of such a gap are two ways for a fault to be, a fuse blown or not, and not one varying.
    private const double ModesApart = 2.5;

    private readonly List<Taken> taken = [];
    private double[] agreements = [];
    private int[] current = [];

    /// <summary>
    /// Readings that say the same twice, by number: volts of one condition, and all that is seen of one kind, since one eye
    /// judges it in every setting; null for the rest.
    /// </summary>
    public static int? GroupOf(PredictionTable table, int condition) =>
        table.Conditions[condition].Observable switch
        {
            { SharesAnEye: true } seen => -1 - ObservableCatalogue.NumberOf(seen),
            { SharesModelError: true } => condition,
            _ => null,
        };

    /// <summary>Looks how a reading's figures vary with those of each reading kept before.</summary>
    /// <param name="group">What it shares the model's error with.</param>
    /// <param name="predicted">Figure of each particle; not a number where it is not known.</param>
    public void Compare(int group, double[] predicted)
    {
        var modes = Modes(predicted);
        agreements = [.. taken.Select(t => group < 0 || t.Group < 0 ? 0 : Correlation(t, predicted, modes))];
        current = modes;
    }

    /// <summary>Mean and standard deviation of a reading, given those kept before it.</summary>
    /// <param name="group">What it shares the model's error with.</param>
    /// <param name="particle">Particle that is to explain it.</param>
    /// <param name="predicted">What that particle shows.</param>
    /// <param name="gap">Standard deviation of the gap to the particle.</param>
    /// <param name="model">Standard deviation of the model's error.</param>
    /// <param name="noise">Standard deviation of the meter's own noise.</param>
    public (double Mean, double Sigma) Given(
        int group,
        int particle,
        double predicted,
        double gap,
        double model,
        double noise
    )
    {
        var own = (gap * gap) + (model * model) + (noise * noise);
        var (mean, variance) = (predicted, own);
        for (var i = 0; i < taken.Count; i++)
        {
            var before = taken[i];
            if (double.IsNaN(before.Predicted[particle]))
            {
                continue;
            }

            var off = before.Volts - before.Predicted[particle];
            var (itsGap, itsModel) = (before.Gap[particle], before.Model[particle]);
            var whole = (itsGap * itsGap) + (itsModel * itsModel) + (before.Noise * before.Noise);
            if (off * off > FarOff * FarOff * whole)
            {
                continue;
            }

            var apart = (predicted - before.Predicted[particle]) / AlikeVolts;
            var alike = before.Group == group ? Math.Exp(-apart * apart) : 0;
            var agree = Math.Abs(agreements[i]) > alike ? agreements[i] : alike;
            var shared = (agree * gap * itsGap) + (alike * Common(model) * Common(itsModel));
            var left = own - (shared * shared / whole);
            if (left < variance)
            {
                mean = predicted + (shared / whole * off);
                variance = left;
            }
        }

        return (mean, Math.Sqrt(variance));
    }

    /// <summary>Keeps a reading for those after it; not a number where a particle's figure is not known.</summary>
    public void Keep(int group, double volts, double noise, double[] predicted, double[] gap, double[] model) =>
        taken.Add(new Taken(group, volts, noise, predicted, gap, model, current));

    private static double Common(double spread) =>
        Math.Sqrt(Math.Max(0, (spread * spread) - (PointVolts * PointVolts)));

    /// <summary>Correlation of two readings' figures over the particles, within the modes that a fault has.</summary>
    private static double Correlation(Taken before, double[] predicted, int[] modes)
    {
        var sums = new Sums();
        if (modes.Length == 0 && before.Modes.Length == 0)
        {
            for (var p = 0; p < predicted.Length; p++)
            {
                sums.Add(predicted[p], before.Predicted[p]);
            }

            return sums.Moments().Correlation;
        }

        var byMode = new Dictionary<int, Sums>();
        for (var p = 0; p < predicted.Length; p++)
        {
            var face =
                (modes.Length > 0 ? modes[p] * predicted.Length : 0) + (before.Modes.Length > 0 ? before.Modes[p] : 0);
            var own = byMode.GetValueOrDefault(face);
            own.Add(predicted[p], before.Predicted[p]);
            byMode[face] = own;
        }

        return byMode.Values.Aggregate(default(Moments), (all, own) => all + own.Moments()).Correlation;
    }

    /// <summary>Which of its modes each particle shows, figures with no wide gap between them being one; none where there is but one.</summary>
    private static int[] Modes(double[] predicted)
    {
        var (least, most) = (double.PositiveInfinity, double.NegativeInfinity);
        foreach (var figure in predicted)
        {
            (least, most) = (figure < least ? figure : least, figure > most ? figure : most);
        }

        if (!(most - least > ModesApart))
        {
            return [];
        }

        var order = new int[predicted.Length];
        for (var p = 0; p < order.Length; p++)
        {
            order[p] = p;
        }

        Array.Sort((double[])predicted.Clone(), order);
        var modes = new int[predicted.Length];
        for (var i = 1; i < order.Length; i++)
        {
            var apart = predicted[order[i]] - predicted[order[i - 1]];
            modes[order[i]] = modes[order[i - 1]] + (apart > ModesApart ? 1 : 0);
        }

        return modes;
    }

    /// <summary>Sums over pairs of figures; a pair of which one is not known is left out.</summary>
    private struct Sums
    {
        private double count;
        private double first;
        private double second;
        private double squaresOfFirst;
        private double squaresOfSecond;
        private double products;

        public void Add(double one, double other)
        {
            if (double.IsNaN(one + other))
            {
                return;
            }

            count++;
            first += one;
            second += other;
            squaresOfFirst += one * one;
            squaresOfSecond += other * other;
            products += one * other;
        }

        public readonly Moments Moments() =>
            count == 0
                ? default
                : new(
                    squaresOfFirst - (first * first / count),
                    squaresOfSecond - (second * second / count),
                    products - (first * second / count)
                );
    }

    /// <summary>Sums of squares and products about the means.</summary>
    private readonly record struct Moments(double First, double Second, double Both)
    {
        // Figures of volts squared, below which nothing varies but rounding.
        private const double Still = 1e-8;

        public double Correlation => First < Still || Second < Still ? 0 : Both / Math.Sqrt(First * Second);

        public static Moments operator +(Moments a, Moments b) =>
            new(a.First + b.First, a.Second + b.Second, a.Both + b.Both);
    }

    private sealed record Taken(
        int Group,
        double Volts,
        double Noise,
        double[] Predicted,
        double[] Gap,
        double[] Model,
        int[] Modes
    );
}
