using System.Globalization;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Machines;
using Pritchel.Core.Units;

namespace Pritchel.Web.Desk;

/// <summary>How batteries are told on a form: type, charge in per cent, temperature in °C, each by the battery's id.</summary>
public static class BatteryForm
{
    /// <summary>Types with their words.</summary>
    public static IReadOnlyList<(string Type, string Words)> Types { get; } =
    [.. BatteryAsFound.Types.Select(t => (t, WordsOf(t)))];

    /// <summary>A type in words.</summary>
    public static string WordsOf(string type) =>
        type switch
        {
            PartKinds.AgmBattery => "AGM",
            PartKinds.LithiumBattery => "lithium iron phosphate",
            _ => "flooded",
        };

    /// <summary>A share of charge in per cent, as it is typed.</summary>
    public static string? Percent(double? share) =>
        share is { } told ? Math.Round(told * 100, 3).ToString("0.###", CultureInfo.InvariantCulture) : null;

    /// <summary>How a battery was told to stand: "AGM, 50 % charged, −10 °C".</summary>
    public static string Of(BatteryAsFound told) =>
        string.Join(
            ", ",
            new[]
            {
                told.Type is { } type ? WordsOf(type) : null,
                told.Charge is { } charge ? $"{Percent(charge)} % charged" : null,
                told.Warmth is { } warmth ? $"{warmth.Value.ToString("0.#", CultureInfo.InvariantCulture)} °C" : null,
            }.Where(w => w is not null)
        );

    /// <summary>What a form says of batteries; those of which it says nothing are left out.</summary>
    /// <param name="batteries">Batteries asked about.</param>
    /// <param name="types">Types chosen.</param>
    /// <param name="charges">Charges typed.</param>
    /// <param name="warmths">Temperatures typed.</param>
    /// <param name="unread">What is no figure, and what is allowed; null when all are.</param>
    public static IReadOnlyList<BatteryAsFound> Read(
        IReadOnlyList<Part> batteries,
        IReadOnlyDictionary<string, string?> types,
        IReadOnlyDictionary<string, string?> charges,
        IReadOnlyDictionary<string, string?> warmths,
        out string? unread
    )
    {
        unread = null;
        var told = new List<BatteryAsFound>();
        foreach (var battery in batteries)
        {
            var (id, type) = (battery.Id.Text, types.GetValueOrDefault(battery.Id.Text));
            if (!Figure(charges.GetValueOrDefault(id), out var charge))
            {
                unread ??=
                    $"Charge of the {battery.Name}: “{Excerpt.Of(charges[id])}” is not a number; type per cent from 5 to 100, or nothing.";
            }

            if (!Figure(warmths.GetValueOrDefault(id), out var warmth))
            {
                unread ??=
                    $"Temperature of the {battery.Name}: “{Excerpt.Of(warmths[id])}” is not a number; type °C from −40 to 60, or nothing.";
            }

            told.Add(
                new BatteryAsFound(battery.Id)
                {
                    Type = string.IsNullOrEmpty(type) ? null : type,
                    Charge = charge / 100,
                    Warmth = warmth is { } celsius ? new Celsius(celsius) : null,
                }
            );
        }

        return [.. told.Where(b => b.SaysAnything)];
    }

    private static bool Figure(string? typed, out double? figure)
    {
        figure = null;
        var text = (typed ?? "").Trim().Replace(',', '.').Replace('−', '-');
        if (text.Length == 0)
        {
            return true;
        }

        var read = double.TryParse(
            text,
            NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign,
            CultureInfo.InvariantCulture,
            out var value
        );
        figure = read ? value : null;
        return read;
    }
}
