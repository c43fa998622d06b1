using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Rewiring;
using Pritchel.Data;
using Pritchel.Web.Desk;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Rewires;

/// <summary>The splice table and the steps of the work, for the bay and for paper.</summary>
[ChangedBy(MemberRole.Helper)]
public sealed class BuildModel(RewireDesk desk) : RewirePageModel(desk)
{
    /// <summary>Number of a join.</summary>
    [BindProperty]
    public int Number { get; set; }

    /// <summary>Whether it is made.</summary>
    [BindProperty]
    public bool Made { get; set; }

    /// <inheritdoc/>
    public override string Step => "build";

    /// <summary>Lines of the splice table.</summary>
    public IReadOnlyList<SpliceLine> Lines => Open.Lines;

    /// <summary>The join that comes next; null when all are made.</summary>
    public SpliceLine? Next =>
        BuildOrder.Of(Open.Plan, Lines).Lines.FirstOrDefault(l => !Open.State.Sketch.IsMade(l.Join));

    /// <summary>Ends left over.</summary>
    public IEnumerable<FlaggedEnd> Left => Open.Ends.Where(e => Open.Plan.JoinOf(e.End) is null);

    /// <summary>Plugs that are cut off, cavity by cavity.</summary>
    public IReadOnlyList<CutPlug> Plugs => CutMap.Of(Open.Plan, Open.Ends, Lines);

    /// <summary>What is to be cut off spools.</summary>
    public CutList Cuts => CutList.Of(Open.Plan, Marriage.Of(Open.Plan), Open.Ends);

    /// <summary>Flag whose length is told.</summary>
    [BindProperty]
    public int Flag { get; set; }

    /// <summary>Its length as typed.</summary>
    [BindProperty]
    public string? BuiltMetres { get; set; }

    /// <summary>How long the wire behind a flag is: as built, or as drawn.</summary>
    public string LengthOf(FlaggedEnd end) =>
        end.End.Wire is not { } wire ? ""
        : Open.Plan.AsBuilt.TryGetValue(end.End, out var built)
            ? string.Create(CultureInfo.InvariantCulture, $"{built.Value:0.##} m, as built")
        : string.Create(
            CultureInfo.InvariantCulture,
            $"{Open.Plan.Side(end.End.Side)!.Machine.Index.Wire(wire.Wire)!.LengthM:0.##} m"
        );

    /// <summary>Tells a length as built.</summary>
    public Task<IActionResult> OnPostBuiltAsync() =>
        ActAsync(() => Desk.BuiltAsync(Open, After, Flag, BuiltMetres, HttpContext.RequestAborted));

    /// <summary>Says that a join is made, or not.</summary>
    public Task<IActionResult> OnPostMadeAsync() =>
        ActAsync(() => Desk.MadeAsync(Open, After, Number, Made, HttpContext.RequestAborted));

    /// <summary>The cut list as CSV.</summary>
    public async Task<IActionResult> OnGetCutsAsync() =>
        await LoadAsync()
            ? File(Encoding.UTF8.GetBytes(RewireLists.CutsCsv(Cuts)), "text/csv", $"{Open.Entry.Tag}-cut-list.csv")
            : NotFound();

    /// <summary>The splice table as CSV.</summary>
    public async Task<IActionResult> OnGetCsvAsync() =>
        await LoadAsync()
            ? File(Encoding.UTF8.GetBytes(RewireLists.Csv(Open)), "text/csv", $"{Open.Entry.Tag}.csv")
            : NotFound();
}
