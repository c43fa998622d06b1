using Pritchel.Core.Machines;

namespace Pritchel.Core.Faults;

/// <summary>A fault inside a part, cured by replacing the part.</summary>
internal static class PartFault
{
    /// <summary>Makes one.</summary>
    /// <param name="part">The part.</param>
    /// <param name="id">Second half of its id.</param>
    /// <param name="kind">What kind.</param>
    /// <param name="words">What is wrong, without the part's name.</param>
    /// <param name="rate">Relative rate: common practice, no source.</param>
    /// <param name="nodes">Nodes it lies between.</param>
    /// <param name="changes">Parameters it changes.</param>
    public static Fault Of(
        Part part,
        string id,
        FaultKind kind,
        string words,
        double rate,
        (int, int) nodes,
        params ReadOnlySpan<ParameterChange> changes
    ) =>
        new()
        {
            Id = $"{part.Id}/{id}",
            Kind = kind,
            Words = $"{part.Name}: {words}",
            Repair = Repairing(part),
            Rate = rate,
            Changes = [.. changes],
            Nodes = nodes,
            Weakness = Weakness.Age,
        };

    /// <summary>The repair that renews a part.</summary>
    public static Repair Repairing(Part part) =>
        new("part:" + part.Id, part.Name, part.Name, RepairKind.ReplacePart, part.Place);
}
