using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// What capacitor-discharge units share: a capacitor with some volts in it, a trigger, and its discharge into the coil at the
/// instant of the spark.
/// </summary>
internal abstract class CapacitorDischarge(Part part, PartFigures figures) : Device, IIgnition, IHidesInside
{
    // What the unit's thyristor and capacitor put in the way, from memory.
    private const double DischargeOhms = 0.02;

    private readonly List<Channel> channels = [];
    private ParameterId works;
    private MemoryId stored;
    private (int, int) coilNodes;

    private protected Part Part => part;

    private protected PartFigures Figures => figures;

    /// <summary>Terminal that the pickup's other lead is on.</summary>
    private protected abstract string TriggerReturn { get; }

    public override bool IsActive => true;

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        foreach (var channel in (string[])["", "2"])
        {
            if (part.Terminals.Contains(new TerminalId("coil" + channel)))
            {
                channels.Add(
                    new Channel(
                        declaration.Source(
                            part.Element("output" + channel),
                            part.At("coil" + channel),
                            part.At("case")
                        ),
                        new TriggerInput(declaration, part, "trigger" + channel, "pickup" + channel, TriggerReturn),
                        declaration.Memory(0)
                    )
                );
            }
        }

        works = declaration.Parameter(part.Element(), "works", 1, Spread.None);
        stored = declaration.Memory(0);
        coilNodes = (declaration.Node(part.At("coil")), declaration.Node(part.At("case")));
    }

    public override void Stamp(CircuitState state)
    {
        foreach (var channel in channels)
        {
            channel.Trigger.Stamp(state);
            var fires = state.Moment == Moment.Firing && Fires(state, channel);
            state.SetSource(channel.Output, fires ? state[stored] : 0, fires ? DischargeOhms : double.PositiveInfinity);
        }
    }

    public void Observe(CircuitState state)
    {
        switch (state.Moment)
        {
            case Moment.Positive:
                state[stored] = Charge(state);
                foreach (var channel in channels)
                {
                    state[channel.Triggered] = Math.Abs(channel.Trigger.Across(state));
                }

                break;
            case Moment.Negative:
                state[stored] = Math.Max(state[stored], Charge(state));
                foreach (var channel in channels)
                {
                    state[channel.Triggered] = Math.Max(
                        state[channel.Triggered],
                        Math.Abs(channel.Trigger.Across(state))
                    );
                }

                break;
            default:
                break;
        }
    }

    public override string? WhyNot(CircuitState state) =>
        state[works] == 0 ? $"{part.Name} does nothing"
        : state[stored] < Figures["leastVolts"] ? NotCharged(state[stored])
        : channels.Min(c => state[c.Triggered]) is var least && least < Figures["triggerVolts"]
            ? $"{part.Name}: {(channels.Count > 1 ? "a pickup" : "pickup")} gives {least:0.00} V of {Figures["triggerVolts"]:0.0} needed"
        : null;

    public override IEnumerable<Fault> Faults() =>
        [
            PartFault.Of(
                part,
                "dead",
                FaultKind.Open,
                "does nothing",
                4,
                coilNodes,
                new ParameterChange(works, ChangeRule.Set, 0)
            ) with
            {
                ComesAndGoes = true,
            },
        ];

    /// <summary>Volts in the capacitor by what the unit sees now.</summary>
    private protected abstract double Charge(CircuitState state);

    private protected abstract string NotCharged(double volts);

    private bool Fires(CircuitState state, Channel channel) =>
        state[works] > 0
        && state[stored] >= Figures["leastVolts"]
        && state[channel.Triggered] >= Figures["triggerVolts"];

    /// <summary>One coil that it fires, and the pickup that says when.</summary>
    private sealed record Channel(SourceId Output, TriggerInput Trigger, MemoryId Triggered);
}

