using System.Security.Cryptography;
using System.Text;
using BitFaster.Caching;
using BitFaster.Caching.Lru;
using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.PartTests;
using Pritchel.Core.Simulation;
using Pritchel.Data;
using Pritchel.Data.Events;

namespace Pritchel.Workshop;

/// <summary>A part test laid out for work.</summary>
/// <param name="Entry">As listed.</param>
/// <param name="State">What it stands at.</param>
/// <param name="Table">Predictions of its sheet.</param>
public sealed record OpenPartTest(PartTestEntry Entry, SheetState State, SheetTable Table)
{
    // A step that is only written down asks for neither.
    private readonly Lazy<SheetBeliefs> beliefs = new(() =>
        SheetBeliefs.Weigh(
            Table,
            State.Read.Select(r => Weighed(Table, State, r)),
            State.Suspicion,
            s => State.FactorOf(Table.Sheet, s)
        )
    );

    /// <summary>What its figures come to.</summary>
    public SheetBeliefs Beliefs => beliefs.Value;

    /// <summary>The verdict.</summary>
    public SheetVerdict Verdict => field ??= SheetVerdict.Of(Beliefs);

    /// <summary>Earlier ones of the same part of the same machine, newest first: what it read then.</summary>
    public IReadOnlyList<(PartTestEntry Entry, SheetState State)> Earlier { get; init; } = [];

    /// <summary>Colours of the wires at each of its terminals, on the machine that it is of; none for a loose part.</summary>
    public IReadOnlyDictionary<string, string> Colours { get; init; } = new Dictionary<string, string>();

    /// <summary>Its sheet.</summary>
    public PartSheet Sheet => Table.Sheet;

    /// <summary>Figures by reading, leads taken off ohms.</summary>
    public IReadOnlyDictionary<string, double> Figures =>
        State
            .Read.Where(r => r.Wavers is null)
            .ToDictionary(
                r => r.Reading,
                r =>
                    Table.Readings.FirstOrDefault(x => x.Id == r.Reading) is { Observable: Core.Observables.DeadOhms }
                    && !Table.Meter.LeadsNulled
                        ? Math.Max(0, r.Figure - Table.Meter.Leads.Value)
                        : r.Figure,
                StringComparer.Ordinal
            );

    /// <summary>What was read and the sheet asks for no more: kept and shown, weighed by nothing.</summary>
    public IEnumerable<SheetRead> NoLongerAsked => State.Read.Where(r => SheetBeliefs.IndexOf(Table, r.Reading) < 0);

    /// <summary>
    /// Whether all that was read is what a sound part shows and nothing left would tell more, though some faults are too slight
    /// for this meter.
    /// </summary>
    public bool NothingSeen =>
        Verdict.Outcome == SheetOutcome.CannotBeTold
        && State.Read.All(r =>
            SheetBeliefs.IndexOf(Table, r.Reading) is var at and >= 0 && Beliefs.Agrees(at, Weighed(r))
        );

    /// <summary>Whether what is found wrong is the part itself, not what it stands in: its cables, its winding, its battery.</summary>
    public bool IsItself =>
        Verdict.Among.Count > 0
        && Verdict.Among.SelectMany(s => s.Faults).All(f => f.Id.Of.Owner.Part == State.Began.Tested.Part.Id);

    /// <summary>A figure as it is weighed.</summary>
    public SheetEntry Weighed(SheetRead read) => Weighed(Table, State, read);

    /// <summary>A figure as it is weighed: how finely it was typed counts, and copper's ohms are brought to 20 °C.</summary>
    public static SheetEntry Weighed(SheetTable table, SheetState state, SheetRead read)
    {
        var reading = table.Readings.FirstOrDefault(r => r.Id == read.Reading);
        var digits = reading?.Observable.Read(read.Typed, out _)?.Digits;
        if (reading is null || !table.Sheet.IsCopper(reading) || !double.IsFinite(read.Figure))
        {
            return new SheetEntry(read.Reading, read.Figure, digits, state.TimesAlike(read.Reading))
            {
                Wavers = read.Wavers,
            };
        }

        // What the leads add is at the air's own warmth.
        var leads =
            table.Meter.LeadsNulled || reading.Observable is not Core.Observables.DeadOhms
                ? 0
                : Math.Min(table.Meter.Leads.Value, read.Figure);
        var at20 = leads + Copper.At20(read.Figure - leads, state.Told.Celsius);
        return new SheetEntry(read.Reading, at20, digits, state.TimesAlike(read.Reading));
    }
}

