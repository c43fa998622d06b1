using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using Pritchel.Core.Simulation.Devices;
using Pritchel.Data;
using Pritchel.Web.Desk;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>The complaint: what happens and what lights in each position, how often, what is bridged.</summary>
public sealed class ComplaintModel(JobDesk desk, JobStore jobs, Workshop workshop) : JobPageModel(desk, jobs)
{
    private const double MostYears = 100;
    private const int MostTries = 200;
    private const int MostWords = 300;
    private const int MostBridgeable = 3;

    private IReadOnlyList<Alteration>? alterations;

    /// <summary>What is heard.</summary>
    [BindProperty]
    public string? HeardSaid { get; set; }

    /// <summary>Owner's words.</summary>
    [BindProperty]
    public string? Words { get; set; }

    /// <summary>Tries that failed, as typed.</summary>
    [BindProperty]
    public string? Failed { get; set; }

    /// <summary>Tries, as typed.</summary>
    [BindProperty]
    public string? Tried { get; set; }

    /// <summary>What was ticked or chosen as bridged, apart or off; blank where nothing was chosen.</summary>
    [BindProperty]
    public List<string> Bridged { get; set; } = [];

    /// <summary>Lamp answers, "lamp@condition" to look.</summary>
    [BindProperty]
    public Dictionary<string, string> Lamps { get; set; } = [];

    /// <summary>How controls stood when it happened, position by control id.</summary>
    [BindProperty]
    public Dictionary<string, string> Stood { get; set; } = [];

    /// <summary>How fast the engine turned when it happened.</summary>
    [BindProperty]
    public DutySpeed? Speed { get; set; }

    /// <summary>Speeds to choose from; none where the duty needs no engine.</summary>
    public IReadOnlyList<DutySpeed> Speeds =>
        OwnDuty.Speed == DutySpeed.Rest ? [] : [DutySpeed.Crank, DutySpeed.Idle, DutySpeed.Work];

    /// <summary>What else was tried, "works" or "fails" by duty id.</summary>
    [BindProperty]
    public Dictionary<string, string> Also { get; set; } = [];

    /// <summary>Whether the controller's codes were read.</summary>
    [BindProperty]
    public bool CodesRead { get; set; }

    /// <summary>Codes ticked as stored.</summary>
    [BindProperty]
    public List<string> Codes { get; set; } = [];

    /// <summary>Codes that this machine can store; none where nothing stores any.</summary>
    public IReadOnlyList<string> PossibleCodes =>
        workshop.Codes(Open.Job.MachineId, Open.Job.MachineVersion, Open.Circuit, Open.State.Complaint!.Duty)?.Possible
        ?? [];

    /// <summary>Circumstances ticked, by name.</summary>
    [BindProperty]
    public List<string> Life { get; set; } = [];

    /// <summary>Age of the wiring in years, as typed.</summary>
    [BindProperty]
    public string? Years { get; set; }

    /// <summary>Circumstances that may be ticked, with their words and where they are kept.</summary>
    public static IReadOnlyList<(string Name, string Words, Func<Circumstances, bool> Is)> Circumstance { get; } =
    [
        (nameof(Circumstances.Salt), "Lives by or on salt water", c => c.Salt),
        (nameof(Circumstances.Damp), "Stored or used wet", c => c.Damp),
        (nameof(Circumstances.Vibration), "Shaken more than most", c => c.Vibration),
        (nameof(Circumstances.Rodents), "Signs of rodents", c => c.Rodents),
        (nameof(Circumstances.RecentWork), "Someone worked on it just before", c => c.RecentWork),
    ];

    /// <summary>Other duties of this machine that are quickly tried.</summary>
    public IEnumerable<Symptom> Others =>
        workshop
            .Symptoms(Open.Job.MachineId, Open.Job.MachineVersion, Open.Circuit)
            .Where(s => s.Duty.Id != Open.State.Complaint!.Duty && DutyTries.IsQuick(Open.Circuit, s.Duty));

