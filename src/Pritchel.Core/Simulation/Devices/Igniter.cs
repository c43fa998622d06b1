using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// An igniter for battery ignition: fed and triggered by its pickup, it lets current through a coil to ground and cuts it off
/// at the instant of the spark. Stops by losing its feed, or by what its switch inputs say (<see cref="IgniterInputs"/>).
/// Turning and allowed to spark it may ground a pump relay's coil, and a tachometer's lead with each dwell.
/// </summary>
internal sealed class Igniter(Part part, PartFigures figures) : Device, INamedDevice, IIgnition, IHidesInside
{
    private const int Conducting = 1;
    private const string Tach = "tach";
    private const string Pump = "pump";
    private const double OnOhms = 0.15;

    public static DeviceKind Kind { get; } =
        new(
            "igniter",
            ["+", "coil", "pickup+", "pickup-", "case"],
            "\"+\", \"coil\", \"pickup+\", \"pickup-\" and \"case\", and of \"coil2\", \"tach\", \"pump\", \"stand\", \"neutral\" and \"interrupt\" those it has",
            [
                new ValueRule("feedOhms", 5, 1000, 60),
                new ValueRule("leastFeedVolts", 3, 12, 6.5) { Differs = 0.2 },
                new ValueRule("triggerVolts", 0.05, 20, 0.5),
            ],
            (part, figures) => new Igniter(part, figures)
        )
        {
            OptionalTerminals = ["coil2", Tach, Pump, .. IgniterInputs.Terminals],
        };

    private readonly List<BranchId> outputs = [];
    private Resistance feed = null!;
    private IgniterInputs inputs = null!;
    private BranchId? pump;
    private int engine;
    private StateId pumping;
    private TriggerInput trigger = null!;
    private ParameterId works;
    private StateId dwelling;
    private MemoryId fed;
    private MemoryId triggered;
    private (int, int) nodes;

    public override bool IsActive => true;

    public override bool IsFast => true;

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        feed = new Resistance(declaration, part, "feedOhms", "+", "case", figures["feedOhms"], Spread.Winding);
        trigger = new TriggerInput(declaration, part, "trigger", "pickup+", "pickup-");
        engine = declaration.Engine(part);
        inputs = new IgniterInputs(declaration, part);
        foreach (var output in part.Terminals.Select(t => t.Text).Where(t => t is "coil" or "coil2" or Tach))
        {
            outputs.Add(declaration.Branch(part.Element(output), part.At(output), part.At("case")));
        }

        if (part.Terminals.Contains(new TerminalId(Pump)))
        {
            pump = declaration.Branch(part.Element(Pump), part.At(Pump), part.At("case"));
        }

        pumping = declaration.State(part.Element("pumping"));
        works = declaration.Parameter(part.Element(), "works", 1, Spread.None);
        dwelling = declaration.State(part.Element());
        fed = declaration.Memory(0);
        triggered = declaration.Memory(0);
        nodes = (declaration.Node(part.At("coil")), declaration.Node(part.At("case")));
    }

    public override void Stamp(CircuitState state)
    {
        feed.Stamp(state);
        inputs.Stamp(state);
        trigger.Stamp(state);
        if (pump is { } driver)
        {
            state.SetOhms(driver, state[pumping] == Conducting ? OnOhms : double.PositiveInfinity);
        }

        foreach (var output in outputs)
        {
            state.SetOhms(output, state[dwelling] == Conducting ? OnOhms : double.PositiveInfinity);
        }
    }

    public override Change Step(CircuitState state)
    {
        var pumps = pump is not null && state.Rpm(engine) > 0 && MayRun(state);
        if (pumps != (state[pumping] == Conducting))
        {
            return Change.Switch(pumping, pumps ? Conducting : 0, 0);
        }

        // Once it dwells it keeps on for the moment: its own current must not talk it out of it.
        var dwells =
            state.Moment == Moment.Positive && (state[dwelling] == Conducting || (MayRun(state) && Triggered(state)));
        return dwells == (state[dwelling] == Conducting)
            ? Change.None
            : Change.Switch(dwelling, dwells ? Conducting : 0, 0);
    }

    public void Observe(CircuitState state)
    {
        if (state.Moment == Moment.Positive)
        {
            state[fed] = feed.Drive(state);
            state[triggered] = Math.Abs(trigger.Across(state));
        }
    }

    public override string? WhyNot(CircuitState state) =>
        state[works] == 0 ? $"{part.Name} does nothing"
        : state[fed] < figures["leastFeedVolts"] ? $"{part.Name}: {state[fed]:0.0} V at its feed"
        : inputs.Forbids(state) is { } why ? why
        : state[triggered] < figures["triggerVolts"]
            ? $"{part.Name}: pickup gives {state[triggered]:0.00} V of {figures["triggerVolts"]:0.0} needed"
        : null;

    public override IEnumerable<Fault> Faults() =>
        [
            PartFault.Of(
                part,
                "dead",
                FaultKind.Open,
                "does nothing",
                3,
                nodes,
                new ParameterChange(works, ChangeRule.Set, 0)
            ) with
            {
                ComesAndGoes = true,
            },
            feed.Gone("feed-open", "feed input open", 0.7),
        ];

    private bool MayRun(CircuitState state) => state[works] > 0 && Fed(state) && inputs.Forbids(state) is null;

    private bool Fed(CircuitState state) => feed.Drive(state) >= figures["leastFeedVolts"];

    private bool Triggered(CircuitState state) => Math.Abs(trigger.Across(state)) >= figures["triggerVolts"];
}
