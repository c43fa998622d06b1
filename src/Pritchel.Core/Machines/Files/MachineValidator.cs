using System.Globalization;
using System.Text.RegularExpressions;
using Pritchel.Core.Identity;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Machines.Files;

/// <summary>Checks what a schema cannot: that names resolve, nothing hangs loose, figures are possible.</summary>
public sealed partial class MachineValidator
{
    private const int MostTextLength = 400;
    private const int MostProblems = 40;

    private readonly Machine machine;
    private readonly List<MachineProblem> problems = [];
    private readonly Dictionary<PartId, HashSet<TerminalId>> terminals = [];
    private readonly HashSet<TerminalAddress> used = [];

    private MachineValidator(Machine machine) => this.machine = machine;

    /// <summary>Finds what is wrong with a machine.</summary>
    /// <returns>Problems with their JSON places, what is wrong before what is only unfinished, at most 40; empty when the machine can be compiled.</returns>
    public static IReadOnlyList<MachineProblem> Check(Machine machine)
    {
        var validator = new MachineValidator(machine);
        validator.CheckAll();
        return [.. validator.problems.OrderBy(p => p.Unfinished).Take(MostProblems)];
    }

    /// <summary>
    /// What keeps a machine from being solved, what is only unfinished left out: nothing at all on it counts too, though an empty
    /// drawing is only begun.
    /// </summary>
    public static IEnumerable<MachineProblem> Unsolvable(Machine machine) =>
        Check(machine)
            .Where(p => !p.Unfinished)
            .Concat(
                machine.Parts.Any(p => p.Terminals.Count > 0)
                    ? []
                    : [new MachineProblem("/parts", "Nothing is left of it: keep some part of a side.")]
            );

    private void CheckAll()
    {
        if (machine.Format != Machine.CurrentFormat)
        {
            Report("/format", $"Must be {Machine.CurrentFormat}.");
        }

        CheckTexts();
        if (IsTooLarge())
        {
            return;
        }

        CheckIds("/places", machine.Places.Select(p => p.Id.Text));
        CheckIds("/controls", machine.Controls.Select(c => c.Id.Text));
        CheckIds("/parts", machine.Parts.Select(p => p.Id.Text));
        CheckIds("/wires", machine.Wires.Select(w => w.Id.Text));
        CheckIds("/mounts", machine.Mounts.Select(m => m.Id.Text));
        CheckIds("/engines", Engines.Select(e => e.Id.Text));
        CheckIds("/duties", machine.Duties.Select(d => d.Id.Text));
        CheckPlaces();
        CheckControls();
        CheckParts();
        CheckWires();
        CheckMounts();
        CheckDuties();
        CheckLooseTerminals();
        CheckReference();
        CheckEngines();
    }

    private IReadOnlyList<Engine> Engines => machine.Engines ?? [];

    private void CheckTexts()
    {
        if (!ShortName().IsMatch(machine.Id.Text))
        {
            Report("/id", "Must be 1 to 60 small letters, digits and hyphens, starting with a letter.");
        }

        Text("/name", machine.Name);
        Text("/kind", machine.Kind);
        Identified("/identity", machine.Identity);
        Text("/summary", machine.Summary);
        Text("/mayDiffer", machine.MayDiffer);
        if (machine.StoppedBy is { } stoppedBy)
        {
            Text("/stoppedBy", stoppedBy);
        }

        if (machine.NotDrawn is { } notDrawn)
        {
            Text("/notDrawn", notDrawn);
        }

        Text("/stopByHand", machine.StopByHand);
        for (var i = 0; i < machine.TurningCautions.Count; i++)
        {
            Text($"/turningCautions/{i}", machine.TurningCautions[i]);
        }
    }

    private void CheckPlaces()
    {
        for (var i = 0; i < machine.Places.Count; i++)
        {
            var place = machine.Places[i];
            Text($"/places/{i}/name", place.Name);
            Text($"/places/{i}/zone", place.Zone);
            Within($"/places/{i}/minutes", place.Minutes, 0, 600, "minutes");
            MayHave($"/places/{i}/opens", place.Opens);
        }
    }

