using Pritchel.Core.Identity;

namespace Pritchel.Core.Machines;

/// <summary>Something found in a machine.</summary>
/// <param name="Words">What it is, in words.</param>
/// <param name="Wire">The wire it is, or null.</param>
/// <param name="At">The terminal it is, or null.</param>
public sealed record MachineHit(string Words, WireId? Wire = null, TerminalAddress? At = null);

/// <summary>Finds machines, parts, terminals and wires by kind, name, colours, terminal letters and places.</summary>
public static class MachineSearch
{
    /// <summary>What of a machine matches every word asked for.</summary>
    /// <param name="machine">The machine.</param>
    /// <param name="asked">Words with spaces between them: "key S", "yellow/red", "outboard".</param>
    /// <returns>Hits in the order of the file, the machine itself first; none when nothing is asked.</returns>
    public static IEnumerable<MachineHit> Find(Machine machine, string asked)
    {
        var words = asked.Split([' ', ','], StringSplitOptions.RemoveEmptyEntries);
        if (words.Length == 0)
        {
            yield break;
        }

        if (Matches(words, [machine.Name, machine.Kind, machine.Id.Text]))
        {
            yield return new MachineHit(machine.Kind);
        }

        foreach (var part in machine.Parts)
        {
            string[] of = [part.Name, part.Kind, part.Id.Text, MachineWords.PlaceOf(machine, part).Name];
            if (Matches(words, of))
            {
                yield return new MachineHit(
                    $"{part.Name}: {MachineWords.PlaceOf(machine, part).Name}",
                    At: part.At(part.Terminals[0])
                );
                continue;
            }

            foreach (var terminal in part.Terminals.Where(t => Matches(words, [.. of, t.Text]) && Named(words, t.Text)))
            {
                yield return new MachineHit(MachineWords.Terminal(machine, part.At(terminal)), At: part.At(terminal));
            }
        }

        foreach (var wire in machine.Wires)
        {
            if (
                Matches(
                    words,
                    [string.Join('/', wire.Colours), wire.Gauge, "wire", MachineWords.WireRun(machine, wire)]
                )
            )
            {
                yield return new MachineHit($"wire {wire.Id}, {MachineWords.WireRun(machine, wire)}", Wire: wire.Id);
            }
        }
    }

    /// <summary>Whether every word stands somewhere: letters by themselves as a whole word only.</summary>
    private static bool Matches(string[] words, IReadOnlyList<string> texts) =>
        words.All(w =>
            texts.Any(t =>
                w.Length <= 2
                    ? t.Split(' ').Contains(w, StringComparer.OrdinalIgnoreCase)
                    : t.Contains(w, StringComparison.OrdinalIgnoreCase)
            )
        );

    private static bool Named(string[] words, string terminal) =>
        words.Contains(terminal, StringComparer.OrdinalIgnoreCase);
}
