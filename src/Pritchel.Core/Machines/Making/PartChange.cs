using Pritchel.Core.Identity;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Machines.Making;

/// <summary>Changes to parts: drawn, changed, taken out; couplings and switches put into wires.</summary>
public static class PartChange
{
    /// <summary>Puts a part in: a new one, or in place of the one that was called <paramref name="old"/>.</summary>
    /// <exception cref="ChangeRefusedException">A terminal that wires or mounts sit on would go.</exception>
    public static MachineChange Put(Machine machine, Part part, PartId? old)
    {
        if (old is { } before && machine.Index.Part(before) is { } was)
        {
            var lost = was.Terminals.Except(part.Terminals).Where(t => Joined(machine, was.At(t))).ToList();
            if (lost.Count > 0)
            {
                throw new ChangeRefusedException(
                    "terminals",
                    $"Something is joined to terminal {lost[0]}. Move it to another terminal first."
                );
            }
        }

        return MachineChange.Told(machine, machine with { Parts = Lists.Put(machine.Parts, part, old, p => p.Id) });
    }

    /// <summary>An id for a new part of that name.</summary>
    public static PartId IdFor(Machine machine, string name) =>
        new(Lists.Free(Lists.IdOf(name, "part"), machine.Parts.Select(p => p.Id.Text), letters: false));

    /// <summary>Takes a part out with its mounts and the wires that end on it.</summary>
    public static MachineChange TakeOut(Machine machine, PartId id)
    {
        bool On(TerminalAddress address) => address.Part == id;
        var part = machine.Index.Part(id)!;
        if (machine.Duties.FirstOrDefault(d => d.Load == id || d.Control == id) is { } duty)
        {
            throw new ChangeRefusedException(
                "",
                $"The duty “{duty.Name}” is about this part. Change or take out that duty first."
            );
        }

        var wires = machine.Wires.Where(w => On(w.From.At) || On(w.To.At)).ToList();
        var after = machine with
        {
            Parts = Lists.Without(machine.Parts, id, p => p.Id),
            Wires = [.. machine.Wires.Except(wires)],
            Mounts = [.. machine.Mounts.Where(m => !On(m.Terminal) && !On(m.On))],
        };
        return new MachineChange(
            after,
            wires.Count == 0
                ? $"{part.Name} taken out"
                : $"{part.Name} taken out, with {(wires.Count == 1 ? "wire" : "wires")} {Listed(wires.Select(w => w.Id.Text))}"
        );
    }

    /// <summary>
    /// Whether a part sits in its wires so that they can be joined in its place: a coupling, or two terminals with a wire
    /// on each.
    /// </summary>
    public static bool CanBeClosedUp(Machine machine, Part part) =>
        (part.Kind == PartKinds.Coupling || part.Terminals.Count == 2)
        && !machine.Mounts.Any(m => m.Terminal.Part == part.Id)
        && !machine.Duties.Any(d => d.Load == part.Id || d.Control == part.Id)
        && Gaps(part).All(g => WireChange.EndingAt(machine, g.A).Any() == WireChange.EndingAt(machine, g.B).Any())
        && Gaps(part).Any(g => WireChange.EndingAt(machine, g.A).Any());

    /// <summary>
    /// Takes a part out of its wires and joins them: alike ones become one wire, others meet in a splice where it sat.
    /// </summary>
    /// <exception cref="ChangeRefusedException">It does not sit in wires.</exception>
    public static MachineChange CloseUp(Machine machine, PartId id)
    {
        var part = machine.Index.Part(id)!;
        if (!CanBeClosedUp(machine, part))
        {
            throw new ChangeRefusedException(
                "",
                "Its wires do not meet two by two; take it out with its wires instead."
            );
        }

        var after = machine;
        foreach (var (a, b) in Gaps(part).Where(g => WireChange.EndingAt(machine, g.A).Any()))
        {
            after = WireChange.Join(after, a, b, part.Place);
        }

        after = after with { Parts = Lists.Without(after.Parts, id, p => p.Id) };
        return new MachineChange(after, $"{part.Name} taken out, its wires joined");
    }

    /// <summary>Puts a coupling into wires, one cavity for each: every wire is cut half way.</summary>
    /// <param name="machine">The machine.</param>
    /// <param name="name">What it is called.</param>
    /// <param name="place">Where it sits.</param>
    /// <param name="sides">Names of its two sides.</param>
    /// <param name="wires">Numbers of the wires, in the order of the cavities.</param>
    /// <exception cref="ChangeRefusedException">No wires, an unknown one, or one twice.</exception>
    public static MachineChange PutInCoupling(
        Machine machine,
        string name,
        PlaceId place,
        IReadOnlyList<string> sides,
        IReadOnlyList<WireId> wires
    )
    {
        if (wires.Count == 0 || wires.Distinct().Count() != wires.Count)
        {
            throw new ChangeRefusedException("wires", "Name at least one wire, each once: “4, 7, 12”.");
        }

        var part = new Part
        {
            Id = IdFor(machine, name),
            Name = name,
            Kind = PartKinds.Coupling,
            Place = place,
            Sides = sides,
            Terminals =
            [
                .. Enumerable
                    .Range(1, wires.Count)
                    .SelectMany(n => new[] { Cavity.Terminal($"{n}", 0), Cavity.Terminal($"{n}", 1) }),
            ],
        };
        var after = machine with { Parts = [.. machine.Parts, part] };
        for (var n = 0; n < wires.Count; n++)
        {
            after = WireChange.Cut(
                after,
                Named(after, wires[n]),
                new WireEnd(part.At(Cavity.Terminal($"{n + 1}", 0)), "cavity"),
                new WireEnd(part.At(Cavity.Terminal($"{n + 1}", 1)), "cavity")
            );
        }

        return new MachineChange(
            after,
            $"{name} put into {(wires.Count == 1 ? "wire" : "wires")} {Listed(wires.Select(w => w.Text))}"
        );
    }

