using Pritchel.Core.PartTests;
using Pritchel.Data;

namespace Pritchel.Workshop;

/// <summary>Steps of part tests, surveys, leads, points and looms as they are kept: one after the other, none unasked.</summary>
public static class SheetKeeping
{
    private const string Meanwhile =
        "Something was entered here meanwhile; it is shown below. Yours was not kept: enter it again.";

    /// <summary>Keeps a step, if nothing was entered since its author looked.</summary>
    /// <param name="tests">Part tests in the record.</param>
    /// <param name="entry">Which of them.</param>
    /// <param name="after">Sequence of the last step that its author had seen.</param>
    /// <param name="step">The step.</param>
    /// <param name="cancel">Stops waiting.</param>
    /// <returns>What was wrong; null when it was kept.</returns>
    public static async Task<string?> EnterAsync(
        this PartTestStore tests,
        PartTestEntry entry,
        int after,
        SheetStep step,
        CancellationToken cancel
    ) => await tests.AppendAsync(entry.Number, after, step, cancel) ? null : Meanwhile;

    /// <summary>Takes a step back.</summary>
    /// <param name="tests">Part tests in the record.</param>
    /// <param name="entry">Which of them.</param>
    /// <param name="after">Sequence of the last step that its author had seen.</param>
    /// <param name="last">The step; null where there is none to take back.</param>
    /// <param name="cancel">Stops waiting.</param>
    /// <returns>What was wrong; null when it was taken back.</returns>
    public static async Task<string?> TakeBackAsync(
        this PartTestStore tests,
        PartTestEntry entry,
        int after,
        RecordedStep? last,
        CancellationToken cancel
    ) =>
        last is null
            ? "Nothing to take back."
            : await tests.EnterAsync(entry, after, new SheetUndone(last.Sequence), cancel);
}
