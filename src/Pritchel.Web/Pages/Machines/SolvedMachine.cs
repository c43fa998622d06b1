using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Web.Pages.Machines;

/// <summary>A machine solved as asked, and the lines that can be laid out through it.</summary>
public sealed class SolvedMachine
{
    private const string KillPrefix = "kill:";
    private readonly Circuit circuit;
    private readonly MachineAsked asked;

    /// <summary>Solves it.</summary>
    public SolvedMachine(Circuit circuit, MachineAsked asked)
    {
        const double Middling = 0.5;
        (this.circuit, this.asked) = (circuit, asked);
        var @case = new Case
        {
            Circuit = circuit,
            Settings = [circuit.Setting(null), asked.Setting],
            Speeds = asked.Speeds,
            Faults = asked.Planted is null ? [] : [new PlantedFault(asked.Planted, Middling)],
        };
        State = new CircuitState(@case.Wired);
        Outcome = Outcome.Of(State, State.FollowStarters(@case.Settle(State)));
        Standing = new StandingVolts(State);
    }

    /// <summary>The circuit, solved.</summary>
    public CircuitState State { get; }

    /// <summary>What the machine does.</summary>
    public Outcome Outcome { get; }

    /// <summary>What stands at each node.</summary>
    public StandingVolts Standing { get; }

    /// <summary>Whether a line is that of a kill lead.</summary>
    public static bool IsKill(string line) => line.StartsWith(KillPrefix, StringComparison.Ordinal);

    /// <summary>Lines to offer: through what takes current now, and of every kill lead.</summary>
    public IEnumerable<(string Value, string Words)> Lines =>
        circuit
            .Kills.Select(k => (KillPrefix + k.Part.Id, "kill of the " + k.Part.Name))
            .Concat(
                circuit.Machine.Parts.Any(p => PartKinds.IsBattery(p.Kind))
                    ? circuit.Machine.Parts.Where(ShowsItself).Select(p => (p.Id.Text, "through the " + p.Name))
                    : []
            );

    /// <summary>
    /// The line asked for, laid out in the present setting; unless one is, that of the first duty, or else the first
    /// that carries current now.
    /// </summary>
    public (string Line, LinePath Path) LaidOut(string? line)
    {
        if (Lines.Any(l => l.Value == line))
        {
            return (line!, Path(line!));
        }

        var usual = circuit.Machine.Duties.Take(1).Select(d => d.Load.Text).Concat(Lines.Select(l => l.Value)).ToList();
        var chosen =
            usual.Find(l => Path(l) is { Pieces: [.., var last] } && (IsKill(l) || last.To == circuit.Reference))
            ?? usual[0];
        return (chosen, Path(chosen));
    }

    private LinePath Path(string line)
    {
        if (!IsKill(line))
        {
            return LinePath.Through(circuit, asked.Setting, new PartId(line));
        }

        var (coil, kill, ground) = circuit.Kills.First(k => KillPrefix + k.Part.Id == line);
        return LinePath.Between(State, coil.Id, kill, ground);
    }

    /// <summary>Whether a part shows by itself that current works in it.</summary>
    private bool ShowsItself(Part part) =>
        circuit.HasDevice(part.Id)
        && circuit.DeviceOf(part.Id).Effect(State).Kind is not (EffectKind.None or EffectKind.Charges);
}
