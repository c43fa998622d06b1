using System.Globalization;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>What a relay and a solenoid that closes contacts share: coil ohms, then contacts let go and pulled in.</summary>
public abstract class CoilAndContacts : PartSheet
{
    /// <inheritdoc/>
    public override string Before =>
        "Off its base or its cables. Feed its coil from a charged battery through a fused lead; the contact posts stay free.";

    /// <inheritdoc/>
    public override string Caution =>
        "A fused lead on the coil; nothing on the heavy posts. Seconds only where it grows warm.";

    /// <inheritdoc/>
    public override bool IsCopper(SheetReading reading) => reading.Id == "coil";

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "A contact that reads well at a milliamp may lose volts at its own current: read millivolts across it on the machine, working. A coil that pulls in at a full battery may not while the engine is cranked.";

    /// <inheritdoc/>
    public override IReadOnlyList<SheetLook> Looks =>
        [
            new("browned", "melted or browned case", FaultKind.HighResistance, FaultKind.Open),
            new("blades", "green or loose blades", FaultKind.HighResistance),
            new("silent", "no click heard or felt when its coil is fed", FaultKind.Open),
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        ["Relay coils 50 to 120 ohm, solenoid coils 3 to 6 ohm, pull-in by 7 to 8 V: common practice, no source."];

    /// <summary>The coil's terminals, plus first.</summary>
    protected abstract (string Plus, string Minus) Coil { get; }

    /// <summary>Contacts: two terminals, and whether they are joined at rest.</summary>
    protected abstract IReadOnlyList<(string From, string To)> Contacts { get; }

    /// <inheritdoc/>
    public override Machine Rig(TestedPart tested) =>
        new BenchMachine(tested).Feed(tested.Part, Coil.Plus, Coil.Minus).Build();

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested) =>
        [
            new(
                "coil",
                $"Ohms of the coil, {Coil.Plus} to {Coil.Minus}",
                DeadOhms.Instance,
                At(tested, Coil.Plus),
                At(tested, Coil.Minus)
            )
            {
                How = "its feed off",
            },
            .. Contacts.Select(c => Contact(tested, c, fed: false)),
            .. Contacts.Select(c => Contact(tested, c, fed: true)),
            new(
                "pull-in",
                "Volts on the coil as it pulls in, raised slowly",
                DirectVolts.Instance,
                Plus(tested),
                Minus(tested)
            )
            {
                How = "from a supply that can be turned up, or a lamp in line and taken out; leave it out without one",
                IsNoted = true,
            },
            new(
                "let-go",
                "Volts on the coil as it lets go, lowered slowly",
                DirectVolts.Instance,
                Plus(tested),
                Minus(tested)
            )
            {
                How = "as before, turned down",
                IsNoted = true,
            },
            .. Noted(tested),
        ];

    /// <summary>What else is noted of it for what is worked out.</summary>
    protected virtual IEnumerable<SheetReading> Noted(TestedPart tested) => [];

    /// <summary>The coil's terminal that is fed.</summary>
    protected TerminalAddress Plus(TestedPart tested) => At(tested, Coil.Plus);

    /// <summary>The coil's other terminal.</summary>
    protected TerminalAddress Minus(TestedPart tested) => At(tested, Coil.Minus);

    /// <inheritdoc/>
    public override IEnumerable<ArithmeticLine> Arithmetic(
        TestedPart tested,
        IReadOnlyDictionary<string, double> read,
        double celsius
    )
    {
        if (Finite(read, "pull-in") is { } pullIn)
        {
            yield return new(
                $"pulls in at {Said(pullIn)} V, against the {Said(CrankedVolts)} V that its wires may leave while cranking",
                pullIn <= CrankedVolts ? "enough to spare" : "too high: it chatters when the battery is low"
            );
        }

        if (Finite(read, "let-go") is { } letGo)
        {
            yield return new(
                $"lets go at {Said(letGo)} V",
                letGo is > LeastLetGo and < CrankedVolts ? "usual" : "unusual: it sticks, or drops out when cranking"
            );
        }

        foreach (var line in Besides(read))
        {
            yield return line;
        }
    }

    /// <summary>What is worked out from what else is noted of it.</summary>
    protected virtual IEnumerable<ArithmeticLine> Besides(IReadOnlyDictionary<string, double> read) => [];

    /// <summary>A figure that was read; null where none was, or it was OL.</summary>
    protected static double? Finite(IReadOnlyDictionary<string, double> read, string id) =>
        read.TryGetValue(id, out var figure) && double.IsFinite(figure) ? figure : null;

    /// <summary>Volts, to a hundredth.</summary>
    protected static string Said(double volts) => volts.ToString("0.##", CultureInfo.InvariantCulture);

