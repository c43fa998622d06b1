using System.Globalization;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Rewiring.Tracing;

/// <summary>
/// A traced loom as a machine that can be drawn, edited and cut: plugs are couplings, copper is wires and splices, switches and
/// parts left in stand on the far half of the plugs that they are behind.
/// </summary>
public static class LoomMachine
{
    private const string UsualGauge = "1 mm2";
    private const double LeastMetres = 0.3;
    private const string UnknownColour = "grey";
    private const string SplicePoint = "x";
    private const string SplicePrefix = "splice-";
    private const string PlugPrefix = "plug-";

    /// <summary>The machine, unfinished as it must be: nobody knows yet what its leads are for.</summary>
    /// <param name="id">Id that it gets.</param>
    /// <param name="name">What it is called.</param>
    /// <param name="loom">The loom.</param>
    /// <param name="trace">What is known of it.</param>
    /// <param name="followed">What ends were followed to, by number.</param>
    public static Machine Of(
        MachineId id,
        string name,
        Loom loom,
        LoomTrace trace,
        IReadOnlyDictionary<int, string> followed
    )
    {
        var plugs = loom.Ends.Select(e => e.Plug).Distinct().ToList();
        var parts = new List<Part>();
        var wires = new List<Wire>();
        PlaceId PlaceOf(string plug) => new($"place-{plugs.IndexOf(plug) + 1}");
        string Half(int end, char half) =>
            $"{PlugPrefix}{plugs.IndexOf(loom.Ends[end].Plug) + 1}.{loom.Ends[end].Cavity}{half}";
        void Run(string from, string to, int end, double metres) =>
            wires.Add(
                new Wire
                {
                    Id = new WireId($"w{(wires.Count + 1).ToString(CultureInfo.InvariantCulture)}"),
                    From = new WireEnd(TerminalAddress.Of(from), JointAt(from)),
                    To = new WireEnd(TerminalAddress.Of(to), JointAt(to)),
                    Gauge = UsualGauge,
                    LengthM = Math.Max(LeastMetres, metres),
                    Colours = loom.Ends[end].Colour is { Length: > 0 } colour ? colour.Split('/') : [UnknownColour],
                    Zone = "loom",
                }
            );
        foreach (var plug in plugs)
        {
            parts.Add(
                New(
                    $"{PlugPrefix}{plugs.IndexOf(plug) + 1}",
                    plug + FollowedIn(plug),
                    PartKinds.Coupling,
                    PlaceOf(plug),
                    loom.Ends.Where(e => e.Plug == plug).SelectMany(e => new[] { e.Cavity + "a", e.Cavity + "b" })
                )
            );
        }

        string FollowedIn(string plug)
        {
            var told = followed
                .Where(f => loom.Ends[f.Key].Plug == plug)
                .Select(f => $"{loom.Ends[f.Key].Cavity} to {f.Value}")
                .ToList();
            return told.Count == 0 ? "" : $" ({string.Join(", ", told)})";
        }

        double Metres(int end) => loom.Metres.GetValueOrDefault(loom.Ends[end].Plug);
        foreach (var net in trace.Nets)
        {
            if (net.Ends.Count == 2)
            {
                Run(
                    Half(net.Ends[0], 'a'),
                    Half(net.Ends[1], 'a'),
                    net.Ends[0],
                    Math.Abs(Metres(net.Ends[0]) - Metres(net.Ends[1]))
                );
            }
            else if (net.HasSplice)
            {
                var splice = $"{SplicePrefix}{parts.Count + 1}";
                parts.Add(
                    New(
                        splice,
                        $"splice of {loom.Ends[net.Ends[0]].Name}",
                        PartKinds.Splice,
                        PlaceOf(loom.Ends[net.Ends[0]].Plug),
                        [SplicePoint]
                    )
                );
                foreach (var end in net.Ends)
                {
                    Run(Half(end, 'a'), $"{splice}.{SplicePoint}", end, Math.Abs(Metres(end) - Metres(net.Ends[0])));
                }
            }
        }

        foreach (var (left, number) in trace.Parts.Select((p, i) => (p, i + 1)))
        {
            var (one, other) = (trace.Nets[left.One].Ends[0], trace.Nets[left.Other].Ends[0]);
            parts.Add(
                New(
                    $"left-in-{number}",
                    $"part left in, {left.Ohms:0.#} ohm",
                    "load",
                    PlaceOf(loom.Ends[one].Plug),
                    ["+", "-"]
                ) with
                {
                    Values = new Dictionary<string, double>(StringComparer.Ordinal) { ["ohms"] = left.Ohms },
                }
            );
            Run(Half(one, 'b'), $"left-in-{number}.+", one, 0);
            Run(Half(other, 'b'), $"left-in-{number}.-", other, 0);
        }

        return new Machine
        {
            Format = Machine.CurrentFormat,
            Id = id,
            Name = name,
            Kind = "traced loom",
            Summary = $"A loom traced with a beeper: {loom.Ends.Count} ends, {trace.Nets.Count} pieces of copper.",
            MayDiffer = "Gauges are not known, and lengths are what lies between its plugs.",
            StopByHand = "Not known.",
            TurningCautions = [],
            Places = [.. plugs.Select(p => new Place(PlaceOf(p), p, "loom", 1, false))],
            Controls = [.. Switched(loom, trace, parts, PlaceOf, Half, Run)],
            Parts = parts,
            Wires = wires,
            Mounts = [],
            Engines = [],
            Duties = [],
        };
    }

