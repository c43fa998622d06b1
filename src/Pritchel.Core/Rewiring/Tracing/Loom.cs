namespace Pritchel.Core.Rewiring.Tracing;

/// <summary>An end of an unknown loom: a cavity of a plug, or a loose lead.</summary>
/// <param name="Plug">What it is in: "P1", "dash plug"; a loose lead is a plug of one.</param>
/// <param name="Cavity">Which cavity of it.</param>
/// <param name="Colour">Colour as seen; empty where it is not told. It orders the questions and proves nothing.</param>
public sealed record LoomEnd(string Plug, string Cavity, string Colour)
{
    /// <summary>What it is called on every screen and paper.</summary>
    public string Name => $"{Plug} {Cavity}";
}

/// <summary>A switch that is left in the loom.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="Positions">Its positions, the one it rests in first.</param>
/// <param name="Plug">Plug whose ends its contacts are behind.</param>
public sealed record LoomControl(string Name, IReadOnlyList<string> Positions, string Plug);

/// <summary>An unknown loom as listed: its ends, and the switches that are left in it.</summary>
/// <param name="Ends">Its ends.</param>
/// <param name="Controls">Its switches; none where all were unplugged.</param>
/// <param name="Metres">How far each plug lies from the first, by name; those not told lie at hand.</param>
public sealed record Loom(
    IReadOnlyList<LoomEnd> Ends,
    IReadOnlyList<LoomControl> Controls,
    IReadOnlyDictionary<string, double> Metres
);

/// <summary>How the switches stand: all at rest, or one of them moved.</summary>
/// <param name="Control">Number of the one moved; −1 for none.</param>
/// <param name="Position">Its position; 0 for rest.</param>
public readonly record struct LoomSetting(int Control, int Position)
{
    /// <summary>All at rest.</summary>
    public static LoomSetting Rest { get; } = new(-1, 0);
}

/// <summary>Two ends, read with the beeper.</summary>
/// <param name="Setting">How the switches stand.</param>
/// <param name="One">Number of one end: the clip that stays.</param>
/// <param name="Other">Number of the other.</param>
public readonly record struct LoomQuestion(LoomSetting Setting, int One, int Other);

/// <summary>What two ends read.</summary>
/// <param name="Question">Which.</param>
/// <param name="Ohms">Ohms, leads taken off; infinite for silence.</param>
public sealed record LoomAnswer(LoomQuestion Question, double Ohms)
{
    // Under an ohm it is copper; a winding, a coil or a cold filament that beeps has more. From memory.
    private const double CopperOhms = 1;
    private const double BeepOhms = 50;

    /// <summary>Whether it is copper from end to end.</summary>
    public bool IsJoined => Ohms < CopperOhms;

    /// <summary>Whether it goes through a part: a winding, a coil, a filament left in.</summary>
    public bool IsPart => Ohms is >= CopperOhms and <= BeepOhms * 1000;
}

/// <summary>Ends that are one piece of copper.</summary>
/// <param name="Ends">Their numbers.</param>
/// <param name="Open">How likely it is that an end is still missing from it.</param>
public sealed record LoomNet(IReadOnlyList<int> Ends, double Open)
{
    private const double SureUnder = 0.02;

    /// <summary>Whether nothing is likely to be missing.</summary>
    public bool IsSure => Open < SureUnder;

    /// <summary>Whether it is met by more than two ends, so that somewhere in the loom leads are joined.</summary>
    public bool HasSplice => Ends.Count > 2;
}

/// <summary>Two nets joined through a part that was left in.</summary>
/// <param name="One">Number of one net.</param>
/// <param name="Other">Number of the other.</param>
/// <param name="Ohms">What it read.</param>
public sealed record LoomPart(int One, int Other, double Ohms);

/// <summary>What a switch does in a position, against rest.</summary>
/// <param name="Setting">The position.</param>
/// <param name="One">An end.</param>
/// <param name="Other">The other.</param>
/// <param name="Closes">Whether it joins the two there; otherwise it parts what rest joins.</param>
public sealed record LoomContact(LoomSetting Setting, int One, int Other, bool Closes);
