using System.Globalization;
using Pritchel.Core.Handbook;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>A stator whose windings float: lead to lead, none to the core, and its alternating volts at a set speed.</summary>
public abstract class FloatingStator : PartSheet
{
    private protected FloatingStator() { }

    /// <summary>Its leads.</summary>
    protected abstract IReadOnlyList<string> Leads { get; }

    /// <summary>Leads that a winding lies between.</summary>
    protected abstract IReadOnlyList<(string From, string To)> Pairs { get; }

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => kind.Terminals.SequenceEqual([.. Leads, "case"]) && kind.FollowsWave;

    /// <inheritdoc/>
    public override string Before =>
        "Its plug apart at the stator's own leads; short the probes first and null them or note what they add. Let it cool to the air.";

    /// <inheritdoc/>
    public override string Caution =>
        "AC at speed: clip both leads on first, hands off, nothing near belts, blades and exhaust. An open stator gives a hundred volts and more.";

    /// <inheritdoc/>
    public override bool IsCopper(SheetReading reading) => reading.Observable is DeadOhms || ByKnownCurrent.Is(reading);

    /// <inheritdoc/>
    public override string? WhileOpen =>
        "While the flywheel is off: every lead to the core, each joint moved, magnets and key looked at. Leads pulled through and tied, read them again before it goes back on.";

    /// <inheritdoc/>
    public override Machine Rig(TestedPart tested) => new BenchMachine(tested).KnownCurrent(tested.Part, Pairs).Build();

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested) =>
        [
            .. Pairs.Select(p => new SheetReading(
                Of("ohms", p.From, p.To),
                $"Ohms, {p.From} to {p.To}",
                DeadOhms.Instance,
                At(tested, p.From),
                At(tested, p.To)
            )),
            .. Leads.Select(t => new SheetReading(
                $"core-{t}",
                $"Ohms, {t} to core",
                DeadOhms.Instance,
                At(tested, t),
                At(tested, "case")
            )
            {
                How = "bright metal of the core; expect OL",
            }),
            .. Pairs.Select(p => new SheetReading(
                Of("ac", p.From, p.To),
                $"AC volts at 3000 rpm, {p.From} to {p.To}",
                AlternatingVolts.Instance,
                At(tested, p.From),
                At(tested, p.To)
            )
            {
                How = $"plug apart, {(Pairs.Count > 1 ? "the same speed for all; " : "")}leave out what cannot be run",
                Speed = DutySpeed.Work,
                Caution = AlternatingVolts.Instance.Caution(null),
            }),
            .. ByKnownCurrent.Readings(tested, Pairs),
        ];

    /// <inheritdoc/>
    public override IEnumerable<ArithmeticLine> Arithmetic(
        TestedPart tested,
        IReadOnlyDictionary<string, double> read,
        double celsius
    ) =>
        ByKnownCurrent
            .Arithmetic(read, Pairs)
            .Concat(
                Pairs.All(p => Finite(read, Of("ohms", p.From, p.To)))
                    ? [.. OfWindings(read, Copper.At20(1, celsius)), .. OfLeak(read)]
                    : []
            );

    /// <summary>What comes of the ohms between its leads, all of which were read.</summary>
    /// <param name="read">Figures by reading id.</param>
    /// <param name="to20">What brings ohms to 20 °C.</param>
    protected abstract IEnumerable<ArithmeticLine> OfWindings(IReadOnlyDictionary<string, double> read, double to20);

    /// <summary>Ohms of copper from a lead to the point at which its windings meet, or to its other lead; by lead.</summary>
    protected abstract double OhmsFrom(string lead, IReadOnlyDictionary<string, double> read);

    /// <summary>
    /// Where one leak to the core sits. All leads then beep to it, each through its copper: what the leak itself has is in
    /// every reading and leaves with the difference of two.
    /// </summary>
    private IEnumerable<ArithmeticLine> OfLeak(IReadOnlyDictionary<string, double> read)
    {
        if (!Leads.All(l => Finite(read, $"core-{l}")))
        {
            yield break;
        }

        // From its own lead x of copper and the leak; from another the rest of the copper between the two and the leak. Of a lead
        // in whose winding it does not sit more comes out than that winding has.
        var (near, far, along, share) = Leads
            .Select(l => (Near: l, Far: Leads.First(o => o != l)))
            .Select(l => (l.Near, l.Far, Along: (Between(l.Near, l.Far) - Beyond(l.Near, l.Far)) / 2))
            .Select(l => (l.Near, l.Far, l.Along, Share: l.Along / OhmsFrom(l.Near, read)))
            .MinBy(l => l.Share);
        if (double.IsFinite(share))
        {
            yield return new(
                $"all leads meet the core: one leak, {Engineering.Format(along, "Ω")} of copper from lead {near}: ({near}{far} {Engineering.Format(Between(near, far), "Ω")} − {Engineering.Format(Beyond(near, far), "Ω")} that {far} reads more) ÷ 2",
                $"{Math.Clamp(share, 0, 1).ToString("P0", CultureInfo.InvariantCulture)} in"
            );
        }

        double Between(string one, string other) =>
            Pairs
                .Where(p => p == (one, other) || p == (other, one))
                .Select(p => read[Of("ohms", p.From, p.To)])
                .First();
        double Beyond(string one, string other) => read[$"core-{other}"] - read[$"core-{one}"];
    }

    /// <summary>Id of a reading over a winding: as it is kept in records, without its leads where there is but one.</summary>
    protected string Of(string what, string from, string to) => Pairs.Count == 1 ? what : $"{what}-{from}-{to}";

    private static bool Finite(IReadOnlyDictionary<string, double> read, string id) =>
        read.TryGetValue(id, out var figure) && double.IsFinite(figure);
}
