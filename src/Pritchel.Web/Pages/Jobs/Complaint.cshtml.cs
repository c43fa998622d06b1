using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Circuits;
using Pritchel.Core.Diagnosis;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Data;
using Pritchel.Web.Desk;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>The complaint: what happens and what lights in each position, how often, what is bridged.</summary>
public sealed class ComplaintModel(JobDesk desk, JobStore jobs) : JobPageModel(desk, jobs)
{
    private const int MostTries = 200;
    private const int MostWords = 300;

    /// <summary>What is heard.</summary>
    [BindProperty]
    public string? HeardSaid { get; set; }

    /// <summary>Owner's words.</summary>
    [BindProperty]
    public string? Words { get; set; }

    /// <summary>Tries that failed, as typed.</summary>
    [BindProperty]
    public string? Failed { get; set; }

    /// <summary>Tries, as typed.</summary>
    [BindProperty]
    public string? Tried { get; set; }

    /// <summary>Contacts ticked as bridged.</summary>
    [BindProperty]
    public List<string> Bridged { get; set; } = [];

    /// <summary>Lamp answers, "lamp@condition" to look.</summary>
    [BindProperty]
    public Dictionary<string, string> Lamps { get; set; } = [];

    /// <summary>Shows the complaint as it stands.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        var complaint = Open.State.Complaint!;
        HeardSaid = complaint.Heard.ToString();
        Words = complaint.Words;
        Failed = complaint.Failed.ToString(CultureInfo.InvariantCulture);
        Tried = complaint.Tried.ToString(CultureInfo.InvariantCulture);
        Bridged = [.. complaint.Bridged];
        Lamps = complaint.Lamps.ToDictionary(
            l => $"{l.Lamp}@{l.Condition}",
            l => l.Look.ToString(),
            StringComparer.Ordinal
        );
        return Page();
    }

    /// <summary>Writes the complaint down.</summary>
    public async Task<IActionResult> OnPostAsync()
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        var complaint = Understood();
        return complaint is not null && await AppendAsync(new ComplaintMade(complaint))
            ? Redirect($"/jobs/{Open.Job.Tag}")
            : Page();
    }

    /// <summary>Switch contacts that may have been bridged, with words.</summary>
    public IEnumerable<(string Id, string Words)> Bridgeable =>
        Open.Machine.Parts.SelectMany(p =>
            (p.Contacts ?? [])
                .Where(_ => p.Contacts!.Count <= 3)
                .Select(c => ($"{p.Id}/{c.Id}", p.Contacts!.Count == 1 ? p.Name : $"{p.Name}, {c.Id} contact"))
        );

    /// <summary>Conditions in which some lamp of the sound machine glows, so that its look tells something.</summary>
    public IEnumerable<(int Index, Condition Condition, IReadOnlyList<Part> Lamps)> LampRows()
    {
        var table = Open.Kit.Table;
        for (var c = 0; c < table.Conditions.Count; c++)
        {
            var lit = table.LampsLit(c).ToHashSet(StringComparer.Ordinal);
            if (lit.Count > 0)
            {
                yield return (c, table.Conditions[c], [.. Open.Machine.Parts.Where(p => lit.Contains(p.Id))]);
            }
        }
    }

    private Complaint? Understood()
    {
        if (!Enum.TryParse<Heard>(HeardSaid, out var heard) || !Enum.IsDefined(heard) || heard == Heard.NotSaid)
        {
            Error = "Say what it does in that setting: choose one of the answers.";
            return null;
        }

        if (!Count(Tried, 1, "Tries", out var tried) || !Count(Failed, 0, "Failed tries", out var failed))
        {
            return null;
        }

        if (failed > tried)
        {
            Error = $"Failed tries: {failed} is more than the {tried} tries made; at most as many can have failed.";
            return null;
        }

        var words = (Words ?? "").ReplaceLineEndings(" ").Trim();
        if (words.Length > MostWords)
        {
            Error = $"Owner's words: {words.Length} characters; at most {MostWords} fit the tag.";
            return null;
        }

        return Open.State.Complaint! with
        {
            Heard = heard,
            Words = words,
            Failed = failed,
            Tried = tried,
            Bridged = [.. Bridgeable.Select(b => b.Id).Where(Bridged.Contains)],
            Lamps = [.. Seen()],
        };
    }

    private IEnumerable<LampSeen> Seen()
    {
        foreach (var (index, _, lamps) in LampRows())
        {
            foreach (var lamp in lamps)
            {
                if (
                    Lamps.TryGetValue($"{lamp.Id}@{index}", out var said)
                    && Enum.TryParse<LampLook>(said, out var look)
                    && look != LampLook.NotSeen
                    && Enum.IsDefined(look)
                )
                {
                    yield return new LampSeen(lamp.Id, index, look);
                }
            }
        }
    }

    private bool Count(string? typed, int least, string what, out int count)
    {
        if (
            int.TryParse((typed ?? "").Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out count)
            && count >= least
            && count <= MostTries
        )
        {
            return true;
        }

        Error = $"{what}: “{Shown(typed)}” is not a count; type a whole number from {least} to {MostTries}.";
        return false;
    }

    private static string Shown(string? typed) =>
        typed is null ? ""
        : typed.Length > 40 ? typed[..40] + "…"
        : typed;
}
