using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Pritchel.Core.Metering;

namespace Pritchel.Data;

/// <summary>The meter in use, kept as a meter file.</summary>
public sealed class MeterStore(PritchelContext context)
{
    private const string Name = "meter";

    /// <summary>
    /// The meter in use; an ordinary one until its owner says otherwise, and while what is kept cannot be read.
    /// </summary>
    public async Task<Meter> GetAsync(CancellationToken cancel = default) => await KeptAsync(cancel) ?? Meter.Ordinary;

    /// <summary>Whether a meter is kept that cannot be read.</summary>
    public async Task<bool> IsUnreadableAsync(CancellationToken cancel = default) =>
        await ValueAsync(cancel) is not null && await KeptAsync(cancel) is null;

    /// <summary>Changes the meter in use.</summary>
    public async Task SetAsync(Meter meter, CancellationToken cancel = default)
    {
        var value = new JsonObject
        {
            ["v"] = 2,
            ["meter"] = JsonNode.Parse(MeterFile.Write(meter)),
            ["leadsNulled"] = meter.LeadsNulled,
        }.ToJsonString();

        // One statement: two who save at once for the first time must not both find none.
        await context.Database.ExecuteSqlAsync(
            $"INSERT INTO Settings (Name, Value) VALUES ({Name}, {value}) ON CONFLICT (Name) DO UPDATE SET Value = excluded.Value",
            cancel
        );
    }

    private Task<string?> ValueAsync(CancellationToken cancel) => KeptTextAsync(context, cancel);

    /// <summary>The meter as the record has it, readable or not; null where its owner never said.</summary>
    internal static async Task<string?> KeptTextAsync(PritchelContext context, CancellationToken cancel) =>
        await context.Settings.Where(s => s.Name == Name).Select(s => s.Value).FirstOrDefaultAsync(cancel);

    /// <summary>Keeps a meter as another record had it, where there is none.</summary>
    internal static void Adopt(PritchelContext context, string value) =>
        context.Settings.Add(new SettingRow { Name = Name, Value = value });

    private async Task<Meter?> KeptAsync(CancellationToken cancel) =>
        await ValueAsync(cancel) is { } value ? Read(value) : null;

    private static Meter? Read(string value)
    {
        try
        {
            return JsonNode.Parse(value) switch
            {
                JsonObject kept when kept.ContainsKey("v") => MeterFile.Read(kept["meter"]!.ToJsonString()).Meter
                    is { } meter
                    ? meter with
                    {
                        LeadsNulled = kept["leadsNulled"]!.GetValue<bool>(),
                    }
                    : null,
                { } first => FormatOne(first),
                null => null,
            };
        }
        catch (Exception e)
            when (e is JsonException or NotSupportedException or InvalidOperationException or NullReferenceException)
        {
            return null;
        }
    }

    /// <summary>A meter as records before the second format kept it: the program's own type, field by field.</summary>
    private static Meter? FormatOne(JsonNode kept) =>
        kept.Deserialize<Meter>() is { } meter && MeterFile.Read(MeterFile.Write(meter)).Meter is not null
            ? meter
            : null;
}
