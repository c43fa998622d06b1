using Pritchel.Core.Faults;
using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.PartTests;

/// <summary>One reading of a sheet.</summary>
/// <param name="Id">What it is known by on its sheet; never changed once used.</param>
/// <param name="Words">What is read, in words.</param>
/// <param name="Observable">How it is read.</param>
/// <param name="Red">Terminal under the red probe.</param>
/// <param name="Black">Terminal under the black probe.</param>
public sealed record SheetReading(
    string Id,
    string Words,
    Observable Observable,
    TerminalAddress Red,
    TerminalAddress Black
)
{
    /// <summary>How it is done, under the words; empty where that is plain.</summary>
    public string How { get; init; } = "";

    /// <summary>Position of each control that matters.</summary>
    public IReadOnlyDictionary<ControlId, PositionId> Setting { get; init; } = new Dictionary<ControlId, PositionId>();

    /// <summary>Positions held just before; null where it does not matter.</summary>
    public IReadOnlyDictionary<ControlId, PositionId>? From { get; init; }

    /// <summary>How long it is waited for, once set so.</summary>
    public TimeSpan Wait { get; init; }

    /// <summary>How fast its engine turns.</summary>
    public DutySpeed Speed { get; init; }

    /// <summary>What can hurt, said before it; null for nothing more than usual.</summary>
    public string? Caution { get; init; }

    /// <summary>
    /// What two readings of one sound part may differ by besides the meter, as a standard deviation in the reading's unit: how
    /// long it rested, how true the load is. From memory; none where the meter is all there is.
    /// </summary>
    public double Doubt { get; init; }

    /// <summary>Whether it is noted for what is worked out from it alone: it hangs on more than the part, so it judges nothing.</summary>
    public bool IsNoted { get; init; }

    /// <summary>The same as a share of what is read: what lies between the parts drawn.</summary>
    public double DoubtShare { get; init; }

    /// <summary>What it takes, setting up included: common practice, no source.</summary>
    public Minutes Minutes => Speed == DutySpeed.Rest ? Observable.Handling : new(RunningMinutes);

    private const double RunningMinutes = 8;
}

/// <summary>Something that is looked for, felt or smelt before the meter is out.</summary>
/// <param name="Id">What it is known by on its sheet; never changed once used.</param>
/// <param name="Words">What is looked for.</param>
/// <param name="Kinds">Kinds of fault that it speaks for; none where it speaks for all alike.</param>
public sealed record SheetLook(string Id, string Words, params FaultKind[] Kinds)
{
    // What is seen makes what it speaks for so many times likelier, what is not seen so much less: from memory.
    private const double Seen = 5;
    private const double NotSeen = 0.8;

    /// <summary>How many times likelier a state of the part is by having looked.</summary>
    public double Factor(PartState state, bool seen) =>
        state.IsSound || (Kinds.Length > 0 && !state.Faults.Any(f => Kinds.Contains(f.Kind))) ? 1
        : seen ? Seen
        : NotSeen;
}

/// <summary>A line of arithmetic, as shown.</summary>
/// <param name="Words">What is worked out, with its figures.</param>
/// <param name="Result">What comes out, with its unit.</param>
public sealed record ArithmeticLine(string Words, string Result);

/// <summary>
/// A kind of part test: what the part stands in on the bench, which readings are taken in which order, and what is worked out
/// from them. Found like devices are; a new one is one new file. The verdict is not its business: the part's own faults are
/// weighed against what was read.
/// </summary>
public abstract class PartSheet
{
    /// <summary>What it is known by in the record and in addresses; never changed once used.</summary>
    public abstract string Key { get; }

    /// <summary>What it is called.</summary>
    public abstract string Name { get; }

    /// <summary>Where it stands among those that fit a part: the lowest is offered first.</summary>
    public virtual int Rank => 0;

    /// <summary>Whether the part is judged at work in what it stands in, rather than by itself and dead.</summary>
    public virtual bool IsAtWork => false;

    /// <summary>Whether it is for parts of a kind.</summary>
    public abstract bool Fits(DeviceKind kind);

    /// <summary>What must be off, and what stays on, before the first reading.</summary>
    public virtual string Before => "Unplug it at its own terminals: what it is joined to is measured with it.";

    /// <summary>What can hurt; null for nothing more than usual.</summary>
    public virtual string? Caution => null;

    /// <summary>What passing readings do not prove.</summary>
    public abstract string DoesNotProve { get; }

    /// <summary>What can be read only while something is open, and is read again before it is closed; null for nothing.</summary>
    public virtual string? WhileOpen => null;

    /// <summary>What is done about a state besides renewing the part, cautions first; null where nothing is.</summary>
    public virtual RepairGuide? Remedy(PartState state) => null;

    /// <summary>What is looked for before the meter is out.</summary>
    public virtual IReadOnlyList<SheetLook> Looks =>
        [
            new("terminals", "burnt, green or loose at its terminals", FaultKind.HighResistance, FaultKind.Open),
            new("lead", "a lead that dangles or is rubbed through", FaultKind.Open, FaultKind.Chafed),
            new("smell", "smell of burnt varnish", FaultKind.ShortedWinding, FaultKind.Chafed),
        ];

    /// <summary>Where its figures come from.</summary>
    public virtual IReadOnlyList<string> Sources => [];

    /// <summary>Whether an ohms reading is of copper, which gains with temperature.</summary>
    public virtual bool IsCopper(SheetReading reading) => false;

    /// <summary>The part as it stands at a temperature; as it is, unless a sheet says otherwise.</summary>
    public virtual TestedPart At(TestedPart tested, double celsius) => tested;

    /// <summary>The bench with the part on it: the part is the first of its parts.</summary>
    public virtual Machine Rig(TestedPart tested) => new BenchMachine(tested).Build();

    /// <summary>
    /// Whether figures drawn for a sound part are those of one that works: makers match what belongs together, draws do not.
    /// </summary>
    /// <param name="figures">Figures by reading id.</param>
    public virtual bool CouldBeSound(IReadOnlyDictionary<string, double> figures) => true;

    /// <summary>How many parts are drawn; as many as its readings allow in a second or two when null.</summary>
    public virtual int? Draws => null;

    /// <summary>Its readings, in order.</summary>
    public abstract IReadOnlyList<SheetReading> Readings(TestedPart tested);

    /// <summary>Sets of the part's faults that may be there, each with how often against being sound; the single ones unless a sheet says otherwise.</summary>
    public virtual IEnumerable<PartState> States(TestedPart tested, Circuit circuit) =>
        circuit.Faults.Where(f => f.Id.Of.Owner.Part == tested.Part.Id).Select(f => new PartState([f], f.Rate));

    /// <summary>What is worked out from what was read, shown line by line; nothing is judged by it.</summary>
    /// <param name="tested">The part.</param>
    /// <param name="read">Figures by reading id, leads taken off; infinite for OL.</param>
    /// <param name="celsius">Temperature of the part.</param>
    public virtual IEnumerable<ArithmeticLine> Arithmetic(
        TestedPart tested,
        IReadOnlyDictionary<string, double> read,
        double celsius
    ) => [];

    /// <summary>Address of a terminal of the tested part.</summary>
    protected static TerminalAddress At(TestedPart tested, string terminal) => tested.Part.At(terminal);
}
