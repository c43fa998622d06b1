using Pritchel.Core.PartTests.Regulators;
using Pritchel.Core.Simulation;

namespace Pritchel.Web.Desk;

/// <summary>What is said of kinds of regulators.</summary>
public static class RegulatorWords
{
    /// <summary>How a kind holds its volts back, and what of it is no fault.</summary>
    public static string HoldsBack(DeviceKind kind) =>
        kind.FeedsItsField ? "It weakens its field. That is an alternator’s sheet."
        : UnknownRegulator.Opens(kind)
            ? "It lets the winding run open: dozens of volts at its plug are no fault, and it stays cool."
        : "It shorts the winding: a few volts at its plug while the battery is full are no fault, and it runs hot by design.";

    /// <summary>What a field of the form is called.</summary>
    public static string Field(string name) =>
        name switch
        {
            nameof(RegulatorTyped.Leads) => "Leads from the winding",
            nameof(RegulatorTyped.Metal) => "One of them to engine metal",
            nameof(RegulatorTyped.Apart) => "Between two of them, plug apart",
            nameof(RegulatorTyped.Plugged) => "The same, plugged",
            _ => "Battery’s posts meanwhile",
        };

    /// <summary>What is seen to next.</summary>
    public static string Asked(RegulatorQuestion question) =>
        question switch
        {
            RegulatorQuestion.Leads => "Count the leads that come from the winding.",
            RegulatorQuestion.Metal => "Ohms from one of them to the engine’s metal, plug apart.",
            RegulatorQuestion.Kept => "AC volts between two of them at 3000 rpm, apart and plugged.",
            _ => "Volts at the battery’s posts at 3000 rpm.",
        };
}
