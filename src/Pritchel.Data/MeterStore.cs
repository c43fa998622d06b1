using System.Text.Json;
using Pritchel.Core.Metering;

namespace Pritchel.Data;

/// <summary>The meter in use.</summary>
public sealed class MeterStore(PritchelContext context)
{
    private const string Name = "meter";

    /// <summary>The meter in use; an ordinary one until its owner says otherwise.</summary>
    public async Task<Meter> GetAsync(CancellationToken cancel = default)
    {
        var row = await context.Settings.FindAsync([Name], cancel);
        return row is null ? Meter.Ordinary : JsonSerializer.Deserialize<Meter>(row.Value)!;
    }

    /// <summary>Changes the meter in use.</summary>
    public async Task SetAsync(Meter meter, CancellationToken cancel = default)
    {
        var value = JsonSerializer.Serialize(meter);
        var row = await context.Settings.FindAsync([Name], cancel);
        if (row is null)
        {
            context.Settings.Add(new SettingRow { Name = Name, Value = value });
        }
        else
        {
            row.Value = value;
        }

        await context.SaveChangesAsync(cancel);
    }
}
