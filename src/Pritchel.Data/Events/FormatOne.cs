using System.Text.Json;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Proving;
using Pritchel.Core.Simulation;

namespace Pritchel.Data.Events;

/// <summary>
/// Reads events as the first format kept them: enumerations by number, lamps by the number of a condition, checks by a
/// text that was put together from words. Only for bringing old records over.
/// </summary>
/// <remarks>Numbers and texts stand here as they were then; nothing in them may follow what the program calls things now.</remarks>
internal sealed class FormatOne
{
    private const double OpenCircuit = 1e12;
    private static readonly string[] Reads =
    [
        "volts",
        "ohms",
        "spark",
        "amps",
        "diode",
        "action",
        "glow",
        "acVolts",
        "peakVolts",
        "beep",
    ];

    private readonly Machine machine;
    private readonly Lazy<Circuit> circuit;

    /// <summary>A reader of one job's events, first to last.</summary>
    /// <param name="machine">The job's machine.</param>
    public FormatOne(Machine machine)
    {
        this.machine = machine;
        circuit = new Lazy<Circuit>(() => Circuit.Compile(machine));
    }

    /// <summary>The next event of the job.</summary>
    /// <exception cref="UnreadableException">It says what cannot be.</exception>
    public JobEvent Read(JsonElement e)
    {
        string Text(string name) => e.GetProperty(name).GetString()!;
        bool Flag(string name) => e.GetProperty(name).GetBoolean();
        switch (Text("kind"))
        {
            case "complaint":
                return new ComplaintMade(ReadComplaint(e.GetProperty("complaint")));
            case "reading":
                return new ReadingTaken(
                    At(e.GetProperty("at")),
                    Text("typed"),
                    Number(e, "volts") is { } figure
                        ? (figure >= OpenCircuit ? double.PositiveInfinity : figure)
                        : null,
                    Names.Symptom.Read(e.GetProperty("symptom").GetInt32(), "present", "absent", "not-watched")
                );
            case "passed-over":
                return new TestPassedOver(
                    At(e.GetProperty("at")),
                    Optional(e, "place") is { } place ? new PlaceId(place) : null,
                    Names.PassedOver.Read(e.GetProperty("why").GetInt32(), "cannot-reach", "not-sure")
                );
            case "look":
                return new LookedAt(RepairId.Of(Text("repair")), Found(e.GetProperty("found").GetInt32()));
            case "provoked":
                return new Wiggled(
                    new PlaceId(Text("place")),
                    Optional(e, "repair") is { } alone ? RepairId.Of(alone) : null,
                    By(e.GetProperty("by").GetInt32()),
                    Flag("changed"),
                    e.GetProperty("watched") is { ValueKind: JsonValueKind.Object } watched ? At(watched) : null
                );
            case "help":
                return new HelpChanged(Flag("alone"));
            case "undo":
                return new Undone(e.GetProperty("sequence").GetInt32());
            case "verdict":
                return new VerdictTaken(
                    SuspectId.Of(Text("repairId")),
                    Text("words"),
                    e.GetProperty("share").GetDouble()
                );
            case "measure-on":
                return new MeasuredOn();
            case "prices":
                return Prices(e);
            case "lead-put":
                return new LeadPut(PointId.Of(Text("from")), PointId.Of(Text("to")), Flag("worked"));
            case "lead-off":
                return new LeadOff(Flag("failsAgain"));
            case "repair":
                return new RepairDone(Text("done"), Text("parts"), e.GetProperty("minutes").GetDouble());
            case "proof":
                return Proof(e);
            case "bypass-removed":
                return new BypassRemoved(BypassId.Of(Text("contact")));
            case "closed":
                return new JobClosed(Flag("proved"), Text("note"));
            default:
                throw new UnreadableException($"“{Text("kind")}” was never a kind of event");
        }
    }

    private Complaint ReadComplaint(JsonElement e)
    {
        var setting = e.GetProperty("setting") is { ValueKind: JsonValueKind.Object } given ? Setting(given) : null;
        var told = new Complaint
        {
            Duty = new DutyId(e.GetProperty("duty").GetString()!),
            Heard = Names.Heard.Read(
                e.GetProperty("heard").GetInt32(),
                "not-said",
                "nothing",
                "one-click",
                "chatter",
                "slow",
                "works",
                "will-not-start"
            ),
            Failed = e.GetProperty("failed").GetInt32(),
            Tried = e.GetProperty("tried").GetInt32(),
            Bridged = [.. e.GetProperty("bridged").EnumerateArray().Select(b => AlterationId.Of(b.GetString()!))],
            Setting = setting,
            Speed = e.GetProperty("speed") is { ValueKind: JsonValueKind.Number } speed
                ? Speed(speed.GetInt32())
                : null,
            Also =
            [
                .. e.GetProperty("also")
                    .EnumerateArray()
                    .Select(a => new AlsoTold(
                        new DutyId(a.GetProperty("duty").GetString()!),
                        a.GetProperty("works").GetBoolean()
                    )),
            ],
            Codes = e.GetProperty("codes") is { ValueKind: JsonValueKind.Array } codes
                ? [.. codes.EnumerateArray().Select(c => c.GetString()!)]
                : null,
            Circumstances = Lived(e.GetProperty("circumstances")),
            Words = e.GetProperty("words").GetString()!,
        };
        var lamps = e.GetProperty("lamps").EnumerateArray().ToList();
        return lamps.Count == 0 ? told : told with { Lamps = [.. lamps.Select(l => Lamp(l, Looked(told)))] };
    }

