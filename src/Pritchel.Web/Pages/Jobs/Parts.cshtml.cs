using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>What to order now, and whether the machine is worth it: prices typed, arithmetic shown.</summary>
public sealed class PartsModel(JobDesk desk) : JobPageModel(desk)
{
    private const double MostMoney = 1e6;
    private const int MostSuspects = 4;
    private const double LeastShare = 0.02;

    /// <summary>Prices as typed, by repair id.</summary>
    [BindProperty]
    public Dictionary<string, string?> Price { get; set; } = [];

    /// <summary>The terms and worths as typed, by name.</summary>
    [BindProperty]
    public Dictionary<string, string?> Term { get; set; } = [];

    /// <summary>Suspects whose part could be ordered, likeliest first.</summary>
    public IReadOnlyList<Suspect> Buyable { get; private set; } = [];

    /// <summary>Suspects whose part cannot be bought.</summary>
    public IReadOnlyList<Suspect> NotSold { get; private set; } = [];

    /// <summary>Belief in suspects that want no part: joints, wires, adjustments.</summary>
    public double NoPart { get; private set; }

    /// <summary>Courses, cheapest first; none until prices are told.</summary>
    public IReadOnlyList<OrderCourse> Courses { get; private set; } = [];

    /// <summary>Prices as last told.</summary>
    public PartsPriced? Told => Open.State.Priced;

    /// <summary>Names of what is typed beside prices, and what each means.</summary>
    public static IReadOnlyList<(string Name, string Words, bool Wanted)> Terms { get; } =
    [
        ("hour", "An hour of work", true),
        ("trip", "One trip or carriage", true),
        ("days", "Days until parts come", true),
        ("day", "A day of it standing", true),
        ("mended", "Worth when mended", false),
        ("inParts", "Worth as it stands, in parts", false),
    ];

    /// <summary>Shows what was told before and what it comes to.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        if (await LoadToldAsync() is { } elsewhere)
        {
            return elsewhere;
        }

        Find();
        if (Told is { } told)
        {
            Price = told.Prices.ToDictionary(p => p.Key.Text, p => (string?)Said(p.Value), StringComparer.Ordinal);
            Term = new Dictionary<string, string?>(StringComparer.Ordinal)
            {
                ["hour"] = Said(told.Terms.Hour),
                ["trip"] = Said(told.Terms.Trip),
                ["days"] = told.Terms.Days.ToString("0.##", CultureInfo.InvariantCulture),
                ["day"] = Said(told.Terms.Day),
                ["mended"] = told.WorthMended is { } mended ? Said(mended) : "",
                ["inParts"] = told.WorthInParts is { } parts ? Said(parts) : "",
            };
            Work(told);
        }

