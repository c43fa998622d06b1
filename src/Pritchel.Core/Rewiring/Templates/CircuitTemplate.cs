using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Rewiring.Templates;

/// <summary>
/// A circuit that is often added, drawn whole on the least machine it works on: what is new stays when it is taken into a rewire,
/// the rest shows what each of its leads is for. One file each, found by itself; what it becomes is proved like any other.
/// </summary>
public abstract class CircuitTemplate
{
    private const string Mark = "template-";

    private static readonly Lazy<IReadOnlyList<CircuitTemplate>> Found = new(() =>
        [.. Simulation.Extensions.Of<CircuitTemplate>().OrderBy(t => t.Name, StringComparer.Ordinal)]
    );

    /// <summary>All of them.</summary>
    public static IReadOnlyList<CircuitTemplate> All => Found.Value;

    /// <summary>What it is known by; never changed once used.</summary>
    public abstract string Key { get; }

    /// <summary>What it is called.</summary>
    public abstract string Name { get; }

    /// <summary>What it does, and what its leads are joined to.</summary>
    public abstract string Says { get; }

    /// <summary>Whether its leads stand for any feed, so that which kind they were drawn with is no reason for a doubt.</summary>
    public virtual bool TakesAnyFeed => false;

    /// <summary>Id of the machine that it is drawn on.</summary>
    public MachineId Id => new(Mark + Key);

    /// <summary>The least machine that it works on.</summary>
    public Machine Machine() => Drawn().Build(Id, Name, Says);

    /// <summary>Parts that are new.</summary>
    public IReadOnlyList<PartId> Keeps() => Drawn().Own;

    /// <summary>The template of a key, or null.</summary>
    public static CircuitTemplate? Named(string? key) => All.FirstOrDefault(t => t.Key == key);

    /// <summary>Draws it.</summary>
    private protected abstract void Draw(TemplateDrawing drawing);

    private TemplateDrawing Drawn()
    {
        var drawing = new TemplateDrawing();
        Draw(drawing);
        return drawing;
    }
}