    /// <summary>Shows the complaint as it stands.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        var complaint = Open.State.Complaint!;
        HeardSaid = complaint.Heard.ToString();
        Words = complaint.Words;
        Failed = complaint.Failed.ToString(CultureInfo.InvariantCulture);
        Tried = complaint.Tried.ToString(CultureInfo.InvariantCulture);
        Bridged = [.. complaint.Bridged];
        Stood = Open
            .Circuit.Setting(complaint.Setting ?? OwnDuty.Setting)
            .Named(Open.Machine)
            .ToDictionary(StringComparer.Ordinal);
        Speed = complaint.Speed ?? OwnDuty.Speed;
        Also = complaint.Also.ToDictionary(a => a.Duty, a => a.Works ? "works" : "fails", StringComparer.Ordinal);
        (CodesRead, Codes) = (complaint.Codes is not null, [.. complaint.Codes ?? []]);
        var life = complaint.Circumstances;
        Years = life.Years.ToString(CultureInfo.InvariantCulture);
        Life = [.. Circumstance.Where(c => c.Is(life)).Select(c => c.Name)];
        Lamps = complaint.Lamps.ToDictionary(
            l => $"{l.Lamp}@{l.Condition}",
            l => l.Look.ToString(),
            StringComparer.Ordinal
        );
        return Page();
    }

    /// <summary>Writes the complaint down.</summary>
    public async Task<IActionResult> OnPostAsync()
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        var complaint = Understood();
        return complaint is not null && await AppendAsync(new ComplaintMade(complaint))
            ? Redirect($"/jobs/{Open.Job.Tag}")
            : Page();
    }

    /// <summary>
    /// Begins what the complaint as it stands on the form will want, so that the first test is there when it is written
    /// down. Writes nothing; what is not understood yet is left for then.
    /// </summary>
    public async Task<IActionResult> OnPostAheadAsync()
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        if (Controls(out var setting))
        {
            workshop.Begin(
                Open.Job.MachineId,
                Open.Job.MachineVersion,
                Open.Circuit,
                Open.State.Complaint! with
                {
                    Setting = setting,
                    Speed = SpeedTold,
                    Bridged = BridgedTold,
                    Also = AlsoTold,
                }
            );
        }

        return new NoContentResult();
    }

    /// <summary>What may have been altered before; switches of many contacts, keys mostly, are nobody's to bridge one by one.</summary>
    public IReadOnlyList<Alteration> Alterations =>
        alterations ??= [
            .. Alteration
                .Of(Open.Circuit)
                .Where(a => a.By != AlteredBy.Bridged || ContactsOf(a.Id.Split('/')[0]) <= MostBridgeable),
        ];

    /// <summary>Wires told to be off, by the alteration's id.</summary>
    public IEnumerable<string> WiresOff =>
        Alterations.Where(a => a.By == AlteredBy.Off && Bridged.Contains(a.Id)).Select(a => a.Id);

    private int ContactsOf(string part) =>
        Open.Machine.Parts.FirstOrDefault(p => string.Equals(p.Id, part, StringComparison.Ordinal))?.Contacts?.Count
        ?? 0;

    /// <summary>Conditions in which some lamp of the sound machine glows, so that its look tells something.</summary>
    public IEnumerable<(int Index, Condition Condition, IReadOnlyList<Part> Lamps)> LampRows()
    {
        var table = Open.Kit.Table;
        for (var c = 0; c < table.Conditions.Count; c++)
        {
            var lit = table.LampsLit(c).ToHashSet(StringComparer.Ordinal);
            if (lit.Count > 0)
            {
                yield return (c, table.Conditions[c], [.. Open.Machine.Parts.Where(p => lit.Contains(p.Id))]);
            }
        }
    }

    private Complaint? Understood()
    {
        if (
            !Enum.TryParse<Heard>(HeardSaid, out var heard)
            || DutyWords.Choices(Open.Kit.Table.Effect, Open.Kit.Table.Duty).All(c => c.Heard != heard)
        )
        {
            Error = "Say what it does in that setting: choose one of the answers.";
            return null;
        }

        if (!Count(Tried, 1, "Tries", out var tried) || !Count(Failed, 0, "Failed tries", out var failed))
        {
            return null;
        }

        if (failed > tried)
        {
            Error = $"Failed tries: {failed} is more than the {tried} tries made; at most as many can have failed.";
            return null;
        }

        var words = (Words ?? "").ReplaceLineEndings(" ").Trim();
        if (words.Length > MostWords)
        {
            Error = $"Owner's words: {words.Length} characters; at most {MostWords} fit the tag.";
            return null;
        }

        if (LifeSoFar() is not { } life || !Controls(out var setting))
        {
            return null;
        }

        var told = Open.State.Complaint! with
        {
            Setting = setting,
            Speed = SpeedTold,
            Circumstances = life,
            Codes = CodesRead || Codes.Count > 0 ? [.. PossibleCodes.Where(Codes.Contains)] : null,
            Also = AlsoTold,
            Heard = heard,
            Words = words,
            Failed = failed,
            Tried = tried,
            Bridged = BridgedTold,
            Lamps = [.. Seen()],
        };
        return told with { Lamps = Renumbered(told) };
    }

    private DutySpeed? SpeedTold =>
        Speed is { } speed && Speeds.Contains(speed) && speed != OwnDuty.Speed ? speed : null;

    private IReadOnlyList<string> BridgedTold => [.. Alterations.Select(a => a.Id).Where(Bridged.Contains)];

    private IReadOnlyList<AlsoTold> AlsoTold =>
        [
            .. Others
                .Where(s => Also.GetValueOrDefault(s.Duty.Id) is "works" or "fails")
                .Select(s => new AlsoTold(s.Duty.Id, Also[s.Duty.Id] == "works")),
        ];

    private Duty OwnDuty =>
        workshop.Duty(Open.Job.MachineId, Open.Job.MachineVersion, Open.Circuit, Open.State.Complaint!.Duty)!;

    /// <summary>Lamps were asked by the conditions of the setting told before; another setting numbers them anew.</summary>
    private IReadOnlyList<LampSeen> Renumbered(Complaint told)
    {
        var before = Open.Kit.Table.Conditions;
        var after = workshop
            .Sketch(Open.Job.MachineId, Open.Job.MachineVersion, Open.Circuit, told)
            .Kit.Table.Conditions;
        return
        [
            .. told
                .Lamps.Select(l =>
                    l with
                    {
                        Condition = after
                            .ToList()
                            .FindIndex(c =>
                                c.IsFree
                                && c.Speed == before[l.Condition].Speed
                                && c.Setting.Equals(before[l.Condition].Setting)
                            ),
                    }
                )
                .Where(l => l.Condition >= 0),
        ];
    }

    /// <summary>Positions of the controls as told; null when they are the duty's own.</summary>
    private bool Controls(out IReadOnlyDictionary<string, string>? setting)
    {
        setting = null;
        var own = Open.Circuit.Setting(OwnDuty.Setting).Named(Open.Machine);
        var told = new Dictionary<string, string>(own, StringComparer.Ordinal);
        foreach (var control in Open.Machine.Controls)
        {
            if (!Stood.TryGetValue(control.Id, out var position))
            {
                continue;
            }

            if (!control.Positions.Contains(position, StringComparer.Ordinal))
            {
                Error =
                    $"{control.Name}: “{Shown(position)}” is not one of its positions; allowed {string.Join(", ", control.Positions)}.";
                return false;
            }

            told[control.Id] = position;
        }

        setting = own.All(o => told[o.Key] == o.Value) ? null : told;
        return true;
    }

    private Circumstances? LifeSoFar()
    {
        if (
            !double.TryParse(
                string.IsNullOrWhiteSpace(Years) ? "10" : Years.Trim().Replace(',', '.'),
                NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var years
            )
            || years > MostYears
        )
        {
            Error = $"Age of the wiring: “{Shown(Years)}” is not an age; type years from 0 to {MostYears}.";
            return null;
        }

        bool Ticked(string name) => Life.Contains(name, StringComparer.Ordinal);
        return new Circumstances(
            years,
            Ticked(nameof(Circumstances.Salt)),
            Ticked(nameof(Circumstances.Damp)),
            Ticked(nameof(Circumstances.Vibration)),
            Ticked(nameof(Circumstances.Rodents)),
            Ticked(nameof(Circumstances.RecentWork))
        );
    }

    private IEnumerable<LampSeen> Seen()
    {
        foreach (var (index, _, lamps) in LampRows())
        {
            foreach (var lamp in lamps)
            {
                if (
                    Lamps.TryGetValue($"{lamp.Id}@{index}", out var said)
                    && Enum.TryParse<LampLook>(said, out var look)
                    && look != LampLook.NotSeen
                    && Enum.IsDefined(look)
                )
                {
                    yield return new LampSeen(lamp.Id, index, look);
                }
            }
        }
    }

    private bool Count(string? typed, int least, string what, out int count)
    {
        if (
            int.TryParse((typed ?? "").Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out count)
            && count >= least
            && count <= MostTries
        )
        {
            return true;
        }

        Error = $"{what}: “{Shown(typed)}” is not a count; type a whole number from {least} to {MostTries}.";
        return false;
    }

    private static string Shown(string? typed) =>
        typed is null ? ""
        : typed.Length > 40 ? typed[..40] + "…"
        : typed;
}