    private void CheckControls()
    {
        for (var i = 0; i < machine.Controls.Count; i++)
        {
            var control = machine.Controls[i];
            Text($"/controls/{i}/name", control.Name);
            if (
                control.Positions.Count is < 2 or > 12
                || control.Positions.Distinct().Count() != control.Positions.Count
            )
            {
                Report($"/controls/{i}/positions", "Must be 2 to 12 different position names.");
            }

            foreach (var position in control.Positions)
            {
                Text($"/controls/{i}/positions", position.Text);
            }

            Among($"/controls/{i}/rest", control.Rest.Text, Texts(control.Positions), "position of this control");
            for (var h = 0; h < control.Held.Count; h++)
            {
                Among(
                    $"/controls/{i}/held/{h}",
                    control.Held[h].Text,
                    Texts(control.Positions),
                    "position of this control"
                );
            }

            foreach (var said in control.Says ?? new Dictionary<PositionId, string>())
            {
                Among($"/controls/{i}/says", said.Key.Text, Texts(control.Positions), "position of this control");
                Text($"/controls/{i}/says/{said.Key}", said.Value);
            }
        }
    }

    private void CheckDuties()
    {
        for (var i = 0; i < machine.Duties.Count; i++)
        {
            var (duty, at) = (machine.Duties[i], $"/duties/{i}");
            Text(at + "/name", duty.Name);
            Among(at + "/load", duty.Load.Text, Texts(machine.Parts.Select(p => p.Id)), "part");
            if (duty.Control is { } commands)
            {
                Among(at + "/control", commands.Text, Texts(machine.Parts.Select(p => p.Id)), "part");
            }

            foreach (var (controlId, position) in duty.Setting)
            {
                Among(
                    $"{at}/setting/{controlId}",
                    controlId.Text,
                    Texts(machine.Controls.Select(c => c.Id)),
                    "control"
                );
                if (machine.Index.Control(controlId) is { } control)
                {
                    Among(
                        $"{at}/setting/{controlId}",
                        position.Text,
                        Texts(control.Positions),
                        $"position of control {controlId}"
                    );
                }
            }
        }
    }

    private void CheckReference()
    {
        if (
            !machine.Parts.Any(p => PartKinds.IsBattery(p.Kind))
            && MachineWords.FirstBody(machine) is not { Terminals.Count: > 0 }
        )
        {
            problems.Add(
                new MachineProblem(
                    "/parts",
                    "A battery or a ground body is needed, for volts to be measured from.",
                    Unfinished: true
                )
            );
        }
    }

    private void CheckEngines()
    {
        for (var i = 0; i < Engines.Count; i++)
        {
            var (engine, at) = (Engines[i], $"/engines/{i}");
            Text(at + "/name", engine.Name);
            Identified(at + "/identity", engine.Identity);
            Within(at + "/crankRpm", engine.CrankRpm, 20, 3000, "rpm");
            Within(at + "/idleRpm", engine.IdleRpm, 100, 6000, "rpm");
            Within(at + "/workRpm", engine.WorkRpm, 300, 20_000, "rpm");
            Within(at + "/polePairs", engine.PolePairs, 1, 40, "pole pairs");
        }

        var turned = machine
            .Parts.Select((part, i) => (Part: part, At: $"/parts/{i}"))
            .Where(p => DeviceKinds.Named(p.Part.Kind)?.NeedsEngine == true)
            .ToList();
        foreach (var (part, at) in turned.Where(_ => Engines.Count == 0))
        {
            Report(at + "/kind", $"A {part.Kind} is turned by an engine; \"engines\" names none.");
        }

        var waves = turned.Where(p => DeviceKinds.Named(p.Part.Kind)!.FollowsWave).ToList();
        foreach (var (part, at) in waves.Where(w => EngineOf(w.Part) != EngineOf(waves[0].Part)))
        {
            Report(at + "/engine", $"The charge windings of a machine are all on one engine; {part.Id} is on another.");
        }

        var regulators = machine
            .Parts.Select((part, i) => (Part: part, At: $"/parts/{i}"))
            .Where(p => DeviceKinds.Named(p.Part.Kind)?.Regulates == true)
            .ToList();
        foreach (var (_, at) in regulators.Skip(1))
        {
            Report(at + "/kind", "A machine has at most one regulator for its charge windings.");
        }

        for (var i = 0; i < machine.Parts.Count; i++)
        {
            if (machine.Parts[i].Engine is { } engine)
            {
                Among($"/parts/{i}/engine", engine.Text, Texts(Engines.Select(e => e.Id)), "engine");
            }
        }
    }

    private EngineId? EngineOf(Part part) => part.Engine ?? (Engines.Count > 0 ? Engines[0].Id : null);

