using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Web.Desk;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>The complaint: what happens and what lights in each position, how often, what is bridged.</summary>
public sealed class ComplaintModel(JobDesk desk, Predictor predictor) : JobPageModel(desk)
{
    private readonly JobDesk desk = desk;

    /// <summary>What may be told.</summary>
    public ComplaintRules Rules { get; private set; } = null!;

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

    /// <summary>Lamp answers, by lamp and number of its row on the form.</summary>
    [BindProperty]
    public Dictionary<string, string> Lamps { get; set; } = [];

    /// <summary>How controls stood when it happened, position by control id.</summary>
    [BindProperty]
    public Dictionary<string, string> Stood { get; set; } = [];

    /// <summary>How fast the engine turned when it happened.</summary>
    [BindProperty]
    public DutySpeed? Speed { get; set; }

    /// <summary>What else was tried, "works" or "fails" by duty id.</summary>
    [BindProperty]
    public Dictionary<string, string> Also { get; set; } = [];

    /// <summary>Whether the controller's codes were read.</summary>
    [BindProperty]
    public bool CodesRead { get; set; }

    /// <summary>Codes ticked as stored.</summary>
    [BindProperty]
    public List<string> Codes { get; set; } = [];

    /// <summary>When it fails sooner or oftener, as ticked.</summary>
    [BindProperty]
    public List<WorseWhen> Worse { get; set; } = [];

    /// <summary>What was renewed or mended before, by repair; blank where nothing was chosen.</summary>
    [BindProperty]
    public List<string?> Renewed { get; set; } = [];

    /// <summary>What each of those did, in the same order.</summary>
    [BindProperty]
    public List<CureEffect> Did { get; set; } = [];

    /// <summary>Charge of each battery in per cent, as typed, by its id; blank where nobody knows.</summary>
    [BindProperty]
    public Dictionary<string, string?> Charge { get; set; } = [];

    /// <summary>Temperature of each in °C, as typed, by its id; blank on an ordinary day.</summary>
    [BindProperty]
    public Dictionary<string, string?> Warmth { get; set; } = [];