    private static IEnumerable<Control> Switched(
        Loom loom,
        LoomTrace trace,
        List<Part> parts,
        Func<string, PlaceId> placeOf,
        Func<int, char, string> half,
        Action<string, string, int, double> run
    )
    {
        foreach (var (control, number) in loom.Controls.Select((c, i) => (c, i)))
        {
            PositionId[] positions = [.. control.Positions.Select((p, i) => new PositionId($"{i}-{Slug(p)}"))];
            var id = new ControlId($"switch-{number + 1}");
            yield return new Control(id, control.Name, positions, positions[0], []);
            var closes = trace.Contacts.Where(c => c.Setting.Control == number && c.Closes).ToList();
            int[] ends = [.. closes.SelectMany(c => new[] { c.One, c.Other }).Distinct()];
            if (ends.Length == 0)
            {
                continue;
            }

            TerminalId Post(int end) => TerminalId.Of("p" + loom.Ends[end].Cavity);
            parts.Add(
                New(
                    $"switch-{number + 1}",
                    control.Name,
                    "switch",
                    placeOf(control.Plug),
                    ends.Select(e => Post(e).Text)
                ) with
                {
                    Contacts =
                    [
                        .. closes
                            .GroupBy(c => (c.One, c.Other))
                            .Select(g => new Contact(
                                new ContactId($"{Post(g.Key.One)}-{Post(g.Key.Other)}"),
                                [Post(g.Key.One), Post(g.Key.Other)],
                                id,
                                [.. g.Select(c => positions[c.Setting.Position]).Distinct()]
                            )),
                    ],
                }
            );
            foreach (var end in ends)
            {
                run(half(end, 'b'), $"switch-{number + 1}.{Post(end)}", end, 0);
            }
        }
    }

    private static string JointAt(string terminal) =>
        terminal.StartsWith(PlugPrefix, StringComparison.Ordinal) ? "cavity"
        : terminal.StartsWith(SplicePrefix, StringComparison.Ordinal) ? "splice"
        : "push-on";

    private static string Slug(string text) =>
        new([.. text.ToLowerInvariant().Where(c => c is (>= 'a' and <= 'z') or (>= '0' and <= '9'))]);

    private static Part New(string id, string name, string kind, PlaceId place, IEnumerable<string> terminals) =>
        new()
        {
            Id = new PartId(id),
            Name = name,
            Kind = kind,
            Place = place,
            Terminals = [.. terminals.Select(TerminalId.Of)],
        };
}
