using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;

namespace Pritchel.Workshop;

/// <summary>The machine files that ship beside the program: whole ones, and variants that name one of those as parent.</summary>
public static class ShippedMachines
{
    private static string Folder => Path.Combine(AppContext.BaseDirectory, "machines");

    /// <summary>
    /// What each file gave, whole machines before their variants; nothing is read where all are had already. A shipped file is
    /// called as its machine is.
    /// </summary>
    /// <param name="had">Ids of machines that are had already.</param>
    public static IReadOnlyList<(string File, MachineReading Reading)> Read(IReadOnlySet<string>? had = null)
    {
        if (had is not null && Files().All(f => had.Contains(Path.GetFileNameWithoutExtension(f))))
        {
            return [];
        }

        var machines = new Dictionary<string, Machine>(StringComparer.Ordinal);
        var all = new List<(string, MachineReading)>();
        foreach (var file in Files())
        {
            using var stream = File.OpenRead(file);
            var reading = MachineFile.Read(stream, machines.GetValueOrDefault);
            if (reading.Machine is { } machine)
            {
                machines[machine.Id.Text] = machine;
            }

            all.Add((Path.GetFileName(file), reading));
        }

        return all;
    }

    private static IEnumerable<string> Files() =>
        ((string[])[Folder, Path.Combine(Folder, "variants")]).SelectMany(f =>
            Directory
                .EnumerateFiles(f, "*.json")
                .Where(n => !n.EndsWith(".schema.json", StringComparison.Ordinal))
                .Order(StringComparer.Ordinal)
        );
}
