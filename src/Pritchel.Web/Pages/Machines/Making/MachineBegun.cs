using Microsoft.AspNetCore.Mvc.ModelBinding.Validation;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Machines.Making;

namespace Pritchel.Web.Pages.Machines.Making;

/// <summary>A new machine as typed: its name, and for one that begins empty its kind and hand stop.</summary>
[ValidateNever]
public sealed class MachineBegun
{
    /// <summary>Name typed.</summary>
    public string? Name { get; set; }

    /// <summary>Family typed.</summary>
    public string? Kind { get; set; }

    /// <summary>Hand stop typed.</summary>
    public string? StopByHand { get; set; }

    /// <summary>The machine, or what is wrong.</summary>
    /// <param name="source">Machine that it is made from; null for an empty one.</param>
    /// <param name="taken">Ids that machines have.</param>
    public (Machine? Begun, IReadOnlyList<string> Problems) Read(Machine? source, IEnumerable<string> taken)
    {
        var missing = new[]
        {
            Missing(Name, "Name", "what the workshop calls it"),
            source is null ? Missing(Kind, "Kind", "its family, such as “ride-on tractor”") : null,
            source is null
                ? Missing(StopByHand, "To stop it by hand", "how to stop its engine when nothing electrical does")
                : null,
        };
        var (name, free) = (Typed.Text(Name), FrameChange.IdFor(Typed.Text(Name), taken));
        var id = new MachineId(char.IsAsciiLetter(free[0]) ? free : "machine-" + free);
        var begun = source is null
            ? FrameChange.Empty(id, name, Typed.Text(Kind), Typed.Text(StopByHand))
            : source with
            {
                Id = id,
                Name = name,
            };
        string[] problems =
        [
            .. missing.OfType<string>(),
            .. MachineValidator.Check(begun).Where(p => !p.Unfinished).Select(p => p.ToString()),
        ];
        return (problems.Length > 0 ? null : begun, problems);
    }

    private static string? Missing(string? typed, string field, string what) =>
        string.IsNullOrWhiteSpace(typed) ? $"{field}: missing; write {what}." : null;
}
