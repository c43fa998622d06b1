using System.Text.Json;
using System.Text.Json.Nodes;

namespace Pritchel.Core.Machines.Files;

/// <summary>
/// A machine file that names a parent and holds only what differs from it. Entries of the lists are matched by their id and
/// merged as JSON Merge Patch does (RFC 7396): fields given replace the parent's, fields left out stay; an entry with an id
/// of its own is added; "without" names entries left out. Read, it becomes a whole machine, which keeps its parent's id as
/// <see cref="Machine.VariantOf"/>.
/// </summary>
internal sealed class VariantFile
{
    /// <summary>Field that names the parent.</summary>
    public const string Parent = "parent";

    private const string Without = "without";

    private static readonly string[] Lists = ["places", "engines", "controls", "parts", "wires", "mounts", "duties"];

    // Where each entry of the whole machine stands in the difference; inherited ones are not in it.
    private readonly Dictionary<(string List, int Whole), int> givenAt = [];
    private readonly List<MachineProblem> problems = [];

    private VariantFile() { }

    /// <summary>The whole machine's JSON; null when there are problems.</summary>
    public JsonObject? Whole { get; private set; }

    /// <summary>Why it could not be made whole.</summary>
    public IReadOnlyList<MachineProblem> Problems => problems;

    /// <summary>Whether a file names a parent.</summary>
    public static bool Is(JsonElement root) => root.TryGetProperty(Parent, out _);

    /// <summary>Lays a difference over its parent.</summary>
    /// <param name="difference">The file that names a parent.</param>
    /// <param name="parents">Finds a machine by id; null when there is none.</param>
    public static VariantFile Of(JsonElement difference, Func<string, Machine?>? parents)
    {
        var file = new VariantFile();
        file.Lay(difference, parents);
        return file;
    }

    /// <summary>A problem of the whole machine, at its place in the difference where that has one.</summary>
    public MachineProblem AtItsPlace(MachineProblem problem)
    {
        if (
            problem.Pointer.Split('/') is not ["", var list, var number, .. var rest]
            || !int.TryParse(number, out var at)
        )
        {
            return problem;
        }

        return givenAt.TryGetValue((list, at), out var given)
            ? problem with
            {
                Pointer = "/" + string.Join('/', [list, $"{given}", .. rest]),
            }
            : problem with
            {
                Pointer = "/" + list,
                Message = $"{problem.Message} (“{Id(Whole![list]![at])}”, inherited from the parent)",
            };
    }

    private void Lay(JsonElement difference, Func<string, Machine?>? parents)
    {
        var given = JsonSerializer.SerializeToNode(difference)!.AsObject();
        if (given[Parent] is not JsonValue name || !name.TryGetValue<string>(out var id))
        {
            Refuse("/" + Parent, "Give the id of the machine that this one differs from, as text.");
            return;
        }

        if (parents?.Invoke(id) is not { } parent)
        {
            Refuse("/" + Parent, $"There is no machine “{id}” here; take in the parent first.");
            return;
        }

        var whole = JsonNode.Parse(MachineFile.Write(parent))!.AsObject();
        whole["variantOf"] = id;
        LeaveOut(whole, given[Without]);
        foreach (var (field, value) in given.Where(f => f.Key is not Parent and not Without and not "$schema"))
        {
            if (Lists.Contains(field, StringComparer.Ordinal) && value is JsonArray entries)
            {
                whole[field] ??= new JsonArray();
                MergeList(field, whole[field]!.AsArray(), entries);
            }
            else
            {
                whole[field] = value!.DeepClone();
            }
        }

        Whole = problems.Count == 0 ? whole : null;
    }

    private void LeaveOut(JsonObject whole, JsonNode? without)
    {
        if (without is null)
        {
            return;
        }

        if (without is not JsonObject lists)
        {
            Refuse("/" + Without, "Name the lists and the ids left out of each, such as {\"wires\": [\"12\"]}.");
            return;
        }

        foreach (var (list, ids) in lists)
        {
            if (!Lists.Contains(list, StringComparer.Ordinal) || ids is not JsonArray names)
            {
                Refuse($"/{Without}/{list}", $"Allowed: {string.Join(", ", Lists)}, each with a list of ids.");
                continue;
            }

            for (var i = 0; i < names.Count; i++)
            {
                var entries = whole[list] as JsonArray;
                if (entries?.FirstOrDefault(e => Id(e) == $"{names[i]}") is { } found)
                {
                    entries.Remove(found);
                }
                else
                {
                    Refuse($"/{Without}/{list}/{i}", $"“{names[i]}” is not among the parent's {list}.");
                }
            }
        }
    }

    private void MergeList(string list, JsonArray whole, JsonArray entries)
    {
        for (var i = 0; i < entries.Count; i++)
        {
            var at = whole.ToList().FindIndex(e => Id(e) == Id(entries[i]) && Id(e) is not null);
            if (at < 0)
            {
                at = whole.Count;
                whole.Add(entries[i]!.DeepClone());
            }
            else
            {
                whole[at] = Patched(whole[at]!, entries[i]!);
            }

            givenAt[(list, at)] = i;
        }
    }

    /// <summary>RFC 7396 without deletions: null is refused in machine files before this is reached.</summary>
    private static JsonNode Patched(JsonNode target, JsonNode patch)
    {
        if (patch is not JsonObject fields || target is not JsonObject into)
        {
            return patch.DeepClone();
        }

        var merged = into.DeepClone().AsObject();
        foreach (var (name, value) in fields)
        {
            merged[name] = merged[name] is { } old ? Patched(old, value!) : value!.DeepClone();
        }

        return merged;
    }

    private static string? Id(JsonNode? entry) => (entry as JsonObject)?["id"]?.ToString();

    private void Refuse(string pointer, string message) => problems.Add(new MachineProblem(pointer, message));
}
