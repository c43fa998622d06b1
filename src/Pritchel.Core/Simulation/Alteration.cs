using Pritchel.Core.Faults;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation;

/// <summary>What somebody did to a machine before.</summary>
public enum AlteredBy
{
    /// <summary>A switch contact bridged.</summary>
    Bridged,

    /// <summary>A coupling left apart.</summary>
    Apart,

    /// <summary>A wire taken off or cut.</summary>
    Off,
}

/// <summary>Something found altered, and left so while the job lasts: it is solved as found.</summary>
/// <param name="Id">As kept with a job: "part/contact" for a bridge, "apart/part" for a coupling, "off/wire" for a wire.</param>
/// <param name="By">What was done.</param>
/// <param name="Name">Name of what it was done to.</param>
/// <param name="As">The fault whose changes it makes.</param>
public sealed record Alteration(string Id, AlteredBy By, string Name, Fault As)
{
    private const string ApartPrefix = "apart/";
    private const string OffPrefix = "off/";

    /// <summary>Everything that can be found altered on a machine.</summary>
    public static IEnumerable<Alteration> Of(Circuit circuit)
    {
        var machine = circuit.Machine;
        var faults = circuit.Faults.ToDictionary(f => f.Id, StringComparer.Ordinal);
        foreach (var part in machine.Parts)
        {
            foreach (var contact in part.Contacts ?? [])
            {
                if (faults.TryGetValue($"{part.Id}/{contact.Id}/welded", out var welded))
                {
                    var name = part.Contacts!.Count == 1 ? part.Name : $"{part.Name}, {contact.Id} contact";
                    yield return new Alteration($"{part.Id}/{contact.Id}", AlteredBy.Bridged, name, welded);
                }
            }

            if (faults.TryGetValue(part.Id + "/unplugged", out var unplugged))
            {
                yield return new Alteration(ApartPrefix + part.Id, AlteredBy.Apart, part.Name, unplugged);
            }
        }

        foreach (var wire in machine.Wires)
        {
            if (faults.TryGetValue(wire.Id + "/open", out var open))
            {
                yield return new Alteration(
                    OffPrefix + wire.Id,
                    AlteredBy.Off,
                    MachineWords.WireRun(machine, wire),
                    open
                );
            }
        }
    }

    /// <summary>One of them by its id; null where the machine has no such thing.</summary>
    public static Alteration? Find(Circuit circuit, string id) =>
        Of(circuit).FirstOrDefault(a => string.Equals(a.Id, id, StringComparison.Ordinal));
}
