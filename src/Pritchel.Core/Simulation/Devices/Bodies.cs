using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A casting or frame: every bolt on it is one node.</summary>
internal sealed class Body(Part part) : Device, INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(PartKinds.Body, [], "one or more bolts, any names", [], (part, _) => new Body(part))
        {
            Traits = PartTraits.IsMetal,
        };

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        foreach (var bolt in part.Terminals)
        {
            declaration.Tie(part.At(part.Terminals[0]), part.At(bolt));
        }
    }

    public override void Stamp(CircuitState state) { }
}

/// <summary>A crimped or soldered splice inside the loom; the wire ends carry its resistance.</summary>
internal sealed class Splice(Part part) : Device, INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(PartKinds.Splice, ["x"], "exactly \"x\"", [], (part, _) => new Splice(part))
        {
            Traits = PartTraits.IsSplice,
        };

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration) => declaration.Node(part.At("x"));

    public override void Stamp(CircuitState state) { }
}
