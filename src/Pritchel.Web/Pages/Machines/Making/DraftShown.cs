using Pritchel.Core.Machines;
using Pritchel.Data;

namespace Pritchel.Web.Pages.Machines.Making;

/// <summary>What a draft's page shows: the machine as drawn, the thing in the form, what it lacks and what was refused.</summary>
/// <param name="Open">The draft.</param>
/// <param name="On">What the form is about: machine, wire, part, place, control, engine, mount, duty, coupling, interlock.</param>
/// <param name="Item">Which of them; nothing for a new one.</param>
/// <param name="View">"loom" or "lists".</param>
public sealed record DraftShown(OpenDraft Open, string? On, string? Item, string View)
{
    /// <summary>The machine as it is now.</summary>
    public Machine Machine => Open.Draft.Now;

    /// <summary>Version it will be saved as.</summary>
    public required int NextVersion { get; init; }

    /// <summary>The form; null for none.</summary>
    public IDraftForm? Form { get; init; }

    /// <summary>What the last step came to.</summary>
    public DraftOutcome Outcome { get; init; } = DraftOutcome.None;

    /// <summary>What is still lacking.</summary>
    public IReadOnlyList<DraftProblem> Lacks { get; } =
    [.. Open.Draft.Lacks.Select(p => DraftProblem.Of(Open.Draft.Now, p))];

    /// <summary>Address of this draft with another thing in the form.</summary>
    public string Link(string on, string? item = null) =>
        $"/machines/drafts/{Open.Id}"
        + QueryString.Create(
            new[] { ("on", on), ("item", item), ("view", View) }
                .Where(q => !string.IsNullOrEmpty(q.Item2))
                .Select(q => KeyValuePair.Create(q.Item1, q.Item2))
        );
}
