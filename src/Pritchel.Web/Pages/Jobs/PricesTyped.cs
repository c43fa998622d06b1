using System.Globalization;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Units;
using Pritchel.Web.Desk;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>Prices and terms as typed, and what they say.</summary>
/// <param name="Prices">By repair id.</param>
/// <param name="Terms">By name.</param>
public sealed record PricesTyped(
    IReadOnlyDictionary<string, string?> Prices,
    IReadOnlyDictionary<string, string?> Terms
)
{
    private const double MostMoney = 1e6;

    /// <summary>Names of what is typed beside prices, and what each means.</summary>
    public static IReadOnlyList<(string Name, string Words, bool Wanted)> Asked { get; } =
    [
        ("hour", "An hour of work", true),
        ("trip", "One trip or carriage", true),
        ("days", "Days until parts come", true),
        ("day", "A day of it standing", true),
        ("mended", "Worth when mended", false),
        ("inParts", "Worth as it stands, in parts", false),
    ];

    /// <summary>As it would be typed.</summary>
    public static PricesTyped Of(PartsPriced told) =>
        new(
            told.Prices.ToDictionary(p => p.Key.Text, p => (string?)Said(p.Value), StringComparer.Ordinal),
            new Dictionary<string, string?>(StringComparer.Ordinal)
            {
                ["hour"] = Said(told.Terms.Hour),
                ["trip"] = Said(told.Terms.Trip),
                ["days"] = told.Terms.Days.ToString("0.##", CultureInfo.InvariantCulture),
                ["day"] = Said(told.Terms.Day),
                ["mended"] = told.WorthMended is { } mended ? Said(mended) : "",
                ["inParts"] = told.WorthInParts is { } parts ? Said(parts) : "",
            }
        );

    /// <summary>A sum as it is written.</summary>
    public static string Said(Money money) => money.Value.ToString("0.##", CultureInfo.InvariantCulture);

    /// <summary>What was typed; null with what is wrong and what is allowed.</summary>
    /// <param name="buyable">Suspects whose price could be typed.</param>
    /// <param name="error">Empty when nothing was wrong.</param>
    public PartsPriced? Read(IReadOnlyList<Suspect> buyable, out string error)
    {
        var prices = new Dictionary<RepairId, Money>();
        foreach (var suspect in buyable)
        {
            var typed = Prices.GetValueOrDefault(suspect.Id.Text);
            if (string.IsNullOrWhiteSpace(typed))
            {
                continue;
            }

            if (Figure($"Price of {suspect.Repair!.Name}", typed, out error) is not { } price)
            {
                return null;
            }

            prices[suspect.Repair!.Id] = price;
        }

        if (prices.Count == 0)
        {
            error = "Price: type a price for one part at least.";
            return null;
        }

        var read = new Dictionary<string, Money>(StringComparer.Ordinal);
        foreach (var (name, words, wanted) in Asked)
        {
            var typed = Terms.GetValueOrDefault(name);
            if (string.IsNullOrWhiteSpace(typed) && !wanted)
            {
                continue;
            }

            if (Figure(words, typed, out error) is not { } figure)
            {
                return null;
            }

            read[name] = figure;
        }

        error = "";
        Money? Worth(string name) => read.TryGetValue(name, out var worth) ? worth : null;
        return new PartsPriced(
            prices,
            new OrderTerms(read["hour"], read["trip"], read["days"].Value, read["day"]),
            Worth("mended"),
            Worth("inParts")
        );
    }

    private static Money? Figure(string field, string? typed, out string error)
    {
        if (TypedNumber.Read(typed) is { } figure and <= MostMoney)
        {
            error = "";
            return new Money(figure);
        }

        error = $"{field}: “{Excerpt.Of(typed)}” is not a figure; type 0 to {MostMoney:0}, in your own money.";
        return null;
    }
}
