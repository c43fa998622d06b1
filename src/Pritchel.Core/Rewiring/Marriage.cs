using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Making;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Rewiring;

/// <summary>
/// The machine that a rewire makes: what stays of both sides under names that do not clash, and the joins. A machine like any
/// other: it can be drawn, solved, diagnosed and saved.
/// </summary>
public sealed class Marriage
{
    private readonly RewirePlan plan;
    private readonly Naming naming;
    private readonly Dictionary<EndKey, TerminalAddress> ends = [];
    private readonly List<Part> joints = [];

    private Marriage(RewirePlan plan, bool keepStubs)
    {
        (this.plan, naming) = (plan, new Naming(plan));
        foreach (var (join, index) in plan.Joins.Select((j, i) => (j, i)))
        {
            var at = join.Onto is { } onto
                ? naming.At(onto.Side, onto.At)
                : Joint("J" + (index + 1), "joint " + (index + 1));
            foreach (var end in join.Ends)
            {
                ends[end] = at;
            }
        }

        foreach (var (flag, end) in keepStubs ? plan.Flags : [])
        {
            if (!ends.ContainsKey(end))
            {
                ends[end] = Joint("end-" + flag, "loose end " + flag);
            }
        }

        Machine = Build();
    }

    /// <summary>The machine.</summary>
    public Machine Machine { get; private set; }

    /// <summary>Parts that no wire or mount holds any more, in words: they do nothing until they are joined.</summary>
    public IReadOnlyList<Part> Orphans { get; private set; } = [];

    /// <summary>The machine as it will be; ends that are not joined are cut close and capped, and are not in it.</summary>
    public static Marriage Of(RewirePlan plan)
    {
        var marriage = new Marriage(plan, keepStubs: false);
        marriage.Prune();
        marriage.Machine = marriage.Machine with { Duties = [.. Duties(marriage.Machine)] };
        return marriage;
    }

    /// <summary>The same with each end that is not joined standing by itself: what a side gives or takes alone.</summary>
    public static Marriage Apart(RewirePlan plan) => new(plan, keepStubs: true);

    /// <summary>Where a loose end lies in the machine; null where it is capped.</summary>
    public TerminalAddress? Of(EndKey end) => ends.TryGetValue(end, out var at) ? at : null;

    /// <summary>A part's name in the machine.</summary>
    public PartId NameOf(SideKey side, PartId part) => naming.Part(side, part);

    /// <summary>A wire's name in the machine.</summary>
    public WireId NameOf(SideKey side, WireId wire) => naming.Wire(side, wire);

    private TerminalAddress Joint(string id, string name)
    {
        var part = new PartId(naming.Free(id));
        joints.Add(
            new Part
            {
                Id = part,
                Name = name,
                Kind = PartKinds.Splice,
                Place = plan.Host.Machine.Places[0].Id,
                Terminals = [new TerminalId("x")],
            }
        );
        return part.At("x");
    }

    private Machine Build()
    {
        var (host, sides) = (plan.Host.Machine, plan.Sides.ToList());
        var parts = sides
            .SelectMany(s => s.Machine.Parts.Where(p => s.Has(p.Id)).Select(p => naming.Of(s, p)))
            .ToList();
        var engines = sides
            .SelectMany(s => (s.Machine.Engines ?? []).Select(e => e with { Id = naming.Engine(s.Key, e.Id) }))
            .ToList();
        engines.RemoveAll(e => !Turns(e, engines.Count, parts));
        return host with
        {
            Schema = null,
            VariantOf = null,
            Summary = plan.Donor is null
                ? host.Summary
                : $"{host.Name}, rewired with what came from {plan.Donor.Machine.Name}.",
            Places =
            [
                .. sides.SelectMany(s => s.Machine.Places.Select(p => p with { Id = naming.Place(s.Key, p.Id) })),
            ],
            Controls =
            [
                .. sides.SelectMany(s =>
                    s.Machine.Controls.Where(c => IsWorked(s, c.Id))
                        .Select(c => c with { Id = naming.Control(s.Key, c.Id) })
                ),
            ],
            Parts = [.. parts, .. joints],
            Wires = [.. sides.SelectMany(Wires)],
            Mounts = [.. sides.SelectMany(Mounts)],
            Engines = engines.Count == 0 ? null : engines,
            TurningCautions = [.. sides.SelectMany(s => s.Machine.TurningCautions).Distinct(StringComparer.Ordinal)],
            Duties =
            [
                .. sides.SelectMany(s =>
                    s.Machine.Duties.Where(d =>
                            s.Has(d.Load)
                            && (d.Control is not { } by || s.Has(by))
                            && d.Setting.Keys.All(c => IsWorked(s, c))
                        )
                        .Select(d => naming.Of(s, d))
                ),
            ],
        };
    }

