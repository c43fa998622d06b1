using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>Charge windings on one core.</summary>
internal abstract class WindingGroup(Part part) : Device, IChargeWinding
{
    private protected List<Winding> Windings { get; } = [];

    private protected Part Part => part;

    public int Engine => Windings[0].Engine;

    public IEnumerable<MemoryId> Carried => Windings.SelectMany(w => w.Carried);

    public override PartId? PartId => part.Id;

    public override bool IsRotating => true;

    public override bool IsActive => true;

    public override void Stamp(CircuitState state)
    {
        foreach (var winding in Windings)
        {
            winding.Stamp(state);
        }
    }

    public override void Advance(CircuitState state)
    {
        foreach (var winding in Windings)
        {
            winding.Advance(state);
        }
    }
}