        return Page();
    }

    /// <summary>Writes prices down.</summary>
    public async Task<IActionResult> OnPostAsync()
    {
        if (await LoadToldAsync() is { } elsewhere)
        {
            return elsewhere;
        }

        Find();
        return Understood() is { } told && await AppendAsync(told) ? Redirect($"/jobs/{Open.Job.Tag}/parts") : Page();
    }

    /// <summary>A sum as it is written.</summary>
    public static string Said(Money money) => money.Value.ToString("0.##", CultureInfo.InvariantCulture);

    /// <summary>The arithmetic of a course, in figures.</summary>
    public string Arithmetic(OrderCourse course)
    {
        var terms = Told!.Terms;
        if (course.Order.Count == 0)
        {
            return $"{Said(course.Certain)} for the test; then the cheapest order under each thing it may show, {Said(course.Expected - course.Certain)} on average";
        }

        var prices = string.Join(" + ", course.Order.Select(o => Said(o.Price!.Value)));
        var later = Priced()
            .Where(s => s.Price is not null && course.Order.All(o => o.On != s.On))
            .Select(s => $"{s.Share:P0} × ({Said(s.Price!.Value)} + {Said(terms.Wait)})");
        return string.Join(" + ", new[] { $"{prices} + {Said(terms.Wait)}" }.Concat(later));
    }

    /// <summary>Money expected to be spent on the repair: the cheapest course and the work.</summary>
    public Money Mending => Courses[0].Expected + (1.0 * Told!.Terms.Hour);

    /// <summary>Parts of the same kind and figures as the first suspect's.</summary>
    public IReadOnlyList<string> Twins =>
        Buyable.Count == 0 || PartOf(Buyable[0]) is not { } part
            ? []
            :
            [
                .. Open
                    .Machine.Parts.Where(p => p.Id != part.Id && p.Kind == part.Kind && SameFigures(p, part))
                    .Select(p => p.Name),
            ];

    private static bool SameFigures(Pritchel.Core.Machines.Part a, Pritchel.Core.Machines.Part b) =>
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

    private Pritchel.Core.Machines.Part? PartOf(Suspect suspect) =>
        Open.Machine.Parts.FirstOrDefault(p => suspect.Repair?.Id == RepairId.OfPart(p.Id));

    private void Find()
    {
        var wanting = Open
            .Diagnosis.Beliefs.Suspects.Where(s => s.Repair is { } repair && WantsPart(repair) && PartOf(s) is not null)
            .Where(s => s.Share >= LeastShare)
            .Take(MostSuspects)
            .ToList();
        Buyable = [.. wanting.Where(s => PartOf(s)!.CanBeBought != false)];
        NotSold = [.. wanting.Where(s => PartOf(s)!.CanBeBought == false)];
        NoPart = Open.Diagnosis.Beliefs.Suspects.Where(s => s.Repair is { } r && !WantsPart(r)).Sum(s => s.Share);
    }

    private IReadOnlyList<PricedSuspect> Priced() => [.. Open.Diagnosis.Beliefs.Suspects.Select(PriceOf)];

    private PricedSuspect PriceOf(Suspect suspect) =>
        new(
            suspect.Id,
            suspect.Repair?.Name ?? suspect.Words,
            suspect.Share,
            suspect.Repair is { } repair && Told!.Prices.TryGetValue(repair.Id, out var price) ? price : null
        );

    private void Work(PartsPriced told)
    {
        var courses = PartsChoice.Courses(Priced(), told.Terms).Take(4).ToList();
        var outcomes = PartsChoice.Outcomes(Open.Diagnosis, PriceOf);
        if (outcomes.Count > 0 && courses.Count > 0)
        {
            courses.Add(PartsChoice.MeasureFirst(Open.Diagnosis.Next!.Minutes, outcomes, told.Terms));
        }

        Courses = [.. courses.OrderBy(c => c.Expected.Value)];
    }

    private PartsPriced? Understood()
    {
        var prices = new Dictionary<RepairId, Money>();
        foreach (var suspect in Buyable)
        {
            var typed = Price.GetValueOrDefault(suspect.Id.Text);
            if (string.IsNullOrWhiteSpace(typed))
            {
                continue;
            }

            if (Read($"Price of {suspect.Repair!.Name}", typed) is not { } price)
            {
                return null;
            }

            prices[suspect.Repair!.Id] = price;
        }

        if (prices.Count == 0)
        {
            Error = "Price: type a price for one part at least.";
            return null;
        }

        var read = new Dictionary<string, Money>(StringComparer.Ordinal);
        foreach (var (name, words, wanted) in Terms)
        {
            var typed = Term.GetValueOrDefault(name);
            if (string.IsNullOrWhiteSpace(typed) && !wanted)
            {
                continue;
            }

            if (Read(words, typed) is not { } figure)
            {
                return null;
            }

            read[name] = figure;
        }

        Money? Worth(string name) => read.TryGetValue(name, out var worth) ? worth : null;
        return new PartsPriced(
            prices,
            new OrderTerms(read["hour"], read["trip"], read["days"].Value, read["day"]),
            Worth("mended"),
            Worth("inParts")
        );
    }

    private Money? Read(string field, string? typed)
    {
        if (
            double.TryParse(
                (typed ?? "").Trim().Replace(',', '.'),
                NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var figure
            )
            && figure <= MostMoney
        )
        {
            return new Money(figure);
        }

        Error = $"{field}: “{Cut(typed)}” is not a figure; type 0 to {MostMoney:0}, in your own money.";
        return null;
    }
}