    /// <summary>Whether something turns with an engine: where no part of any side names one, all do with the only one there is.</summary>
    private bool Turns(Engine engine, int engines, IReadOnlyList<Part> parts) =>
        parts.Any(p => p.Engine == engine.Id)
        || (engines == 1 && plan.Sides.All(s => s.Whole.Parts.All(p => p.Engine is null)));

    private static bool IsWorked(RewireSide side, ControlId control) =>
        side.Machine.Parts.Any(p => side.Has(p.Id) && p.Contacts?.Any(c => c.Control == control) == true);

    private IEnumerable<Wire> Wires(RewireSide side)
    {
        foreach (var wire in side.Machine.Wires)
        {
            if (
                End(side, wire.Id.From, wire.From) is { } from
                && End(side, wire.Id.To, wire.To) is { } to
                && from.At != to.At
            )
            {
                yield return wire with
                {
                    Id = naming.Wire(side.Key, wire.Id),
                    From = from,
                    To = to,
                    LengthM = AsBuilt(side, wire),
                    ChafesOn = wire.ChafesOn is { } body && side.Has(body) ? naming.Part(side.Key, body) : null,
                };
            }
        }
    }

    /// <summary>Metres of a wire as it was measured once built, or as drawn.</summary>
    private double AsBuilt(RewireSide side, Wire wire) =>
        new[] { wire.Id.From, wire.Id.To }
            .Where(e => plan.AsBuilt.ContainsKey(new EndKey(side.Key, e, null)))
            .Select(e => plan.AsBuilt[new EndKey(side.Key, e, null)].Value)
            .DefaultIfEmpty(wire.LengthM)
            .First();

    private WireEnd? End(RewireSide side, WireEndId id, WireEnd end)
    {
        if (side.Has(end.At.Part))
        {
            return end with { At = naming.At(side.Key, end.At) };
        }

        if (!ends.TryGetValue(new EndKey(side.Key, id, null), out var at))
        {
            return null;
        }

        // A joint of the rewire's own is no part of either side, and is a splice.
        var kind = PartOf(at)?.Kind;
        var joint =
            kind == PartKinds.Coupling ? "cavity"
            : kind is null or PartKinds.Splice ? "splice"
            : kind == PartKinds.Body || PartKinds.IsBattery(kind) ? "ring"
            : end.Joint is "cavity" or "splice" ? "ring"
            : end.Joint;
        return new WireEnd(at, joint);
    }

    private Part? PartOf(TerminalAddress at) =>
        plan
            .Sides.SelectMany(s =>
                s.Machine.Parts.Where(p => s.Has(p.Id)).Select(p => (Id: naming.Part(s.Key, p.Id), p))
            )
            .FirstOrDefault(x => x.Id == at.Part)
            .p;

    private IEnumerable<Mount> Mounts(RewireSide side)
    {
        foreach (var mount in side.Machine.Mounts.Where(m => side.Has(m.Terminal.Part)))
        {
            TerminalAddress? on = side.Has(mount.On.Part)
                ? naming.At(side.Key, mount.On)
                : Of(new EndKey(side.Key, null, mount.Id));
            if (on is { } body)
            {
                yield return mount with
                {
                    Id = naming.Mount(side.Key, mount.Id),
                    Terminal = naming.At(side.Key, mount.Terminal),
                    On = body,
                };
            }
        }
    }

