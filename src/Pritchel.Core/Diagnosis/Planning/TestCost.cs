using Pritchel.Core.Machines;
using Pritchel.Core.Units;

namespace Pritchel.Core.Diagnosis.Planning;

/// <summary>Minutes of a test, taken apart by what they depend on.</summary>
/// <param name="Always">Whatever has gone before: reading, taking off, clipping on, the engine, holding a control alone.</param>
/// <param name="Places">Places it reaches into; each costs its minutes until it is open.</param>
/// <param name="Condition">State of the controls it wants.</param>
/// <param name="Controls">Moving them there.</param>
/// <param name="MakeSafe">Making the engine safe to turn, once; none where it may not turn.</param>
/// <param name="BatteryOff">Taking the battery's grounded post off, where it has to be and is not.</param>
/// <param name="BatteryOn">Putting it back on, where it has to be and is not.</param>
internal sealed record TestCost(
    double Always,
    Place[] Places,
    int Condition,
    double Controls,
    double MakeSafe,
    double BatteryOff,
    double BatteryOn
)
{
    /// <summary>Minutes from how things stand.</summary>
    public Minutes From(Situation situation)
    {
        var minutes = Always + Rest(situation.Condition, situation.BatteryOff, situation.MadeSafe);
        foreach (var place in Places)
        {
            minutes += situation.Opened.Contains(place.Id) ? 0 : place.Minutes;
        }

        return new Minutes(minutes);
    }

    // Whoever complains has just tried it: that is how the controls stand before the first test.
    private const int AsTried = 0;

    /// <summary>Minutes of it for controls, battery and safety.</summary>
    public double Rest(int? condition, bool batteryOff, bool madeSafe) =>
        ((condition ?? AsTried) == Condition ? 0 : Controls)
        + (batteryOff ? BatteryOn : BatteryOff)
        + (madeSafe ? 0 : MakeSafe);
}
