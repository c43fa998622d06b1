using Pritchel.Core.Identity;

namespace Pritchel.Core.Simulation;

/// <summary>A part that sparks, or does not.</summary>
/// <param name="Part">Part id of the coil or magneto.</param>
/// <param name="Level">Kilovolts to hand over kilovolts needed; a spark from 1 up.</param>
public sealed record Spark(PartId Part, double Level);

/// <summary>What a machine does in a setting at a speed: what an operator would ask of it.</summary>
public sealed record Outcome
{
    private const double SoundsFrom = 0.4;

    /// <summary>Whether a relay or solenoid pulls in and lets go for ever.</summary>
    public required bool Chatters { get; init; }

    /// <summary>Engines being cranked, with speed as a share of healthy.</summary>
    public required IReadOnlyDictionary<EngineId, double> Cranks { get; init; }

    /// <summary>Coils and magnetos, and how well they spark at the speed they are turned.</summary>
    public required IReadOnlyList<Spark> Sparks { get; init; }

    /// <summary>Whether nothing that cuts fuel stops the engine: fuel-cut, stop and run solenoids, controllers.</summary>
    public required bool FuelOn { get; init; }

    /// <summary>Amps into each battery; negative out of it.</summary>
    public required IReadOnlyDictionary<PartId, double> Charges { get; init; }

    /// <summary>Volts across each battery.</summary>
    public required IReadOnlyDictionary<PartId, double> BatteryVolts { get; init; }

    /// <summary>What glows, with volts as a share of its rating.</summary>
    public required IReadOnlyDictionary<PartId, double> Glows { get; init; }

    /// <summary>What sounds.</summary>
    public required IReadOnlyList<PartId> Sounds { get; init; }

    /// <summary>Loads that have volts enough to work.</summary>
    public required IReadOnlyList<PartId> Works { get; init; }

    /// <summary>Codes that a controller shows.</summary>
    public required IReadOnlyList<string> Codes { get; init; }

    /// <summary>Why something does not do its work, in words, in the order of the parts.</summary>
    public required IReadOnlyList<string> Reasons { get; init; }

    /// <summary>Whether every coil sparks; false without any.</summary>
    public bool AllSpark => Sparks.Count > 0 && Sparks.All(s => s.Level >= 1);

    /// <summary>Whether no coil sparks.</summary>
    public bool NoneSparks => Sparks.All(s => s.Level < 1);

    /// <summary>Whether an engine turned at that speed would go on running: spark where there is any to give, and fuel.</summary>
    public bool Runs => FuelOn && (Sparks.Count == 0 || Sparks.Any(s => s.Level >= 1));

    /// <summary>Settles a case and says what the machine does.</summary>
    public static Outcome Of(Case @case)
    {
        var state = new CircuitState(@case.Wired);
        var settlement = state.FollowStarters(@case.Settle(state));
        return Of(state, settlement);
    }

    /// <summary>What the machine does in a state that has settled; fires its ignition once.</summary>
    public static Outcome Of(CircuitState state, Settlement settlement)
    {
        var circuit = state.Circuit;
        state.Fire();
        var signs = circuit
            .Devices.Where(d => d.PartId is not null)
            .Select(d => (Device: d, Id: d.PartId!.Value, Effect: d.Effect(state)))
            .ToList();
        IEnumerable<(Device Device, PartId Id, Effect Effect)> Showing(EffectKind kind) =>
            signs.Where(s => s.Effect.Kind == kind);
        return new Outcome
        {
            Chatters = settlement == Settlement.Chatters,
            Cranks = Showing(EffectKind.Turns)
                .Where(s => s.Effect.Level > 0)
                .GroupBy(s => EngineOf(circuit, s.Device))
                .ToDictionary(g => g.Key, g => g.Max(s => s.Effect.Level)),
            Sparks = [.. Showing(EffectKind.Sparks).Select(s => new Spark(s.Id, s.Effect.Level))],
            FuelOn = HasFuel(state),
            Charges = Showing(EffectKind.Charges).ToDictionary(s => s.Id, s => s.Effect.Level),
            BatteryVolts = circuit
                .PartsThat(PartTraits.StoresCharge)
                .ToDictionary(p => p.Id, p => state.Drop(circuit.NodeOf(p.At("+")), circuit.NodeOf(p.At("-")))),
            Glows = Showing(EffectKind.Glows).ToDictionary(s => s.Id, s => s.Effect.Level),
            Sounds = [.. Showing(EffectKind.Sounds).Where(s => s.Effect.Level >= SoundsFrom).Select(s => s.Id)],
            Works = [.. Showing(EffectKind.Works).Where(s => s.Effect.Level >= 1).Select(s => s.Id)],
            Codes = [.. circuit.Devices.OfType<ICodes>().SelectMany(c => c.Codes(state))],
            Reasons = [.. circuit.Devices.Select(d => d.WhyNot(state)).OfType<string>()],
        };
    }

    /// <summary>Whether all that must be fed for an engine to run is fed.</summary>
    internal static bool HasFuel(CircuitState state) =>
        state.Circuit.Devices.All(d => d.Effect(state) is not { Kind: EffectKind.LetsRun, Level: <= 0 });

    /// <summary>Engine that a starter turns; one that the file does not name is known by its starter.</summary>
    private static EngineId EngineOf(Circuit circuit, Device device) =>
        device is ICranks { Engine: >= 0 } cranks
            ? circuit.Engines[cranks.Engine].Id
            : new EngineId(device.PartId!.Value.Text);
}
