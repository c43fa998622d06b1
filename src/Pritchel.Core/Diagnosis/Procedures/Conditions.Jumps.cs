using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Simulation.Devices;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>Tests that put something in: a lead across a contact or from the battery, a bulb in the fuse's place.</summary>
public static partial class Conditions
{
    private static IEnumerable<Condition> OfJumps(Circuit circuit, ControlSetting own, Duty duty)
    {
        var sign = EffectOf(circuit, duty);
        if (sign is EffectKind.Sparks or EffectKind.Charges || circuit.Machine.PetrolVapour == true)
        {
            yield break;
        }

        // The command itself goes back to rest; whatever else the duty wants, a battery switch or a pedal, stays.
        var command = own.Held(circuit.Machine).FirstOrDefault(c => c.Positions.Count > 2);
        var released = command is null
            ? own
            : own.With(
                circuit.Machine.Controls.ToList().IndexOf(command),
                command.Positions.ToList().IndexOf(command.Rest)
            );
        foreach (var (jump, words) in Leads(circuit, own, duty, sign).DistinctBy(l => (l.Jump.From, l.Jump.To)))
        {
            // A lead to ground shows only while the feed is there.
            yield return Joining(circuit, jump.To == circuit.Reference ? own : released, jump, words) with
            {
                MayTurnEngine = sign == EffectKind.Turns,
            };
        }

        foreach (var bulb in OfBulbs(circuit, own, duty))
        {
            yield return bulb;
        }

        foreach (var lamp in OfTestLamps(circuit, sign == EffectKind.Turns ? released : own, own, duty))
        {
            yield return lamp;
        }
    }

    private static IEnumerable<(Jump Jump, string Words)> Leads(
        Circuit circuit,
        ControlSetting own,
        Duty duty,
        EffectKind sign
    )
    {
        var top = Top(circuit);
        var line = LinePath.Through(circuit, own, duty.Load).Pieces;
        foreach (var contact in line.Where(p => IsContact(circuit, p)))
        {
            yield return (
                new Jump(contact.From, contact.To, JumpKind.Lead) { IsHeavy = sign == EffectKind.Turns },
                $"{Called(circuit, contact.From)} joined to {Called(circuit, contact.To)}"
            );
        }

        foreach (var part in new[] { duty.Control, sign == EffectKind.Turns ? null : duty.Load }.OfType<string>())
        {
            var pieces = LinePath.Through(circuit, own, part).Pieces;
            var coil =
                pieces.FirstOrDefault(p => p.Name == part + "/coil")
                ?? pieces.FirstOrDefault(p => p.Name.Split('/')[0] == part && part == duty.Load);
            if (coil is null)
            {
                continue;
            }

            if (coil.From != top)
            {
                yield return (
                    new Jump(top, coil.From, JumpKind.Lead),
                    $"battery + by a fused lead to {Called(circuit, coil.From)}"
                );
            }

            if (coil.To != circuit.Reference)
            {
                yield return (
                    new Jump(coil.To, circuit.Reference, JumpKind.Lead),
                    $"{Called(circuit, coil.To)} by a lead to battery −"
                );
            }
        }
    }

    /// <summary>A bulb in the place of each fuse on the duty's way, everything joined and with each coupling apart.</summary>
    private static IEnumerable<Condition> OfBulbs(Circuit circuit, ControlSetting own, Duty duty)
    {
        var machine = circuit.Machine;
        var ways = new[] { duty.Control, duty.Load }
            .OfType<string>()
            .SelectMany(p => LinePath.Through(circuit, own, p).Pieces)
            .ToList();
        var fuses = ways.Select(p => p.Name.Split('/')[0])
            .Distinct(StringComparer.Ordinal)
            .Select(id => machine.Parts.FirstOrDefault(p => p.Id == id))
            .Where(p => p?.Kind == PartKinds.Fuse);
        foreach (var fuse in fuses)
        {
            var feed = machine
                .Wires.SelectMany(MachineWords.EndsOf)
                .FirstOrDefault(e => e.At == $"{fuse!.Id}.{fuse.Terminals[0]}");
            if (feed.Name is null)
            {
                continue;
            }

            var (from, to) = (circuit.NodeOf(feed.Name), circuit.NodeOf($"{fuse!.Id}.{fuse.Terminals[^1]}"));
            Condition Bulb(IReadOnlyList<string> off, string words) =>
                Joining(
                    circuit,
                    own,
                    new Jump(from, to, JumpKind.Lamp),
                    $"{fuse.Name} out, a bulb in its place{words}"
                ) with
                {
                    Off = [feed.Name, .. off],
                    MayTurnEngine = false,
                };
            yield return Bulb([], "");
            foreach (
                var coupling in machine.Parts.Where(p =>
                    p.Kind == PartKinds.Coupling && ways.Any(w => w.Name.Split('/')[0] == p.Id)
                )
            )
            {
                yield return Bulb([coupling.Id], $", {coupling.Name} apart");
            }
        }
    }

