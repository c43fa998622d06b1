using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Identity;
using Pritchel.Core.Units;

namespace Pritchel.Core.Jobs;

/// <summary>Money, in whatever the workshop counts in.</summary>
/// <param name="Value">Units of it.</param>
public readonly record struct Money(double Value)
{
    /// <summary>Two sums together.</summary>
    public static Money operator +(Money a, Money b) => new(a.Value + b.Value);

    /// <summary>What is left.</summary>
    public static Money operator -(Money a, Money b) => new(a.Value - b.Value);

    /// <summary>So much of it.</summary>
    public static Money operator *(double share, Money money) => new(share * money.Value);
}

/// <summary>What waiting and working cost.</summary>
/// <param name="Hour">An hour of work.</param>
/// <param name="Trip">Fetching, or carriage, for one order whatever is in it.</param>
/// <param name="Days">Days until an order is there.</param>
/// <param name="Day">What a day of the machine standing costs.</param>
public sealed record OrderTerms(Money Hour, Money Trip, double Days, Money Day)
{
    /// <summary>What one order costs beside its parts: the trip and the days.</summary>
    public Money Wait => Trip + (Days * Day);
}

/// <summary>A suspect with what its part costs.</summary>
/// <param name="On">What it is.</param>
/// <param name="Name">What is renewed.</param>
/// <param name="Share">Belief in it.</param>
/// <param name="Price">Its part's price; null where nothing need be ordered, or nothing can be.</param>
public sealed record PricedSuspect(SuspectId On, string Name, double Share, Money? Price);

/// <summary>One way to go about it.</summary>
/// <param name="Order">What is ordered at once; empty when the next test is taken first.</param>
/// <param name="Expected">Money it is expected to take until the right part is in hand.</param>
/// <param name="Certain">Of that, what is spent whatever turns out.</param>
/// <param name="Missed">Chance that what is needed is not among the order.</param>
public sealed record OrderCourse(IReadOnlyList<PricedSuspect> Order, Money Expected, Money Certain, double Missed);

/// <summary>
/// What to order now: expected cost of one part, of two, and of measuring first. A part that turns out not to be needed is
/// not taken back; one that turns out to be needed and was not ordered costs its price and another wait. Measuring first
/// is worth what the order after it is expected to cost, over what the test may show (preposterior analysis).
/// </summary>
public static class PartsChoice
{
    private const int MostOutcomes = 5;
    private const double LeastShare = 0.01;

    /// <summary>Courses, cheapest first.</summary>
    /// <param name="suspects">Suspects with prices, likeliest first.</param>
    /// <param name="terms">What waiting costs.</param>
    public static IReadOnlyList<OrderCourse> Courses(IReadOnlyList<PricedSuspect> suspects, OrderTerms terms)
    {
        var priced = suspects.Where(s => s.Price is not null).ToList();
        var orders = priced
            .Select(s => new[] { s })
            .Concat(priced.SelectMany((a, i) => priced.Skip(i + 1).Select(b => new[] { a, b })));
        return [.. orders.Select(o => Course(o, suspects, terms)).OrderBy(c => c.Expected.Value)];
    }

    /// <summary>Measuring first: the test's minutes, then the cheapest order under what it shows.</summary>
    /// <param name="minutes">What the test takes.</param>
    /// <param name="outcomes">What it may show: how likely, and the suspects then.</param>
    /// <param name="terms">What work and waiting cost.</param>
    public static OrderCourse MeasureFirst(
        Minutes minutes,
        IReadOnlyList<(double Chance, IReadOnlyList<PricedSuspect> Suspects)> outcomes,
        OrderTerms terms
    )
    {
        const double MinutesAnHour = 60;
        var test = minutes.Value / MinutesAnHour * terms.Hour;
        var all = outcomes.Sum(o => o.Chance);
        var after = outcomes
            .Select(o =>
                (
                    Share: o.Chance / all,
                    // Where it shows a joint or a wire nothing is ordered at all.
                    Best: Courses(o.Suspects, terms).Append(Course([], o.Suspects, terms)).MinBy(c => c.Expected.Value)!
                )
            )
            .Select(o => (o.Share, Cost: o.Best.Expected, o.Best.Missed))
            .ToList();
        return new OrderCourse(
            [],
            new Money(test.Value + after.Sum(a => a.Share * a.Cost.Value)),
            test,
            after.Sum(a => a.Share * a.Missed)
        );
    }

    /// <summary>
    /// What the next test may show: for each of the first suspects the reading that it would give, and what would be
    /// believed then.
    /// </summary>
    /// <param name="diagnosis">The job's evidence.</param>
    /// <param name="price">Price of each suspect by its repair.</param>
    public static IReadOnlyList<(double Chance, IReadOnlyList<PricedSuspect> Suspects)> Outcomes(
        JobDiagnosis diagnosis,
        Func<Suspect, PricedSuspect> price
    )
    {
        if (diagnosis.Next is not { } next)
        {
            return [];
        }

        var beliefs = diagnosis.Beliefs;
        return
        [
            .. beliefs
                .Suspects.Where(s => s is { Likeliest: not null, Share: >= LeastShare })
                .Take(MostOutcomes)
                .Select(s =>
                {
                    var reading = new Reading(
                        next.At,
                        Staircase.Shown(beliefs, s.Likeliest!, next.At),
                        SymptomNow.Present
                    );
                    var then = Beliefs.Weigh(
                        beliefs.Table,
                        beliefs.Complaint,
                        beliefs.Meter,
                        [.. beliefs.Readings, reading],
                        beliefs.SideEvidence
                    );
                    return (s.Share, (IReadOnlyList<PricedSuspect>)[.. then.Suspects.Select(price)]);
                }),
        ];
    }

    /// <summary>
    /// Chance from which it pays to renew something else in the same go: what it costs now over what doing it later by
    /// itself would cost.
    /// </summary>
    /// <param name="now">Its price, with the work now added.</param>
    /// <param name="later">Price, work, trip and wait if it is done by itself later.</param>
    public static double BreakEven(Money now, Money later) =>
        later.Value <= 0 ? 1 : Math.Clamp(now.Value / later.Value, 0, 1);

    private static OrderCourse Course(PricedSuspect[] order, IReadOnlyList<PricedSuspect> suspects, OrderTerms terms)
    {
        var certain = order.Length == 0 ? new Money(0) : terms.Wait + new Money(order.Sum(o => o.Price!.Value.Value));
        var missed = suspects.Where(s => s.Price is not null && !order.Contains(s)).ToList();
        var later = missed.Sum(s => s.Share * (terms.Wait + s.Price!.Value).Value);
        return new OrderCourse(order, certain + new Money(later), certain, missed.Sum(s => s.Share));
    }
}
