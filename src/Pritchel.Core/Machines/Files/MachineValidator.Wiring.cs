using Pritchel.Core.Handbook;
using Pritchel.Core.Units;

namespace Pritchel.Core.Machines.Files;

/// <content>What is asked of wires, mounts and what is left loose.</content>
public sealed partial class MachineValidator
{
    private void CheckWires()
    {
        for (var i = 0; i < machine.Wires.Count; i++)
        {
            var (wire, at) = (machine.Wires[i], $"/wires/{i}");
            CheckEnd(at + "/from", wire.From);
            CheckEnd(at + "/to", wire.To);
            if (wire.From.At == wire.To.At)
            {
                Report(at + "/to/at", "A wire may not end where it began.");
            }

            if (Conductors.Parse(wire.Gauge) is null)
            {
                Report(at + "/gauge", $"“{Excerpt.Of(wire.Gauge)}” is not a gauge; allowed: {Conductors.Allowed}.");
            }

            Within(at + "/lengthM", wire.LengthM, 0.02, 100, "metres");
            if (wire.Colours.Count is < 1 or > 2)
            {
                Report(at + "/colours", "Must be one colour, or base and tracer.");
            }

            foreach (var odd in wire.Colours.Where(c => !WireColours.Names.Contains(c)))
            {
                Report(
                    at + "/colours",
                    $"“{Excerpt.Of(odd)}” is not a wire colour; allowed: {List(WireColours.Names)}."
                );
            }

            Text(at + "/zone", wire.Zone);
            if (wire.NoMetal == true && wire.ChafesOn is not null)
            {
                Report(at + "/noMetal", "A wire along no metal has no “chafesOn”: give one of the two.");
            }

            if (wire.ChafesOn is { } body)
            {
                Among(
                    at + "/chafesOn",
                    body.Text,
                    machine.Parts.Where(p => p.Kind == PartKinds.Body).Select(p => p.Id.Text),
                    "body"
                );
            }
        }
    }

    private void CheckEnd(string at, WireEnd end)
    {
        CheckAddress(at + "/at", end.At);
        if (JointKinds.Named(end.Joint) is null)
        {
            Among(at + "/joint", end.Joint, JointKinds.All.Select(k => k.Name), "joint");
            return;
        }

        var part = machine.Index.PartAt(end.At);
        if (part is null)
        {
            return;
        }

        var inCavity = part.Kind == PartKinds.Coupling;
        if (inCavity != (end.Joint == "cavity"))
        {
            Report(
                at + "/joint",
                inCavity ? "A wire in a coupling is joined by \"cavity\"." : "\"cavity\" joins wires to couplings only."
            );
        }
    }

    private void CheckMounts()
    {
        for (var i = 0; i < machine.Mounts.Count; i++)
        {
            Text($"/mounts/{i}/name", machine.Mounts[i].Name);
            CheckAddress($"/mounts/{i}/terminal", machine.Mounts[i].Terminal);
            CheckAddress($"/mounts/{i}/on", machine.Mounts[i].On);
            if (machine.Mounts[i].Terminal == machine.Mounts[i].On)
            {
                Report($"/mounts/{i}/on", "A mount joins a part's own metal to another body, not to itself.");
            }
        }
    }

    private void CheckLooseTerminals()
    {
        for (var i = 0; i < machine.Parts.Count; i++)
        {
            var part = machine.Parts[i];
            if (!part.Addresses.Any(used.Contains))
            {
                Loose($"/parts/{i}", $"nothing is joined to {part.Id}; every part needs at least one wire or mount.");
            }

            foreach (
                var empty in part.Terminals.Where(t =>
                    part.Kind == PartKinds.Coupling
                    && CavityHalf().IsMatch(t.Text)
                    && !used.Contains(part.At(t))
                    && used.Contains(part.At(Cavity.OtherHalf(t)))
                )
            )
            {
                Loose(
                    $"/parts/{i}/terminals",
                    $"a wire enters {part.Id} cavity {Cavity.NameOf(empty)} on one side and none leaves at {empty}."
                );
            }

            if (part.Kind == PartKinds.Splice && part.Addresses.Sum(a => machine.Index.EndsAt(a).Count()) < 2)
            {
                Loose($"/parts/{i}", $"splice {part.Id} joins fewer than two wires.");
            }
        }
    }
}
