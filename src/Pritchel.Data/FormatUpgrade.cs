using System.Globalization;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Data.Events;

namespace Pritchel.Data;

/// <summary>
/// Brings events of an older format over, all in one transaction. One that cannot be read stays as it is, and is told when
/// its job is opened.
/// </summary>
internal static class FormatUpgrade
{
    private const string Setting = "record-format";

    /// <summary>Format that a record's events are in: 1 until it says otherwise.</summary>
    public static async Task<int> FormatOfAsync(PritchelContext context, CancellationToken cancel)
    {
        var said = await context
            .Settings.Where(s => s.Name == Setting)
            .Select(s => s.Value)
            .FirstOrDefaultAsync(cancel);
        return said is null ? 1 : int.Parse(said, NumberStyles.None, CultureInfo.InvariantCulture);
    }

    /// <summary>Says that a record's events are in the format of this version.</summary>
    public static async Task MarkAsync(PritchelContext context, CancellationToken cancel)
    {
        var said = EventFormat.Version.ToString(CultureInfo.InvariantCulture);
        if (await context.Settings.FirstOrDefaultAsync(s => s.Name == Setting, cancel) is { } row)
        {
            row.Value = said;
        }
        else
        {
            context.Settings.Add(new SettingRow { Name = Setting, Value = said });
        }

        await context.SaveChangesAsync(cancel);
    }

    /// <summary>Rewrites every event that is in an older format.</summary>
    public static async Task BringOverAsync(PritchelContext context, CancellationToken cancel)
    {
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        var jobs = await context.Jobs.Include(j => j.Events).OrderBy(j => j.Number).ToListAsync(cancel);
        foreach (var job in jobs)
        {
            var json = await context
                .Machines.Where(m => m.MachineId == job.MachineId && m.Version == job.MachineVersion)
                .Select(m => m.Json)
                .FirstAsync(cancel);
            if (Machine(json) is { } machine)
            {
                BringOver(job, new FormatOne(machine));
            }
        }

        await MarkAsync(context, cancel);
        await context.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    private static void BringOver(JobRow job, FormatOne reader)
    {
        foreach (var row in job.Events.OrderBy(e => e.Sequence))
        {
            if (Read(row.Body, reader) is { } body)
            {
                row.Body = body;
            }
        }
    }

    private static string? Read(string body, FormatOne reader)
    {
        try
        {
            if (EventFormat.VersionOf(body) != 1)
            {
                return null;
            }

            using var parsed = JsonDocument.Parse(body);
            return EventFormat.Write(reader.Read(parsed.RootElement));
        }
        catch (Exception e)
            when (e
                    is JsonException
                        or UnreadableException
                        or KeyNotFoundException
                        or InvalidOperationException
                        or ArgumentException
                        or FormatException
            )
        {
            return null;
        }
    }

    private static Machine? Machine(string json)
    {
        try
        {
            return MachineFile.ReadDraft(json);
        }
        catch (Exception e) when (e is JsonException or InvalidOperationException or ArgumentException)
        {
            return null;
        }
    }
}
