using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Rewiring;

/// <summary>Which of the two sides of a rewire.</summary>
public enum SideKey
{
    /// <summary>The machine that is rewired.</summary>
    Host,

    /// <summary>The machine that something comes from.</summary>
    Donor,
}

/// <summary>
/// What is used of one machine: the parts that stay on it, with every wire between them. A wire to a part that does not stay
/// is left with a loose end, and so is each half of a wire that is cut through.
/// </summary>
public sealed record RewireSide
{
    private const string CutMark = "cut-";
    private const double HalfOf = 0.5;
    private const double LeastMetres = 0.02;

    /// <summary>A side.</summary>
    /// <param name="key">Which.</param>
    /// <param name="machine">The machine it is taken from.</param>
    /// <param name="keeps">Parts that stay.</param>
    /// <param name="cuts">Wires cut through somewhere between two parts that stay.</param>
    public RewireSide(SideKey key, Machine machine, IEnumerable<PartId> keeps, IEnumerable<WireId> cuts)
    {
        (Key, Whole, Cuts) = (key, machine, cuts.Where(c => machine.Index.Wire(c) is not null).ToHashSet());
        Keeps = keeps.Where(k => machine.Index.Part(k) is not null).ToHashSet();
        Machine = Cuts.Count == 0 ? machine : CutThrough(machine, Cuts);
    }

    /// <summary>Which side.</summary>
    public SideKey Key { get; }

    /// <summary>The machine it is taken from, as drawn.</summary>
    public Machine Whole { get; }

    /// <summary>The same machine, each wire that is cut through drawn as its two halves.</summary>
    public Machine Machine { get; }

    /// <summary>Parts that stay.</summary>
    public IReadOnlySet<PartId> Keeps { get; }

    /// <summary>Wires cut through.</summary>
    public IReadOnlySet<WireId> Cuts { get; }

    /// <summary>Whether a part stays.</summary>
    public bool Has(PartId part) => Keeps.Contains(part);

    /// <summary>Its loose ends: of wires first, then metal that has lost the body it was bolted to.</summary>
    public IEnumerable<EndKey> LooseEnds =>
        Machine
            .Wires.SelectMany(w => w.Ends.Select(e => (e.Name, Own: e.At, Far: w.End(e.Name.Other.Side).At)))
            .Where(e => !Has(e.Own.Part) && Has(e.Far.Part))
            .Select(e => new EndKey(Key, e.Name, null))
            .Concat(
                Machine
                    .Mounts.Where(m => Has(m.Terminal.Part) && !Has(m.On.Part))
                    .Select(m => new EndKey(Key, null, m.Id))
            );

    private static Machine CutThrough(Machine machine, IReadOnlySet<WireId> cuts)
    {
        var halves = machine.Wires.SelectMany(w =>
        {
            if (!cuts.Contains(w.Id))
            {
                return new[] { w };
            }

            var cut = new PartId(CutMark + w.Id.Text).At("x");
            var metres = Math.Max(LeastMetres, w.LengthM * HalfOf);
            return
            [
                w with
                {
                    Id = new WireId(w.Id.Text + "a"),
                    To = new WireEnd(cut, "splice"),
                    LengthM = metres,
                },
                w with
                {
                    Id = new WireId(w.Id.Text + "b"),
                    From = new WireEnd(cut, "splice"),
                    LengthM = metres,
                },
            ];
        });
        var places = cuts.Select(c => new Part
        {
            Id = new PartId(CutMark + c.Text),
            Name = $"cut through wire {c}",
            Kind = PartKinds.Splice,
            Place = machine.Index.PartAt(machine.Index.Wire(c)!.From.At)!.Place,
            Terminals = [new TerminalId("x")],
        });
        return machine with { Wires = [.. halves], Parts = [.. machine.Parts, .. places] };
    }
}

/// <summary>A loose end: of a wire, or of a part's own metal that was bolted to a body.</summary>
/// <param name="Side">Its side.</param>
/// <param name="Wire">The wire's end; null for metal.</param>
/// <param name="Mount">The mount; null for a wire's end.</param>
public readonly record struct EndKey(SideKey Side, WireEndId? Wire, MountId? Mount)
{
    private const string MountMark = "mount:";

    /// <summary>As written in records and forms: "host:12@to", "donor:mount:G3".</summary>
    public string Text => SideKeys.Mark(Side) + (Wire is { } end ? end.Text : MountMark + Mount);

    /// <summary>The end that a text stands for; null when it stands for none.</summary>
    public static EndKey? Parse(string? text) =>
        SideKeys.Split(text) is not var (side, rest) ? null
        : rest.StartsWith(MountMark, StringComparison.Ordinal)
            ? new EndKey(side, null, new MountId(rest[MountMark.Length..]))
        : WireEndId.Parse(rest) is { } end ? new EndKey(side, end, null)
        : null;

    /// <inheritdoc/>
    public override string ToString() => Text;
}

/// <summary>How the side of something is written before it.</summary>
internal static class SideKeys
{
    private const string Host = "host:";
    private const string Donor = "donor:";

    /// <summary>What stands before what is of a side.</summary>
    public static string Mark(SideKey side) => side == SideKey.Host ? Host : Donor;

    /// <summary>A text's side and what follows; null where it names no side.</summary>
    public static (SideKey Side, string What)? Split(string? text) =>
        text is null ? null
        : text.StartsWith(Host, StringComparison.Ordinal) ? (SideKey.Host, text[Host.Length..])
        : text.StartsWith(Donor, StringComparison.Ordinal) ? (SideKey.Donor, text[Donor.Length..])
        : null;
}
