using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Faults;
using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>The repair: cautions first, then steps, then what was done.</summary>
public sealed class RepairModel(JobDesk desk) : JobPageModel(desk)
{
    /// <summary>What was done, as typed.</summary>
    [BindProperty]
    public string? Done { get; set; }

    /// <summary>Parts used, as typed.</summary>
    [BindProperty]
    public string? Parts { get; set; }

    /// <summary>Minutes, as typed.</summary>
    [BindProperty]
    public string? MinutesTaken { get; set; }

    /// <summary>Repair decided on.</summary>
    public Repair? Repair { get; private set; }

    /// <summary>What it is called.</summary>
    public string RepairName => Repair?.Name ?? "Nothing to mend in this circuit";

    /// <summary>Other circuits of this machine that can keep it from running.</summary>
    public IReadOnlyList<Symptom> Elsewhere { get; private set; } = [];

    /// <summary>How it is done.</summary>
    public RepairGuide Guide { get; private set; } = null!;

    /// <summary>A clip lead that would prove the place, or null.</summary>
    public ClipLead? Clip { get; private set; }

    /// <summary>Writes down what the duty did with the lead on.</summary>
    public Task<IActionResult> OnPostLeadOnAsync(bool worked) =>
        LeadAsync(() => Clip is { } clip ? new LeadPut(clip.From, clip.To, worked) : null);

    /// <summary>Writes down what it did with the lead off again.</summary>
    public Task<IActionResult> OnPostLeadOffAsync(bool failsAgain) =>
        LeadAsync(() => Open.State is { Lead: not null, LeadOff: null } ? new LeadOff(failsAgain) : null);

    private async Task<IActionResult> LeadAsync(Func<JobEvent?> happened)
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        return !Find() ? Redirect($"/jobs/{Open.Job.Tag}")
            : happened() is { } lead && !await AppendAsync(lead) ? Page()
            : Redirect($"/jobs/{Open.Job.Tag}/repair");
    }

    /// <summary>Shows the repair.</summary>
    public async Task<IActionResult> OnGetAsync() =>
        !await LoadAsync() ? NotFound()
        : !Find() ? Redirect($"/jobs/{Open.Job.Tag}")
        : Page();

    /// <summary>Writes down what was done.</summary>
    public async Task<IActionResult> OnPostAsync()
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        if (!Find())
        {
            return Redirect($"/jobs/{Open.Job.Tag}");
        }

        return Understood() is { } done && await AppendAsync(done) ? Redirect($"/jobs/{Open.Job.Tag}/prove") : Page();
    }

    private RepairDone? Understood()
    {
        if (
            !double.TryParse(
                (MinutesTaken ?? "").Trim().Replace(',', '.'),
                NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var minutes
            )
        )
        {
            Error = $"Minutes: “{Cut(MinutesTaken)}” is not a time; type minutes from 0 to {RepairText.MostMinutes}.";
            return null;
        }

        Error = RepairText.Check(Done, Parts, minutes)?.Message;
        return Error is null ? new RepairDone(RepairText.Plain(Done), RepairText.Plain(Parts), minutes) : null;
    }

    private bool Find()
    {
        if (Open.State.Verdict is not { } verdict)
        {
            return false;
        }

        Repair = verdict.On.Repair is { } mended
            ? Open.Circuit.Faults.Select(f => f.Repair).FirstOrDefault(r => r.Id == mended)
            : null;
        var likeliest = Open.Diagnosis.Beliefs.Suspects.FirstOrDefault(s => s.Id == verdict.On)?.Likeliest;
        Clip = likeliest is null ? null : ClipLead.For(Open.Kit, likeliest);
        Guide =
            Repair is not null ? RepairSteps.For(Repair.Kind, likeliest?.Kind)
            : verdict.On == SuspectId.AsDesigned ? RepairSteps.AsDesigned
            : RepairSteps.NotElectrical;
        Elsewhere =
            verdict.On != SuspectId.Sound
                ? []
                :
                [
                    .. Open.Version.Symptoms.Where(s =>
                        s.Group is CircuitGroup.Fuel or CircuitGroup.Ignition
                        && !s.Duty.Refuses
                        && s.Duty.Id != Open.State.Complaint!.Duty
                    ),
                ];
        return true;
    }
}
