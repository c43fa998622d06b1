namespace Pritchel.Core.Handbook;

/// <summary>How long a fuse or breaker carries an overload before it opens, by current over rating.</summary>
public sealed class OpeningCurve
{
    private readonly (double TimesRating, double Seconds)[] points;

    private OpeningCurve(params (double TimesRating, double Seconds)[] points) => this.points = points;

    /// <summary>
    /// Blade fuses. ISO 8820-3 gives a band of opening times at each multiple (from memory): 110 % 100 h at least, 135 % 0.75
    /// to 600 s, 160 % 0.25 to 50 s, 200 % 0.15 to 5 s, 350 % 0.04 to 0.5 s, 600 % 0.02 to 0.1 s. The curve goes through the
    /// geometric middle of each.
    /// </summary>
    public static OpeningCurve Blade { get; } =
        new(
            (1.1, 360_000),
            (1.35, Middle(0.75, 600)),
            (1.6, Middle(0.25, 50)),
            (2, Middle(0.15, 5)),
            (3.5, Middle(0.04, 0.5)),
            (6, Middle(0.02, 0.1))
        );

    /// <summary>
    /// Bolted strip fuses, which a starting surge passes. ISO 8820-5 (from memory): 100 % 4 h at least, 150 % 90 to 3600 s,
    /// 200 % 3 to 100 s, 350 % 0.3 to 3 s, 600 % 0.1 to 1 s; through the geometric middle of each.
    /// </summary>
    public static OpeningCurve Bolted { get; } =
        new((1.1, 14_400), (1.5, Middle(90, 3600)), (2, Middle(3, 100)), (3.5, Middle(0.3, 3)), (6, Middle(0.1, 1)));

    /// <summary>
    /// Thermal breakers of low voltage. SAE J1625 wants one to carry its rating for good, to trip within half an hour at
    /// 135 % and within a minute at 200 % (from memory); the rest after a maker's usual curve: common practice, no source.
    /// </summary>
    public static OpeningCurve ThermalBreaker { get; } = new((1.15, 14_400), (1.35, 300), (2, 20), (4, 3), (8, 0.6));

    /// <summary>
    /// Seconds until it opens: straight lines between the points on log–log paper, never below the first, and the same i²t
    /// as the last beyond it, where no heat has time to get away.
    /// </summary>
    /// <param name="timesRating">Amps over rated amps, not negative.</param>
    /// <returns>Seconds, infinite where it holds.</returns>
    public double Seconds(double timesRating)
    {
        if (timesRating < points[0].TimesRating)
        {
            return double.PositiveInfinity;
        }

        for (var i = 1; i < points.Length; i++)
        {
            var (near, far) = (points[i - 1], points[i]);
            if (timesRating <= far.TimesRating)
            {
                var along = Math.Log(timesRating / near.TimesRating) / Math.Log(far.TimesRating / near.TimesRating);
                return near.Seconds * Math.Pow(far.Seconds / near.Seconds, along);
            }
        }

        var share = points[^1].TimesRating / timesRating;
        return points[^1].Seconds * share * share;
    }

    private static double Middle(double least, double most) => Math.Sqrt(least * most);
}