    // What a coil is left with while a battery is cranked, and what a coil that is not sticking has let go above: common practice, no source.
    private const double CrankedVolts = 8;
    private const double LeastLetGo = 0.5;

    private static SheetReading Contact(TestedPart tested, (string From, string To) contact, bool fed) =>
        new(
            $"{(fed ? "fed" : "rest")}-{contact.From}-{contact.To}",
            $"Ohms, {contact.From} to {contact.To}, {(fed ? "coil fed" : "coil not fed")}",
            DeadOhms.Instance,
            At(tested, contact.From),
            At(tested, contact.To)
        )
        {
            How = fed ? "feed the coil, click it three times, keep the worst" : "",
            Setting = new Dictionary<ControlId, PositionId> { [BenchMachine.Fed] = new(fed ? "fed" : "off") },
        };
}

/// <summary>A plug-in relay, numbered after DIN 72552.</summary>
public sealed class PlugInRelay : CoilAndContacts
{
    /// <inheritdoc/>
    public override string Key => "relay";

    /// <inheritdoc/>
    public override string Name => "Plug-in relay";

    /// <inheritdoc/>
    protected override (string Plus, string Minus) Coil => ("86", "85");

    /// <inheritdoc/>
    protected override IReadOnlyList<(string From, string To)> Contacts => [("30", "87"), ("30", "87a")];

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => kind.Terminals.SequenceEqual(["85", "86", "30", "87", "87a"]);

    /// <inheritdoc/>
    protected override IEnumerable<SheetReading> Noted(TestedPart tested) =>
        [
            new("diode-86-85", "Diode range, red on 86, black on 85", DiodeVolts.Instance, Plus(tested), Minus(tested))
            {
                How =
                    "a plain coil reads next to nothing both ways; one with a diode half a volt one way only, less where the coil is low",
                IsNoted = true,
            },
            new("diode-85-86", "Diode range, red on 85, black on 86", DiodeVolts.Instance, Minus(tested), Plus(tested))
            {
                How = "the other way round",
                IsNoted = true,
            },
        ];

    /// <inheritdoc/>
    protected override IEnumerable<ArithmeticLine> Besides(IReadOnlyDictionary<string, double> read)
    {
        // A meter's milliamp through the coil alone is less than this; a diode beside it takes over at half a volt.
        const double Unlike = 0.1;
        if (read.TryGetValue("diode-86-85", out var forth) && read.TryGetValue("diode-85-86", out var back))
        {
            var (a, b) = (double.IsFinite(forth) ? forth : OverRange, double.IsFinite(back) ? back : OverRange);
            yield return new(
                "the coil both ways on the diode range",
                Math.Abs(a - b) < Unlike ? "alike: a resistor or nothing across it; either way round"
                    : a > b ? "a diode across it, its bar at 86: 86 is plus, 85 is minus"
                    : "a diode across it, its bar at 85: 85 is plus, 86 is minus, the other way round than usual"
            );
        }
    }

    // What an open diode range stands for here, in volts: more than any junction.
    private const double OverRange = 3;
}

/// <summary>A start relay or remote solenoid with one winding.</summary>
public sealed class RemoteSolenoid : CoilAndContacts
{
    /// <inheritdoc/>
    public override string Key => "start-solenoid";

    /// <inheritdoc/>
    public override string Name => "Start relay or remote solenoid";

    /// <inheritdoc/>
    protected override (string Plus, string Minus) Coil => ("S", "case");

    /// <inheritdoc/>
    protected override IReadOnlyList<(string From, string To)> Contacts => [("B", "M")];

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) =>
        kind.Terminals.SequenceEqual(["B", "M", "S", "case"]) && kind.Values.Any(v => v.Name == "coilOhms");

    /// <inheritdoc/>
    protected override IEnumerable<SheetReading> Noted(TestedPart tested) =>
        [
            new(
                "mount",
                "On its machine: volts from its body to battery −, START held",
                DirectVolts.Instance,
                Minus(tested),
                TerminalAddress.Of(BenchMachine.SupplyMinus)
            )
            {
                How = "before it is unbolted; black on the battery's post itself",
                Caution =
                    "START turns the engine: neutral, blades off, plug leads off and clipped to ground, hands clear.",
                IsNoted = true,
            },
        ];

    /// <inheritdoc/>
    protected override IEnumerable<ArithmeticLine> Besides(IReadOnlyDictionary<string, double> read)
    {
        // Common practice, no source.
        const double MostOverMount = 0.2;
        if (Finite(read, "mount") is { } mount)
        {
            yield return new(
                $"{Said(mount)} V from its body to battery −, START held",
                mount > MostOverMount
                    ? "its mounting is its ground and is bad: clean that, then click the old one on the bench with a ground lead of its own"
                    : "its mounting is sound: what fails is itself, or what feeds it"
            );
        }
    }
}
