using Pritchel.Core.PartTests.Regulators;
using Pritchel.Core.Units;

namespace Pritchel.Core.Tests;

/// <summary>Which regulator it is, by hand: reasons from how each kind is built, not from what comes out.</summary>
public class UnknownRegulatorTests
{
    private static readonly Ohms Ol = Ohms.Open;

    [Theory]
    // Three alike leads clear of metal: three phases; a winding that is shorted keeps little of what it makes, an opened one most.
    [InlineData(3, double.PositiveInfinity, 62, 5, 14.3, "regulator-3")]
    [InlineData(3, double.PositiveInfinity, 55, 54, 14.4, "regulator-3-series")]
    [InlineData(2, double.PositiveInfinity, 40, 6, 14.2, "regulator-1")]
    [InlineData(2, double.PositiveInfinity, 38, 40, 14.2, "regulator-1-series")]
    // One end on the engine: half wave with one lead, tapped with two.
    [InlineData(1, 0.6, 30, 27, 14.2, "regulator-half-wave")]
    [InlineData(2, 0.9, 12, 10, 14.2, "regulator-tapped")]
    // Brushes and no magnets.
    [InlineData(0, double.NaN, double.NaN, double.NaN, 14.2, "alternator")]
    public void A_kind_is_named_by_what_it_does(
        int leads,
        double metal,
        double apart,
        double plugged,
        double posts,
        string kind
    )
    {
        static Volts? Read(double figure) => double.IsNaN(figure) ? null : new Volts(figure);
        var signs = new RegulatorSigns(
            leads,
            double.IsNaN(metal) ? null : new Ohms(metal),
            Read(apart),
            Read(plugged),
            Read(posts)
        );
        Assert.Equal(kind, new UnknownRegulator(signs).Is?.Name);
    }

    /// <summary>A look costs least and parts most of them, so it comes first; then what the winding keeps, which alone tells shunt from series.</summary>
    [Fact]
    public void It_is_counted_before_the_engine_runs()
    {
        Assert.Equal(RegulatorQuestion.Leads, new UnknownRegulator(new RegulatorSigns()).Next);
        var three = new UnknownRegulator(new RegulatorSigns(Leads: 3, Metal: Ol));
        Assert.Equal(RegulatorQuestion.Kept, three.Next);
        Assert.Null(three.Is);
        Assert.Equal(["regulator-3", "regulator-3-series"], three.Kinds.Take(2).Select(k => k.Kind.Name).Order());
        Assert.True(three.Kinds.Take(2).All(k => k.Share is > 0.4 and < 0.5));
    }

    /// <summary>One volts reading without the other says how strong the winding is and how fast it turns, not what holds it back.</summary>
    [Theory]
    [InlineData(62.0, null)]
    [InlineData(null, 5.0)]
    public void One_of_the_two_alternating_readings_changes_nothing(double? apart, double? plugged)
    {
        var before = new UnknownRegulator(new RegulatorSigns(Leads: 3)).Kinds;
        var after = new UnknownRegulator(
            new RegulatorSigns(
                Leads: 3,
                Apart: apart is { } a ? new Volts(a) : null,
                Plugged: plugged is { } p ? new Volts(p) : null
            )
        ).Kinds;
        Assert.Equal(before, after);
    }

    /// <summary>Nothing is named on a count alone against what the meter says, and shares always sum to one.</summary>
    [Fact]
    public void A_reading_against_the_count_leaves_it_open()
    {
        // Three leads, but one of them meets the core: no kind is built so, and a winding worn through to its core is.
        var odd = new UnknownRegulator(new RegulatorSigns(Leads: 3, Metal: new Ohms(0.3)));
        Assert.Null(odd.Is);
        Assert.Equal(1, odd.Kinds.Sum(k => k.Share), 9);
    }

    /// <summary>It opens, or it shorts: by how its device is built.</summary>
    [Fact]
    public void What_opens_and_what_shorts_are_told()
    {
        var opens = new UnknownRegulator(new RegulatorSigns())
            .Kinds.Where(k => UnknownRegulator.Opens(k.Kind))
            .Select(k => k.Kind.Name);
        Assert.Superset(
            new HashSet<string> { "regulator-1-series", "regulator-3-series" },
            opens.ToHashSet(StringComparer.Ordinal)
        );
        Assert.DoesNotContain("regulator-1", opens);
        Assert.DoesNotContain("regulator-3", opens);
    }
}
