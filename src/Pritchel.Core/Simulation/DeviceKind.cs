using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation;

/// <summary>
/// What a part is to whoever tests around it. Devices say it of themselves, so that tests are found on parts that nobody
/// had thought of.
/// </summary>
[Flags]
public enum PartTraits
{
    /// <summary>Nothing in particular.</summary>
    None = 0,

    /// <summary>Stores charge: lines begin and end at it.</summary>
    StoresCharge = 1,

    /// <summary>Plain metal that everything bolted to it shares.</summary>
    IsMetal = 2,

    /// <summary>Parts into two halves with a cavity for each wire.</summary>
    ComesApart = 4,

    /// <summary>Wires meet in it inside the loom; no probe finds a terminal.</summary>
    IsSplice = 8,

    /// <summary>Contacts that an operator works.</summary>
    IsSwitched = 16,

    /// <summary>Contacts that its own coil works.</summary>
    IsRelayed = 32,

    /// <summary>Comes out of its holder between two terminals, feed first: its place can be tested in its stead.</summary>
    PullsOut = 64,

    /// <summary>Opens a circuit that draws too much, without coming out.</summary>
    Trips = 128,

    /// <summary>Conducts one way between two terminals.</summary>
    IsOneWay = 256,

    /// <summary>Makes volts at which nothing may be wetted or probed live.</summary>
    MakesMains = 512,

    /// <summary>Electronics that a lamp or a lead would ruin.</summary>
    IsElectronic = 1024,

    /// <summary>Its plug lead is moulded in and comes with it.</summary>
    LeadMouldedIn = 2048,

    /// <summary>Sits on an engine's block and fires without a battery.</summary>
    FiresAlone = 4096,
}

/// <summary>A device kind as machine files may name it.</summary>
/// <param name="Name">Name used in files.</param>
/// <param name="Terminals">Terminals it must have; empty when <paramref name="TerminalRule"/> says otherwise.</param>
/// <param name="TerminalRule">In words, which terminals are allowed.</param>
/// <param name="Values">Figures a file may give.</param>
/// <param name="Create">Makes the device for a part.</param>
public sealed record DeviceKind(
    string Name,
    IReadOnlyList<string> Terminals,
    string TerminalRule,
    IReadOnlyList<ValueRule> Values,
    Func<Part, PartFigures, Device> Create
)
{
    /// <summary>Terminals it may also have.</summary>
    public IReadOnlyList<string> OptionalTerminals { get; init; } = [];

    /// <summary>What it is to whoever tests around it, whatever it is called.</summary>
    public PartTraits Traits { get; init; }

    /// <summary>Whether it does nothing without an engine to turn it.</summary>
    public bool NeedsEngine { get; init; }

    /// <summary>Whether its wave is followed step by step.</summary>
    public bool FollowsWave { get; init; }

    /// <summary>Whether it is electronics of which ohms at its pins say nothing.</summary>
    public bool HidesInside { get; init; }

    /// <summary>Whether it regulates charge windings.</summary>
    public bool Regulates { get; init; }

    /// <summary>Whether a field of its own makes what it gives, in place of magnets.</summary>
    public bool FeedsItsField { get; init; }

    /// <summary>The winding that it rectifies or regulates; null for what stands behind none.</summary>
    public ChargedBy? Winding { get; init; }

    /// <summary>
    /// Whether the wrong one renewed is dear: what makes, stores and regulates current, what fires, what cranks. It is condemned
    /// only by a test at its own terminals.
    /// </summary>
    public bool IsCostly { get; init; }

    /// <summary>Whether it is judged at its terminals while it works; what is not is taken apart from the rest first.</summary>
    public bool IsJudgedAtWork { get; init; }
}

/// <summary>A charge winding before what rectifies it.</summary>
/// <param name="Kind">Kind of the winding, as device kinds are named.</param>
/// <param name="Ends">Terminal at each end of it, with the terminal that it goes to.</param>
public sealed record ChargedBy(string Kind, IReadOnlyList<(string End, string Leg)> Ends);

/// <summary>A figure of a part: its name (ending in the unit), range and default.</summary>
/// <param name="Name">Name in the file's "values".</param>
/// <param name="Least">Smallest allowed.</param>
/// <param name="Most">Largest allowed.</param>
/// <param name="Default">Taken when the file is silent.</param>
public sealed record ValueRule(string Name, double Least, double Most, double Default)
{
    /// <summary>How much it differs from make to make, against most figures: little where physics or a standard sets it.</summary>
    public double Differs { get; init; } = 1;
}

/// <summary>A part's figures with the kind's defaults filled in.</summary>
public sealed class PartFigures(DeviceKind kind, Part part)
{
    private readonly Dictionary<string, double> figures = kind.Values.ToDictionary(
        v => v.Name,
        v => part.Values is { } given && given.TryGetValue(v.Name, out var value) ? value : v.Default,
        StringComparer.Ordinal
    );

    /// <summary>Figure by name; the name must be one of the kind's.</summary>
    public double this[string name] => figures[name];

    /// <summary>Whether the file gives it: then it is known of this one, and not only usual of its kind.</summary>
    public bool Gives(string name) => part.Values?.ContainsKey(name) ?? false;
}

/// <summary>Implemented by each device that machine files can name.</summary>
public interface INamedDevice
{
    /// <summary>How files name it.</summary>
    static abstract DeviceKind Kind { get; }
}
