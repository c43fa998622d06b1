using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Data;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>Any reading at any time: what somebody has read already, or wants to read where no test asks for it.</summary>
[ChangedBy(MemberRole.Helper)]
public sealed class ReadingModel(JobDesk desk) : JobPageModel(desk)
{
    /// <summary>Point under the red probe, by address.</summary>
    [BindProperty]
    public string? Red { get; set; }

    /// <summary>Point under the black probe, by address.</summary>
    [BindProperty]
    public string? Black { get; set; }

    /// <summary>How it was read.</summary>
    [BindProperty]
    public string? Quantity { get; set; }

    /// <summary>Position of each control, by id.</summary>
    [BindProperty]
    public Dictionary<string, string> Stood { get; set; } = [];

    /// <summary>How fast the engine turned.</summary>
    [BindProperty]
    public DutySpeed Speed { get; set; }

    /// <summary>Coupling apart or wire end off; blank for nothing.</summary>
    [BindProperty]
    public string? Off { get; set; }

    /// <summary>Figure as typed.</summary>
    [BindProperty]
    public string? Typed { get; set; }

    /// <summary>What may be off: couplings, then wires' ends that are in none.</summary>
    public IEnumerable<(string Text, string Words)> CanBeOff =>
        Open
            .Machine.Parts.Where(p => Core.Simulation.Case.CanComeOff(Open.Circuit, p.Id))
            .Select(p => (p.Id.Text, $"{p.Name} apart"))
            .Concat(
                Open.Machine.Wires.SelectMany(w => w.Ends)
                    .Where(e => Core.Simulation.Case.CanComeOff(Open.Circuit, e.Name))
                    .Select(e => (e.Name.Text, $"wire {e.Name.Wire} off {e.At}"))
            );

    /// <summary>Points that a probe can touch.</summary>
    public IEnumerable<ProbePoint> Points => Open.Kit.Points.All;

    /// <summary>Shows the form, the black probe on ground.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        if (await LoadToldAsync() is { } elsewhere)
        {
            return elsewhere;
        }

        Black = Open.Kit.Points.At(Open.Circuit.Reference).Address.Text;
        Quantity = AnyReading.Offered[0].Key;
        Stood = Open
            .Kit.Table.Conditions[0]
            .Setting.Named(Open.Machine)
            .ToDictionary(s => s.Key.Text, s => s.Value.Text, StringComparer.Ordinal);
        return Page();
    }

    /// <summary>Keeps the reading.</summary>
    public async Task<IActionResult> OnPostAsync()
    {
        if (await LoadToldAsync() is { } elsewhere)
        {
            return elsewhere;
        }

        var any = new AnyReading(
            Quantity ?? "",
            Open.Circuit.Setting(Known(Stood)),
            Speed,
            string.IsNullOrWhiteSpace(Off) ? [] : [Disconnection.Of(Off)],
            PointId.Of((Red ?? "").Trim()),
            PointId.Of((Black ?? "").Trim())
        );
        Error = any.Check(Open.Circuit).FirstOrDefault()?.Message;
        if (Error is null && any.Taken(Open.Kit, Typed, out var wrong) is var taken)
        {
            Error = taken is null ? $"Figure: {wrong}" : null;
            if (taken is not null && await AppendAsync(taken))
            {
                return Redirect($"/jobs/{Open.Job.Tag}");
            }
        }

        return Page();
    }

    /// <summary>Positions that the machine's controls have; others are as the machine rests.</summary>
    private Dictionary<ControlId, PositionId> Known(Dictionary<string, string> stood) =>
        Open
            .Machine.Controls.Where(c => stood.TryGetValue(c.Id.Text, out var p) && c.IndexOf(new PositionId(p)) >= 0)
            .ToDictionary(c => c.Id, c => new PositionId(stood[c.Id.Text]));
}