    /// <summary>Takes away what leads nowhere once loose ends are capped, and notes parts that nothing holds.</summary>
    private void Prune()
    {
        for (var before = -1; before != Machine.Wires.Count; )
        {
            before = Machine.Wires.Count;
            var held = Machine
                .Wires.SelectMany(w => new[] { w.From.At, w.To.At })
                .Concat(Machine.Mounts.SelectMany(m => new[] { m.Terminal, m.On }))
                .ToLookup(a => a);
            bool LeadsNowhere(TerminalAddress at) =>
                Machine.Index.PartAt(at) switch
                {
                    { Kind: PartKinds.Splice } part => part.Addresses.Sum(a => held[a].Count()) < 2,
                    { Kind: PartKinds.Coupling } part => !held[part.At(Cavity.OtherHalf(at.Terminal))].Any(),
                    _ => false,
                };
            Machine = Machine with
            {
                Wires = [.. Machine.Wires.Where(w => !LeadsNowhere(w.From.At) && !LeadsNowhere(w.To.At))],
            };
        }

        var used = Machine
            .Wires.SelectMany(w => new[] { w.From.At.Part, w.To.At.Part })
            .Concat(Machine.Mounts.SelectMany(m => new[] { m.Terminal.Part, m.On.Part }))
            .ToHashSet();
        Orphans =
        [
            .. Machine.Parts.Where(p =>
                !used.Contains(p.Id) && p.Kind is not (PartKinds.Splice or PartKinds.Coupling or PartKinds.Body)
            ),
        ];
        var parts = Machine.Parts.Where(p => used.Contains(p.Id)).ToList();
        var controls = parts.SelectMany(p => p.Contacts ?? []).Select(c => c.Control).ToHashSet();
        Machine = Machine with
        {
            Parts = parts,
            Controls = [.. Machine.Controls.Where(c => controls.Contains(c.Id))],
            Engines =
                Machine.Engines is { } engines
                && engines.Where(e => Turns(e, engines.Count, parts)).ToList() is { Count: > 0 } turned
                    ? turned
                    : null,
            Places = [.. Machine.Places.Where(p => parts.Exists(x => x.Place == p.Id))],
            Duties =
            [
                .. Machine.Duties.Where(d =>
                    used.Contains(d.Load)
                    && (d.Control is not { } by || used.Contains(by))
                    && d.Setting.Keys.All(controls.Contains)
                ),
            ],
        };
    }

    /// <summary>
    /// What the machine should do: what its sides should and it does as drawn; and for each starter that no such duty is left
    /// of, cranking in the setting nearest to rest that turns it.
    /// </summary>
    private static List<Duty> Duties(Machine machine)
    {
        const int MostMoved = 4;
        const double Turns = 0.8;
        if (!machine.Parts.Any(p => p.Terminals.Count > 0))
        {
            // Nothing stayed of any side.
            return [];
        }

        var circuit = Circuit.Compile(machine with { Duties = [] });
        var done = machine.Duties.Where(d => DutyCheck.Does(circuit, d)).ToList();
        foreach (var starter in machine.Parts.Where(p => circuit.HasDevice(p.Id) && circuit.DeviceOf(p.Id) is ICranks))
        {
            if (done.Exists(d => d.Load == starter.Id))
            {
                continue;
            }

            var state = new CircuitState(circuit) { FollowsWaves = false };
            state.Begin(circuit.NominalParameters());
            var setting = circuit
                .SettingsNearRest(MostMoved)
                .FirstOrDefault(s =>
                {
                    state.Move(circuit.Setting(null));
                    state.Move(s);
                    return circuit.DeviceOf(starter.Id).Effect(state).Level >= Turns;
                });
            if (setting is not null)
            {
                done.Add(
                    new Duty(
                        new DutyId(done.Exists(d => d.Id.Text == "cranks") ? "cranks-" + starter.Id : "cranks"),
                        "Cranks",
                        setting.Moved(machine),
                        starter.Id
                    )
                );
            }
        }

        return done;
    }
}
