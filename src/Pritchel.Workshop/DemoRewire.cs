using Microsoft.Extensions.DependencyInjection;
using Pritchel.Data;

namespace Pritchel.Workshop;

/// <summary>A rewire of the demo workshop: the twin of the scrapped zero-turn goes into the orchard tractor.</summary>
internal static class DemoRewire
{
    private const string Host = "orchard-tractor-4";
    private const string Donor = "orchard-zero-turn-7";

    private static readonly string[] Goes =
    [
        "starter",
        "magneto",
        "fuel-cut",
        "winding",
        "rectifier",
        "oil-switch",
        "P3",
        "block",
    ];

    private static readonly string[] Comes =
    [
        "starter",
        "magneto1",
        "diode1",
        "magneto2",
        "diode2",
        "stator",
        "regulator",
        "fuel-cut",
        "oil-switch",
        "block",
        "SP5",
    ];

    /// <summary>Begins it, with what fits by function joined; the charge lead is left to whoever opens it.</summary>
    public static async Task AddAsync(IServiceProvider services, CancellationToken cancel)
    {
        var desk = services.GetRequiredService<RewireDesk>();
        if ((await services.GetRequiredService<RewireStore>().ListAsync(cancel)).Count > 0)
        {
            return;
        }

        var (number, _) = await desk.BeginAsync("Tractor No. 4 takes the twin", Host, Donor, cancel);
        if (number is not { } begun || await desk.OpenAsync(begun, cancel) is not { } open)
        {
            return;
        }

        var stays = open.Plan.Host.Whole.Parts.Select(p => p.Id.Text).Except(Goes).ToList();
        await desk.KeepAsync(open, open.State.Sequence, (stays, null), (Comes, null), cancel);
        if (await desk.OpenAsync(begun, cancel) is { } cut)
        {
            await desk.JoinSuggestedAsync(cut, cut.State.Sequence, cancel);
        }
    }
}
