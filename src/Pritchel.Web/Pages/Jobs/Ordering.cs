using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>What a job's suspects would take in parts, and what each way of ordering is expected to cost.</summary>
public sealed class Ordering
{
    private const int MostSuspects = 4;
    private const int MostCourses = 4;
    private const double LeastShare = 0.02;
    private readonly OpenJob open;
    private readonly PartsPriced? told;

    /// <summary>For a job, with the prices last told of it.</summary>
    public Ordering(OpenJob open)
    {
        (this.open, told) = (open, open.State.Priced);
        var suspects = open.Diagnosis.Beliefs.Suspects;
        var wanting = suspects
            .Where(s => s.Repair is { } repair && WantsPart(repair) && PartOf(s) is not null)
            .Where(s => s.Share >= LeastShare)
            .Take(MostSuspects)
            .ToList();
        Buyable = [.. wanting.Where(s => PartOf(s)!.CanBeBought != false)];
        NotSold = [.. wanting.Where(s => PartOf(s)!.CanBeBought == false)];
        NoPart = suspects.Where(s => s.Repair is { } r && !WantsPart(r)).Sum(s => s.Share);
        Courses = told is null ? [] : CoursesUnder(told.Terms);
    }

    /// <summary>Suspects whose part could be ordered, likeliest first.</summary>
    public IReadOnlyList<Suspect> Buyable { get; }

    /// <summary>Suspects whose part cannot be bought.</summary>
    public IReadOnlyList<Suspect> NotSold { get; }

    /// <summary>Belief in suspects that want no part: joints, wires, adjustments.</summary>
    public double NoPart { get; }

    /// <summary>Courses, cheapest first; none until prices are told.</summary>
    public IReadOnlyList<OrderCourse> Courses { get; }

    /// <summary>Money expected to be spent on the repair: the cheapest course and the work.</summary>
    public Money Mending => Courses[0].Expected + (1.0 * told!.Terms.Hour);

    /// <summary>Parts of the same kind and figures as the first suspect's.</summary>
    public IReadOnlyList<string> Twins =>
        Buyable.Count == 0 || PartOf(Buyable[0]) is not { } part
            ? []
            :
            [
                .. open
                    .Machine.Parts.Where(p => p.Id != part.Id && p.Kind == part.Kind && SameFigures(p, part))
                    .Select(p => p.Name),
            ];

    /// <summary>The arithmetic of a course, in figures.</summary>
    public string Arithmetic(OrderCourse course)
    {
        var terms = told!.Terms;
        if (course.Order.Count == 0)
        {
            return $"{PricesTyped.Said(course.Certain)} for the test; then the cheapest order under each thing it may show, {PricesTyped.Said(course.Expected - course.Certain)} on average";
        }

        var prices = string.Join(" + ", course.Order.Select(o => PricesTyped.Said(o.Price!.Value)));
        var later = Priced()
            .Where(s => s.Price is not null && course.Order.All(o => o.On != s.On))
            .Select(s => $"{s.Share:P0} × ({PricesTyped.Said(s.Price!.Value)} + {PricesTyped.Said(terms.Wait)})");
        return string.Join(" + ", new[] { $"{prices} + {PricesTyped.Said(terms.Wait)}" }.Concat(later));
    }

    private static bool SameFigures(Part a, Part b) =>
        a.Values is { Count: > 0 } figures
        && b.Values is { } others
        && figures.Count == others.Count
        && figures.All(f => others.TryGetValue(f.Key, out var other) && other == f.Value);

    private static bool WantsPart(Repair repair) =>
        repair.Kind
            is RepairKind.ReplaceSwitch
                or RepairKind.ReplacePart
                or RepairKind.ServiceBattery
                or RepairKind.ServiceStarter
                or RepairKind.ReplaceFuse;

    private Part? PartOf(Suspect suspect) =>
        open.Machine.Parts.FirstOrDefault(p => suspect.Repair?.Id == RepairId.OfPart(p.Id));

    private IReadOnlyList<PricedSuspect> Priced() => [.. open.Diagnosis.Beliefs.Suspects.Select(PriceOf)];

    private PricedSuspect PriceOf(Suspect suspect) =>
        new(
            suspect.Id,
            suspect.Repair?.Name ?? suspect.Words,
            suspect.Share,
            suspect.Repair is { } repair && told!.Prices.TryGetValue(repair.Id, out var price) ? price : null
        );

    private IReadOnlyList<OrderCourse> CoursesUnder(OrderTerms terms)
    {
        var courses = PartsChoice.Courses(Priced(), terms).Take(MostCourses).ToList();
        var outcomes = PartsChoice.Outcomes(open.Diagnosis, PriceOf);
        if (outcomes.Count > 0 && courses.Count > 0)
        {
            courses.Add(PartsChoice.MeasureFirst(open.Diagnosis.Next!.Minutes, outcomes, terms));
        }

        return [.. courses.OrderBy(c => c.Expected.Value)];
    }
}
