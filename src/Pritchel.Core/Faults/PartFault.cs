using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Faults;

/// <summary>A fault inside a part, cured by replacing the part.</summary>
public static class PartFault
{
    /// <summary>Makes one.</summary>
    /// <param name="part">The part.</param>
    /// <param name="role">What is wrong, as its id has it.</param>
    /// <param name="kind">What kind.</param>
    /// <param name="words">What is wrong, without the part's name.</param>
    /// <param name="rate">Relative rate: common practice, no source.</param>
    /// <param name="nodes">Nodes it lies between.</param>
    /// <param name="changes">Parameters it changes.</param>
    public static Fault Of(
        Part part,
        string role,
        FaultKind kind,
        string words,
        double rate,
        (int, int) nodes,
        params ReadOnlySpan<ParameterChange> changes
    ) =>
        new()
        {
            Id = part.Fault(role),
            Kind = kind,
            Words = $"{part.Name}: {words}",
            Repair = part.Repaired(),
            Rate = rate,
            Changes = [.. changes],
            Nodes = nodes,
            Weakness = Weakness.Age,
        };

    /// <summary>The least of its ohms, as a share, with which a coil or a load still does anything: fewer are a short.</summary>
    public const double ShortedShare = 0.3;

    /// <summary>What is left of a winding's ohms where turns touch.</summary>
    public const double TurnsTouch = 0.02;

    /// <summary>
    /// What is left of its ohms where metal meets metal, in a bulb's socket, a suppressor, a motor's brush holder: it blows the fuse that it is on,
    /// however little it draws when it is sound (common practice, no source).
    /// </summary>
    public const double DeadShort = 0.0005;

    /// <summary>A coil, a socket or a motor that is a short: it draws many times what it should and does nothing.</summary>
    /// <param name="part">The part.</param>
    /// <param name="words">What is wrong, without the part's name.</param>
    /// <param name="rate">Relative rate: common practice, no source.</param>
    /// <param name="nodes">Nodes it lies between.</param>
    /// <param name="ohms">Its ohms.</param>
    /// <param name="worst">The least share of its ohms that is left: turns that touch, or <see cref="DeadShort"/>.</param>
    public static Fault Shorted(
        Part part,
        string words,
        double rate,
        (int, int) nodes,
        ParameterId ohms,
        double worst = TurnsTouch
    ) =>
        Of(
            part,
            "shorted",
            FaultKind.ShortedWinding,
            words,
            rate,
            nodes,
            new ParameterChange(ohms, ChangeRule.MultiplyBySeverity)
        ) with
        {
            Severity = new Severity(0.2, worst),
        };

    /// <summary>The repair that renews a part.</summary>
    /// <param name="part">The part.</param>
    /// <param name="kind">Which sort of work it is.</param>
    public static Repair Repaired(this Part part, RepairKind kind = RepairKind.ReplacePart) =>
        new(RepairId.OfPart(part.Id), part.Name, part.Name, kind, part.Place);
}

/// <summary>Repairs of wires.</summary>
internal static class WireRepair
{
    /// <summary>The repair that renews a wire with its ends.</summary>
    public static Repair Of(Machine machine, Wire wire) =>
        new(
            new RepairId(RepairTarget.Wire, wire.Id.Text),
            MachineWords.WireRun(machine, wire),
            $"{string.Join('/', wire.Colours)} {(wire.Cable == true ? "cable" : "wire")} {wire.Id}",
            wire.Cable == true ? RepairKind.RenewCable : RepairKind.RenewWire,
            MachineWords.PartAt(machine, wire.From.At).Place
        );
}
