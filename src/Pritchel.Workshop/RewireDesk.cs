using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Rewiring.Plugs;
using Pritchel.Core.Rewiring.Templates;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;
using Pritchel.Data;
using Pritchel.Data.Events;

namespace Pritchel.Workshop;

/// <summary>Brings rewires and machines together for the pages and the API.</summary>
public sealed partial class RewireDesk(
    RewireStore rewires,
    MachineStore machines,
    MachineShelf shelf,
    RewireShelf worked
)
{
    /// <summary>A rewire laid out; null when there is none.</summary>
    public async Task<OpenRewire?> OpenAsync(int number, CancellationToken cancel = default)
    {
        if (await rewires.FindAsync(number, cancel) is not var (entry, state))
        {
            return null;
        }

        var host = await shelf.FindAsync(entry.Host.Id, entry.Host.Version);
        var donor = entry.Donor is var (id, version) ? await shelf.FindAsync(id, version) : null;
        var plan = state.Sketch.On(host.Machine, donor?.Machine);
        return new OpenRewire(entry, state, host, donor, plan, worked.Functions(plan, host, donor));
    }

    /// <summary>Begins a rewire.</summary>
    /// <param name="name">What it is called.</param>
    /// <param name="host">Machine that is rewired.</param>
    /// <param name="donor">Machine that something comes from; null or empty for none.</param>
    /// <param name="cancel">Stops waiting.</param>
    /// <returns>Its number, or what was wrong.</returns>
    public async Task<(int? Number, string? Why)> BeginAsync(
        string? name,
        string? host,
        string? donor,
        CancellationToken cancel = default
    )
    {
        if (Called(name, "what the rewire is to do", out var called) is { } wrong)
        {
            return (null, wrong);
        }

        if (await machines.FindAsync(host ?? "", cancel) is not { } hosting)
        {
            return (null, "Machine: choose the one that is rewired from the list.");
        }

        MachineEntry? giving = null;
        var template = CircuitTemplate.All.FirstOrDefault(t => t.Id.Text == donor);
        if (!string.IsNullOrEmpty(donor))
        {
            giving = template is null ? await machines.FindAsync(donor, cancel) : await KeptAsync(template, cancel);
            if (giving is null)
            {
                return (null, "Comes in: choose a machine from the list, or nothing.");
            }
        }

        var at = await shelf.FindAsync(hosting.Id, hosting.Version);
        var from = giving is null ? null : await shelf.FindAsync(giving.Id, giving.Version);
        return (
            await rewires.BeginAsync(
                called,
                (hosting.Id, hosting.Version),
                giving is null ? null : (giving.Id, giving.Version),
                RewireSketch.Start(at.Machine, from?.Machine) is var start && template is not null
                    ? start with
                    {
                        Donor = new SideSketch(template.Keeps(), []),
                    }
                    : start,
                cancel
            ),
            null
        );
    }

    /// <summary>The machine that a template is drawn on, kept beside the others and in no list.</summary>
    private async Task<MachineEntry> KeptAsync(CircuitTemplate template, CancellationToken cancel)
    {
        if (await machines.FindAsync(template.Id.Text, cancel) is { } kept)
        {
            return kept;
        }

        var entry = await machines.AddAsync(template.Machine(), cancel);
        await machines.PutAwayAsync(entry.Id, true, cancel);
        return entry;
    }

    /// <summary>Keeps a plug drawn by hand as a machine of its own, to be host or donor like any other.</summary>
    /// <returns>The machine, or what was wrong.</returns>
    public async Task<(MachineEntry? Entry, string? Why)> DrawPlugAsync(
        string? name,
        HandPlug plug,
        CancellationToken cancel = default
    )
    {
        if (Called(name, "what the plug is called", out var called) is { } wrong)
        {
            return (null, wrong);
        }

        if (plug.Check().Select(p => p.Message).FirstOrDefault() is { } cannot)
        {
            return (null, cannot);
        }

        var number = 1;
        while (await machines.FindAsync($"plug-{number}", cancel) is not null)
        {
            number++;
        }

        var machine = plug.Machine(new MachineId($"plug-{number}"), called);
        return MachineValidator.Check(machine) is [var lack, ..]
            ? (null, $"It cannot be kept: {lack.Message}")
            : (await machines.AddAsync(machine, cancel), null);
    }

    private static string? Called(string? name, string what, out string called)
    {
        const int Longest = 80;
        called = (name ?? "").ReplaceLineEndings(" ").Trim();
        return
            called.Length is 0 or > Longest
            || called.Any(char.IsControl)
            || called.Contains('<')
            || called.Contains('>')
            ? $"Name: say in 1 to {Longest} letters that print, without < or >, {what}."
            : null;
    }

    /// <summary>Says what stays of each side, and which wires are cut through.</summary>
    /// <param name="open">The rewire.</param>
    /// <param name="after">Sequence of the last step its author had seen.</param>
    /// <param name="host">Parts that stay of the host, and wires of it cut through, as typed.</param>
    /// <param name="donor">The same of the donor; of no account where there is none.</param>
    /// <param name="cancel">Stops waiting.</param>
    /// <returns>What was wrong; null when it was kept.</returns>
    public async Task<string?> KeepAsync(
        OpenRewire open,
        int after,
        (IReadOnlyCollection<string> Keeps, string? Cuts) host,
        (IReadOnlyCollection<string> Keeps, string? Cuts) donor,
        CancellationToken cancel = default
    )
    {
        var (hosts, wrong) = Sketch(open.Plan.Host, host);
        var (donors, wrongToo) = open.Plan.Donor is { } side ? Sketch(side, donor) : (null, null);
        return wrong
            ?? wrongToo
            ?? await AppendAsync(
                open,
                after,
                open.State.Sketch with
                {
                    Host = hosts!,
                    Donor = donors,
                },
                "what stays",
                cancel
            );
    }

    private static (SideSketch? Sketch, string? Why) Sketch(
        RewireSide side,
        (IReadOnlyCollection<string> Keeps, string? Cuts) told
    )
    {
        var wires = (told.Cuts ?? "")
            .Split([',', ' ', ';'], StringSplitOptions.RemoveEmptyEntries)
            .Distinct(StringComparer.Ordinal)
            .ToList();
        if (wires.Find(w => side.Whole.Index.Wire(new WireId(w)) is null) is { } unknown)
        {
            return (
                null,
                $"Cut through: “{Excerpt.Of(unknown)}” is no wire of {side.Whole.Name}; give wires as on its wire list, such as {side.Whole.Wires[0].Id}."
            );
        }

        return (
            new SideSketch(
                [.. side.Whole.Parts.Select(p => p.Id).Where(p => told.Keeps.Contains(p.Text))],
                [.. wires.Select(w => new WireId(w))]
            ),
            null
        );
    }

    /// <summary>Joins ends, or lands them on a terminal.</summary>
    /// <param name="open">The rewire.</param>
    /// <param name="after">Sequence of the last step its author had seen.</param>
    /// <param name="ends">Ends as written.</param>
    /// <param name="onto">Terminal that stays, as "host:frame.loom bolt"; null or empty for a joint of their own.</param>
    /// <param name="temporary">Whether it is a jumper that comes out again.</param>
    /// <param name="cancel">Stops waiting.</param>
    /// <returns>What was wrong; null when it was kept.</returns>
    public async Task<string?> JoinAsync(
        OpenRewire open,
        int after,
        IEnumerable<string> ends,
        string? onto,
        bool temporary = false,
        CancellationToken cancel = default
    )
    {
        var loose = open.Ends.Select(e => e.End).ToHashSet();
        var chosen = ends.Select(EndKey.Parse).OfType<EndKey>().Where(loose.Contains).Distinct().ToList();
        Join join;
        if (string.IsNullOrEmpty(onto))
        {
            if (chosen.Count < 2)
            {
                return "Join: tick two flags or more, or one and the terminal that it lands on.";
            }

            if (chosen.Exists(e => e.Mount is not null))
            {
                return "Join: bolted metal lands on a body; choose the body below.";
            }

            join = new Join(chosen);
        }
        else
        {
            if (Landing.Parse(onto) is not { } landing || landing.PartIn(open.Plan) is null || chosen.Count == 0)
            {
                return "Land on: choose a terminal of a part that stays, and tick at least one flag.";
            }

            join = new Join(chosen, landing);
        }

        join = join with { IsTemporary = temporary };
        return await AppendAsync(
            open,
            after,
            open.State.Sketch with
            {
                Joins = [.. open.Plan.With(join).Joins],
            },
            (temporary ? "jumper on flags " : "flags ")
                + string.Join(" + ", open.Ends.Where(e => chosen.Contains(e.End)).Select(e => e.Flag)),
            cancel
        );
    }

    /// <summary>Takes over every join that is suggested.</summary>
    /// <returns>What was wrong; null when it was kept.</returns>
    public async Task<string?> JoinSuggestedAsync(OpenRewire open, int after, CancellationToken cancel = default)
    {
        var suggested = open.Suggested;
        return suggested.Count == 0
            ? "Nothing is suggested: what is loose fits nothing surely."
            : await AppendAsync(
                open,
                after,
                open.State.Sketch with
                {
                    Joins = [.. suggested.Aggregate(open.Plan, (p, s) => p.With(s.Join)).Joins],
                },
                $"{suggested.Count} suggested joins",
                cancel
            );
    }

    /// <summary>Parts a join again.</summary>
    /// <returns>What was wrong; null when it was kept.</returns>
    public async Task<string?> PartAsync(OpenRewire open, int after, int number, CancellationToken cancel = default) =>
        number < 1 || number > open.Plan.Joins.Count
            ? "There is no such join any more."
            : await AppendAsync(
                open,
                after,
                open.State.Sketch with
                {
                    Joins = [.. open.Plan.Joins.Where((_, i) => i != number - 1)],
                },
                $"join {number} parted",
                cancel
            );

    /// <summary>Takes the last step back.</summary>
    /// <returns>What was wrong; null when it was taken back.</returns>
    public async Task<string?> UndoAsync(OpenRewire open, int after, CancellationToken cancel = default) =>
        open.State.Last is not { } last ? "Nothing to take back."
        : await rewires.AppendAsync(open.Entry.Number, after, new RewireStep(null, "undo: " + last), cancel) ? null
        : Moved;

    /// <summary>The machine that it makes, and the proof of it, which is begun where it is not done.</summary>
    public RewireProof Prove(OpenRewire open)
    {
        var made = Marriage.Of(open.Plan.ForWork);
        ProofWork? Work(Machine machine) =>
            MachineValidator.Unsolvable(machine).Any() ? null : worked.Proof(machine, open.Host, open.Donor);
        var jumped = open.Plan.HasJumpers ? Marriage.Of(open.Plan).Machine : null;
        return new RewireProof(
            made,
            [
                .. MachineValidator.Unsolvable(made.Machine),
                .. MachineValidator.Check(made.Machine).Where(l => l.Unfinished),
            ],
            Work(made.Machine),
            jumped is null ? null : Work(jumped)
        );
    }

    /// <summary>Saves the machine that it makes as a machine of its own.</summary>
    /// <returns>The machine, or what was wrong.</returns>
    public async Task<(MachineEntry? Entry, string? Why)> SaveAsync(OpenRewire open, CancellationToken cancel = default)
    {
        var machine = Marriage.Of(open.Plan.ForWork).Machine with
        {
            Id = new MachineId($"{open.Host.Id}-{open.Entry.Tag.ToLowerInvariant()}"),
            Name = $"{open.Host.Machine.Name}, {open.Entry.Tag}",
            MayDiffer =
                $"Rewired as {open.Entry.Tag}, “{open.Entry.Name}”: as built may differ from as planned. Read back against the splice table first. {open.Host.Machine.MayDiffer}",
        };
        return MachineValidator.Check(machine) is { Count: > 0 } lacks
            ? (null, "It cannot be saved yet: " + string.Join(" ", lacks.Take(3).Select(l => l.Message)))
            : (await machines.AddAsync(machine, cancel), null);
    }

    private const string Moved =
        "Somebody else has changed this rewire meanwhile: look at it as it stands now, then do it again.";

    private async Task<string?> AppendAsync(
        OpenRewire open,
        int after,
        RewireSketch sketch,
        string words,
        CancellationToken cancel
    ) => await rewires.AppendAsync(open.Entry.Number, after, new RewireStep(sketch, words), cancel) ? null : Moved;
}
