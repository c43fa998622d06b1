namespace Pritchel.Core.PartTests;

/// <summary>The three legs behind three ohms readings between the wires.</summary>
/// <param name="A">Leg a of a star: (ab + ca − bc) ÷ 2.</param>
/// <param name="B">Leg b.</param>
/// <param name="C">Leg c.</param>
public sealed record StatorLegs(double A, double B, double C)
{
    /// <summary>Legs of a star from its three pairs, in ohms. Lead error e common to all three leaves e/2 in each leg and nothing in their differences.</summary>
    public static StatorLegs Of(double ab, double bc, double ca) =>
        new((ab + ca - bc) / 2, (ab + bc - ca) / 2, (bc + ca - ab) / 2);

    /// <summary>A leg of the star by its wire.</summary>
    public double Star(string wire) =>
        wire switch
        {
            "a" => A,
            "b" => B,
            "c" => C,
            _ => throw new ArgumentOutOfRangeException(nameof(wire), wire, "Allowed: a, b, c."),
        };

    /// <summary>A leg of the delta that shows the same three readings, between two wires: the star's products over its third leg.</summary>
    public (double Ab, double Bc, double Ca) Delta
    {
        get
        {
            var products = (A * B) + (B * C) + (C * A);
            return (products / C, products / A, products / B);
        }
    }

    /// <summary>Largest difference of a leg from the mean, as a share of it.</summary>
    public double Imbalance
    {
        get
        {
            var mean = (A + B + C) / 3;
            return new[] { A, B, C }.Max(l => Math.Abs(l - mean)) / mean;
        }
    }
}
