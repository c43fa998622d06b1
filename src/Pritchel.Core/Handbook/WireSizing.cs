using Pritchel.Core.Units;

namespace Pritchel.Core.Handbook;

/// <summary>A size of wire as it is bought.</summary>
/// <param name="Gauge">As written: "2.5 mm2", "14 AWG".</param>
/// <param name="Copper">Its conductor.</param>
/// <param name="Ampacity">Amps it may carry in free air with insulation for 105 °C, alone or in a small bundle.</param>
public sealed record WireSize(string Gauge, ConductorSize Copper, Amps Ampacity);

/// <summary>What is asked of a wire.</summary>
/// <param name="Amps">Amps it carries in the worst moment.</param>
/// <param name="OneWay">Metres from the source to the load; the way back is as long again.</param>
/// <param name="System">Volts of the system.</param>
/// <param name="DropShare">Share of those volts that may be lost there and back.</param>
/// <param name="EngineSpace">Whether it runs through an engine space, where it carries less.</param>
/// <param name="LimitsItself">Whether its source can give no more than that, as a charge winding: it needs no fuse.</param>
public sealed record WireNeed(
    Amps Amps,
    Metres OneWay,
    Volts System,
    double DropShare,
    bool EngineSpace,
    bool LimitsItself = false
);

/// <summary>A wire that does what is asked.</summary>
/// <param name="Size">The size.</param>
/// <param name="Drop">Volts lost there and back, the conductor at its working temperature.</param>
/// <param name="ByDrop">Whether the drop asked for it, rather than the amps.</param>
/// <param name="Fuse">
/// The smallest standard fuse that a quarter more than the load does not open, where one protects the wire; null where none does.
/// </param>
public sealed record SizedWire(WireSize Size, Volts Drop, bool ByDrop, Amps? Fuse);

/// <summary>
/// Sizing of wires by what they may carry and what they lose, whichever asks more, and never thinner than asked.
/// </summary>
public static class WireSizing
{
    /// <summary>Working temperature of a loaded conductor, in °C; against 20 °C it adds 15.7 % to its ohms (IEC 60028).</summary>
    public const double WorkingCelsius = 60;

    /// <summary>Share of volts that a circuit may lose on which something depends: ABYC E-11, ISO 13297, from memory.</summary>
    public const double CriticalDrop = 0.03;

    /// <summary>Share that any other may lose: the same.</summary>
    public const double OtherDrop = 0.10;

    // Inside an engine space a wire for 105 °C carries 85 % of what it does outside: ABYC E-11, from memory.
    private const double EngineSpaceShare = 0.85;

    // A fuse for a quarter more than the load is not opened by it: common practice, no source.
    private const double FuseMargin = 1.25;

    // ABYC E-11, single conductors with insulation for 105 °C outside engine spaces: from memory. It has none thinner than 18;
    // 10 A for 20 AWG is common practice, no source.
    private static readonly (int Awg, double Amps)[] Carries =
    [
        (20, 10),
        (18, 20),
        (16, 25),
        (14, 35),
        (12, 45),
        (10, 60),
        (8, 80),
        (6, 120),
        (4, 160),
        (2, 210),
        (1, 245),
        (0, 285),
    ];

    private static readonly double[] MetricAreas = [0.75, 1, 1.5, 2.5, 4, 6, 10, 16, 25, 35, 50];

    /// <summary>Blade and bolted fuses by rating: ISO 8820-3 and 8820-5, from memory.</summary>
    private static readonly double[] FuseRatings =
    [
        1,
        2,
        3,
        5,
        7.5,
        10,
        15,
        20,
        25,
        30,
        40,
        50,
        60,
        80,
        100,
        125,
        150,
        200,
        250,
    ];

    /// <summary>Sizes by AWG, thinnest first.</summary>
    public static IReadOnlyList<WireSize> Awg { get; } =
    [.. Carries.Select(c => new WireSize($"{c.Awg} AWG", Conductors.Parse($"{c.Awg} AWG")!.Value, new Amps(c.Amps)))];

    /// <summary>
    /// Metric sizes, thinnest first. Each may carry what the next thinner AWG size may: never more than its own copper could.
    /// </summary>
    public static IReadOnlyList<WireSize> Metric { get; } =
    [
        .. MetricAreas
            .Select(a =>
                Conductors.Parse(FormattableString.Invariant($"{a} mm2"))!.Value is var copper
                    ? new WireSize(FormattableString.Invariant($"{a} mm2"), copper, OfArea(copper.Area))
                    : null!
            )
            .Where(s => s.Ampacity.Value > 0),
    ];

    /// <summary>
    /// Amps that copper of an area may carry; below the thinnest of the table in proportion to it (common practice, no source).
    /// </summary>
    public static Amps OfArea(SquareMillimetres area)
    {
        static double Area(int awg) => Conductors.Parse($"{awg} AWG")!.Value.Area.Value;
        var (thinnest, least) = Carries[0];
        return new(
            Carries
                .Where(c => Area(c.Awg) <= area.Value + 1e-9)
                .Select(c => c.Amps)
                .DefaultIfEmpty(least * area.Value / Area(thinnest))
                .Max()
        );
    }

    /// <summary>Volts lost there and back at the working temperature: 2 · I · l · R′.</summary>
    public static Volts Drop(ConductorSize copper, Amps amps, Metres oneWay) =>
        new(2 * amps.Value * oneWay.Value * Copper.At(copper.OhmsPerMetre, WorkingCelsius));

    /// <summary>
    /// The thinnest of a series that does what is asked and that a fuse for the load protects; null where the thickest does not.
    /// </summary>
    public static SizedWire? Size(WireNeed need, IReadOnlyList<WireSize> series)
    {
        double May(WireSize size) => size.Ampacity.Value * (need.EngineSpace ? EngineSpaceShare : 1);
        bool Loses(WireSize size) =>
            Drop(size.Copper, need.Amps, need.OneWay).Value > need.DropShare * need.System.Value;
        bool Protected(WireSize size) =>
            need.LimitsItself
            || FuseMargin * need.Amps.Value > FuseRatings[^1]
            || Fuse(need.Amps, new Amps(May(size))) is not null;
        var chosen = series.FirstOrDefault(s => May(s) >= need.Amps.Value && Protected(s) && !Loses(s));
        return chosen is null
            ? null
            : new SizedWire(
                chosen,
                Drop(chosen.Copper, need.Amps, need.OneWay),
                series.First(s => May(s) >= need.Amps.Value && Protected(s)) != chosen,
                Fuse(need.Amps, new Amps(May(chosen)))
            );
    }

    /// <summary>The smallest standard fuse for a load on a wire; null where every one that holds the load is too large for it.</summary>
    public static Amps? Fuse(Amps load, Amps ampacity) =>
        FuseRatings.FirstOrDefault(f => f >= FuseMargin * load.Value) is > 0 and var rating && rating <= ampacity.Value
            ? new Amps(rating)
            : null;
}
