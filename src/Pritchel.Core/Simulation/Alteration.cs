using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation;

/// <summary>Something found altered, and left so while the job lasts: it is solved as found.</summary>
/// <param name="Id">As kept with a job.</param>
/// <param name="Name">Name of what it was done to.</param>
/// <param name="As">The fault whose changes it makes.</param>
public sealed record Alteration(AlterationId Id, string Name, Fault As)
{
    /// <summary>What was done.</summary>
    public AlteredBy By => Id.By;

    /// <summary>Everything that can be found altered on a machine.</summary>
    public static IEnumerable<Alteration> Of(Circuit circuit)
    {
        var machine = circuit.Machine;
        var faults = circuit.Faults.ToDictionary(f => f.Id);
        foreach (var part in machine.Parts)
        {
            foreach (var contact in part.Contacts ?? [])
            {
                if (faults.TryGetValue(new FaultId(part.Element(contact.Id.Text), "welded"), out var welded))
                {
                    var name = part.Contacts!.Count == 1 ? part.Name : $"{part.Name}, {contact.Id} contact";
                    yield return new Alteration(AlterationId.Bridged(part.Id, contact.Id), name, welded);
                }
            }

            if (faults.TryGetValue(part.Fault("unplugged"), out var unplugged))
            {
                yield return new Alteration(AlterationId.Apart(part.Id), part.Name, unplugged);
            }
        }

        foreach (var wire in machine.Wires)
        {
            if (faults.TryGetValue(new FaultId(Owner.Of(wire.Id).Element(), "open"), out var open))
            {
                yield return new Alteration(AlterationId.Off(wire.Id), MachineWords.WireRun(machine, wire), open);
            }
        }
    }

    /// <summary>One of them; null where the machine has no such thing.</summary>
    public static Alteration? Find(Circuit circuit, AlterationId id) => Of(circuit).FirstOrDefault(a => a.Id == id);
}
