using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation;

/// <summary>Makes the devices of a machine: its parts, then wires with their joints, then mounts.</summary>
internal static class MachineDevices
{
    public static IEnumerable<Device> Of(Machine machine)
    {
        foreach (var part in machine.Parts)
        {
            var kind = DeviceKinds.Named(part.Kind)!;
            yield return kind.Create(part, new PartFigures(kind, part));
        }

        foreach (var wire in machine.Wires)
        {
            yield return new Conductor(wire, machine);
        }

        foreach (var mount in machine.Mounts)
        {
            yield return new MountedMetal(mount, machine);
        }
    }
}
