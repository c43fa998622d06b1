using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Web.Drawings;

/// <summary>A switch, relay or solenoid as a chart: which contacts close in which position.</summary>
/// <param name="Part">The part.</param>
/// <param name="Works">What works it: a control's name, or its coil.</param>
/// <param name="Positions">Positions, from left to right.</param>
/// <param name="Now">Index of the position it is in.</param>
/// <param name="Contacts">Contacts by name, with whether each is closed in each position.</param>
public sealed record SwitchChart(
    Part Part,
    string Works,
    IReadOnlyList<string> Positions,
    int Now,
    IReadOnlyList<(string Name, IReadOnlyList<bool> Closed)> Contacts
)
{
    private const double Narrow = 46;
    private const double Letter = 7.4;

    /// <summary>Width of a position's column.</summary>
    public double ColumnWidth => Math.Max(Narrow, (Positions.Max(p => p.Length) * Letter) + 10);

    /// <summary>Charts of every switch, one for each control that works it, then of what coils work.</summary>
    public static IReadOnlyList<SwitchChart> Of(CircuitState state, ControlSetting setting)
    {
        var machine = state.Circuit.Machine;
        return
        [
            .. machine.Parts.SelectMany(p =>
                (p.Contacts ?? []).GroupBy(c => c.Control).Select(g => ByHand(machine, p, g.Key, [.. g], setting))
            ),
            .. machine
                .Parts.Where(p => state.Circuit.HasDevice(p.Id) && state.Circuit.DeviceOf(p.Id).CoilContacts.Count > 0)
                .Select(p => Coiled(state, p)),
        ];
    }

    private static SwitchChart ByHand(
        Machine machine,
        Part part,
        ControlId controlId,
        IReadOnlyList<Contact> contacts,
        ControlSetting setting
    )
    {
        var index = machine.Controls.ToList().FindIndex(c => c.Id == controlId);
        var control = machine.Controls[index];
        return new SwitchChart(
            part,
            control.Name,
            [.. control.Positions.Select(p => p.Text)],
            setting[index],
            [
                .. contacts.Select(c =>
                    (
                        $"{c.Between[0]}–{c.Between[1]}",
                        (IReadOnlyList<bool>)[.. control.Positions.Select(p => c.ClosedIn.Contains(p))]
                    )
                ),
            ]
        );
    }

    private static SwitchChart Coiled(CircuitState state, Part part) =>
        new(
            part,
            "its coil",
            ["at rest", "pulled in"],
            state.StateAt(state.Circuit.StateOf(part.Element())) == 1 ? 1 : 0,
            [
                .. state
                    .Circuit.DeviceOf(part.Id)
                    .CoilContacts.Select(c =>
                        ($"{c.A}–{c.B}", (IReadOnlyList<bool>)[!c.ClosedPulledIn, c.ClosedPulledIn])
                    ),
            ]
        );
}
