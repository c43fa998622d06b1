using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Web.Pages.Machines;
using Pritchel.Web.Pages.Machines.Making;
using Pritchel.Workshop;

namespace Pritchel.Web.Drawings;

/// <summary>What a loom is drawn for: a machine at work, or one being drawn.</summary>
/// <param name="Machine">The machine.</param>
/// <param name="Chosen">Wire chosen, or null.</param>
/// <param name="At">Terminal, or the part, chosen, or null.</param>
/// <param name="Volts">Volts of a terminal, null where it floats; null when none are to be shown.</param>
/// <param name="WireLink">Address that chooses a wire.</param>
/// <param name="TerminalLink">Address that chooses a terminal.</param>
public sealed record LoomView(
    Machine Machine,
    Wire? Chosen,
    PointId? At,
    Func<PointId, double?>? Volts,
    Func<Wire, string> WireLink,
    Func<TerminalAddress, string> TerminalLink
)
{
    /// <summary>A machine at work: terminals show their volts.</summary>
    public static LoomView Of(MachineModel page) =>
        new(
            page.Machine,
            page.Asked.Wire,
            page.At is { Length: > 0 } at ? PointId.Of(at) : null,
            point => page.Solved.Standing.Direct(page.Circuit.NodeOf(point)),
            wire => page.With(("wire", wire.Id.Text)),
            address => page.With(("at", address.Text))
        )
        {
            Alternating = point => page.Solved.Standing.Alternating(page.Circuit.NodeOf(point)),
        };

    /// <summary>Place whose terminals are lit, by id, or null.</summary>
    public PlaceId? Lit { get; init; }

    /// <summary>Alternating volts of a terminal, null where direct ones are shown.</summary>
    public Func<PointId, double?>? Alternating { get; init; }

    /// <summary>Where the red probe goes next, or null.</summary>
    public PointId? Red { get; init; }

    /// <summary>Where the black probe goes next, or null.</summary>
    public PointId? Black { get; init; }

    /// <summary>
    /// A job's machine: where the probes go next is marked, or the place to be stirred is lit, and anything touched opens
    /// on the machine's own page.
    /// </summary>
    public static LoomView OfJob(OpenJob open, PlannedTest? test, PlannedWiggle? stir = null)
    {
        // What is watched from away has no probe anywhere; a meter in series lies across nothing, and is drawn across nothing.
        var probed = test is { Condition.Observable.IsProbed: true } ? test : null;
        var between = test is { Condition.Observable.IsToldByPoints: true } ? test : null;
        return new(
            open.Machine,
            null,
            probed?.Red.Address,
            null,
            wire => $"/machines/{open.Machine.Id}?wire={Uri.EscapeDataString(wire.Id.Text)}",
            address => $"/machines/{open.Machine.Id}?at={Uri.EscapeDataString(address.Text)}"
        )
        {
            Lit = stir?.Reach.Place.Id,
            Red = between?.Red.Address,
            Black = between?.Black.Address,
        };
    }

    /// <summary>A machine whose grounds are surveyed: what was read stands at its points, the worst way home is drawn and lit.</summary>
    public static LoomView OfSurvey(OpenSurvey open)
    {
        var machine = open.Machine.Machine;
        var worst = open.Suspects.Count > 0 ? open.Suspects[0] : null;
        var read = open.Figures.ToDictionary(f => open.Survey.Points[f.Key].At, f => f.Value);
        return new(
            machine,
            worst?.Wire is { } wire ? machine.Index.Wire(wire) : null,
            null,
            point => point.Terminal is { } at && read.TryGetValue(at, out var volts) ? volts : null,
            wire => $"/machines/{machine.Id}?wire={Uri.EscapeDataString(wire.Id.Text)}",
            address => $"/machines/{machine.Id}?at={Uri.EscapeDataString(address.Text)}"
        )
        {
            Lit = worst?.Where,
            VoltsAre = "What was read stands at its point, in volts above battery negative; the worst way home is lit.",
            Decimals = "0.00",
        };
    }

    /// <summary>What the volts on the drawing are, where they are not those of a machine at work.</summary>
    public string? VoltsAre { get; init; }

    /// <summary>How finely volts are written.</summary>
    public string Decimals { get; init; } = "0.0";

    /// <summary>A machine being drawn: what is touched goes into the form.</summary>
    public static LoomView OfDraft(DraftShown page) =>
        new(
            page.Machine,
            page.On == "wire" ? page.Machine.Index.Wire(new WireId(page.Item ?? "")) : null,
            null,
            null,
            wire => page.Link("wire", wire.Id.Text),
            address => page.Link("part", address.Part.Text)
        )
        {
            Part = page.On == "part" && page.Item is { } part ? new PartId(part) : null,
        };

    /// <summary>Part whose terminals are all chosen, or null.</summary>
    public PartId? Part { get; init; }

    /// <summary>Whether a terminal is the chosen one, or one of the chosen part's.</summary>
    public bool IsChosen(TerminalAddress address) =>
        At?.Terminal == address
        || address.Part == Part
        || (Lit is { } lit && MachineWords.PartAt(Machine, address).Place == lit);
}