/// <summary>Tables of part tests that are in hand: a second or less to work out, so that only the last few are kept.</summary>
public sealed class SheetShelf
{
    private const int Most = 40;

    private readonly ICache<string, SheetTable> tables = new ConcurrentLruBuilder<string, SheetTable>()
        .WithCapacity(Most)
        .WithAtomicGetOrAdd()
        .Build();

    /// <summary>The predictions of a sheet for a part, with a meter.</summary>
    public SheetTable Find(PartSheet sheet, TestedPart tested, Meter meter)
    {
        var told =
            $"{sheet.Key}\n{SheetFormat.Write(new SheetBegan(sheet.Key, tested, null, null))}\n{MeterFile.Write(meter)}\n{meter.LeadsNulled}";
        var key = Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(told)));
        return tables.GetOrAdd(key, _ => SheetTable.Build(sheet, tested, meter));
    }
}

/// <summary>Brings part tests, machines and meter together for the pages and the API.</summary>
public sealed class PartTestDesk(
    PartTestStore tests,
    MachineStore machines,
    MeterStore meters,
    MachineShelf shelf,
    SheetShelf sheets
)
{
    /// <summary>A part test laid out; null when there is none, or its sheet is not known to this version.</summary>
    public async Task<OpenPartTest?> OpenAsync(int number, CancellationToken cancel = default)
    {
        if (
            await tests.FindAsync(number, cancel) is not var (entry, state)
            || SheetCatalogue.Named(state.Began.Sheet) is not { } sheet
        )
        {
            return null;
        }

        var meter = await meters.GetAsync(cancel);
        var table = sheets.Find(sheet, sheet.At(state.Began.Tested, state.Told.Celsius), meter);
        return new OpenPartTest(entry, state, table)
        {
            Earlier = await EarlierAsync(entry, cancel),
            Colours = state.Began.Machine is var (id, version)
                ? await ColoursAsync(id, version, state.Began.Tested)
                : new(),
        };
    }

    /// <summary>Colours of the wires at a part's terminals; none where the machine cannot be read here any more.</summary>
    private async Task<Dictionary<string, string>> ColoursAsync(string machine, int version, TestedPart tested)
    {
        try
        {
            var index = (await shelf.FindAsync(machine, version)).Machine.Index;
            return tested
                .Part.Addresses.Select(a => (At: a, Wires: index.EndsAt(a).Select(e => e.Wire).ToList()))
                .Where(a => a.Wires.Count > 0)
                .ToDictionary(
                    a => a.At.Terminal.Text,
                    a => string.Join(", ", a.Wires.Select(MachineWords.Colours).Distinct()),
                    StringComparer.Ordinal
                );
        }
        catch (UnreadableMachineException)
        {
            return [];
        }
    }

    private async Task<IReadOnlyList<(PartTestEntry Entry, SheetState State)>> EarlierAsync(
        PartTestEntry of,
        CancellationToken cancel
    )
    {
        const int MostEarlier = 4;
        var earlier = new List<(PartTestEntry, SheetState)>();
        foreach (var entry in await tests.EarlierAsync(of, MostEarlier, cancel))
        {
            try
            {
                if (await tests.FindAsync(entry.Number, cancel) is { } found && found.State.Read.Count > 0)
                {
                    earlier.Add(found);
                }
            }
            catch (FormatException)
            {
                // What cannot be read is no trend; it is named where it is opened.
            }
        }

        return earlier;
    }

    /// <summary>Begins a test of a loose part; by the first sheet that is for its kind unless one is named.</summary>
    /// <returns>Its number; null when no sheet is for that kind.</returns>
    public async Task<int?> BeginLooseAsync(
        string kind,
        string name,
        IReadOnlyDictionary<string, double>? values = null,
        string? by = null,
        CancellationToken cancel = default
    )
    {
        if (DeviceKinds.Named(kind) is not { } known || SheetFor(known, by) is not { } sheet)
        {
            return null;
        }

        var tested = TestedPart.Loose(known, name, optional: true);
        if (values is { Count: > 0 })
        {
            tested = tested with { Part = tested.Part with { Values = values }, FiguresKnown = true };
        }

        return await tests.BeginAsync(new SheetBegan(sheet.Key, tested, null, null), cancel);
    }

    /// <summary>
    /// Begins a test of a machine's part; by the first sheet that is for its kind unless one is named, or by the one that shows most plainly
    /// what the part is suspected of.
    /// </summary>
    /// <returns>Its number; null when there is no such part, or no sheet for it.</returns>
    public async Task<int?> BeginAsync(
        string machineId,
        string partId,
        string? job = null,
        string? by = null,
        string? suspected = null,
        CancellationToken cancel = default
    )
    {
        if (await machines.FindAsync(machineId, cancel) is not { } entry)
        {
            return null;
        }

        var version = await shelf.FindAsync(entry.Id, entry.Version);
        if (
            version.Machine.Index.Part(new PartId(partId)) is not { } part
            || DeviceKinds.Named(part.Kind) is not { } kind
            || SheetFor(kind, by) is not { } first
        )
        {
            return null;
        }

        var tested = TestedPart.Of(version.Machine, part);
        var meter = await meters.GetAsync(cancel);
        var sheet =
            by is null && suspected is not null
                ? SheetCatalogue.For(kind).MaxBy(s => sheets.Find(s, tested, meter).Shows(suspected))!
                : first;
        return await tests.BeginAsync(new SheetBegan(sheet.Key, tested, (entry.Id, entry.Version), job), cancel);
    }

    /// <summary>The sheet asked for, or the first that is for a kind; null where it is not for that kind.</summary>
    private static PartSheet? SheetFor(DeviceKind kind, string? by) =>
        SheetCatalogue.For(kind).FirstOrDefault(s => by is null || s.Key == by);

    /// <summary>Enters a figure as typed.</summary>
    /// <returns>What was wrong; null when it was kept.</returns>
    public async Task<string?> ReadAsync(
        OpenPartTest open,
        int after,
        string? reading,
        string? typed,
        CancellationToken cancel = default
    )
    {
        if (open.Table.Readings.FirstOrDefault(r => r.Id == reading) is not { } asked)
        {
            return $"“{reading}” is not a reading of this sheet; allowed: {string.Join(", ", open.Table.Readings.Select(r => r.Id))}.";
        }

        if (Wavering.Read(typed, out var wrong) is { } wavers)
        {
            var wavered = new SheetRead(asked.Id, typed!.Trim(), double.NaN, open.Table.Meter.Name) { Wavers = wavers };
            return await tests.EnterAsync(open.Entry, after, wavered, cancel);
        }

        if (wrong is not null)
        {
            return $"{asked.Words}: {wrong}";
        }

        if (asked.Observable.Read(typed, out var error) is not { } figure)
        {
            return $"{asked.Words}: {error}";
        }

        var read = new SheetRead(asked.Id, typed!.Trim(), figure.Value, open.Table.Meter.Name);
        return await tests.EnterAsync(open.Entry, after, read, cancel);
    }

    /// <summary>Takes the last step back.</summary>
    /// <returns>What was wrong; null when it was taken back.</returns>
    public Task<string?> UndoAsync(OpenPartTest open, int after, CancellationToken cancel = default) =>
        tests.TakeBackAsync(open.Entry, after, open.State.Undoable, cancel);

    /// <summary>Tells how the part stands.</summary>
    /// <returns>What was wrong; null when it was kept.</returns>
    public async Task<string?> TellAsync(
        OpenPartTest open,
        int after,
        double celsius,
        bool isNew,
        string? seen,
        CancellationToken cancel = default
    )
    {
        const int MostSeen = 300;
        const double Coldest = -40;
        const double Hottest = 150;
        var words = (seen ?? "").ReplaceLineEndings(" ").Trim();
        return celsius is not (>= Coldest and <= Hottest) ? $"Temperature: {Coldest} to {Hottest} °C."
            : words.Length > MostSeen ? $"What was seen: {words.Length} characters; at most {MostSeen}."
            : await tests.EnterAsync(open.Entry, after, new SheetTold(celsius, isNew, words), cancel);
    }

    /// <summary>Tells whether something looked for was there.</summary>
    /// <returns>What was wrong; null when it was kept.</returns>
    public async Task<string?> LookAsync(
        OpenPartTest open,
        int after,
        string? look,
        bool seen,
        CancellationToken cancel = default
    ) =>
        open.Sheet.Looks.FirstOrDefault(l => l.Id == look) is { } known
            ? await tests.EnterAsync(open.Entry, after, new SheetLooked(known.Id, seen), cancel)
            : $"“{look}” is no look of this sheet; allowed: {string.Join(", ", open.Sheet.Looks.Select(l => l.Id))}.";
}
