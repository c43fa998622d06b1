using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// An igniter for battery ignition: fed and triggered by its pickup, it lets current through a coil to ground and cuts it off
/// at the instant of the spark. Stops by losing its feed.
/// </summary>
internal sealed class Igniter(Part part, PartFigures figures) : Device, INamedDevice, IIgnition, IHidesInside
{
    private const int Conducting = 1;
    private const double OnOhms = 0.15;

    public static DeviceKind Kind { get; } =
        new(
            "igniter",
            ["+", "coil", "pickup+", "pickup-", "case"],
            "\"+\", \"coil\", \"pickup+\", \"pickup-\" and \"case\", and \"coil2\" where it fires two",
            [
                new ValueRule("feedOhms", 5, 1000, 60),
                new ValueRule("leastFeedVolts", 3, 12, 6.5),
                new ValueRule("triggerVolts", 0.05, 20, 0.5),
            ],
            (part, figures) => new Igniter(part, figures)
        )
        {
            OptionalTerminals = ["coil2"],
        };

    private readonly List<BranchId> outputs = [];
    private Resistance feed = null!;
    private BranchId trigger;
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
        trigger = declaration.Branch(part.Element("trigger"), part.At("pickup+"), part.At("pickup-"));
        foreach (
            var coil in part.Terminals.Select(t => t.Text).Where(t => t.StartsWith("coil", StringComparison.Ordinal))
        )
        {
            outputs.Add(declaration.Branch(part.Element(coil), part.At(coil), part.At("case")));
        }

        works = declaration.Parameter(part.Element(), "works", 1, Spread.None);
        dwelling = declaration.State(part.Element());
        fed = declaration.Memory(0);
        triggered = declaration.Memory(0);
        nodes = (declaration.Node(part.At("coil")), declaration.Node(part.At("case")));
    }

    public override void Stamp(CircuitState state)
    {
        const double TriggerInputOhms = 4700;
        feed.Stamp(state);
        state.SetOhms(trigger, TriggerInputOhms);
        foreach (var output in outputs)
        {
            state.SetOhms(output, state[dwelling] == Conducting ? OnOhms : double.PositiveInfinity);
        }
    }

    public override Change Step(CircuitState state)
    {
        // Once it dwells it keeps on for the moment: its own current must not talk it out of it.
        var dwells =
            state.Moment == Moment.Positive
            && (state[dwelling] == Conducting || (state[works] > 0 && Fed(state) && Triggered(state)));
        return dwells == (state[dwelling] == Conducting)
            ? Change.None
            : Change.Switch(dwelling, dwells ? Conducting : 0, 0);
    }

    public void Observe(CircuitState state)
    {
        if (state.Moment == Moment.Positive)
        {
            state[fed] = feed.Drive(state);
            state[triggered] = Math.Abs(state.Across(trigger));
        }
    }

    public override string? WhyNot(CircuitState state) =>
        state[works] == 0 ? $"{part.Name} does nothing"
        : state[fed] < figures["leastFeedVolts"] ? $"{part.Name}: {state[fed]:0.0} V at its feed"
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

    private bool Fed(CircuitState state) => feed.Drive(state) >= figures["leastFeedVolts"];

    private bool Triggered(CircuitState state) => Math.Abs(state.Across(trigger)) >= figures["triggerVolts"];
}
