using CsCheck;
using Pritchel.Core.Jobs;
using Pritchel.Core.Units;

namespace Pritchel.Core.Tests;

/// <summary>What to order now: worked by hand, and what must hold whatever the prices.</summary>
public class PartsChoiceTests
{
    // An hour 60; a trip 20 and two days at 15: one order costs 50 beside its parts.
    private static readonly OrderTerms Terms = new(new Money(60), new Money(20), 2, new Money(15));

    private static readonly Gen<PricedSuspect[]> Suspects = Gen.Select(
            Gen.Double[0.01, 1],
            Gen.Double[0, 500],
            (weight, price) => (weight, price)
        )
        .Array[2, 5]
        .Select(drawn =>
        {
            var all = drawn.Sum(d => d.weight);
            return drawn
                .Select(
                    (d, i) =>
                        new PricedSuspect(SuspectId.Of($"part:{i}"), $"part {i}", d.weight / all, new Money(d.price))
                )
                .ToArray();
        });

    [Fact]
    public void Two_suspects_are_priced_as_on_paper()
    {
        // A rotor at 120 with 60 %, a regulator at 40 with 30 %, a joint for the rest.
        PricedSuspect[] suspects =
        [
            new(SuspectId.Of("part:rotor"), "rotor", 0.6, new Money(120)),
            new(SuspectId.Of("part:regulator"), "regulator", 0.3, new Money(40)),
            new(SuspectId.Of("joint"), "joint", 0.1, null),
        ];
        var courses = PartsChoice.Courses(suspects, Terms);
        OrderCourse Of(params string[] ids) =>
            courses.Single(c => c.Order.Select(o => o.On.Text).Order().SequenceEqual(ids.Order()));

        // The rotor: 120 + 50, and 30 % of another 40 + 50. The regulator: 40 + 50, and 60 % of 120 + 50. Both: 160 + 50.
        Assert.Equal(197, Of("part:rotor").Expected.Value, 9);
        Assert.Equal(192, Of("part:regulator").Expected.Value, 9);
        Assert.Equal(210, Of("part:rotor", "part:regulator").Expected.Value, 9);
        Assert.Equal("part:regulator", courses[0].Order.Single().On.Text);
        Assert.Equal(0.6, courses[0].Missed, 9);
    }

    [Fact]
    public void A_test_that_tells_two_apart_is_worth_what_it_saves()
    {
        PricedSuspect Rotor(double share) => new(SuspectId.Of("part:rotor"), "rotor", share, new Money(120));
        PricedSuspect Regulator(double share) => new(SuspectId.Of("part:regulator"), "regulator", share, new Money(40));
        var outcomes = new (double, IReadOnlyList<PricedSuspect>)[]
        {
            (0.6, [Rotor(1), Regulator(0)]),
            (0.4, [Rotor(0), Regulator(1)]),
        };

        // Ten minutes are 10; then 60 % of 120 + 50 and 40 % of 40 + 50.
        var first = PartsChoice.MeasureFirst(new Minutes(10), outcomes, Terms);
        Assert.Equal(10 + (0.6 * 170) + (0.4 * 90), first.Expected.Value, 9);
        Assert.True(first.Expected.Value < PartsChoice.Courses([Rotor(0.6), Regulator(0.4)], Terms)[0].Expected.Value);
    }

    /// <summary>A joint that is off wants no part: where the test shows it, neither part nor wait is paid.</summary>
    [Fact]
    public void Nothing_is_ordered_where_a_test_shows_what_wants_no_part()
    {
        PricedSuspect Switch(double share) => new(SuspectId.Of("part:brake"), "switch", share, new Money(45));
        PricedSuspect Joint(double share) => new(SuspectId.Of("wire:7"), "push-on", share, Price: null);
        var outcomes = new (double, IReadOnlyList<PricedSuspect>)[]
        {
            (0.4, [Switch(1), Joint(0)]),
            (0.6, [Joint(1), Switch(0)]),
        };

        // Three minutes are 3; then 40 % of 45 + 50. Ordered blind it is 45 + 50 whatever turns out.
        var first = PartsChoice.MeasureFirst(new Minutes(3), outcomes, Terms);
        Assert.Equal(3 + (0.4 * 95), first.Expected.Value, 9);
        Assert.Equal(95, PartsChoice.Courses([Joint(0.6), Switch(0.4)], Terms)[0].Expected.Value, 9);
    }

    [Fact]
    public void Knowing_for_nothing_is_never_dearer_than_ordering_blind() =>
        Suspects.Sample(
            suspects =>
            {
                var outcomes = suspects
                    .Select(s =>
                        (
                            s.Share,
                            (IReadOnlyList<PricedSuspect>)
                                suspects.Select(o => o with { Share = ReferenceEquals(o, s) ? 1 : 0 }).ToList()
                        )
                    )
                    .ToList();
                var known = PartsChoice.MeasureFirst(new Minutes(0), outcomes, Terms).Expected.Value;
                Assert.True(known <= PartsChoice.Courses(suspects, Terms)[0].Expected.Value + 1e-6);
            },
            iter: 300
        );

    [Fact]
    public void Ordering_everything_misses_nothing_and_a_dearer_trip_makes_no_order_cheaper() =>
        Suspects.Sample(
            suspects =>
            {
                var dearer = Terms with { Trip = new Money(90) };
                var pairs = PartsChoice.Courses(suspects, Terms).Zip(PartsChoice.Courses(suspects, dearer));
                Assert.All(pairs, p => Assert.True(p.First.Expected.Value < p.Second.Expected.Value));
                if (suspects.Length == 2)
                {
                    Assert.Equal(0, PartsChoice.Courses(suspects, Terms).Single(c => c.Order.Count == 2).Missed, 9);
                }
            },
            iter: 200
        );

    [Theory]
    [InlineData(40, 160, 0.25)]
    [InlineData(40, 0, 1)]
    [InlineData(200, 100, 1)]
    public void A_twin_pays_from_its_price_over_what_it_would_cost_later(double now, double later, double chance) =>
        Assert.Equal(chance, PartsChoice.BreakEven(new Money(now), new Money(later)), 9);
}