    private static LampSeen Lamp(JsonElement e, List<(NamedSetting Setting, DutySpeed Speed)> looked)
    {
        var number = e.GetProperty("condition").GetInt32();
        if (number < 0 || number >= looked.Count)
        {
            throw new UnreadableException($"a lamp was looked at in setting {number}, of which there is none");
        }

        return new LampSeen(
            new PartId(e.GetProperty("lamp").GetString()!),
            looked[number].Setting,
            looked[number].Speed,
            Names.LampLook.Read(e.GetProperty("look").GetInt32(), "not-seen", "bright", "dim", "out")
        );
    }

    /// <summary>
    /// The settings that lamps were looked at in, in the order of their numbers: the duty's own, with the engine turning and then at
    /// rest, then each other position of controls of three or more that it names, then everything at rest.
    /// </summary>
    private List<(NamedSetting Setting, DutySpeed Speed)> Looked(Complaint told)
    {
        var duty = Symptoms.Duty(circuit.Value, told.Duty);
        if (told.Setting is { } setting)
        {
            duty = duty with { Setting = setting };
        }

        var speed = told.Speed ?? duty.Speed;
        var own = circuit.Value.Setting(duty.Setting);
        var looked = new List<(ControlSetting Setting, DutySpeed Speed)> { (own, speed), (own, DutySpeed.Rest) };
        for (var c = 0; c < own.Count; c++)
        {
            var control = machine.Controls[c];
            if (!duty.Setting.ContainsKey(control.Id) || control.Positions.Count <= 2)
            {
                continue;
            }

            for (var p = 0; p < control.Positions.Count; p++)
            {
                if (p != own[c] && control.Positions[p] != control.Rest)
                {
                    looked.Add((own.With(c, p), DutySpeed.Rest));
                }
            }
        }

        looked.Add((circuit.Value.Setting(null), DutySpeed.Rest));
        return [.. looked.Distinct().Select(l => (l.Setting.Named(machine), l.Speed))];
    }

    private ProbedAt At(JsonElement e)
    {
        var (red, black) = (
            PointId.Of(e.GetProperty("red").GetString()!),
            PointId.Of(e.GetProperty("black").GetString()!)
        );
        var quantity = e.GetProperty("quantity").GetInt32();
        if (quantity < 0 || quantity >= Reads.Length)
        {
            throw new UnreadableException($"quantity {quantity} was never one");
        }

        var off = e.GetProperty("off") is { ValueKind: JsonValueKind.Array } taken
            ? taken.EnumerateArray().Select(o => Disconnection.Of(o.GetString()!)).ToList()
            : [];
        var reads = Reads[quantity];
        var told = new ProbedAt(
            new ConditionKey(
                reads,
                Setting(e.GetProperty("setting")),
                Speed(e.GetProperty("speed").GetInt32()),
                off,
                Joined(reads, red, black, off),
                Tester(reads, red)
            ),
            red,
            black
        );
        return told;
    }

    /// <summary>What was joined was not kept: it lay between the two points, a bulb in a fuse's place where something was off.</summary>
    private static JoinedKey? Joined(string reads, PointId red, PointId black, List<Disconnection> off) =>
        reads switch
        {
            "action" => new JoinedKey(red, black, JumpKind.Lead),
            "glow" => new JoinedKey(red, black, off.Count > 0 ? JumpKind.Lamp : JumpKind.TestLamp),
            _ => null,
        };

    /// <summary>Where the tester sat was not kept either: at the tower when that was probed, else in the plug's place.</summary>
    private SparkTesterAt Tester(string reads, PointId red) =>
        reads != "spark" ? SparkTesterAt.Nowhere
        : red.Terminal is { } at
        && machine.Index.Part(at.Part) is { } part
        && at.Terminal == new TerminalId("ht")
        && part.Terminals[0] != at.Terminal
            ? SparkTesterAt.Coil
        : SparkTesterAt.PlugLead;

    private ProofGiven Proof(JsonElement e)
    {
        var at = e.GetProperty("at") is { ValueKind: JsonValueKind.Object } read ? At(read) : null;
        var typed = Optional(e, "typed");
        return new ProofGiven(
            Check(e.GetProperty("check").GetString()!, at),
            e.GetProperty("passed").GetBoolean(),
            typed,
            at
        );
    }

