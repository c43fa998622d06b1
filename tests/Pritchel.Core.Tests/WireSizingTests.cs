using Pritchel.Core.Handbook;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Units;

namespace Pritchel.Core.Tests;

/// <summary>
/// Wire sizes against cases worked by hand: areas by ASTM B258, the boat formula by circular mils (10.75 × amps × feet there
/// and back ÷ volts lost; ABYC E-11, from memory), amps by the table beside <see cref="WireSizing"/>.
/// </summary>
public class WireSizingTests
{
    private const double FeetPerMetre = 1 / 0.3048;

    // A mil is a thousandth of an inch; a circular mil the area of a circle of that diameter.
    private const double SquareMillimetresPerCircularMil = 0.000506707;

    // Eleven by hand: copper at 60 °C has 12.0 Ω·cmil/ft, and cmil = 12.0 × amps × feet there and back ÷ volts lost, against the
    // table of circular mils by AWG (20: 1020, 18: 1620, 16: 2580, 14: 4110, 12: 6530, 10: 10380, 8: 16510, 6: 26240, 4: 41740).
    [Theory]
    [InlineData(5, 3, 0.10, false, "20 AWG", 7.5)] // 984 cmil; 20 carries 10 A
    [InlineData(9.5, 1, 0.10, false, "18 AWG", 15)] // 623 cmil; 20 carries 10 A, less than its fuse of 15
    [InlineData(9, 3, 0.03, false, "12 AWG", 15)] // 5906 cmil
    [InlineData(18, 2, 0.10, true, "14 AWG", 25)] // 2362 cmil; 16 carries 21.3 A in an engine space, less than its fuse of 25
    [InlineData(20, 6, 0.10, false, "10 AWG", 25)] // 7874 cmil
    [InlineData(2, 8, 0.03, false, "14 AWG", 3)] // 3500 cmil
    [InlineData(30, 1.5, 0.10, false, "12 AWG", 40)] // 2953 cmil; 14 carries 35 A, less than its fuse of 40
    [InlineData(40, 4, 0.03, false, "4 AWG", 50)] // 34996 cmil
    [InlineData(60, 2, 0.10, false, "8 AWG", 80)] // 7874 cmil; 10 carries 60 A, less than its fuse of 80
    [InlineData(1, 10, 0.03, false, "16 AWG", 2)] // 2187 cmil
    [InlineData(100, 3, 0.10, true, "4 AWG", 125)] // 19685 cmil; 6 carries 102 A there, less than its fuse of 125
    public void Wires_worked_by_hand(
        double amps,
        double metres,
        double share,
        bool engineSpace,
        string gauge,
        double fuse
    )
    {
        var need = new WireNeed(new Amps(amps), new Metres(metres), new Volts(12), share, engineSpace);
        var sized = WireSizing.Size(need, WireSizing.Awg)!;
        Assert.Equal(gauge, sized.Size.Gauge);
        Assert.Equal(fuse, sized.Fuse?.Value);

        // The boat formula, at its own 30 °C: a wire for 60 °C is not thinner.
        var circularMils = 10.75 * amps * 2 * metres * FeetPerMetre / (share * 12);
        Assert.True(sized.Size.Copper.Area.Value / SquareMillimetresPerCircularMil >= circularMils);
        Assert.True(sized.Drop.Value <= share * 12);
    }

    /// <summary>By hand: 2 · 10 A · 5 m · 4.95 mΩ/m · 1.1572 = 0.573 V.</summary>
    [Fact]
    public void Drop_is_that_of_a_warm_conductor_there_and_back() =>
        Assert.Equal(
            0.573,
            WireSizing.Drop(Conductors.Parse("4 mm2")!.Value, new Amps(10), new Metres(5)).Value,
            0.001
        );

    // By hand: 20 A wants a fuse of 25, which 14 AWG (35 A) takes and 16 AWG in an engine space (21.3 A) does not.
    [Theory]
    [InlineData(20, 35, 25.0)]
    [InlineData(20, 21.3, null)]
    [InlineData(4, 20, 5.0)]
    [InlineData(5.5, 20, 7.5)]
    public void Fuses_hold_the_load_and_protect_the_wire(double load, double ampacity, double? rating) =>
        Assert.Equal(rating, WireSizing.Fuse(new Amps(load), new Amps(ampacity))?.Value);

    [Fact]
    public void More_is_never_carried_by_less_and_metric_sizes_never_carry_more_than_their_copper()
    {
        foreach (var series in new[] { WireSizing.Awg, WireSizing.Metric })
        {
            foreach (var (thin, thick) in series.Zip(series.Skip(1)))
            {
                Assert.True(thin.Copper.Area.Value < thick.Copper.Area.Value);
                Assert.True(thin.Copper.OhmsPerMetre > thick.Copper.OhmsPerMetre);
                Assert.True(thin.Ampacity.Value <= thick.Ampacity.Value);
            }
        }

        foreach (var metric in WireSizing.Metric)
        {
            Assert.All(
                WireSizing.Awg.Where(a => a.Ampacity.Value > metric.Ampacity.Value),
                a => Assert.True(a.Copper.Area.Value > metric.Copper.Area.Value)
            );
        }
    }

    [Fact]
    public void More_amps_length_or_heat_never_ask_for_less()
    {
        var random = new Random(8);
        for (var i = 0; i < 2000; i++)
        {
            var need = new WireNeed(
                new Amps(0.2 + (60 * random.NextDouble())),
                new Metres(0.2 + (9 * random.NextDouble())),
                new Volts(12),
                random.Next(2) == 0 ? WireSizing.CriticalDrop : WireSizing.OtherDrop,
                random.Next(2) == 0
            );
            double Area(WireNeed of) => WireSizing.Size(of, WireSizing.Awg)?.Size.Copper.Area.Value ?? double.MaxValue;
            var area = Area(need);
            Assert.True(Area(need with { Amps = new Amps(need.Amps.Value * 1.3) }) >= area);
            Assert.True(Area(need with { OneWay = new Metres(need.OneWay.Value * 1.3) }) >= area);
            Assert.True(Area(need with { EngineSpace = true }) >= area);
            Assert.True(Area(need with { DropShare = need.DropShare / 2 }) >= area);
        }
    }

    /// <summary>A wire too thin for its length is told with the size it needs; as drawn, the tractor has none.</summary>
    [Fact]
    public void A_wire_too_thin_for_its_load_is_told_with_the_size_it_needs()
    {
        var machine = Shipped.Tractor.Machine;
        var lamps = WireLoads.Of(Shipped.Tractor, engineSpace: true, WireSizing.OtherDrop);
        Assert.DoesNotContain(lamps, l => l.Needs is not null);

        // The charge lead thirty metres long: at 3 % it must be thicker.
        var far = machine with
        {
            Wires = [.. machine.Wires.Select(w => w.Id.Text == "44" ? w with { LengthM = 30 } : w)],
        };
        var load = WireLoads
            .Of(Simulation.Circuit.Compile(far), engineSpace: true, WireSizing.CriticalDrop)
            .First(l => l.Wire.Id.Text == "44");
        Assert.NotNull(load.Needs);
        Assert.True(load.Needs.Size.Copper.Area.Value > 2.5);

        // Its current against Ohm's law: what it loses is its amps in its own copper at 60 °C (7.98 mΩ/m · 30 m · 1.1572).
        Assert.Equal(load.Amps.Value * 0.00798 * 30 * 1.1572, load.Drop.Value, 0.001);
    }
}
