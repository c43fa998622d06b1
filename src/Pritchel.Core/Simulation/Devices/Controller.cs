using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A fuel-injection controller: fed and turning, it grounds the pump relay's coil, fires coils and opens injectors; it sees
/// whether each is there and what its temperature sensor says, keeps codes and lights a lamp. The codes are this program's
/// own words; the maker's list comes first.
/// </summary>
internal sealed class Controller(Part part, PartFigures figures) : Device, INamedDevice, IIgnition, ICodes, IHidesInside
{
    private const int On = 1;
    private const double OnOhms = 0.2;
    private const double SenseOhms = 22_000;
    private const double ReferenceVolts = 5;
    private const double ReferenceOhms = 2200;
    private const double PresentVolts = 4;
    private const double OpenVolts = 4.4;
    private const double ShortedVolts = 0.1;
    private const int NoSignal = 1 << 20;

    public static DeviceKind Kind { get; } =
        new(
            "controller",
            ["+", "gnd", "pickup+", "pickup-"],
            "\"+\", \"gnd\", \"pickup+\" and \"pickup-\", and of \"inj1\", \"inj2\", \"coil1\", \"coil2\", \"pump\", \"lamp\" and \"temp\" those it has",
            [
                new ValueRule("feedOhms", 5, 1000, 40),
                new ValueRule("leastFeedVolts", 3, 12, 6.5) { Differs = 0.2 },
                new ValueRule("triggerVolts", 0.05, 20, 0.5),
            ],
            (part, figures) => new Controller(part, figures)
        )
        {
            OptionalTerminals = ["inj1", "inj2", "coil1", "coil2", "pump", "lamp", "temp"],
            Traits = PartTraits.IsElectronic,
        };

    private readonly List<(string Terminal, BranchId Branch)> drivers = [];
    private readonly List<(string Terminal, BranchId Branch)> senses = [];
    private Resistance feed = null!;
    private TriggerInput trigger = null!;
    private SourceId? reference;
    private ParameterId works;
    private StateId powered;
    private StateId dwelling;
    private StateId codes;
    private MemoryId triggered;
    private int engine;
    private (int, int) nodes;

    public override bool IsActive => true;

    public override bool IsFast => true;

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        engine = declaration.Engine(part);
        feed = new Resistance(declaration, part, "feedOhms", "+", "gnd", figures["feedOhms"], Spread.Winding);
        trigger = new TriggerInput(declaration, part, "trigger", "pickup+", "pickup-", 10_000);
        foreach (var terminal in part.Terminals.Select(t => t.Text).Where(Kind.OptionalTerminals.Contains))
        {
            var (at, ground) = (part.At(terminal), part.At("gnd"));
            if (terminal == "temp")
            {
                reference = declaration.Source(part.Element(terminal), at, ground);
            }
            else
            {
                drivers.Add((terminal, declaration.Branch(part.Element(terminal), at, ground)));
            }

            senses.Add((terminal, declaration.Branch(part.Element(terminal + "-sense"), at, ground)));
        }

