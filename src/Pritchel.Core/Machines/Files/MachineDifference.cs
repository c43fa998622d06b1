using System.Text.Json.Nodes;

namespace Pritchel.Core.Machines.Files;

/// <summary>What changed from one version of a machine to another, in words that can be read out.</summary>
public static class MachineDifference
{
    private static readonly Dictionary<string, string> ListNames = new(StringComparer.Ordinal)
    {
        ["places"] = "place",
        ["controls"] = "control",
        ["parts"] = "part",
        ["wires"] = "wire",
        ["mounts"] = "mount",
        ["engines"] = "engine",
        ["duties"] = "duty",
    };

    /// <summary>Every difference, in the order of the file: what was added, taken out, and changed field by field.</summary>
    public static IReadOnlyList<string> Between(Machine before, Machine after)
    {
        var (old, now) = (Fields(before), Fields(after));
        var said = new List<string>();
        foreach (var name in now.Select(f => f.Key).Union(old.Select(f => f.Key), StringComparer.Ordinal))
        {
            var (was, becomes) = (old[name], now[name]);
            if (ListNames.TryGetValue(name, out var one))
            {
                said.AddRange(InList(one, Items(was), Items(becomes)));
            }
            else if (!JsonNode.DeepEquals(was, becomes))
            {
                said.Add($"{name}: {Words(was)} → {Words(becomes)}");
            }
        }

        return said;
    }

    private static IEnumerable<string> InList(
        string one,
        Dictionary<string, JsonObject> before,
        Dictionary<string, JsonObject> after
    )
    {
        foreach (var (id, item) in after)
        {
            if (!before.TryGetValue(id, out var was))
            {
                yield return $"{one} {id} added: {Told(item)}";
                continue;
            }

            foreach (var change in Changes("", was, item))
            {
                yield return $"{one} {id}: {change}";
            }
        }

        foreach (var (id, item) in before.Where(b => !after.ContainsKey(b.Key)))
        {
            yield return $"{one} {id} taken out: {Told(item)}";
        }
    }

    /// <summary>Field by field, going down into records; lists are told whole.</summary>
    private static IEnumerable<string> Changes(string path, JsonObject before, JsonObject after)
    {
        foreach (var name in after.Select(f => f.Key).Union(before.Select(f => f.Key), StringComparer.Ordinal))
        {
            var (was, becomes) = (before[name], after[name]);
            if (was is JsonObject inner && becomes is JsonObject outer)
            {
                foreach (var change in Changes(path + name + " ", inner, outer))
                {
                    yield return change;
                }
            }
            else if (!JsonNode.DeepEquals(was, becomes))
            {
                yield return $"{path}{name} {Words(was)} → {Words(becomes)}";
            }
        }
    }

    /// <summary>An item by what tells it best: its name, or its ends.</summary>
    private static string Told(JsonObject item) =>
        item["name"] is { } name ? name.ToString()
        : item["from"] is { } from && item["to"] is { } to ? $"{Words(item["colours"])}, {from["at"]} to {to["at"]}"
        : Words(item);

    private static string Words(JsonNode? value) =>
        value switch
        {
            null => "none",
            JsonArray list => string.Join('/', list.Select(Words)),
            JsonObject record => string.Join(", ", record.Select(f => $"{f.Key} {Words(f.Value)}")),
            _ => value.ToString(),
        };

    private static Dictionary<string, JsonObject> Items(JsonNode? list) =>
        (list as JsonArray ?? [])
            .OfType<JsonObject>()
            .ToDictionary(i => i["id"]!.GetValue<string>(), StringComparer.Ordinal);

    private static JsonObject Fields(Machine machine) => JsonNode.Parse(MachineFile.Write(machine))!.AsObject();
}
