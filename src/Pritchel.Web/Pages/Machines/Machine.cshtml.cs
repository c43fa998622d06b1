using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;
using Pritchel.Data;
using Pritchel.Web.Drawings;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Machines;

/// <summary>A machine: its circuit drawn three ways, with the controls moved, a speed and a fault as one likes.</summary>
public sealed class MachineModel(JobDesk desk, JobStore jobs, PictureStore pictures, DrawingFile drawing) : PageModel
{
    private const double FastestRpm = 20_000;
    private const string ControlPrefix = "c.";

    /// <summary>Drawing asked for: loom, switches or line.</summary>
    [BindProperty(SupportsGet = true)]
    public string? View { get; set; }

    /// <summary>Speed of the engines, in revolutions a minute, as typed.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Rpm { get; set; }

    /// <summary>Fault planted, by id.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Fault { get; set; }

    /// <summary>Terminal asked about, as an address.</summary>
    [BindProperty(SupportsGet = true)]
    public string? At { get; set; }

    /// <summary>Wire asked about, by id.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Wire { get; set; }

    /// <summary>Line asked for: a part it runs through, or "kill:" and a coil.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Line { get; set; }

    /// <summary>Name and version.</summary>
    public MachineVersion Entry { get; private set; } = null!;

    /// <summary>The machine.</summary>
    public Machine Machine { get; private set; } = null!;

    /// <summary>The sound machine's circuit.</summary>
    public Circuit Circuit { get; private set; } = null!;

    /// <summary>Positions of the controls.</summary>
    public ControlSetting Setting { get; private set; } = null!;

    /// <summary>The circuit solved as asked.</summary>
    public CircuitState State { get; private set; } = null!;

    /// <summary>What the machine does.</summary>
    public Outcome Outcome { get; private set; } = null!;

    /// <summary>Speed asked for of each engine, in revolutions a minute.</summary>
    public IReadOnlyDictionary<EngineId, double> Speeds { get; private set; } = new Dictionary<EngineId, double>();

    /// <summary>Fault planted, or null.</summary>
    public Fault? Planted { get; private set; }

    /// <summary>Wire asked about, or null.</summary>
    public Wire? Chosen { get; private set; }

    /// <summary>What was asked for and cannot be.</summary>
    public List<string> Problems { get; } = [];

    /// <summary>Pictures of this machine.</summary>
    public IReadOnlyList<PictureRow> Pictures { get; private set; } = [];

    /// <summary>Jobs on this machine.</summary>
    public IReadOnlyList<Job> Jobs { get; private set; } = [];

    /// <summary>Shows the machine.</summary>
    public async Task<IActionResult> OnGetAsync(string id)
    {
        if (await desk.MachineAsync(id, HttpContext.RequestAborted) is not { } found)
        {
            return NotFound();
        }

        (Entry, Circuit, Machine) = (found, found.Circuit, found.Machine);
        View = View is "switches" or "line" ? View : "loom";
        Setting = Circuit.Setting(Asked());
        Speeds = SpeedsAsked();
        Planted = Circuit.Faults.FirstOrDefault(f => f.Id.Text == Fault);
        if (Planted is null && !string.IsNullOrEmpty(Fault))
        {
            Problems.Add("Fault: no such fault on this machine; choose one from the list.");
        }

        Chosen = Machine.Index.Wire(new WireId(Wire ?? ""));
        Solve();
        if (View == "line" && !Lines.Any())
        {
            View = "loom";
            Problems.Add("Line: nothing here is fed by a battery or killed by a wire yet; this is the loom.");
        }

        Pictures = await pictures.ListAsync(id, HttpContext.RequestAborted);
        Jobs = await jobs.OfMachineAsync(id, HttpContext.RequestAborted);
        ViewData["Area"] = "Machines";
        return Page();
    }

    /// <summary>The drawing shown, as an SVG file.</summary>
    public async Task<IActionResult> OnGetDrawingAsync(string id)
    {
        if (await OnGetAsync(id) is not PageResult)
        {
            return NotFound();
        }

        var (partial, model) = View switch
        {
            "switches" => ("_Switches", (object)this),
            "line" => ("_MachineLine", this),
            _ => ("_Loom", LoomView.Of(this)),
        };
        var svg = await drawing.OfAsync(
            this,
            $"/Pages/Machines/{partial}.cshtml",
            model,
            $"{Machine.Name}, version {Entry.Version}: {Setting.AllWords(Machine)}"
        );
        return File(System.Text.Encoding.UTF8.GetBytes(svg), "image/svg+xml", $"{id}-{View}.svg");
    }

    /// <summary>What stands at each node.</summary>
    public StandingVolts Standing { get; private set; } = null!;

    /// <summary>This page's address with some of what is asked changed; null takes a key out.</summary>
    public string With(params (string Key, string? Value)[] changes)
    {
        var query = Request.Query.ToDictionary(q => q.Key, q => (string?)q.Value.ToString(), StringComparer.Ordinal);
        foreach (var (key, value) in changes)
        {
            query[key] = value;
        }

        return $"/machines/{Entry.Id}"
            + QueryString.Create(
                query.Where(q => !string.IsNullOrEmpty(q.Value)).OrderBy(q => q.Key, StringComparer.Ordinal)
            );
    }

