using Pritchel.Core.Identity;
using Pritchel.Core.PartTests;
using Pritchel.Core.PartTests.Looms;
using Pritchel.Core.Rewiring.Tracing;
using Pritchel.Core.Units;
using Pritchel.Data;

namespace Pritchel.Workshop;

/// <summary>An unknown loom laid out for work.</summary>
/// <param name="Entry">As listed.</param>
/// <param name="State">What it stands at.</param>
/// <param name="Loom">Its ends and switches.</param>
/// <param name="Trace">What is known of it.</param>
/// <param name="Followed">What ends were followed to, by number.</param>
public sealed record OpenLoom(
    PartTestEntry Entry,
    SheetState State,
    Loom Loom,
    LoomTrace Trace,
    IReadOnlyDictionary<int, string> Followed
);

/// <summary>Brings unknown looms and drafts of machines together for the pages and the API.</summary>
public sealed class LoomDesk(PartTestStore tests, DraftStore drafts)
{
    private const double MostOhms = 1e6;

    /// <summary>Begins on a loom.</summary>
    /// <returns>Its number, or what was wrong.</returns>
    public async Task<(int? Number, string Why)> BeginAsync(
        string? name,
        string? plugs,
        string? switches,
        CancellationToken cancel = default
    )
    {
        var called = (name ?? "").ReplaceLineEndings(" ").Trim();
        if (FigureRules.OfName(called) is { } wrong)
        {
            return (null, wrong);
        }

        if (LoomText.Read(plugs, switches, out var error) is not { } loom)
        {
            return (null, error);
        }

        var number = await tests.BeginAsync(LoomSheet.Begin(called), cancel);
        await tests.AppendAsync(number, 1, new LoomListed(loom), cancel);
        return (number, "");
    }

    /// <summary>A loom laid out; null when there is none of that number.</summary>
    public async Task<OpenLoom?> OpenAsync(int number, CancellationToken cancel = default) =>
        await tests.FindAsync(number, cancel) is var (entry, state)
        && state.Began.Sheet == LoomSheet.Key
        && LoomSheet.Of(state) is var (loom, trace, followed)
            ? new OpenLoom(entry, state, loom, trace, followed)
            : null;

    /// <summary>Enters what two ends read: "silent", "beeps", or ohms.</summary>
    /// <returns>What was wrong; null when it was kept.</returns>
    public async Task<string?> ReadAsync(
        OpenLoom open,
        int after,
        LoomQuestion question,
        string? typed,
        CancellationToken cancel = default
    )
    {
        const double Copper = 0.2;
        if (!LoomSheet.IsOf(open.Loom, question))
        {
            return "That pair is not one of this loom; nothing was kept.";
        }

        var text = (typed ?? "").Trim();
        double ohms;
        if (text is "silent" or "beeps")
        {
            ohms = text == "beeps" ? Copper : double.PositiveInfinity;
        }
        else if (!ReadingText.TryParse(text, MostOhms, out var reading, out var error))
        {
            return $"Ohms: {error}";
        }
        else
        {
            ohms = reading.IsOverRange ? double.PositiveInfinity : Math.Abs(reading.Value);
        }

        return await tests.EnterAsync(open.Entry, after, new LoomProbed(new LoomAnswer(question, ohms), text), cancel);
    }

    /// <summary>Tells what an end was followed to.</summary>
    /// <returns>What was wrong; null when it was kept.</returns>
    public async Task<string?> FollowAsync(
        OpenLoom open,
        int after,
        int end,
        string? to,
        CancellationToken cancel = default
    )
    {
        var words = (to ?? "").ReplaceLineEndings(" ").Trim();
        return end < 0 || end >= open.Loom.Ends.Count ? "That is no end of this loom; nothing was kept."
            : words.Length is 0 or > LoomSheet.MostFollowed || words.Any(c => char.IsControl(c) || c is '<' or '>')
                ? $"What {open.Loom.Ends[end].Name} goes to: 1 to {LoomSheet.MostFollowed} letters that print, without < or >."
            : await tests.EnterAsync(open.Entry, after, new LoomFollowed(end, words), cancel);
    }

    /// <summary>Takes the last step back; the list itself stays.</summary>
    /// <returns>What was wrong; null when it was taken back.</returns>
    public Task<string?> UndoAsync(OpenLoom open, int after, CancellationToken cancel = default) =>
        tests.TakeBackAsync(
            open.Entry,
            after,
            open.State.Undoable is { Step: not LoomListed } last ? last : null,
            cancel
        );

    /// <summary>Begins a machine from what is known, as a draft to be finished in the editor.</summary>
    /// <returns>Number of the draft.</returns>
    public async Task<int> DraftAsync(OpenLoom open, CancellationToken cancel = default) =>
        await drafts.BeginAsync(
            LoomMachine.Of(
                new MachineId($"loom-{open.Entry.Number}"),
                open.Entry.Name,
                open.Loom,
                open.Trace,
                open.Followed
            ),
            $"traced as {open.Entry.Tag}",
            cancel
        );
}