    private CheckId Check(string text, ProbedAt? at)
    {
        var colon = text.IndexOf(':', StringComparison.Ordinal);
        var (kind, rest) = colon < 0 ? (text, "") : (text[..colon], text[(colon + 1)..]);
        return kind switch
        {
            "repeats" => new RepeatsCheck(),
            "reading" when at is not null => new ReadingCheck(at.Condition, at.Red, at.Black),
            "stop" => new StopCheck(SettingOf(rest)),
            "not" => Refusal(rest),
            "stir" => Stirred(rest),
            _ => throw new UnreadableException($"“{text}” was never a check"),
        };
    }

    private RefusalCheck Refusal(string words)
    {
        foreach (
            var (said, speed) in new[]
            {
                (" · engine turned over", DutySpeed.Crank),
                (" · at idle", DutySpeed.Idle),
                (" · at working speed", DutySpeed.Work),
            }
        )
        {
            if (words.EndsWith(said, StringComparison.Ordinal))
            {
                return new RefusalCheck(SettingOf(words[..^said.Length]), speed);
            }
        }

        return new RefusalCheck(SettingOf(words), DutySpeed.Rest);
    }

    private static WiggleCheck Stirred(string text)
    {
        var fields = text.Split(';', 3);
        return new WiggleCheck(
            new PlaceId(fields[0]),
            fields.Length > 2 ? RepairId.Of(fields[2]) : null,
            fields.Length > 1
                ? fields[1].ToUpperInvariant() switch
                {
                    "MOVING" or "0" => By(0),
                    "WARMING" or "1" => By(1),
                    "WETTING" or "2" => By(2),
                    _ => throw new UnreadableException($"“{text}” was never a check"),
                }
                : By(0)
        );
    }

    /// <summary>The setting that was put into words, in the order of the machine's controls.</summary>
    private NamedSetting SettingOf(string words)
    {
        var said = words;
        var positions = new Dictionary<ControlId, PositionId>();
        foreach (var control in machine.Controls)
        {
            // Longest first: one position's words may begin another's.
            var position = control
                .Positions.OrderByDescending(p => control.Said(p).Length)
                .Cast<PositionId?>()
                .FirstOrDefault(p => said.StartsWith(control.Said(p!.Value), StringComparison.Ordinal));
            if (position is null)
            {
                // What stood as usual was not always named.
                continue;
            }

            positions.Add(control.Id, position.Value);
            said = said[control.Said(position.Value).Length..];
            said = said.StartsWith(" · ", StringComparison.Ordinal) ? said[3..] : said;
        }

        return said.Length == 0
            ? new NamedSetting(positions)
            : throw new UnreadableException($"“{words}” is no setting of this machine");
    }

    private static PartsPriced Prices(JsonElement e)
    {
        static Money Sum(JsonElement m) => new(m.GetProperty("value").GetDouble());
        Money? Worth(string name) => e.GetProperty(name) is { ValueKind: JsonValueKind.Object } m ? Sum(m) : null;
        var terms = e.GetProperty("terms");
        return new PartsPriced(
            e.GetProperty("prices").EnumerateObject().ToDictionary(p => RepairId.Of(p.Name), p => Sum(p.Value)),
            new OrderTerms(
                Sum(terms.GetProperty("hour")),
                Sum(terms.GetProperty("trip")),
                terms.GetProperty("days").GetDouble(),
                Sum(terms.GetProperty("day"))
            ),
            Worth("worthMended"),
            Worth("worthInParts")
        );
    }

    private static Circumstances Lived(JsonElement e) =>
        new(
            e.GetProperty("years").GetDouble(),
            e.GetProperty("salt").GetBoolean(),
            e.GetProperty("damp").GetBoolean(),
            e.GetProperty("vibration").GetBoolean(),
            e.GetProperty("rodents").GetBoolean(),
            e.GetProperty("recentWork").GetBoolean()
        );

    private static NamedSetting Setting(JsonElement e) =>
        new(
            e.EnumerateObject()
                .Select(p => KeyValuePair.Create(new ControlId(p.Name), new PositionId(p.Value.GetString()!)))
        );

    private static DutySpeed Speed(int number) => Names.Speed.Read(number, "rest", "crank", "idle", "work");

    private static Core.Diagnosis.Evidence.WiggledBy By(int number) =>
        Names.WiggledBy.Read(number, "moving", "warming", "wetting");

    private static Core.Diagnosis.Evidence.LookFound Found(int number) =>
        Names.Found.Read(number, "sound", "loose", "green", "chafed", "chewed", "burnt", "wet", "missing");

    private static string? Optional(JsonElement e, string name) =>
        e.TryGetProperty(name, out var value) && value.ValueKind == JsonValueKind.String ? value.GetString() : null;

    private static double? Number(JsonElement e, string name) =>
        e.TryGetProperty(name, out var value) && value.ValueKind == JsonValueKind.Number ? value.GetDouble() : null;
}
