using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Machines.Making;

namespace Pritchel.Web.Pages.Machines.Making;

/// <summary>Something that a draft lacks or that was refused, said in words with the thing it is about.</summary>
/// <param name="Where">The thing and the field.</param>
/// <param name="Message">What is wrong and what is allowed.</param>
/// <param name="About">Kind and id of the thing, or null for the machine as a whole.</param>
public sealed record DraftProblem(string Where, string Message, (string On, string Item)? About)
{
    private static readonly Dictionary<string, (string On, string Words)> ListNames = new(StringComparer.Ordinal)
    {
        ["wires"] = ("wire", "Wire"),
        ["parts"] = ("part", "Part"),
        ["places"] = ("place", "Place"),
        ["controls"] = ("control", "Control"),
        ["engines"] = ("engine", "Engine"),
        ["mounts"] = ("mount", "Metal to metal"),
        ["duties"] = ("duty", "Duty"),
    };

    private static readonly Dictionary<string, string> FieldNames = new(StringComparer.Ordinal)
    {
        ["id"] = "number",
        ["from/at"] = "from",
        ["from/joint"] = "joint at the first end",
        ["to/at"] = "to",
        ["to/joint"] = "joint at the second end",
        ["lengthM"] = "length",
        ["chafesOn"] = "would chafe on",
        ["mayDiffer"] = "may differ",
        ["stopByHand"] = "to stop it by hand",
        ["crankRpm"] = "cranking speed",
        ["idleRpm"] = "idle speed",
        ["workRpm"] = "working speed",
        ["polePairs"] = "pole pairs",
        ["drawnAt"] = "drawn at",
        ["closedIn"] = "closed at",
        ["canBeBought"] = "can be bought",
    };

    /// <summary>Words for a problem of a machine.</summary>
    public static DraftProblem Of(Machine machine, MachineProblem problem)
    {
        var parts = problem.Pointer.Split('/', StringSplitOptions.RemoveEmptyEntries);
        if (
            parts.Length < 2
            || !ListNames.TryGetValue(parts[0], out var list)
            || !int.TryParse(parts[1], System.Globalization.CultureInfo.InvariantCulture, out var index)
            || IdsOf(machine, list.On).ElementAtOrDefault(index) is not { } id
        )
        {
            return new DraftProblem(parts.Length == 0 ? "Machine" : Field(parts), problem.Message, null);
        }

        var field = parts.Length > 2 ? ", " + Field(parts[2..]) : "";
        return new DraftProblem($"{list.Words} {NameOf(machine, list.On, id)}{field}", problem.Message, (list.On, id));
    }

    /// <summary>Words for a change that was refused.</summary>
    public static DraftProblem Of(ChangeRefusedException refused) =>
        new(refused.Field.Length == 0 ? "Not changed" : Field(refused.Field.Split('/')), refused.Message, null);

    /// <summary>Ids of the things of a kind, in the order of the file.</summary>
    public static IEnumerable<string> IdsOf(Machine machine, string on) =>
        on switch
        {
            "wire" => machine.Wires.Select(w => w.Id.Text),
            "part" => machine.Parts.Select(p => p.Id.Text),
            "place" => machine.Places.Select(p => p.Id.Text),
            "control" => machine.Controls.Select(c => c.Id.Text),
            "engine" => (machine.Engines ?? []).Select(e => e.Id.Text),
            "mount" => machine.Mounts.Select(m => m.Id.Text),
            "duty" => machine.Duties.Select(d => d.Id.Text),
            _ => [],
        };

    private static string NameOf(Machine machine, string on, string id) =>
        on switch
        {
            "part" => machine.Index.Part(new PartId(id))!.Name,
            "place" => machine.Places.First(p => p.Id.Text == id).Name,
            "control" => machine.Controls.First(c => c.Id.Text == id).Name,
            "engine" => machine.Engines!.First(e => e.Id.Text == id).Name,
            "mount" => machine.Mounts.First(m => m.Id.Text == id).Name,
            "duty" => machine.Duties.First(d => d.Id.Text == id).Name,
            _ => id,
        };

    private static string Field(string[] path)
    {
        var whole = string.Join('/', path);
        var last = path.LastOrDefault(p => !char.IsAsciiDigit(p[0])) ?? whole;
        return FieldNames.GetValueOrDefault(whole) ?? FieldNames.GetValueOrDefault(last) ?? last;
    }
}
