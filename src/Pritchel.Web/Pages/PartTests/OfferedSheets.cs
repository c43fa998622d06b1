using Pritchel.Core.Machines;
using Pritchel.Core.PartTests;
using Pritchel.Core.Simulation;

namespace Pritchel.Web.Pages.PartTests;

/// <summary>Sheets that can be begun on.</summary>
public static class OfferedSheets
{
    /// <summary>For a loose part, by kind.</summary>
    public static IReadOnlyList<(DeviceKind Kind, PartSheet Sheet)> Loose { get; } =
    [
        .. DeviceKinds
            .All.Where(k => !k.Traits.HasFlag(PartTraits.IsSwitched))
            .SelectMany(k => SheetCatalogue.Offered(k).Select(s => (Kind: k, Sheet: s)))
            .OrderBy(k => k.Kind.Name, StringComparer.Ordinal),
    ];

    /// <summary>For the parts of a machine, by name.</summary>
    public static IReadOnlyList<(Part Part, PartSheet Sheet)> Of(Machine machine) =>
        [
            .. machine
                .Parts.SelectMany(p =>
                    DeviceKinds.Named(p.Kind) is { } k ? SheetCatalogue.Offered(k).Select(s => (Part: p, Sheet: s)) : []
                )
                .OrderBy(p => p.Part.Name, StringComparer.Ordinal),
        ];
}
