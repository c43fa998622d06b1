using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Machines.Files;

/// <content>What is asked of parts.</content>
public sealed partial class MachineValidator
{
    private void CheckParts()
    {
        for (var i = 0; i < machine.Parts.Count; i++)
        {
            var (part, at) = (machine.Parts[i], $"/parts/{i}");
            Text(at + "/name", part.Name);
            MayHave(at + "/remark", part.Remark);
            MayHave(at + "/legend", part.Legend);
            MayHave(at + "/drawnAt", part.DrawnAt);
            CheckSides(at, part);
            Among(at + "/place", part.Place.Text, Texts(machine.Places.Select(p => p.Id)), "place");
            terminals[part.Id] = [.. part.Terminals];
            if (part.Terminals.Count == 0 || terminals[part.Id].Count != part.Terminals.Count)
            {
                Report(at + "/terminals", "Must be at least one terminal, each once.");
            }

            foreach (var odd in part.Terminals.Select(t => t.Text).Where(t => !TerminalName().IsMatch(t)))
            {
                Report(
                    at + "/terminals",
                    $"“{Excerpt.Of(odd)}” is not a terminal name: 1 to 24 letters, digits, spaces, + or -."
                );
            }

            if (DeviceKinds.Named(part.Kind) is not { } kind)
            {
                Among(at + "/kind", part.Kind, DeviceKinds.All.Select(k => k.Name), "kind of part");
                continue;
            }

            CheckTerminals(at, part, kind);
            CheckValues(at, part, kind);
            CheckContacts(at, part);
        }
    }

    private void CheckSides(string at, Part part)
    {
        foreach (var side in part.Sides ?? [])
        {
            Text(at + "/sides", side);
        }

        if (part.Sides is { } sides && (sides.Count != 2 || part.Kind != PartKinds.Coupling))
        {
            Report(at + "/sides", "Only a coupling has sides, and it has two.");
        }
    }

    private void CheckTerminals(string at, Part part, DeviceKind kind)
    {
        if (
            kind.Terminals.Count > 0
            && !part
                .Terminals.Select(t => t.Text)
                .Except(kind.OptionalTerminals, StringComparer.Ordinal)
                .ToHashSet(StringComparer.Ordinal)
                .SetEquals(kind.Terminals)
        )
        {
            Report(at + "/terminals", $"A {kind.Name} has {kind.TerminalRule}.");
        }

        if (kind.Name == PartKinds.Coupling)
        {
            foreach (
                var odd in part.Terminals.Where(t =>
                    !CavityHalf().IsMatch(t.Text) || !terminals[part.Id].Contains(Cavity.OtherHalf(t))
                )
            )
            {
                Report(
                    at + "/terminals",
                    $"“{Excerpt.Of(odd.Text)}” is not half of a cavity: a coupling has {kind.TerminalRule}."
                );
            }
        }
    }

    private void CheckValues(string at, Part part, DeviceKind kind)
    {
        foreach (var (name, value) in part.Values ?? new Dictionary<string, double>(StringComparer.Ordinal))
        {
            if (kind.Values.FirstOrDefault(v => v.Name == name) is not { } rule)
            {
                Among($"{at}/values/{name}", name, kind.Values.Select(v => v.Name), $"figure of a {kind.Name}");
                continue;
            }

            Within($"{at}/values/{name}", value, rule.Least, rule.Most, "");
        }

        var figures = new PartFigures(kind, part);
        if (
            kind.Values.Any(v => v.Name == "pullInVolts")
            && kind.Values.Any(v => v.Name == "dropOutVolts")
            && figures["dropOutVolts"] >= figures["pullInVolts"]
        )
        {
            Report(
                at + "/values/dropOutVolts",
                "Must be below pullInVolts: what pulls in must hold before it lets go."
            );
        }
    }

    private void CheckContacts(string at, Part part)
    {
        var isSwitch = part.Kind == PartKinds.Switch;
        if (isSwitch != (part.Contacts is { Count: > 0 }))
        {
            Report(at + "/contacts", isSwitch ? "A switch has at least one contact." : "Only a switch has contacts.");
        }

        for (var c = 0; isSwitch && c < (part.Contacts?.Count ?? 0); c++)
        {
            var (contact, place) = (part.Contacts![c], $"{at}/contacts/{c}");
            if (
                contact.Between.Count != 2
                || contact.Between[0] == contact.Between[1]
                || !contact.Between.All(terminals[part.Id].Contains)
            )
            {
                Report(
                    place + "/between",
                    $"Must be two different terminals of this part: {List(Texts(part.Terminals))}."
                );
            }

            Among(place + "/control", contact.Control.Text, Texts(machine.Controls.Select(k => k.Id)), "control");
            var control = machine.Controls.FirstOrDefault(k => k.Id == contact.Control);
            for (var p = 0; control is not null && p < contact.ClosedIn.Count; p++)
            {
                Among(
                    $"{place}/closedIn/{p}",
                    contact.ClosedIn[p].Text,
                    Texts(control.Positions),
                    $"position of control {control.Id}"
                );
            }
        }

        CheckIds(at + "/contacts", (part.Contacts ?? []).Select(c => c.Id.Text));
    }
}
