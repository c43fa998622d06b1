namespace Pritchel.Core.Faults;

/// <summary>What is wrong at a place.</summary>
public enum FaultKind
{
    /// <summary>Nothing conducts.</summary>
    Open,

    /// <summary>Conducts poorly; shows under load only.</summary>
    HighResistance,

    /// <summary>Conducts when it should not.</summary>
    StuckClosed,

    /// <summary>Fused or welded element gone.</summary>
    Blown,

    /// <summary>Not enough charge.</summary>
    Flat,

    /// <summary>Charge enough, but cannot deliver it.</summary>
    Weak,

    /// <summary>Turns, but with more effort than it should.</summary>
    Dragging,

    /// <summary>Does not turn though fed.</summary>
    Stalled,

    /// <summary>Insulation gone: touches ground, always or when moved.</summary>
    Chafed,

    /// <summary>Touches its neighbour.</summary>
    ShortedToNeighbour,

    /// <summary>Two wires changed places.</summary>
    Swapped,

    /// <summary>Turns of a winding shorted among themselves, or a winding to its core.</summary>
    ShortedWinding,

    /// <summary>Gives less than it should.</summary>
    Feeble,

    /// <summary>Holds too high a voltage.</summary>
    Overcharging,

    /// <summary>Something else of the same looks is fitted.</summary>
    WrongPart,

    /// <summary>Left unplugged by someone.</summary>
    Unplugged,

    /// <summary>Takes current with everything off.</summary>
    Drain,
}