    /// <summary>Speeds to offer of an engine, with what each is; the one it has stands among them.</summary>
    public IEnumerable<(double Rpm, string Words)> Offered(Engine engine)
    {
        List<(double Rpm, string Words)> speeds =
        [
            (0, "at rest"),
            (engine.CrankRpm, $"cranking {engine.CrankRpm:0} rpm"),
            (engine.IdleRpm, $"idle {engine.IdleRpm:0} rpm"),
            (engine.WorkRpm, $"work {engine.WorkRpm:0} rpm"),
        ];
        var now = Speeds[engine.Id];
        return speeds.Exists(s => Math.Abs(s.Rpm - now) < 0.5) ? speeds : speeds.Append((now, $"{now:0} rpm"));
    }

    /// <summary>How fast the engines turn, in words.</summary>
    public string SpeedWords =>
        Speeds.Values.All(s => s <= 0) ? "engine at rest"
        : Circuit.Engines.Count == 1 ? $"{Speeds.Values.First():0} rpm"
        : string.Join(
            ", ",
            Circuit.Engines.Select(e => $"{e.Name} {(Speeds[e.Id] > 0 ? $"{Speeds[e.Id]:0} rpm" : "at rest")}")
        );

    /// <summary>Field of an engine's speed: one for all where there is but one.</summary>
    public string SpeedField(Engine engine) => Circuit.Engines.Count == 1 ? "rpm" : SpeedPrefix + engine.Id;

    private const string SpeedPrefix = "rpm.";

    /// <summary>Lines to offer: through what takes current now, and of every kill lead.</summary>
    public IEnumerable<(string Value, string Words)> Lines =>
        Circuit
            .Kills.Select(k => (KillPrefix + k.Part.Id, "kill of the " + k.Part.Name))
            .Concat(
                Machine.Parts.Any(p => PartKinds.IsBattery(p.Kind))
                    ? Machine.Parts.Where(ShowsItself).Select(p => (p.Id.Text, "through the " + p.Name))
                    : []
            );

    /// <summary>
    /// The line asked for, laid out in the present setting; unless one is, that of the first duty, or else the first
    /// that carries current now.
    /// </summary>
    public LinePath LaidOut()
    {
        if (Lines.Any(l => l.Value == Line))
        {
            return LaidOut(Line!);
        }

        var usual = Machine.Duties.Take(1).Select(d => d.Load.Text).Concat(Lines.Select(l => l.Value)).ToList();
        Line =
            usual.Find(l => LaidOut(l) is { Pieces: [.., var last] } && (IsKill(l) || last.To == Circuit.Reference))
            ?? usual[0];
        return LaidOut(Line);
    }

    private const string KillPrefix = "kill:";

    private static bool IsKill(string line) => line.StartsWith(KillPrefix, StringComparison.Ordinal);

    private LinePath LaidOut(string line)
    {
        if (!IsKill(line))
        {
            return LinePath.Through(Circuit, Setting, new PartId(line));
        }

        var (coil, kill, ground) = Circuit.Kills.First(k => KillPrefix + k.Part.Id == line);
        return LinePath.Between(State, coil.Id, kill, ground);
    }

    /// <summary>Whether a part shows by itself that current works in it.</summary>
    private bool ShowsItself(Part part) =>
        Circuit.HasDevice(part.Id)
        && Circuit.DeviceOf(part.Id).Effect(State).Kind is not (EffectKind.None or EffectKind.Charges);

    private Dictionary<ControlId, PositionId> Asked()
    {
        var asked = new Dictionary<ControlId, PositionId>();
        foreach (var control in Machine.Controls)
        {
            var wanted = Request.Query[ControlPrefix + control.Id].ToString();
            if (control.Positions.Contains(new PositionId(wanted)))
            {
                asked[control.Id] = new PositionId(wanted);
            }
            else if (wanted.Length > 0)
            {
                Problems.Add($"{control.Name}: allowed {string.Join(", ", control.Positions)}.");
            }
        }

        return asked;
    }

    /// <summary>Speed of each engine: its own where it is asked for, or else that asked for of all.</summary>
    private Dictionary<EngineId, double> SpeedsAsked()
    {
        var all = SpeedAsked("Speed", Rpm);
        return Circuit.Engines.ToDictionary(
            e => e.Id,
            e =>
                Request.Query[SpeedPrefix + e.Id].ToString() is { Length: > 0 } own
                    ? SpeedAsked($"Speed of the {e.Name}", own)
                    : all
        );
    }

    private double SpeedAsked(string field, string? asked)
    {
        if (string.IsNullOrWhiteSpace(asked))
        {
            return 0;
        }

        if (
            double.TryParse(asked, NumberStyles.Float, CultureInfo.InvariantCulture, out var rpm)
            && rpm is >= 0 and <= FastestRpm
        )
        {
            return rpm;
        }

        Problems.Add($"{field}: allowed 0 to {FastestRpm} rpm.");
        return 0;
    }

    private void Solve()
    {
        const double Middling = 0.5;
        var @case = new Case
        {
            Circuit = Circuit,
            Settings = [Circuit.Setting(null), Setting],
            Speeds = Circuit.Engines.ToDictionary(e => e.Id, e => new Rpm(Speeds[e.Id])),
            Faults = Planted is null ? [] : [new PlantedFault(Planted, Middling)],
        };
        State = new CircuitState(@case.Wired);
        var settlement = State.FollowStarters(@case.Settle(State));
        Outcome = Outcome.Of(State, settlement);
        Standing = new StandingVolts(State);
    }
}
