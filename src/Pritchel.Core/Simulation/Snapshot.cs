namespace Pritchel.Core.Simulation;

/// <summary>How a case stands once something has been tried: what it was told, and what has switched, warmed and flows.</summary>
/// <param name="circuit">Circuit of the case.</param>
internal sealed class Snapshot(Circuit circuit)
{
    /// <summary>Parameters by index.</summary>
    public double[] Parameters { get; } = new double[circuit.Parameters.Count];

    /// <summary>Discrete states by index.</summary>
    public int[] States { get; } = new int[circuit.States.Count];

    /// <summary>Continuous working values by index.</summary>
    public double[] Memories { get; } = new double[circuit.Memories.Count];

    /// <summary>What windings carried at the end of the waves let through, and of those held back; null before any ran.</summary>
    public (double[]? Through, double[]? Back) Carried { get; set; }
}
