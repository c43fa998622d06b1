using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Machines;
using Pritchel.Core.Rewiring;
using Pritchel.Web.Drawings;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Rewires;

/// <summary>Loose ends face to face, joins by function, and what is wrong with them.</summary>
public sealed class MarryModel(RewireDesk desk) : RewirePageModel(desk)
{
    /// <summary>Ends ticked.</summary>
    [BindProperty]
    public List<string> Ends { get; set; } = [];

    /// <summary>Terminal that they land on; null or empty for none.</summary>
    [BindProperty]
    public string? Onto { get; set; }

    /// <summary>Whether what is joined comes out again.</summary>
    [BindProperty]
    public bool Temporary { get; set; }

    /// <summary>Number of a join.</summary>
    [BindProperty]
    public int Number { get; set; }

    /// <inheritdoc/>
    public override string Step => "marry";

    /// <summary>The drawing.</summary>
    public MarryDrawing Drawing => MarryDrawing.Of(Open);

    /// <summary>Terminals that ends may land on: metal first.</summary>
    public IEnumerable<(string Value, string Words)> Landings =>
        Open
            .Plan.Sides.SelectMany(s =>
                s.Machine.Parts.Where(p => s.Has(p.Id) && p.Kind is not (PartKinds.Coupling or PartKinds.Splice))
                    .Select(p => (Side: s, Part: p))
            )
            .OrderByDescending(x => x.Part.Kind == PartKinds.Body)
            .SelectMany(x =>
                x.Part.Terminals.Select(t =>
                    (new Landing(x.Side.Key, x.Part.At(t)).Text, $"{x.Part.Name} {t} · {x.Side.Machine.Name}")
                )
            );

    /// <summary>Joins what is ticked.</summary>
    public Task<IActionResult> OnPostJoinAsync() =>
        ActAsync(() => Desk.JoinAsync(Open, After, Ends, Onto, Temporary, HttpContext.RequestAborted));

    /// <summary>Takes over every join that is suggested.</summary>
    public Task<IActionResult> OnPostSuggestedAsync() =>
        ActAsync(() => Desk.JoinSuggestedAsync(Open, After, HttpContext.RequestAborted));

    /// <summary>Parts a join.</summary>
    public Task<IActionResult> OnPostPartAsync() =>
        ActAsync(() => Desk.PartAsync(Open, After, Number, HttpContext.RequestAborted));
}
