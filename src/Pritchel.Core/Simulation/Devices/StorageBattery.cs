using Pritchel.Core.Faults;
using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A battery as an e.m.f. behind a resistance, and on charge behind a back-pressure that a charger must overcome first: up
/// to its gassing volts it takes little, beyond them whatever is driven into it. Three straight lines, each current higher
/// at higher volts. While waves run, the lines hold for means: within a turn the battery stands still behind its resistance.
/// </summary>
internal abstract class StorageBattery(Part part, PartFigures figures) : Device, IStoresCharge, ISettlesOnMeans
{
    private const int Discharging = 0;
    private const int Absorbing = 1;
    private const int Bulk = 2;

    // Keeps a battery that nothing is connected to from wavering between lines at no amps.
    private const double Hysteresis = 1e-9;

    // How much less is called for, a volt, where nothing is known yet.
    private const double FirstFall = 2;

    // Above rest no charger of these machines drives a battery further.
    private const double MostVolts = 30;
    private const double MostStride = 4;

    private ParameterId charge;
    private ParameterId temperature;
    private ParameterId wear;
    private ParameterId cells;
    private SourceId source;
    private StateId line;
    private MemoryId pressure;
    private MemoryId low;
    private MemoryId high;
    private MemoryId last;
    private MemoryId lastExcess;
    private MemoryId rested;
    private MemoryId fell;
    private (int, int) nodes;

    public override bool IsActive => true;

    public override PartId? PartId => part.Id;

    /// <inheritdoc/>
    public ParameterId Isolation => wear;

    /// <inheritdoc/>
    public IEnumerable<MemoryId> Guesses => [rested, fell];

    private protected double ColdCrankingAmps => figures["coldCrankingAmps"];

    /// <summary>
    /// Figures that a file may give: charge from 0 to 1, warmth, and resistance over that of a new one; for most a battery
    /// in daily use is nine tenths full and a few years old.
    /// </summary>
    /// <param name="usualColdCranking">Cold-cranking amps of the usual one.</param>
    private protected static IReadOnlyList<ValueRule> Values(double usualColdCranking) =>
        [
            new ValueRule("coldCrankingAmps", 50, 1500, usualColdCranking),
            new ValueRule("charge", 0.05, 1, 0.9) { Differs = 0 },
            new ValueRule("celsius", -40, 60, 20) { Differs = 0 },
            new ValueRule("wear", 0.8, 10, 1.15) { Differs = 0 },
        ];

    /// <summary>Volts at rest, by charge 0 to 1.</summary>
    private protected abstract double RestVolts(double charge);

    /// <summary>Ohms when new, by temperature in °C and charge.</summary>
    private protected abstract double InternalOhms(double celsius, double charge);

    /// <summary>How it pushes back on charge.</summary>
    private protected abstract BackPressure Gassing(double charge);

    public override void Declare(Declaration declaration)
    {
        charge = declaration.Parameter(part.Element(), "charge", figures["charge"], ChargeSpread);
        temperature = declaration.Parameter(part.Element(), "celsius", figures["celsius"], WarmthSpread);
        wear = declaration.Parameter(part.Element(), "wear", figures["wear"], new Spread(0.15, 0, 0));
        cells = declaration.Parameter(part.Element(), "cellsShare", 1, Spread.None);
        source = declaration.Source(part.Element(), part.At("+"), part.At("-"));
        line = declaration.State(part.Element());
        pressure = declaration.Memory(0);
        low = declaration.Memory(double.NaN);
        high = declaration.Memory(double.NaN);
        last = declaration.Memory(double.NaN);
        lastExcess = declaration.Memory(0);
        rested = declaration.Memory(0);
        fell = declaration.Memory(FirstFall);
        nodes = (declaration.Node(part.At("+")), declaration.Node(part.At("-")));
    }

    public override void Stamp(CircuitState state)
    {
        var (rest, ohms) = (Rest(state), Ohms(state));
        if (state.IsTurning || state.Moment != Moment.Still)
        {
            state.SetSource(source, rest + state[pressure], ohms);
            return;
        }

        (state[low], state[high], state[last], state[pressure]) = (0, MostVolts, double.NaN, state[rested]);
        var gassing = Gassing(state[charge]);
        switch (state[line])
        {
            case Absorbing:
                state.SetSource(source, rest, ohms + gassing.Ohms);
                break;
            case Bulk:
                var meets = gassing.Volts - (gassing.Amps * gassing.Beyond);
                state.SetSource(source, rest + meets, ohms + gassing.Beyond);
                break;
            default:
                state.SetSource(source, rest, ohms);
                break;
        }
    }

