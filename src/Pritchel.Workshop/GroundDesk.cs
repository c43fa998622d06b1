using BitFaster.Caching;
using BitFaster.Caching.Lru;
using Pritchel.Core.PartTests;
using Pritchel.Core.PartTests.Grounds;
using Pritchel.Core.Units;
using Pritchel.Data;

namespace Pritchel.Workshop;

/// <summary>A ground survey laid out for work.</summary>
/// <param name="Entry">As listed.</param>
/// <param name="State">What it stands at.</param>
/// <param name="Machine">The machine.</param>
/// <param name="Survey">Its points.</param>
/// <param name="Figures">Volts read, by number of the point.</param>
/// <param name="Suspects">What explains them, worst first.</param>
public sealed record OpenSurvey(
    PartTestEntry Entry,
    SheetState State,
    MachineVersion Machine,
    GroundSurvey Survey,
    IReadOnlyDictionary<int, double> Figures,
    IReadOnlyList<GroundSuspect> Suspects
);

/// <summary>Surveys that are in hand: seconds to work out on a large machine, so that only the last few are kept.</summary>
public sealed class SurveyShelf
{
    private const int Most = 6;

    private readonly ICache<string, GroundSurvey?> surveys = new ConcurrentLruBuilder<string, GroundSurvey?>()
        .WithCapacity(Most)
        .WithAtomicGetOrAdd()
        .Build();

    /// <summary>The survey of a machine; null where it has no battery.</summary>
    public GroundSurvey? Find(MachineVersion machine) =>
        surveys.GetOrAdd(machine.Content, _ => GroundSurvey.Of(machine.Circuit));
}

/// <summary>Brings ground surveys, machines and meter together for the pages and the API.</summary>
public sealed class GroundDesk(
    PartTestStore tests,
    MachineStore machines,
    MeterStore meters,
    MachineShelf shelf,
    SurveyShelf surveys
)
{
    /// <summary>Begins a survey.</summary>
    /// <returns>Its number; null when there is no such machine, or it has no battery.</returns>
    public async Task<int?> BeginAsync(string machineId, string? job = null, CancellationToken cancel = default)
    {
        if (await machines.FindAsync(machineId, cancel) is not { } entry)
        {
            return null;
        }

        var version = await shelf.FindAsync(entry.Id, entry.Version);
        return GroundSheet.Begin(version.Machine, entry.Version, job) is { } began
            ? await tests.BeginAsync(began, cancel)
            : null;
    }

    /// <summary>A survey laid out; null when there is none of that number.</summary>
    public async Task<OpenSurvey?> OpenAsync(int number, CancellationToken cancel = default)
    {
        if (
            await tests.FindAsync(number, cancel) is not var (entry, state)
            || state.Began is not { Sheet: GroundSheet.Key, Machine: var (id, version) }
        )
        {
            return null;
        }

        var machine = await shelf.FindAsync(id, version);
        if (surveys.Find(machine) is not { } survey)
        {
            return null;
        }

        var figures = GroundSheet.Figures(survey, state);
        return new OpenSurvey(entry, state, machine, survey, figures, survey.Judge(figures));
    }

    /// <summary>Enters a figure as typed, in millivolts.</summary>
    /// <returns>What was wrong; null when it was kept.</returns>
    public async Task<string?> ReadAsync(
        OpenSurvey open,
        int after,
        string? point,
        string? typed,
        CancellationToken cancel = default
    )
    {
        if (open.Survey.Points.FirstOrDefault(p => p.At.Text == point) is not { } asked)
        {
            return $"“{point}” is no point of this survey.";
        }

        if (!ReadingText.TryParse(typed, GroundSheet.MostMillivolts, out var read, out var error))
        {
            return $"{asked.Words}: {error}";
        }

        if (read.IsOverRange)
        {
            return $"{asked.Words}: OL means that the range is too small here. Turn it up one and type the figure in mV.";
        }

        var meter = await meters.GetAsync(cancel);
        var step = GroundSheet.Read(asked.At, typed!.Trim(), Math.Abs(read.Value), meter.Name);
        return await tests.EnterAsync(open.Entry, after, step, cancel);
    }

    /// <summary>Takes the last step back.</summary>
    /// <returns>What was wrong; null when it was taken back.</returns>
    public Task<string?> UndoAsync(OpenSurvey open, int after, CancellationToken cancel = default) =>
        tests.TakeBackAsync(open.Entry, after, open.State.Undoable, cancel);
}
