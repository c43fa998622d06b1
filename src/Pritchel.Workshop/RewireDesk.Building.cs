using System.Globalization;
using Pritchel.Core.Units;

namespace Pritchel.Workshop;

/// <content>What is told from the bay: joins made, lengths as built.</content>
public sealed partial class RewireDesk
{
    /// <summary>Says that a join is made, or not yet.</summary>
    /// <returns>What was wrong; null when it was kept.</returns>
    public async Task<string?> MadeAsync(
        OpenRewire open,
        int after,
        int number,
        bool made,
        CancellationToken cancel = default
    )
    {
        if (number < 1 || number > open.Plan.Joins.Count)
        {
            return "There is no such join any more.";
        }

        var first = open.Plan.Joins[number - 1].Ends[0];
        var others = open.State.Sketch.Made.Where(e => e != first);
        return await AppendAsync(
            open,
            after,
            open.State.Sketch with
            {
                Made = made ? [.. others, first] : [.. others],
            },
            made ? $"join {number} made" : $"join {number} not made",
            cancel
        );
    }

    /// <summary>Tells how long the wire behind a flag is as built, from the part that it stays on to its joint.</summary>
    /// <param name="open">The rewire.</param>
    /// <param name="after">Sequence of the last step its author had seen.</param>
    /// <param name="flag">Number of the flag.</param>
    /// <param name="metres">Metres as typed; empty for as drawn.</param>
    /// <param name="cancel">Stops waiting.</param>
    /// <returns>What was wrong; null when it was kept.</returns>
    public async Task<string?> BuiltAsync(
        OpenRewire open,
        int after,
        int flag,
        string? metres,
        CancellationToken cancel = default
    )
    {
        const double Least = 0.02;
        const double Most = 30;
        if (open.Ends.FirstOrDefault(e => e.Flag == flag) is not { End.Wire: not null } end)
        {
            return "Flag: there is no wire of that flag any more.";
        }

        var built = open.State.Sketch.AsBuilt.Where(l => l.Key != end.End).ToDictionary(l => l.Key, l => l.Value);
        var asDrawn = string.IsNullOrWhiteSpace(metres);
        if (!asDrawn)
        {
            if (
                !double.TryParse(
                    metres!.Trim().Replace(',', '.'),
                    NumberStyles.AllowDecimalPoint,
                    CultureInfo.InvariantCulture,
                    out var metre
                ) || metre is < Least or > Most
            )
            {
                return $"Flag {flag}, as built: {Least} to {Most} m, such as 0.85; leave it empty for as drawn.";
            }

            built[end.End] = new Metres(metre);
        }

        return await AppendAsync(
            open,
            after,
            open.State.Sketch with
            {
                AsBuilt = built,
            },
            asDrawn
                ? $"flag {flag} as drawn"
                : string.Create(CultureInfo.InvariantCulture, $"flag {flag} as built, {built[end.End].Value:0.##} m"),
            cancel
        );
    }
}
