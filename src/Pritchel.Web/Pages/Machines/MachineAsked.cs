using System.Globalization;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Web.Pages.Machines;

/// <summary>What an address asks of a machine: its controls, the speed of its engines, a fault, a wire.</summary>
public sealed class MachineAsked
{
    private const double FastestRpm = 20_000;
    private const string ControlPrefix = "c.";
    private const string SpeedPrefix = "rpm.";
    private const string SpeedOfAll = "rpm";

    private readonly Circuit circuit;
    private readonly List<string> problems = [];

    /// <summary>Reads an address; what cannot be is left at rest and told of in <see cref="Problems"/>.</summary>
    /// <param name="circuit">The sound machine's circuit.</param>
    /// <param name="query">The address's query.</param>
    public MachineAsked(Circuit circuit, IQueryCollection query)
    {
        this.circuit = circuit;
        Setting = circuit.Setting(Positions(query));
        Speeds = SpeedsIn(query);
        var fault = query["fault"].ToString();
        Planted = circuit.Faults.FirstOrDefault(f => f.Id.Text == fault);
        if (Planted is null && fault.Length > 0)
        {
            problems.Add("Fault: no such fault on this machine; choose one from the list.");
        }

        Wire = circuit.Machine.Index.Wire(new WireId(query["wire"].ToString()));
    }

    /// <summary>Positions of the controls.</summary>
    public ControlSetting Setting { get; }

    /// <summary>Speed of each engine.</summary>
    public IReadOnlyDictionary<EngineId, Rpm> Speeds { get; }

    /// <summary>Fault planted, or null.</summary>
    public Fault? Planted { get; }

    /// <summary>Wire asked about, or null.</summary>
    public Wire? Wire { get; }

    /// <summary>What was asked for and cannot be.</summary>
    public IReadOnlyList<string> Problems => problems;

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
        var now = Speeds[engine.Id].Value;
        return speeds.Exists(s => Math.Abs(s.Rpm - now) < 0.5) ? speeds : speeds.Append((now, $"{now:0} rpm"));
    }

    /// <summary>How fast the engines turn, in words.</summary>
    public string SpeedWords =>
        Speeds.Values.All(s => s.Value <= 0) ? "engine at rest"
        : circuit.Engines.Count == 1 ? $"{Speeds.Values.First().Value:0} rpm"
        : string.Join(
            ", ",
            circuit.Engines.Select(e =>
                $"{e.Name} {(Speeds[e.Id].Value > 0 ? $"{Speeds[e.Id].Value:0} rpm" : "at rest")}"
            )
        );

    /// <summary>Field of an engine's speed: one for all where there is but one.</summary>
    public string SpeedField(Engine engine) => circuit.Engines.Count == 1 ? SpeedOfAll : SpeedPrefix + engine.Id;

    private Dictionary<ControlId, PositionId> Positions(IQueryCollection query)
    {
        var asked = new Dictionary<ControlId, PositionId>();
        foreach (var control in circuit.Machine.Controls)
        {
            var wanted = query[ControlPrefix + control.Id].ToString();
            if (control.Positions.Contains(new PositionId(wanted)))
            {
                asked[control.Id] = new PositionId(wanted);
            }
            else if (wanted.Length > 0)
            {
                problems.Add($"{control.Name}: allowed {string.Join(", ", control.Positions)}.");
            }
        }

        return asked;
    }

    /// <summary>Speed of each engine: its own where it is asked for, or else that asked for of all.</summary>
    private Dictionary<EngineId, Rpm> SpeedsIn(IQueryCollection query)
    {
        var all = SpeedOf("Speed", query[SpeedOfAll].ToString());
        return circuit.Engines.ToDictionary(
            e => e.Id,
            e =>
                query[SpeedPrefix + e.Id].ToString() is { Length: > 0 } own
                    ? SpeedOf($"Speed of the {e.Name}", own)
                    : all
        );
    }

    private Rpm SpeedOf(string field, string asked)
    {
        if (string.IsNullOrWhiteSpace(asked))
        {
            return new Rpm(0);
        }

        if (
            double.TryParse(asked, NumberStyles.Float, CultureInfo.InvariantCulture, out var rpm)
            && rpm is >= 0 and <= FastestRpm
        )
        {
            return new Rpm(rpm);
        }

        problems.Add($"{field}: allowed 0 to {FastestRpm} rpm.");
        return new Rpm(0);
    }
}