    /// <summary>
    /// A test lamp to battery negative behind each fuse and contact that feeds the duty: it draws what a meter does not.
    /// Never on a kill wire, nor where a controller or an ignition unit may lie on the way.
    /// </summary>
    private static IEnumerable<Condition> OfTestLamps(
        Circuit circuit,
        ControlSetting setting,
        ControlSetting own,
        Duty duty
    )
    {
        const int MostPlaces = 3;
        var machine = circuit.Machine;
        var ways = new[] { duty.Control, duty.Load }
            .OfType<string>()
            .SelectMany(part =>
                LinePath.Through(circuit, own, part).Pieces.TakeWhile(p => p.Name.Split('/')[0] != part)
            )
            .ToList();
        bool IsElectronic(string id) =>
            machine.Parts.FirstOrDefault(p => p.Id == id) is { } part
            && (DeviceKinds.Named(part.Kind) is { NeedsEngine: true } || part.Kind == Controller.Kind.Name);
        if (ways.Exists(w => IsElectronic(w.Name.Split('/')[0])))
        {
            return [];
        }

        var feeding = ways.Where(p =>
            IsContact(circuit, p)
            || machine.Parts.FirstOrDefault(q => q.Id == p.Name.Split('/')[0])?.Kind
                is PartKinds.Fuse
                    or PartKinds.Breaker
                    or PartKinds.Switch
        );
        var behind = feeding
            .Select(p => p.To)
            .Where(n => n != circuit.Reference && !circuit.KillMetal().Contains(n))
            .Distinct()
            .ToList();
        var places = Math.Min(MostPlaces, behind.Count);

        // The first, the last and one between: enough to halve the way.
        return Enumerable
            .Range(0, places)
            .Select(i => behind[i * (behind.Count - 1) / Math.Max(1, places - 1)])
            .Select(n =>
                Joining(
                    circuit,
                    setting,
                    new Jump(n, circuit.Reference, JumpKind.TestLamp),
                    $"test lamp from {Called(circuit, n)} to battery −"
                ) with
                {
                    MayTurnEngine = false,
                }
            );
    }

    private static Condition Joining(Circuit circuit, ControlSetting setting, Jump jump, string words) =>
        Describe(circuit, setting, false) with
        {
            Jump = jump,
            Quantity = jump.Kind == JumpKind.Lead ? Quantity.Action : Quantity.Glow,
            Pairs = [(jump.From, jump.To)],
            Words = $"{words} · {setting.Words(circuit.Machine)}",
        };

    private static bool IsContact(Circuit circuit, LinePiece piece)
    {
        var (part, what) = (piece.Name.Split('/')[0], piece.Name.Split('/')[^1]);
        return what is "contact" or "made" or "broken" && circuit.Machine.Parts.Any(p => p.Id == part);
    }

    private static string Called(Circuit circuit, int node) =>
        MachineWords.Terminal(
            circuit.Machine,
            circuit.NodeAddresses[node].FirstOrDefault(a => a.Contains('.', StringComparison.Ordinal))
                ?? circuit.NodeAddresses[node][0]
        );

    private static int Top(Circuit circuit) =>
        circuit.NodeOf(circuit.Machine.Parts.First(p => PartKinds.IsBattery(p.Kind)).Id + ".+");
}