/// <summary>
/// A capacitor-discharge unit charged by its own exciter winding; it runs with a dead battery. Its kill terminal is its
/// exciter input behind a diode: grounded, it takes the charge away.
/// </summary>
internal sealed class ExciterCdi(Part part, PartFigures figures)
    : CapacitorDischarge(part, figures),
        INamedDevice,
        IKillable
{
    public static DeviceKind Kind { get; } =
        new(
            "cdi-exciter-fed",
            ["exciter", "pickup", "kill", "coil", "case"],
            "\"exciter\", \"pickup\", \"kill\", \"coil\" and \"case\", and \"pickup2\" with \"coil2\" where it fires two",
            [
                // From memory: under some 80 V in the capacitor no spark.
                new ValueRule("leastVolts", 5, 400, 80),
                new ValueRule("mostVolts", 50, 600, 280),
                new ValueRule("triggerVolts", 0.05, 20, 0.5),
            ],
            (part, figures) => new ExciterCdi(part, figures)
        )
        {
            OptionalTerminals = ["pickup2", "coil2"],
        };

    // What a suppressor lets through above its volts, from memory.
    private const double ClampOhms = 50;

    private Resistance input = null!;
    private DiodeArm toKill = null!;
    private DiodeArm[] clamps = [];

    private protected override string TriggerReturn => "case";

    public override bool IsFast => true;

    public override void Declare(Declaration declaration)
    {
        base.Declare(declaration);
        input = new Resistance(declaration, Part, "inputOhms", "exciter", "case", 47_000, Spread.None);
        toKill = new DiodeArm(declaration, Part, "kill", "exciter", "kill", DiodeArm.SiliconVolts, 0.5);

        // Past what its capacitor is charged to, the unit holds its exciter: the winding alone would give four times that
        // at speed.
        var most = Figures["mostVolts"];
        clamps =
        [
            new DiodeArm(declaration, Part, "clamp-up", "exciter", "case", most, ClampOhms),
            new DiodeArm(declaration, Part, "clamp-down", "case", "exciter", most, ClampOhms),
        ];
    }

    public override void Stamp(CircuitState state)
    {
        base.Stamp(state);
        input.Stamp(state);
        toKill.Stamp(state);
        foreach (var clamp in clamps)
        {
            clamp.Stamp(state);
        }
    }

    public override Change Step(CircuitState state)
    {
        var change = toKill.Step(state);
        foreach (var clamp in clamps)
        {
            change = change.Switches ? change : clamp.Step(state);
        }

        return change;
    }

    public KillTerminal Terminal(Circuit circuit) =>
        new(circuit.NodeOf(Part.At("kill")), circuit.NodeOf(Part.At("case")), toKill.Open("", 0));

    private protected override double Charge(CircuitState state) =>
        Math.Clamp(state.Across(input.Branch), 0, Figures["mostVolts"]);

    private protected override string NotCharged(double volts) =>
        $"{Part.Name}: exciter gives {volts:0} V of {Figures["leastVolts"]:0} needed";

    public override IEnumerable<Fault> Faults() =>
        [
            .. base.Faults(),
            toKill.Shorted("kill diode shorted", 0.5),
            toKill.Open("kill diode open: kill does nothing", 0.7),
        ];
}

/// <summary>
/// A capacitor-discharge unit with an inverter fed from the battery. Its kill terminal, where it has one, is read as a logic
/// input: grounded, it does not fire; otherwise it stops by losing its feed.
/// </summary>
internal sealed class BatteryCdi(Part part, PartFigures figures) : CapacitorDischarge(part, figures), INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "cdi-battery-fed",
            ["+", "pickup", "pickup-", "coil", "case"],
            "\"+\", \"pickup\", \"pickup-\", \"coil\" and \"case\", and \"kill\" where it has one",
            [
                new ValueRule("feedOhms", 2, 1000, 25),
                new ValueRule("leastFeedVolts", 3, 12, 7) { Differs = 0.2 },
                new ValueRule("leastVolts", 5, 400, 80),
                new ValueRule("mostVolts", 50, 600, 230),
                new ValueRule("triggerVolts", 0.05, 20, 0.4),
            ],
            (part, figures) => new BatteryCdi(part, figures)
        )
        {
            OptionalTerminals = ["kill"],
        };

    private const double KilledUnder = 1.5;
    private Resistance feed = null!;
    private Resistance? pullUp;
    private BranchId? killed;

    private protected override string TriggerReturn => "pickup-";

    public override void Declare(Declaration declaration)
    {
        base.Declare(declaration);
        feed = new Resistance(declaration, Part, "feedOhms", "+", "case", Figures["feedOhms"], Spread.Winding);
        if (Part.Terminals.Contains(new TerminalId("kill")))
        {
            pullUp = new Resistance(declaration, Part, "killPullUpOhms", "+", "kill", 1000, Spread.None);
            killed = declaration.Branch(Part.Element("kill-sense"), Part.At("kill"), Part.At("case"));
        }
    }

    public override void Stamp(CircuitState state)
    {
        const double SenseOhms = 100_000;
        base.Stamp(state);
        feed.Stamp(state);
        pullUp?.Stamp(state);
        if (killed is { } sense)
        {
            state.SetOhms(sense, SenseOhms);
        }
    }

    private protected override double Charge(CircuitState state)
    {
        var volts = feed.Drive(state);
        var stopped = killed is { } sense && state.Across(sense) < KilledUnder;
        return volts < Figures["leastFeedVolts"] || stopped ? 0 : Figures["mostVolts"] * Math.Min(1, volts / 12);
    }

    private protected override string NotCharged(double volts) =>
        $"{Part.Name}: no feed at its +, or its kill lead is grounded";

    public override IEnumerable<Fault> Faults() => [.. base.Faults(), feed.Gone("feed-open", "feed input open", 0.7)];
}
