using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Data;
using Pritchel.Web.Desk;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Machines;

/// <summary>A reading once taken on a machine after a repair, in good order.</summary>
/// <param name="Job">Tag of the job.</param>
/// <param name="AtUtc">When.</param>
/// <param name="Where">Where the probes were and how the controls stood.</param>
/// <param name="Typed">As typed.</param>
public sealed record KeptReading(string Job, DateTimeOffset AtUtc, string Where, string Typed);

/// <summary>What a machine reads in good order: worked out from its drawing, and as read on it.</summary>
public sealed class NormalModel(JobDesk desk, JobStore jobs) : PageModel
{
    /// <summary>The machine.</summary>
    public Machine Machine { get; private set; } = null!;

    /// <summary>Volts along the line of each duty.</summary>
    public IReadOnlyList<DutyReadings> Duties { get; private set; } = [];

    /// <summary>What is read at rest and running.</summary>
    public IReadOnlyList<RunningReading> Running { get; private set; } = [];

    /// <summary>Ohms of parts by themselves.</summary>
    public IReadOnlyList<NormalReading> Parts { get; private set; } = [];

    /// <summary>Readings that proved a repair.</summary>
    public IReadOnlyList<KeptReading> Kept { get; private set; } = [];

    /// <summary>Shows the readings.</summary>
    public async Task<IActionResult> OnGetAsync(string id)
    {
        if (await desk.MachineAsync(id, HttpContext.RequestAborted) is not { } found)
        {
            return NotFound();
        }

        Machine = found.Machine;
        Duties = NormalReadings.OfDuties(found.Circuit);
        Running = NormalReadings.OfRunning(found.Circuit, found.RunningSetting);
        Parts = NormalReadings.OfParts(Machine);
        Kept =
        [
            .. (await jobs.OfMachineAsync(id, HttpContext.RequestAborted))
                .SelectMany(j => j.State.Standing.Select(e => (Job: j, Event: e)))
                .Where(x => x.Event.Event is ProofGiven { Passed: true, Typed: not null, At: not null })
                .Select(x => Read(found.Machine, x.Job, x.Event))
                .OrderByDescending(k => k.AtUtc),
        ];
        ViewData["Area"] = "Machines";
        return Page();
    }

    private static KeptReading Read(Machine machine, Job job, RecordedEvent recorded)
    {
        var given = (ProofGiven)recorded.Event;
        var at = given.At!;
        var reads = at.Condition.Observable;
        return new KeptReading(
            job.Tag,
            recorded.At,
            $"{TestWords.Point(machine, at.Red)}, black on {TestWords.Point(machine, at.Black)}: {TestWords.Stood(machine, at.Condition)}",
            TestWords.Typed(reads, given.Typed!, ObservableCatalogue.Named(reads)?.Read(given.Typed, out _)?.Value)
        );
    }
}
