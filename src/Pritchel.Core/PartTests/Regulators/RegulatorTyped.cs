using System.Globalization;
using Pritchel.Core.Observables;
using Pritchel.Core.Units;

namespace Pritchel.Core.PartTests.Regulators;

/// <summary>What was seen and read of a regulator that nobody knows, as typed; blank for what was not.</summary>
/// <param name="Leads">Leads from the winding: 0 to 3.</param>
/// <param name="Metal">Ohms, or OL.</param>
/// <param name="Apart">Alternating volts.</param>
/// <param name="Plugged">Alternating volts.</param>
/// <param name="Posts">Volts.</param>
public sealed record RegulatorTyped(
    string? Leads = null,
    string? Metal = null,
    string? Apart = null,
    string? Plugged = null,
    string? Posts = null
)
{
    private const int MostLeads = 3;

    /// <summary>What it says.</summary>
    /// <param name="errors">What was wrong and what is allowed, by field; what is wrong counts as not read.</param>
    public RegulatorSigns Read(out IReadOnlyDictionary<string, string> errors)
    {
        var wrong = new Dictionary<string, string>(StringComparer.Ordinal);
        var signs = new RegulatorSigns(
            ReadLeads(wrong),
            Of(Metal, nameof(Metal), DeadOhms.Instance) is { } metal ? new Ohms(metal) : null,
            Of(Apart, nameof(Apart), AlternatingVolts.Instance) is { } apart ? new Volts(apart) : null,
            Of(Plugged, nameof(Plugged), AlternatingVolts.Instance) is { } plugged ? new Volts(plugged) : null,
            Of(Posts, nameof(Posts), DirectVolts.Instance) is { } posts ? new Volts(posts) : null
        );
        errors = wrong;
        return signs;

        double? Of(string? typed, string field, Observable observable)
        {
            if (string.IsNullOrWhiteSpace(typed))
            {
                return null;
            }

            if (observable.Read(typed, out var error) is not { } figure)
            {
                wrong[field] = error;
                return null;
            }

            if (observable is not DeadOhms && !double.IsFinite(figure.Value))
            {
                wrong[field] = "OL is no volts: take the next range up and type what it shows.";
                return null;
            }

            return figure.Value;
        }
    }

    private int? ReadLeads(Dictionary<string, string> wrong)
    {
        if (string.IsNullOrWhiteSpace(Leads))
        {
            return null;
        }

        if (
            int.TryParse(Leads.Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out var leads)
            && leads <= MostLeads
        )
        {
            return leads;
        }

        wrong[nameof(Leads)] = $"Count the leads from the winding: 0 (brushes instead) to {MostLeads}.";
        return null;
    }
}
