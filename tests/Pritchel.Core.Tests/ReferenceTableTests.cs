using Pritchel.Core.Handbook;
using Pritchel.Core.Units;

namespace Pritchel.Core.Tests;

/// <summary>Tables against the figures their standards print.</summary>
public class ReferenceTableTests
{
    [Theory]
    // IEC 60228, class 5, maximum at 20 °C, milliohms per metre.
    [InlineData("1.5 mm2", 13.3)]
    [InlineData("2.5 mm2", 7.98)]
    [InlineData("25 mm2", 0.780)]
    // Solid copper by ASTM B258 geometry; wire handbooks print 8.28, 3.28 and 0.322 ohms per kilometre.
    [InlineData("14 AWG", 8.28)]
    [InlineData("10 AWG", 3.28)]
    [InlineData("0 AWG", 0.322)]
    public void Conductors_have_the_resistance_their_table_gives(string gauge, double milliohmsPerMetre)
    {
        var size = Conductors.Parse(gauge);
        Assert.NotNull(size);
        Assert.Equal(milliohmsPerMetre, size.Value.OhmsPerMetre * 1000, 0.004 * milliohmsPerMetre);
    }

    [Theory]
    [InlineData("2.5")]
    [InlineData("2,5 mm2")]
    [InlineData("0 mm2")]
    [InlineData("99 AWG")]
    [InlineData("10.5 AWG")]
    [InlineData("thick")]
    public void What_is_not_a_gauge_is_not_read(string gauge) => Assert.Null(Conductors.Parse(gauge));

    [Theory]
    [InlineData(1, 12.65)]
    [InlineData(0.75, 12.45)]
    [InlineData(0.5, 12.24)]
    [InlineData(0.25, 12.06)]
    [InlineData(0, 11.89)]
    public void Rest_volts_follow_the_table_both_ways(double charge, double volts)
    {
        Assert.Equal(volts, BatteryTables.RestVolts(charge).Value, 9);
        Assert.Equal(charge, BatteryTables.ChargeAt(new Volts(volts)), 9);
    }

    [Fact]
    public void A_full_battery_gives_its_cold_cranking_amps_at_7_2_volts_and_minus_18()
    {
        // SAE J537 defines the rating so.
        var ohms = BatteryTables.InternalOhms(new Amps(230), new Celsius(-18), 1).Value;
        Assert.Equal(7.2, 12.65 - (230 * ohms), 6);
    }
}
