using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>Diodes that one part holds, stepped together.</summary>
internal abstract class DiodeGroup(Part part) : Device
{
    private protected Part Part => part;

    private protected List<DiodeArm> Arms { get; } = [];

    public override bool IsActive => true;

    public override bool IsFast => true;

    public override PartId? PartId => part.Id;

    public override void Stamp(CircuitState state)
    {
        foreach (var arm in Arms)
        {
            arm.Stamp(state, MayConduct(state, arm));
        }
    }

    public override Change Step(CircuitState state)
    {
        foreach (var arm in Arms)
        {
            var change = arm.Step(state, MayConduct(state, arm));
            if (change.Switches)
            {
                return change;
            }
        }

        return Change.None;
    }

    /// <summary>Whether an arm may conduct now; a regulator's gated ones may not always.</summary>
    private protected virtual bool MayConduct(CircuitState state, DiodeArm arm) => true;
}
