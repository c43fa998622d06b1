using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Simulation;
using Pritchel.Web.Drawings;

namespace Pritchel.Web.Desk;

/// <summary>A line behind a cell of a proof, as it was or as rewired.</summary>
/// <param name="Title">What it shows.</param>
/// <param name="Line">The line; null where nothing flows or joins.</param>
/// <param name="Nothing">What it means that there is none.</param>
public sealed record ProvedLine(string Title, StraightLine? Line, string Nothing);

/// <summary>What a cell of a proof rests on, laid out straight: before, and as rewired.</summary>
public static class ProvedLines
{
    /// <summary>What may be asked of a row.</summary>
    public static IReadOnlyList<string> Asked { get; } = ["cranks", "runs", "fuses", "kills"];

    /// <summary>The lines behind one cell.</summary>
    /// <param name="proof">The proof.</param>
    /// <param name="before">The machine as it was.</param>
    /// <param name="row">The row.</param>
    /// <param name="asked">One of <see cref="Asked"/>.</param>
    public static IReadOnlyList<ProvedLine> Of(DesignProof proof, Circuit before, ProofRow row, string asked)
    {
        var was = Standing(before, DesignProof.Same(proof.After, before, row.Setting));
        var now = Standing(proof.After, row.Setting);
        return asked switch
        {
            "cranks" => [.. Starters(was, "as it was"), .. Starters(now, "as rewired")],
            "runs" => [.. Kills(was, "as it was"), .. Kills(now, "as rewired")],
            "kills" => [.. row.After.FedKills.SelectMany(k => Feeding(now, k))],
            "fuses" => [.. row.NowOpen.Select(f => Shorting(now, f))],
            _ => [],
        };
    }

    private static IEnumerable<ProvedLine> Starters((CircuitState State, ControlSetting Setting) at, string when) =>
        at
            .State.Circuit.Machine.Parts.Where(p =>
                at.State.Circuit.HasDevice(p.Id)
                && at.State.Circuit.DeviceOf(p.Id).Effect(at.State).Kind == EffectKind.Turns
            )
            .Select(p =>
                Shown(
                    $"Through the {p.Name}, {when}",
                    at.State,
                    LinePath.Through(at.State.Circuit, at.Setting, p.Id),
                    false,
                    $"No current runs through it. {at.State.Circuit.DeviceOf(p.Id).WhyNot(at.State)}"
                )
            );

    private static IEnumerable<ProvedLine> Kills((CircuitState State, ControlSetting Setting) at, string when) =>
        at.State.Circuit.Kills.Select(k =>
            Shown(
                $"Kill of the {k.Part.Name}, {when}",
                at.State,
                LinePath.Between(at.State, k.Part.Id, k.Kill, k.Ground),
                true,
                "Nothing joins the kill lead to its metal: the ignition is free."
            )
        );

    private static IEnumerable<ProvedLine> Feeding((CircuitState State, ControlSetting Setting) at, PartId killed)
    {
        var circuit = at.State.Circuit;
        var battery = circuit.PartsThat(PartTraits.StoresCharge).First();
        return circuit
            .Kills.Where(k => k.Part.Id == killed)
            .Select(k =>
                Shown(
                    $"From {battery.Name} + to the kill of the {k.Part.Name}, as rewired",
                    at.State,
                    LinePath.Between(at.State, null, circuit.NodeOf(battery.At("+")), k.Kill),
                    false,
                    "Its feed comes by a way that stands open now."
                )
            );
    }

    private static ProvedLine Shorting((CircuitState State, ControlSetting Setting) at, PartId fuse)
    {
        var circuit = at.State.Circuit;
        var part = circuit.Machine.Index.Part(fuse)!;
        return Shown(
            $"From {part.Name} to battery negative, as rewired",
            at.State,
            LinePath.Between(at.State, fuse, circuit.NodeOf(part.Addresses.Last()), circuit.Reference),
            true,
            "No way of little ohms: what it feeds takes too much together."
        );
    }

    private static ProvedLine Shown(string title, CircuitState state, LinePath path, bool isKill, string nothing) =>
        new(title, path.Pieces.Count == 0 ? null : new StraightLine(state, path, isKill), nothing.TrimEnd());

    private static (CircuitState State, ControlSetting Setting) Standing(Circuit circuit, ControlSetting setting)
    {
        var @case = new Case { Circuit = circuit, Settings = [circuit.Setting(null), setting] };
        var state = new CircuitState(@case.Wired);
        @case.Settle(state);
        return (state, setting);
    }
}
