using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// What an ignition unit shows to the pickup that is joined to it. An ohmmeter finds there anything from a kilohm to nothing at
/// all, by what lies before the input: known to decades at best, from memory. So a pickup read with its unit joined says of the
/// pickup only what is far below that.
/// </summary>
internal sealed class TriggerInput
{
    private const double UsualOhms = 4700;
    private const double LeastDecade = 3;
    private const double MostDecade = 9;

    private readonly BranchId branch;
    private readonly ParameterId decades;

    public TriggerInput(Declaration declaration, Part part, string name, string from, string to)
    {
        branch = declaration.Branch(part.Element(name), part.At(from), part.At(to));
        decades = declaration.Parameter(
            part.Element(name),
            "inputOhmsLog",
            Math.Log10(UsualOhms),
            Spread.Uniform(LeastDecade, MostDecade)
        );
    }

    public void Stamp(CircuitState state) => state.SetOhms(branch, Math.Pow(10, state[decades]));

    /// <summary>Volts that it sees, from its first terminal to its second.</summary>
    public double Across(CircuitState state) => state.Across(branch);
}
