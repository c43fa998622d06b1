using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Units;

namespace Pritchel.Core.Rewiring;

/// <summary>What a conductor of a size takes at its ends.</summary>
/// <param name="UpTo">Largest conductor.</param>
/// <param name="Die">Die it is crimped with.</param>
/// <param name="StripMillimetres">Insulation taken off.</param>
/// <param name="SleeveMillimetres">Adhesive-lined sleeve, its width before it shrinks to a third.</param>
public sealed record Barrel(SquareMillimetres UpTo, string Die, double StripMillimetres, double SleeveMillimetres)
{
    // As insulated terminals are coloured and sleeves sold: common practice, no source.
    private static readonly Barrel[] All =
    [
        new(new(1.5), "red", 6, 4.8),
        new(new(2.5), "blue", 6, 6.4),
        new(new(6), "yellow", 8, 9.5),
        new(new(double.PositiveInfinity), "hexagonal, the lug’s own", 14, 19),
    ];

    /// <summary>The one for a gauge as it is written.</summary>
    public static Barrel For(string gauge)
    {
        // 16 and 14 AWG are a little less or more than the metric size whose terminals they take.
        const double Rounding = 0.15;
        var area = Conductors.Parse(gauge)!.Value.Area.Value;
        return All.First(b => area <= b.UpTo.Value + Rounding);
    }
}

/// <summary>A piece of wire to be cut.</summary>
/// <param name="Wire">Number it bears at both ends; an extension's is its flag's.</param>
/// <param name="Why">A wire that is new, or a lead that is too short.</param>
/// <param name="Colours">Colours, base first.</param>
/// <param name="Gauge">Conductor.</param>
/// <param name="Laid">As it lies.</param>
/// <param name="Cut">As it is cut, with what a second try at each end and a bend want.</param>
/// <param name="Barrel">What goes on both ends.</param>
/// <param name="Ends">Where each end goes, and what is on it.</param>
public sealed record CutPiece(
    string Wire,
    string Why,
    IReadOnlyList<string> Colours,
    string Gauge,
    Metres Laid,
    Metres Cut,
    Barrel Barrel,
    IReadOnlyList<string> Ends
)
{
    /// <summary>Spool that it comes off.</summary>
    public (string Gauge, string Colours) Spool => (Gauge, string.Join('-', Colours));
}

/// <summary>What a rewire wants cut: every new wire, and an extension for each lead that turned out short.</summary>
/// <param name="Pieces">Pieces, in the order of their numbers.</param>
/// <param name="Spools">Metres off each spool, rounded up to half metres.</param>
public sealed record CutList(
    IReadOnlyList<CutPiece> Pieces,
    IReadOnlyList<(string Gauge, string Colours, Metres Metres)> Spools
)
{
    // One more try at each end and a bend at a flexing part: common practice, no source.
    private const double SlackShare = 0.05;
    private const double SlackMetres = 0.15;

    /// <summary>Of a plan and the machine that it makes.</summary>
    public static CutList Of(RewirePlan plan, Marriage made, IReadOnlyList<FlaggedEnd> ends)
    {
        List<CutPiece> pieces = [.. NewWires(plan, made), .. Extensions(plan, ends)];
        return new CutList(
            pieces,
            [
                .. pieces
                    .GroupBy(p => p.Spool)
                    .OrderBy(g => g.Key)
                    .Select(g => (g.Key.Gauge, g.Key.Colours, HalfMetresUp(g.Sum(p => p.Cut.Value)))),
            ]
        );
    }

    /// <summary>Wires of a circuit that is only drawn yet.</summary>
    private static IEnumerable<CutPiece> NewWires(RewirePlan plan, Marriage made)
    {
        if (plan.Added is null)
        {
            return [];
        }

        var machine = made.Machine;
        return plan.Donor!.Machine.Wires.Select(w => machine.Index.Wire(made.NameOf(SideKey.Donor, w.Id)))
            .OfType<Wire>()
            .Select(w => Piece(w.Id.Text, "new", w, w.LengthM, [Fitting(machine, w.From), Fitting(machine, w.To)]));
    }

    /// <summary>What leads that are there and do not reach are made longer by.</summary>
    private static IEnumerable<CutPiece> Extensions(RewirePlan plan, IReadOnlyList<FlaggedEnd> ends) =>
        from end in ends
        where plan.AsBuilt.ContainsKey(end.End) && plan.JoinOf(end.End) is not null
        where end.End.Side == SideKey.Host || plan.Added is null
        let wire = plan.Side(end.End.Side)!.Machine.Index.Wire(end.End.Wire!.Value.Wire)!
        let lacks = plan.AsBuilt[end.End].Value - wire.LengthM
        where lacks > 0
        select Piece(
            $"flag {end.Flag}",
            "lead too short: staggered from its neighbours’ joints, sized again",
            wire,
            lacks,
            ["the lead’s old end: butt", "its join: butt"]
        );

    private static CutPiece Piece(string name, string why, Wire wire, double laid, IReadOnlyList<string> ends) =>
        new(
            name,
            why,
            wire.Colours,
            RewireWords.Gauge(wire.Gauge),
            new Metres(laid),
            CentimetresUp((laid * (1 + SlackShare)) + SlackMetres),
            Barrel.For(wire.Gauge),
            ends
        );

    private static string Fitting(Machine machine, WireEnd end)
    {
        var part = machine.Index.PartAt(end.At)!;
        return part.Kind == PartKinds.Splice
            ? $"{part.Name}: butt, adhesive-lined"
            : $"{part.Name} {end.At.Terminal}: "
                + end.Joint switch
                {
                    "ring" => "ring",
                    "push-on" => "push-on, shrouded",
                    "cavity" => "contact of that plug",
                    _ => "ferrule",
                };
    }

    // What adding left behind the micrometre is no centimetre more.
    private static Metres CentimetresUp(double metres) => new(Math.Ceiling(Math.Round(metres * 100, 4)) / 100);

    private static Metres HalfMetresUp(double metres) => new(Math.Ceiling(metres * 2) / 2);
}
