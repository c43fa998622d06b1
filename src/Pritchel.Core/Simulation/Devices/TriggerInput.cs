using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>What an ignition unit or a controller shows to the pickup that is joined to it.</summary>
internal sealed class TriggerInput
{
    // An ohmmeter may find anything there, by what lies before the input. It is not drawn: a figure that spans decades would pick
    // out the few cases near it, and with them severities that have nothing to do with it.
    private readonly double ohms;
    private readonly BranchId branch;

    public TriggerInput(Declaration declaration, Part part, string name, string from, string to, double ohms = 4700)
    {
        this.ohms = ohms;
        branch = declaration.Branch(part.Element(name), part.At(from), part.At(to));
    }

    public void Stamp(CircuitState state) => state.SetOhms(branch, ohms);

    /// <summary>Volts that it sees, from its first terminal to its second.</summary>
    public double Across(CircuitState state) => state.Across(branch);
}
