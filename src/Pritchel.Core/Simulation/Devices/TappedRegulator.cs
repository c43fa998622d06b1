using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A four- or five-pin regulator for a tapped winding: one half of the wave to the battery, gated; on the lamp wire it clips
/// what alternates, both ways, so that lamps do not blow at speed.
/// </summary>
internal sealed class TappedRegulator(Part part, PartFigures figures)
    : Regulator(part, figures, ["ac"], shunts: false),
        INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "regulator-tapped",
            ["ac", "lamp", "dc", "case"],
            "\"ac\", \"lamp\", \"dc\" and \"case\", and \"sense\" where a lead of its own tells it the battery's volts",
            // A lamp circuit held to 12–14 V: common practice, no source. It clips at the peaks.
            [.. Values, new ValueRule("clipVolts", 6, 25, 12.5) { Differs = 0.1 }],
            (part, figures) => new TappedRegulator(part, figures)
        )
        {
            Winding = new ChargedBy("tapped-winding", [("out", "ac"), ("tap", "lamp")]),
            OptionalTerminals = [SenseTerminal],
        };

    // A four-pin regulator with its ground, and a fifth lead that senses: without it, it sees nothing and lets all through.
    private const string SenseTerminal = "sense";

    private protected override string SensesAt =>
        Part.Terminals.Contains(new TerminalId(SenseTerminal)) ? SenseTerminal : base.SensesAt;

    private DiodeArm up = null!;
    private DiodeArm down = null!;

    public override void Declare(Declaration declaration)
    {
        base.Declare(declaration);
        var clip = Figures["clipVolts"];
        up = new DiodeArm(declaration, Part, "clip-up", "lamp", "case", clip, 0.15);
        down = new DiodeArm(declaration, Part, "clip-down", "case", "lamp", clip, 0.15);
        Arms.Add(up);
        Arms.Add(down);
    }

    public override IEnumerable<Fault> Faults() =>
        [
            .. base.Faults(),
            PartFault.Of(
                Part,
                "lamp-unclipped",
                FaultKind.Overcharging,
                "lamp side not regulated: blows bulbs",
                1.5,
                up.Nodes,
                new ParameterChange(up.OnOhms, ChangeRule.Set, double.PositiveInfinity),
                new ParameterChange(down.OnOhms, ChangeRule.Set, double.PositiveInfinity)
            ),
            up.Shorted("lamp side shorted to ground", 1),
        ];
}
