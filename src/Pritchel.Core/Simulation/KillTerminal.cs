using Pritchel.Core.Faults;

namespace Pritchel.Core.Simulation;

/// <summary>A coil's kill terminal.</summary>
/// <param name="Kill">Node of the terminal.</param>
/// <param name="Ground">Node of the metal it must find to stop.</param>
/// <param name="Unwound">Fault that takes the coil's own winding away, so that only what is outside is seen.</param>
internal sealed record KillTerminal(int Kill, int Ground, Fault Unwound);

/// <summary>Implemented by ignition that is stopped by grounding a terminal.</summary>
internal interface IKillable
{
    /// <summary>Its kill terminal, in a compiled circuit.</summary>
    KillTerminal Terminal(Circuit circuit);
}