    /// <summary>Type fitted, by the battery's id; blank where it is the drawing's.</summary>
    [BindProperty]
    public Dictionary<string, string?> Fitted { get; set; } = [];

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
        (nameof(Circumstances.Stored), "It stood for a season or more", c => c.Stored),
        (nameof(Circumstances.NewWiring), "New wiring or another engine: never worked since", c => c.NewWiring),
    ];

    /// <summary>Shows the complaint as it stands.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        if (!await PrepareAsync())
        {
            return NotFound();
        }

        var complaint = Open.State.Complaint!;
        HeardSaid = complaint.Heard.ToString();
        Words = complaint.Words;
        Failed = complaint.Failed.ToString(CultureInfo.InvariantCulture);
        Tried = complaint.Tried.ToString(CultureInfo.InvariantCulture);
        Bridged = [.. complaint.Bridged.Select(b => b.Text)];
        Stood = Open
            .Circuit.Setting(complaint.Setting ?? Rules.Own.Setting)
            .Named(Open.Machine)
            .ToDictionary(s => s.Key.Text, s => s.Value.Text, StringComparer.Ordinal);
        Speed = complaint.Speed ?? Rules.Own.Speed;
        Also = complaint.Also.ToDictionary(a => a.Duty.Text, a => a.Works ? "works" : "fails", StringComparer.Ordinal);
        Worse = [.. complaint.WorseWhen];
        (Renewed, Did) = ([.. complaint.Cures.Select(c => c.Repair.Text)], [.. complaint.Cures.Select(c => c.Effect)]);
        foreach (var told in complaint.Batteries)
        {
            Fitted[told.Battery.Text] = told.Type;
            Charge[told.Battery.Text] = BatteryForm.Percent(told.Charge);
            Warmth[told.Battery.Text] = told.Warmth?.Value.ToString(CultureInfo.InvariantCulture);
        }

        (CodesRead, Codes) = (complaint.Codes is not null, [.. complaint.Codes ?? []]);
        var life = complaint.Circumstances;
        Years = life.Years.ToString(CultureInfo.InvariantCulture);
        Life = [.. Circumstance.Where(c => c.Is(life)).Select(c => c.Name)];
        foreach (var (row, (condition, lamps)) in Rules.LampRows().Index())
        {
            var setting = condition.Setting.Named(Open.Machine);
            foreach (
                var seen in complaint.Lamps.Where(l =>
                    lamps.Any(lamp => lamp.Id == l.Lamp) && l.Speed == condition.Speed && l.Setting.Equals(setting)
                )
            )
            {
                Lamps[LampKey(seen.Lamp, row)] = seen.Look.ToString();
            }
        }

        return Page();
    }

    /// <summary>Writes the complaint down.</summary>
    public async Task<IActionResult> OnPostAsync()
    {
        if (!await PrepareAsync())
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
        if (!await PrepareAsync())
        {
            return NotFound();
        }

        var told = Open.State.Complaint! with
        {
            Setting = SettingTold,
            Speed = SpeedTold,
            Bridged = BridgedTold,
            Also = AlsoTold,
            Batteries = BatteriesTold(out var unread),
        };
        if (unread is null && !Rules.Check(told).Any(r => r.Field is "setting" or "speed" or "bridged" or "batteries"))
        {
            predictor.Begin(Open.Version.Fitted(told), told, Open.Meter);
        }

        return new NoContentResult();
    }

    /// <summary>Name of a lamp's answer on the form.</summary>
    public static string LampKey(PartId lamp, int row) => $"{lamp.Text}@{row}";

    /// <summary>Wires told to be off, by the alteration's id.</summary>
    public IEnumerable<string> WiresOff =>
        Rules.Alterations.Where(a => a.By == AlteredBy.Off).Select(a => a.Id.Text).Where(Bridged.Contains);

    private async Task<bool> PrepareAsync()
    {
        if (!await LoadAsync())
        {
            return false;
        }

        Rules = desk.Rules(Open);
        return true;
    }

    private Complaint? Understood()
    {
        if (!Enum.TryParse<Heard>(HeardSaid, out var heard) || !Enum.IsDefined(heard))
        {
            Error = "Say what it does in that setting: choose one of the answers.";
            return null;
        }

        if (
            !Count(Tried, "Tries", out var tried)
            || !Count(Failed, "Failed tries", out var failed)
            || LifeSoFar() is not { } life
        )
        {
            return null;
        }

        var batteries = BatteriesTold(out var unread);
        if (unread is not null)
        {
            Error = unread;
            return null;
        }

        var told = Open.State.Complaint! with
        {
            Batteries = batteries,
            Setting = SettingTold,
            Speed = SpeedTold,
            Circumstances = life,
            Codes = CodesRead || Codes.Count > 0 ? [.. Rules.Codes.Where(Codes.Contains)] : null,
            Also = AlsoTold,
            WorseWhen = [.. Worse.Where(Enum.IsDefined).Distinct().Order()],
            Cures = CuresTold,
            Heard = heard,
            Words = (Words ?? "").ReplaceLineEndings(" ").Trim(),
            Failed = failed,
            Tried = tried,
            Bridged = BridgedTold,
            Lamps = [.. Seen()],
        };
        Error = Rules.Check(told).FirstOrDefault()?.Message;
        return Error is null ? told : null;
    }

    private IReadOnlyList<BatteryAsFound> BatteriesTold(out string? unread) =>
        BatteryForm.Read(Rules.Batteries, Fitted, Charge, Warmth, out unread);

    private DutySpeed? SpeedTold =>
        Speed is { } speed && Rules.Speeds.Count > 0 && speed != Rules.Own.Speed ? speed : null;

    private IReadOnlyList<AlterationId> BridgedTold =>
        [.. Rules.Alterations.Select(a => a.Id).Where(a => Bridged.Contains(a.Text))];

    private IReadOnlyList<AlsoTold> AlsoTold =>
        [
            .. Rules
                .Others.Where(s => Also.GetValueOrDefault(s.Duty.Id.Text) is "works" or "fails")
                .Select(s => new AlsoTold(s.Duty.Id, Also[s.Duty.Id.Text] == "works")),
        ];

    private IReadOnlyList<CureTried> CuresTold =>
        [
            .. Renewed
                .Zip(Did)
                .Where(c => !string.IsNullOrEmpty(c.First) && Enum.IsDefined(c.Second))
                .Select(c => new CureTried(RepairId.Of(c.First!), c.Second)),
        ];

    /// <summary>Positions of the controls as told; null when they are the duty's own.</summary>
    private NamedSetting? SettingTold
    {
        get
        {
            var own = Open.Circuit.Setting(Rules.Own.Setting).Named(Open.Machine);
            var told = new NamedSetting(
                own.Select(o =>
                    KeyValuePair.Create(
                        o.Key,
                        Stood.TryGetValue(o.Key.Text, out var position) ? new PositionId(position) : o.Value
                    )
                )
            );
            return told.Equals(own) ? null : told;
        }
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
            || years > ComplaintRules.MostYears
        )
        {
            Error =
                $"Age of the wiring: “{Shown(Years)}” is not an age; type years from 0 to {ComplaintRules.MostYears}.";
            return null;
        }

        bool Ticked(string name) => Life.Contains(name, StringComparer.Ordinal);
        return new Circumstances(
            years,
            Ticked(nameof(Circumstances.Salt)),
            Ticked(nameof(Circumstances.Damp)),
            Ticked(nameof(Circumstances.Vibration)),
            Ticked(nameof(Circumstances.Rodents)),
            Ticked(nameof(Circumstances.RecentWork)),
            Ticked(nameof(Circumstances.Stored)),
            Ticked(nameof(Circumstances.NewWiring))
        );
    }

    /// <summary>Lamps answered on the form, and those told before in settings that the form does not ask for now.</summary>
    private IEnumerable<LampSeen> Seen()
    {
        var asked = new List<(NamedSetting Setting, DutySpeed Speed)>();
        foreach (var (row, (condition, lamps)) in Rules.LampRows().Index())
        {
            var setting = condition.Setting.Named(Open.Machine);
            asked.Add((setting, condition.Speed));
            foreach (var lamp in lamps)
            {
                if (
                    Lamps.TryGetValue(LampKey(lamp.Id, row), out var said)
                    && Enum.TryParse<LampLook>(said, out var look)
                    && look != LampLook.NotSeen
                    && Enum.IsDefined(look)
                )
                {
                    yield return new LampSeen(lamp.Id, setting, condition.Speed, look);
                }
            }
        }

        foreach (var before in Open.State.Complaint!.Lamps.Where(l => !asked.Contains((l.Setting, l.Speed))))
        {
            yield return before;
        }
    }

    private bool Count(string? typed, string what, out int count)
    {
        if (int.TryParse((typed ?? "").Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out count))
        {
            return true;
        }

        Error = $"{what}: “{Shown(typed)}” is not a count; type a whole number up to {ComplaintRules.MostTries}.";
        return false;
    }

    private static string Shown(string? typed) =>
        typed is null ? ""
        : typed.Length > 40 ? typed[..40] + "…"
        : typed;
}
