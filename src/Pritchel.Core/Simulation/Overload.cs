using Pritchel.Core.Handbook;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation;

/// <summary>
/// Opens a contact that carries more than it is rated for, after the time its class takes; of several in a row the one that
/// is soonest goes first. Alternating current counts by its heating, not by its mean.
/// </summary>
internal sealed class Overload(StateId open, BranchId branch, OpeningCurve curve, ParameterId ratingAmps)
{
    // What takes longer than a trial lasts has not happened in it.
    private const double TrialSeconds = 600;

    /// <summary>Asks for it to open, or for nothing.</summary>
    public Change Step(CircuitState state)
    {
        if (state[open] != 0)
        {
            return Change.None;
        }

        var amps = state.Heating(branch) * state.Siemens(branch);
        var seconds = curve.Seconds(amps / state[ratingAmps]);
        return seconds <= TrialSeconds ? Change.Switch(open, 1, seconds * 1000) with { IsForGood = true } : Change.None;
    }
}