    /// <summary>
    /// Puts an interlock into a wire: a switch that lets current through in some positions of a control. A duty that it
    /// would prevent from now on also asks for such a position.
    /// </summary>
    /// <param name="machine">The machine.</param>
    /// <param name="name">What the switch is called.</param>
    /// <param name="place">Where it sits.</param>
    /// <param name="wire">Number of the wire it is put into.</param>
    /// <param name="control">What works it: one of the machine's, or a new one.</param>
    /// <param name="closedIn">Positions in which it is closed.</param>
    /// <exception cref="ChangeRefusedException">No such wire, or no position named.</exception>
    public static MachineChange PutInSwitch(
        Machine machine,
        string name,
        PlaceId place,
        WireId wire,
        Control control,
        IReadOnlyList<PositionId> closedIn
    )
    {
        if (closedIn.Count == 0)
        {
            throw new ChangeRefusedException(
                "closedIn",
                $"Name at least one position in which it is closed: {string.Join(", ", control.Positions)}."
            );
        }

        var (one, two) = (new TerminalId("1"), new TerminalId("2"));
        var part = new Part
        {
            Id = IdFor(machine, name),
            Name = name,
            Kind = PartKinds.Switch,
            Place = place,
            Terminals = [one, two],
            Contacts = [new Contact(new ContactId("1-2"), [one, two], control.Id, closedIn)],
            CanBeBought = true,
        };
        var after = machine with
        {
            Controls = machine.Controls.Any(c => c.Id == control.Id)
                ? machine.Controls
                : [.. machine.Controls, control],
            Parts = [.. machine.Parts, part],
        };
        after = WireChange.Cut(
            after,
            Named(after, wire),
            new WireEnd(part.At(one), "push-on"),
            new WireEnd(part.At(two), "push-on")
        );
        var (kept, moved) = DutiesKept(machine, after, control, closedIn[0]);
        return new MachineChange(
            kept,
            $"{name} put into wire {wire}, closed at {string.Join(" and ", closedIn)}"
                + string.Concat(moved.Select(d => $"; “{d}” now also wants {control.Name} {closedIn[0]}"))
        );
    }

    /// <summary>Duties that were done and no longer are get the position, when that lets them be done again.</summary>
    private static (Machine Machine, IReadOnlyList<string> Moved) DutiesKept(
        Machine before,
        Machine after,
        Control control,
        PositionId position
    )
    {
        var moved = new List<string>();
        if (MachineValidator.Check(before).Count > 0 || MachineValidator.Check(after).Count > 0)
        {
            return (after, moved);
        }

        var (was, now) = (Circuit.Compile(before), Circuit.Compile(after));
        var duties = after.Duties.ToList();
        for (var d = 0; d < duties.Count; d++)
        {
            var wider = duties[d] with
            {
                Setting = new Dictionary<ControlId, PositionId>(duties[d].Setting) { [control.Id] = position },
            };
            if (
                DutyCheck.Does(was, duties[d])
                && !DutyCheck.Does(now, duties[d])
                && !duties[d].Setting.ContainsKey(control.Id)
                && DutyCheck.Does(now, wider)
            )
            {
                duties[d] = wider;
                moved.Add(wider.Name);
            }
        }

        return (after with { Duties = duties }, moved);
    }

    private static IEnumerable<(TerminalAddress A, TerminalAddress B)> Gaps(Part part) =>
        part.Kind == PartKinds.Coupling
            ? Cavity.Of(part).Select(c => (c.A, c.B))
            : [(part.At(part.Terminals[0]), part.At(part.Terminals[1]))];

    private static bool Joined(Machine machine, TerminalAddress address) =>
        WireChange.EndingAt(machine, address).Any()
        || machine.Mounts.Any(m => m.Terminal == address || m.On == address);

    private static Wire Named(Machine machine, WireId id) =>
        machine.Index.Wire(id)
        ?? throw new ChangeRefusedException(
            "wires",
            $"There is no wire “{Excerpt.Of(id.Text)}”; the drawing and the wire list show the numbers."
        );

    private static string Listed(IEnumerable<string> ids) => string.Join(", ", ids);
}
