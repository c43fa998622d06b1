using System.Globalization;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Workshop;

namespace Pritchel.Web.Desk;

/// <summary>A complaint as it stands on its form: everything as ticked, chosen or typed.</summary>
public sealed class ComplaintForm
{
    /// <summary>What is heard.</summary>
    public string? HeardSaid { get; set; }

    /// <summary>Owner's words.</summary>
    public string? Words { get; set; }

    /// <summary>Tries that failed, as typed.</summary>
    public string? Failed { get; set; }

    /// <summary>Tries, as typed.</summary>
    public string? Tried { get; set; }

    /// <summary>What was ticked or chosen as bridged, apart or off; blank where nothing was chosen.</summary>
    public List<string> Bridged { get; set; } = [];

    /// <summary>Lamp answers, by lamp and number of its row on the form.</summary>
    public Dictionary<string, string> Lamps { get; set; } = [];

    /// <summary>How controls stood when it happened, position by control id.</summary>
    public Dictionary<string, string> Stood { get; set; } = [];

    /// <summary>How fast the engine turned when it happened.</summary>
    public DutySpeed? Speed { get; set; }

    /// <summary>What else was tried, "works" or "fails" by duty id.</summary>
    public Dictionary<string, string> Also { get; set; } = [];

    /// <summary>How it did on jump leads from a good battery, "works" or "fails"; empty when nobody tried.</summary>
    public string? OnLeads { get; set; }

    /// <summary>Whether the controller's codes were read.</summary>
    public bool CodesRead { get; set; }

    /// <summary>Codes ticked as stored.</summary>
    public List<string> Codes { get; set; } = [];

    /// <summary>When it fails sooner or oftener, as ticked.</summary>
    public List<WorseWhen> Worse { get; set; } = [];

    /// <summary>What was renewed or mended before, by repair; blank where nothing was chosen.</summary>
    public List<string?> Renewed { get; set; } = [];

    /// <summary>What each of those did, in the same order.</summary>
    public List<CureEffect> Did { get; set; } = [];

    /// <summary>Charge of each battery in per cent, as typed, by its id; blank where nobody knows.</summary>
    public Dictionary<string, string?> Charge { get; set; } = [];

    /// <summary>Temperature of each in °C, as typed, by its id; blank on an ordinary day.</summary>
    public Dictionary<string, string?> Warmth { get; set; } = [];

    /// <summary>Type fitted, by the battery's id; blank where it is the drawing's.</summary>
    public Dictionary<string, string?> Fitted { get; set; } = [];

    /// <summary>Circumstances ticked, by name.</summary>
    public List<string> Life { get; set; } = [];

    /// <summary>Age of the wiring in years, as typed.</summary>
    public string? Years { get; set; }

    /// <summary>Circumstances that may be ticked, with their words and where they are kept.</summary>
    public static IReadOnlyList<(string Name, string Words, Func<Circumstances, bool> Is)> Circumstance { get; } =
    [
        (nameof(Circumstances.Salt), "Lives by or on salt water", c => c.Salt),
        (nameof(Circumstances.Damp), "Stored or used wet", c => c.Damp),
        (nameof(Circumstances.Vibration), "Shaken more than most", c => c.Vibration),
        (nameof(Circumstances.Rodents), "Signs of rodents", c => c.Rodents),
        (nameof(Circumstances.RecentWork), "Someone worked on it just before", c => c.RecentWork),
        (nameof(Circumstances.Stored), "It stood for a season or more", c => c.Stored),
        (nameof(Circumstances.NewWiring), "New wiring or another engine: never worked since", c => c.NewWiring),
    ];

    /// <summary>Name of a lamp's answer on the form.</summary>
    public static string LampKey(PartId lamp, int row) => $"{lamp.Text}@{row}";

    /// <summary>The form of a complaint as it was told.</summary>
    public static ComplaintForm Of(OpenJob open, ComplaintRules rules)
    {
        var complaint = open.State.Complaint!;
        var life = complaint.Circumstances;
        var form = new ComplaintForm
        {
            HeardSaid = complaint.Heard.ToString(),
            Words = complaint.Words,
            Failed = complaint.Failed.ToString(CultureInfo.InvariantCulture),
            Tried = complaint.Tried.ToString(CultureInfo.InvariantCulture),
            Bridged = [.. complaint.Bridged.Select(b => b.Text)],
            Stood = open
                .Circuit.Setting(complaint.Setting ?? rules.Own.Setting)
                .Named(open.Machine)
                .ToDictionary(s => s.Key.Text, s => s.Value.Text, StringComparer.Ordinal),
            Speed = complaint.Speed ?? rules.Own.Speed,
            Also = complaint.Also.ToDictionary(
                a => a.Duty.Text,
                a => a.Works ? "works" : "fails",
                StringComparer.Ordinal
            ),
            OnLeads = complaint.JumpStarted switch
            {
                true => "works",
                false => "fails",
                _ => null,
            },
            Worse = [.. complaint.WorseWhen],
            Renewed = [.. complaint.Cures.Select(c => c.Repair.Text)],
            Did = [.. complaint.Cures.Select(c => c.Effect)],
            CodesRead = complaint.Codes is not null,
            Codes = [.. complaint.Codes ?? []],
            Years = life.Years.ToString(CultureInfo.InvariantCulture),
            Life = [.. Circumstance.Where(c => c.Is(life)).Select(c => c.Name)],
        };
        foreach (var told in complaint.Batteries)
        {
            form.Fitted[told.Battery.Text] = told.Type;
            form.Charge[told.Battery.Text] = BatteryForm.Percent(told.Charge);
            form.Warmth[told.Battery.Text] = told.Warmth?.Value.ToString(CultureInfo.InvariantCulture);
        }

        foreach (var (row, (condition, lamps)) in rules.LampRows().Index())
        {
            var setting = condition.Setting.Named(open.Machine);
            foreach (
                var seen in complaint.Lamps.Where(l =>
                    lamps.Any(lamp => lamp.Id == l.Lamp) && l.Speed == condition.Speed && l.Setting.Equals(setting)
                )
            )
            {
                form.Lamps[LampKey(seen.Lamp, row)] = seen.Look.ToString();
            }
        }

        return form;
    }
}