    private void CheckAddress(string at, TerminalAddress address)
    {
        if (!terminals.TryGetValue(address.Part, out var has))
        {
            Report(at, $"“{Excerpt.Of(address.Text)}” names no part of this machine; write \"part.terminal\".");
        }
        else if (!has.Contains(address.Terminal))
        {
            Report(
                at,
                $"Part {address.Part} has no terminal “{Excerpt.Of(address.Terminal.ToString())}”; it has {List(Texts(has))}."
            );
        }
        else
        {
            used.Add(address);
        }
    }

    private void CheckIds(string at, IEnumerable<string> ids)
    {
        var seen = new HashSet<string>(StringComparer.Ordinal);
        foreach (var (id, i) in ids.Select((id, i) => (id, i)))
        {
            if (!ItemId().IsMatch(id))
            {
                Report($"{at}/{i}/id", $"“{Excerpt.Of(id)}” is not an id: 1 to 40 letters, digits and hyphens.");
            }
            else if (!seen.Add(id))
            {
                Report($"{at}/{i}/id", $"“{id}” is used twice; ids must differ.");
            }
        }
    }

    private void Among(string at, string value, IEnumerable<string> allowed, string what)
    {
        var list = allowed.ToList();
        if (!list.Contains(value, StringComparer.Ordinal))
        {
            Report(at, $"“{Excerpt.Of(value)}” is not a {what}; allowed: {List(list)}.");
        }
    }

    private void Within(string at, double value, double least, double most, string unit)
    {
        if (!(value >= least && value <= most))
        {
            Report(
                at,
                string.Create(
                        CultureInfo.InvariantCulture,
                        $"{value} is out of range; allowed: {least} to {most} {unit}"
                    )
                    .TrimEnd() + "."
            );
        }
    }

    private void Text(string at, string text)
    {
        if (
            string.IsNullOrWhiteSpace(text)
            || text.Length > MostTextLength
            || text.Any(c => c is '<' or '>' || !Prints(c))
        )
        {
            Report(
                at,
                $"Must be 1 to {MostTextLength} characters of plain text on one line, all of which print, without < or >."
            );
        }
    }

    /// <summary>Whether a character leaves a mark or a space: no controls, no marks of direction or joining, nothing unassigned.</summary>
    private static bool Prints(char c) =>
        char.GetUnicodeCategory(c)
            is not (
                UnicodeCategory.Control
                or UnicodeCategory.Format
                or UnicodeCategory.Surrogate
                or UnicodeCategory.PrivateUse
                or UnicodeCategory.OtherNotAssigned
                or UnicodeCategory.LineSeparator
                or UnicodeCategory.ParagraphSeparator
            );

    private void MayHave(string at, string? text)
    {
        if (text is not null)
        {
            Text(at, text);
        }
    }

    private void Identified(string at, Identity? identity)
    {
        if (identity is null)
        {
            return;
        }

        MayHave(at + "/type", identity.Type);
        MayHave(at + "/serial", identity.Serial);
        MayHave(at + "/serialFrom", identity.SerialFrom);
        MayHave(at + "/serialTo", identity.SerialTo);
        MayHave(at + "/diagram", identity.Diagram);
    }

    private static IEnumerable<string> Texts<T>(IEnumerable<T> ids)
        where T : struct, IIdentity<T> => ids.Select(i => i.Text);

    private void Report(string at, string message) => problems.Add(new MachineProblem(at, message));

    private void Loose(string at, string message) =>
        problems.Add(new MachineProblem(at, "Loose end: " + message, Unfinished: true));

    private static string List(IEnumerable<string> names)
    {
        const int MostListed = 24;
        var all = names.ToList();
        return string.Join(", ", all.Take(MostListed)) + (all.Count > MostListed ? ", …" : "");
    }

    [GeneratedRegex("^[a-z][a-z0-9-]{0,59}\\z", RegexOptions.None, matchTimeoutMilliseconds: Patterns.MostMilliseconds)]
    private static partial Regex ShortName();

    [GeneratedRegex(
        "^[A-Za-z0-9][A-Za-z0-9-]{0,39}\\z",
        RegexOptions.None,
        matchTimeoutMilliseconds: Patterns.MostMilliseconds
    )]
    private static partial Regex ItemId();

    [GeneratedRegex(
        @"^[A-Za-z0-9+\- ]{1,24}\z",
        RegexOptions.None,
        matchTimeoutMilliseconds: Patterns.MostMilliseconds
    )]
    private static partial Regex TerminalName();

    [GeneratedRegex("^[A-Za-z0-9]{1,4}[ab]\\z", RegexOptions.None, matchTimeoutMilliseconds: Patterns.MostMilliseconds)]
    private static partial Regex CavityHalf();
}
