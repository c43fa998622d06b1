using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A casting or frame: every bolt on it is one node.</summary>
internal sealed class Body(Part part) : Device, INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(PartKinds.Body, [], "one or more bolts, any names", [], (part, _) => new Body(part));

    public override string PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        foreach (var bolt in part.Terminals)
        {
            declaration.Tie($"{part.Id}.{part.Terminals[0]}", $"{part.Id}.{bolt}");
        }
    }

    public override void Stamp(CircuitState state) { }
}

/// <summary>A crimped or soldered splice inside the loom; the wire ends carry its resistance.</summary>
internal sealed class Splice(Part part) : Device, INamedDevice
{
    public static DeviceKind Kind { get; } = new("splice", ["x"], "exactly \"x\"", [], (part, _) => new Splice(part));

    public override string PartId => part.Id;

    public override void Declare(Declaration declaration) => declaration.Node(part.Id + ".x");

    public override void Stamp(CircuitState state) { }
}
