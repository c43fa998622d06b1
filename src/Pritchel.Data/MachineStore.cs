using Microsoft.EntityFrameworkCore;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;

namespace Pritchel.Data;

/// <summary>A machine as listed.</summary>
/// <param name="Id">Machine id.</param>
/// <param name="Version">Newest version.</param>
/// <param name="Name">Name.</param>
/// <param name="Kind">Family.</param>
public sealed record MachineEntry(string Id, int Version, string Name, string Kind);

/// <summary>One version of a machine.</summary>
/// <param name="Version">Its number, from 1.</param>
/// <param name="AddedUtc">When it came in.</param>
public sealed record MachineVersionEntry(int Version, DateTime AddedUtc);

/// <summary>Machine files in the record.</summary>
public sealed class MachineStore(PritchelContext context, TimeProvider clock)
{
    // A setting of this name says that a machine is put away.
    private const string Away = "away/";

    /// <summary>Newest version of every machine that is not put away, by name.</summary>
    public Task<IReadOnlyList<MachineEntry>> ListAsync(CancellationToken cancel = default) =>
        ListAsync(away: false, cancel);

    /// <summary>Ids of all machines, those put away too.</summary>
    public async Task<IReadOnlySet<string>> IdsAsync(CancellationToken cancel = default) =>
        (await context.Machines.Select(m => m.MachineId).Distinct().ToListAsync(cancel)).ToHashSet(
            StringComparer.Ordinal
        );

    /// <summary>Newest version of every machine that is put away, by name.</summary>
    public Task<IReadOnlyList<MachineEntry>> ListPutAwayAsync(CancellationToken cancel = default) =>
        ListAsync(away: true, cancel);

    /// <summary>
    /// Puts a machine away, or brings it back. Put away it is in no list and no new job is started on it; its jobs, versions and
    /// pictures stay as they are.
    /// </summary>
    public async Task PutAwayAsync(string id, bool away, CancellationToken cancel = default)
    {
        var name = Away + id;
        var at = clock.GetUtcNow().UtcDateTime.ToString("O", System.Globalization.CultureInfo.InvariantCulture);
        if (away)
        {
            await context.Database.ExecuteSqlAsync(
                $"INSERT INTO Settings (Name, Value) VALUES ({name}, {at}) ON CONFLICT (Name) DO NOTHING",
                cancel
            );
        }
        else
        {
            await context.Settings.Where(s => s.Name == name).ExecuteDeleteAsync(cancel);
        }
    }

    /// <summary>Ids of the machines that are put away.</summary>
    internal static async Task<IReadOnlyList<string>> PutAwayIdsAsync(
        PritchelContext context,
        CancellationToken cancel
    ) =>
        await context
            .Settings.Where(s => s.Name.StartsWith(Away))
            .Select(s => s.Name.Substring(Away.Length))
            .ToListAsync(cancel);

    /// <summary>Keeps a machine as put away, as another record had it.</summary>
    internal static void AdoptPutAway(PritchelContext context, string id) =>
        context.Settings.Add(new SettingRow { Name = Away + id, Value = "as another record had it" });

    /// <summary>Whether a machine is put away.</summary>
    public Task<bool> IsPutAwayAsync(string id, CancellationToken cancel = default) =>
        context.Settings.AnyAsync(s => s.Name == Away + id, cancel);

    private async Task<IReadOnlyList<MachineEntry>> ListAsync(bool away, CancellationToken cancel) =>
        await context
            .Machines.Where(m =>
                m.Version == context.Machines.Where(o => o.MachineId == m.MachineId).Max(o => o.Version)
                && context.Settings.Any(s => s.Name == Away + m.MachineId) == away
            )
            .OrderBy(m => m.Name)
            .Select(m => new MachineEntry(m.MachineId, m.Version, m.Name, m.Kind))
            .ToListAsync(cancel);

    /// <summary>A machine's newest version, or null.</summary>
    public async Task<MachineEntry?> FindAsync(string id, CancellationToken cancel = default) =>
        await context
            .Machines.Where(m => m.MachineId == id)
            .OrderByDescending(m => m.Version)
            .Select(m => new MachineEntry(m.MachineId, m.Version, m.Name, m.Kind))
            .FirstOrDefaultAsync(cancel);

    /// <summary>All versions of a machine, oldest first.</summary>
    public async Task<IReadOnlyList<MachineVersionEntry>> VersionsAsync(
        string id,
        CancellationToken cancel = default
    ) =>
        await context
            .Machines.Where(m => m.MachineId == id)
            .OrderBy(m => m.Version)
            .Select(m => new MachineVersionEntry(m.Version, m.AddedUtc))
            .ToListAsync(cancel);

    /// <summary>JSON of one version, or null.</summary>
    public async Task<string?> JsonAsync(string id, int version, CancellationToken cancel = default) =>
        await context
            .Machines.Where(m => m.MachineId == id && m.Version == version)
            .Select(m => m.Json)
            .FirstOrDefaultAsync(cancel);

    /// <summary>Reads a machine file; a variant finds its parent among the machines kept here.</summary>
    public async Task<MachineReading> ReadAsync(Stream file, CancellationToken cancel = default)
    {
        var bytes = new byte[MachineFile.LargestBytes + 1];
        var length = await file.ReadAtLeastAsync(bytes, bytes.Length, throwOnEndOfStream: false, cancel);
        var utf8 = bytes.AsMemory(0, length);
        Machine? parent = null;
        if (
            length <= MachineFile.LargestBytes
            && MachineFile.ParentOf(utf8.Span) is { } id
            && await FindAsync(id, cancel) is { } entry
            && await JsonAsync(id, entry.Version, cancel) is { } json
        )
        {
            parent = MachineFile.Read(json).Machine;
        }

        return MachineFile.Read(utf8.Span, _ => parent);
    }

    /// <summary>Adds a machine, or a new version of it when it differs from the newest.</summary>
    public async Task<MachineEntry> AddAsync(Machine machine, CancellationToken cancel = default)
    {
        // Its number is taken while nobody else can take one.
        await using var transaction = context.Database.CurrentTransaction is null
            ? await context.Database.BeginTransactionAsync(cancel)
            : null;
        var json = MachineFile.Write(machine);
        var newest = await FindAsync(machine.Id.Text, cancel);
        if (newest is not null && await JsonAsync(machine.Id.Text, newest.Version, cancel) == json)
        {
            return newest;
        }

        var row = new MachineRow
        {
            MachineId = machine.Id.Text,
            Version = (newest?.Version ?? 0) + 1,
            Name = machine.Name,
            Kind = machine.Kind,
            Json = json,
            AddedUtc = clock.GetUtcNow().UtcDateTime,
        };
        context.Machines.Add(row);
        await context.SaveChangesAsync(cancel);
        if (transaction is not null)
        {
            await transaction.CommitAsync(cancel);
        }

        return new MachineEntry(row.MachineId, row.Version, row.Name, row.Kind);
    }
}
