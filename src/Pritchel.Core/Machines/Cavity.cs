using Pritchel.Core.Identity;

namespace Pritchel.Core.Machines;

/// <summary>One cavity of a coupling: a pin on one side and a socket on the other that must touch.</summary>
/// <param name="Name">As moulded on the coupling.</param>
/// <param name="A">Its terminal on the coupling's first side.</param>
/// <param name="B">Its terminal on the other side.</param>
public sealed record Cavity(string Name, TerminalAddress A, TerminalAddress B)
{
    private const char FirstSide = 'a';
    private const char OtherSide = 'b';

    /// <summary>
    /// Cavities of a coupling, in the order of its file, where each is written as two terminals, "1a" and "1b". None for any
    /// other part.
    /// </summary>
    public static IEnumerable<Cavity> Of(Part part) =>
        part.Kind == PartKinds.Coupling
            ? part
                .Terminals.Where(t => SideOf(t) == 0)
                .Select(t => new Cavity(NameOf(t), part.At(t), part.At(OtherHalf(t))))
            : [];

    /// <summary>The two terminals that a cavity of a name is written as.</summary>
    public static IEnumerable<TerminalId> Terminals(string cavity) => [Terminal(cavity, 0), Terminal(cavity, 1)];

    /// <summary>A terminal of a coupling on a side of a cavity.</summary>
    /// <param name="cavity">The cavity.</param>
    /// <param name="side">0 for the first side, 1 for the other.</param>
    public static TerminalId Terminal(string cavity, int side) => new(cavity + (side == 0 ? FirstSide : OtherSide));

    /// <summary>Side of its coupling that a terminal is on: 0 for the first, 1 for the other, −1 where it is no half of a cavity.</summary>
    public static int SideOf(TerminalId terminal) =>
        terminal.Text.Length < 2 ? -1
        : terminal.Text[^1] == FirstSide ? 0
        : terminal.Text[^1] == OtherSide ? 1
        : -1;

    /// <summary>Name of the cavity that a terminal of a coupling is half of.</summary>
    public static string NameOf(TerminalId terminal) => terminal.Text[..^1];

    /// <summary>The other half of the cavity.</summary>
    public static TerminalId OtherHalf(TerminalId terminal) => Terminal(NameOf(terminal), 1 - SideOf(terminal));
}