        works = declaration.Parameter(part.Element(), "works", 1, Spread.None);
        powered = declaration.State(part.Element("powered"));
        dwelling = declaration.State(part.Element("dwelling"));
        codes = declaration.State(part.Element("codes"));
        // Not known before the first turn: no signal is not missed until then.
        triggered = declaration.Memory(double.NaN);
        nodes = (declaration.Node(part.At("+")), declaration.Node(part.At("gnd")));
    }

    public override void Stamp(CircuitState state)
    {
        feed.Stamp(state);
        trigger.Stamp(state);
        foreach (var (_, branch) in senses)
        {
            state.SetOhms(branch, SenseOhms);
        }

        foreach (var (terminal, branch) in drivers)
        {
            state.SetOhms(branch, Drives(state, terminal) ? OnOhms : double.PositiveInfinity);
        }

        if (reference is { } five)
        {
            var on = state[powered] == On;
            state.SetSource(five, on ? ReferenceVolts : 0, on ? ReferenceOhms : double.PositiveInfinity);
        }
    }

    public override Change Step(CircuitState state)
    {
        var fed = state[works] > 0 && feed.Drive(state) >= figures["leastFeedVolts"];
        if (fed != (state[powered] == On))
        {
            return Change.Switch(powered, fed ? On : 0, 0);
        }

        if (state.Moment is Moment.Still or Moment.Wave && Seen(state) is var seen && seen != state[codes])
        {
            return Change.Switch(codes, seen, 0);
        }

        var dwells =
            state.Moment == Moment.Positive
            && fed
            && (state[dwelling] == On || Trigger(state) >= figures["triggerVolts"]);
        return dwells == (state[dwelling] == On) ? Change.None : Change.Switch(dwelling, dwells ? On : 0, 0);
    }

    public void Observe(CircuitState state)
    {
        if (state.Moment == Moment.Positive)
        {
            state[triggered] = Trigger(state);
        }
    }

    public override Effect Effect(CircuitState state) => new(EffectKind.LetsRun, WhyNot(state) is null ? 1 : 0);

    public override string? WhyNot(CircuitState state) =>
        state[works] == 0 ? $"{part.Name} does nothing"
        : state[powered] != On ? $"{part.Name}: {feed.Drive(state):0.0} V at its feed"
        : state.Rpm(engine) > 0 && state[triggered] < figures["triggerVolts"]
            ? $"{part.Name}: pickup gives {state[triggered]:0.00} V of {figures["triggerVolts"]:0.0} needed"
        : Injectors().Any() && !Injectors().Any(i => Present(state, i.Branch)) ? $"{part.Name} sees no injector"
        : null;

    /// <summary>Codes by what it sees now.</summary>
    public IReadOnlyList<string> Codes(CircuitState state)
    {
        var seen = Seen(state);
        return
        [
            .. senses.Where((_, i) => (seen & (1 << i)) != 0).Select(s => CodeOf(state, s.Terminal, s.Branch)),
            .. (seen & NoSignal) != 0 ? (string[])["no crank signal"] : [],
        ];
    }

    public override IEnumerable<Fault> Faults() =>
        [
            PartFault.Of(
                part,
                "dead",
                FaultKind.Open,
                "does nothing",
                1,
                nodes,
                new ParameterChange(works, ChangeRule.Set, 0)
            ),
        ];

    private bool Drives(CircuitState state, string terminal) =>
        state[powered] == On
        && terminal switch
        {
            "pump" => state.Rpm(engine) > 0,
            "lamp" => state.Rpm(engine) <= 0 || state[codes] != 0,
            _ => state[dwelling] == On,
        };

    /// <summary>One bit for each thing sensed that is not as it should be.</summary>
    private int Seen(CircuitState state)
    {
        var seen = 0;
        for (var i = 0; state[powered] == On && i < senses.Count; i++)
        {
            var volts = state.Across(senses[i].Branch);
            var wrong = senses[i].Terminal switch
            {
                "temp" => volts is > OpenVolts or < ShortedVolts,
                "pump" or "lamp" => false,
                _ => volts < PresentVolts,
            };
            seen |= wrong ? 1 << i : 0;
        }

        return state[powered] == On && state.Rpm(engine) > 0 && state[triggered] < figures["triggerVolts"]
            ? seen | NoSignal
            : seen;
    }

    private static string CodeOf(CircuitState state, string terminal, BranchId sense) =>
        terminal switch
        {
            "temp" when state.Across(sense) > OpenVolts => "temperature sensor open",
            "temp" => "temperature sensor shorted",
            "inj1" or "inj2" => $"injector {terminal[^1]} open",
            _ => $"coil {terminal[^1]} open",
        };

    private IEnumerable<(string Terminal, BranchId Branch)> Injectors() =>
        senses.Where(s => s.Terminal.StartsWith("inj", StringComparison.Ordinal));

    private static bool Present(CircuitState state, BranchId sense) => state.Across(sense) >= PresentVolts;

    private double Trigger(CircuitState state) => Math.Abs(trigger.Across(state));
}
