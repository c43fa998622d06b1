using Pritchel.Core.Identity;
using Pritchel.Core.Machines.Files;

namespace Pritchel.Core.Machines.Making;

/// <summary>A machine after one change, and the change in words.</summary>
/// <param name="Machine">The machine as changed.</param>
/// <param name="Words">What was changed, as it stands in the list of changes.</param>
public sealed record MachineChange(Machine Machine, string Words)
{
    /// <summary>A change told by its differences.</summary>
    internal static MachineChange Told(Machine before, Machine after)
    {
        const int MostTold = 3;
        var said = MachineDifference.Between(before, after);
        return new MachineChange(
            after,
            said.Count == 0 ? "nothing changed"
                : said.Count <= MostTold ? string.Join("; ", said)
                : $"{string.Join("; ", said.Take(MostTold))}; and {said.Count - MostTold} more"
        );
    }
}

/// <summary>A change that cannot be made, with what is allowed instead.</summary>
public sealed class ChangeRefusedException : Exception
{
    /// <summary>Refuses a change.</summary>
    /// <param name="field">Field of the changed thing, as its file names it; empty for the whole.</param>
    /// <param name="message">What is wrong and what is allowed.</param>
    public ChangeRefusedException(string field, string message)
        : base(message) => Field = field;

    /// <summary>Refuses a change.</summary>
    public ChangeRefusedException()
        : this("", "This change cannot be made.") { }

    /// <summary>Refuses a change.</summary>
    public ChangeRefusedException(string message)
        : this("", message) { }

    /// <summary>Refuses a change.</summary>
    public ChangeRefusedException(string message, Exception inner)
        : base(message, inner) => Field = "";

    /// <summary>Field it is about, as the file names it: "gauge", "from/at"; empty for the whole.</summary>
    public string Field { get; }
}

/// <summary>Puts things into lists and takes them out, keeping the order.</summary>
internal static class Lists
{
    /// <summary>The list with an item in the place of the one called <paramref name="old"/>, or at its end.</summary>
    /// <exception cref="ChangeRefusedException">Another one is called so already.</exception>
    public static IReadOnlyList<T> Put<T, TId>(IReadOnlyList<T> list, T item, TId? old, Func<T, TId> idOf)
        where TId : struct, IIdentity<TId>
    {
        var at = old is { } was ? list.ToList().FindIndex(x => idOf(x).Text == was.Text) : -1;
        if (list.Where((x, i) => i != at && idOf(x).Text == idOf(item).Text).Any())
        {
            throw new ChangeRefusedException("id", $"“{idOf(item)}” is used already; choose another.");
        }

        return at < 0 ? [.. list, item] : [.. list.Take(at), item, .. list.Skip(at + 1)];
    }

    /// <summary>The list without the one of that id.</summary>
    public static IReadOnlyList<T> Without<T, TId>(IReadOnlyList<T> list, TId id, Func<T, TId> idOf)
        where TId : struct, IIdentity<TId> => [.. list.Where(x => idOf(x).Text != id.Text)];

    /// <summary>A name not yet taken, beginning as asked: "12", "12b", "12c"… or "clutch-switch", "clutch-switch-2"….</summary>
    public static string Free(string wanted, IEnumerable<string> taken, bool letters)
    {
        var all = taken.ToHashSet(StringComparer.Ordinal);
        for (var n = 1; ; n++)
        {
            var name =
                n == 1 ? wanted
                : letters && n <= 26 ? wanted + (char)('a' + n - 1)
                : $"{wanted}-{n}";
            if (!all.Contains(name))
            {
                return name;
            }
        }
    }

    /// <summary>An id made of a name: "Clutch pedal" is "clutch-pedal".</summary>
    public static string IdOf(string name, string otherwise)
    {
        const int Longest = 36;
        var id = string.Join(
            '-',
            new string([.. name.ToLowerInvariant().Select(c => char.IsAsciiLetterOrDigit(c) ? c : ' ')]).Split(
                ' ',
                StringSplitOptions.RemoveEmptyEntries
            )
        );
        id = id.Length > Longest ? id[..Longest].TrimEnd('-') : id;
        return id.Length == 0 ? otherwise : id;
    }
}