    public override Change Step(CircuitState state)
    {
        var ohms = Ohms(state);
        if (double.IsInfinity(ohms))
        {
            return Change.None;
        }

        var into = -state.Through(source);
        var gassing = Gassing(state[charge]);
        if (state.IsTurning)
        {
            return Press(state, into, gassing);
        }

        var full = gassing.Amps;
        var wanted = state[line] switch
        {
            Absorbing when into > full + Hysteresis => Bulk,
            Absorbing when into < -Hysteresis => Discharging,
            Bulk when into < full - Hysteresis => Absorbing,
            Discharging when into > Hysteresis => Absorbing,
            var same => same,
        };
        return wanted == state[line] ? Change.None : Change.Switch(line, wanted, 0);
    }

    /// <summary>Amps into it, when positive; for whoever asks whether it charges.</summary>
    public override Effect Effect(CircuitState state) => new(EffectKind.Charges, -state.Through(source));

    public override IEnumerable<Fault> Faults()
    {
        var repair = part.Repaired(RepairKind.ServiceBattery);
        Fault Of(string id, FaultKind kind, string words, double rate, ParameterChange change) =>
            PartFault.Of(part, id, kind, words, rate, nodes, change) with
            {
                Repair = repair,
            };
        yield return Of("flat", FaultKind.Flat, "flat", 12, new(charge, ChangeRule.SetToSeverity)) with
        {
            Severity = new Severity(0.25, 0.002),
        };
        yield return Of(
            "weak",
            FaultKind.Weak,
            "worn out or sulphated",
            10,
            new(wear, ChangeRule.MultiplyBySeverity)
        ) with
        {
            Severity = new Severity(4, 200),
        };
        yield return Of("open", FaultKind.Open, "open inside", 0.5, new(wear, ChangeRule.Set, double.PositiveInfinity));
    }

    /// <summary>Charge as batteries in use have it; about what is given, where it is.</summary>
    private Spread ChargeSpread =>
        figures.Gives("charge")
            ? Spread.Uniform(Math.Max(0.05, figures["charge"] - 0.1), Math.Min(1, figures["charge"] + 0.1))
            : Spread.Uniform(0.55, 1);

    /// <summary>A year's weather; about what is given, where it is.</summary>
    private Spread WarmthSpread =>
        figures.Gives("celsius")
            ? Spread.Uniform(figures["celsius"] - 5, figures["celsius"] + 5)
            : Spread.Uniform(figures["celsius"] - 15, figures["celsius"] + 12);

    private protected Fault Dead(string id, string words, double rate, double share) =>
        PartFault.Of(
            part,
            id,
            FaultKind.Weak,
            words,
            rate,
            nodes,
            new ParameterChange(cells, ChangeRule.Set, share)
        ) with
        {
            Repair = part.Repaired(RepairKind.ServiceBattery),
        };

    private double Rest(CircuitState state) => RestVolts(state[charge]) * state[cells];

    private double Ohms(CircuitState state) => InternalOhms(state[temperature], state[charge]) * state[wear];

    /// <summary>
    /// Moves the back-pressure towards what the mean amps call for. Amps fall as it rises, so what is called for less what
    /// stands falls through nothing once: found by the secant of the last two, kept between the nearest with too little and
    /// with too much.
    /// </summary>
    private Change Press(CircuitState state, double amps, BackPressure gassing)
    {
        const double Volt = 1;
        var now = state[pressure];
        var excess = gassing.At(amps) - now;
        if (Math.Abs(excess) < state.Closeness * Volt)
        {
            state[rested] = now;
            return Change.None;
        }

        // A relay that moved since makes the bracket stale: begin it again.
        if (now < state[low] || now > state[high] || state[high] - state[low] < state.Closeness * Volt / 10)
        {
            (state[low], state[high], state[last]) = (0, MostVolts, double.NaN);
        }

        var fall =
            double.IsNaN(state[last]) || now == state[last]
                ? state[fell]
                : -(excess - state[lastExcess]) / (now - state[last]);
        (state[last], state[lastExcess], state[fell]) = (now, excess, Math.Max(fall, 1));
        state[excess > 0 ? low : high] = now;
        var next = now + (excess / Math.Max(fall, 1));
        state[pressure] =
            next > state[low] && next < state[high] ? next : (state[low] + Math.Min(state[high], now + MostStride)) / 2;
        return Change.Refine;
    }
}
