using System.Globalization;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Making;
using Pritchel.Core.Units;

namespace Pritchel.Web.Pages.Machines.Making;

/// <summary>Reads what was typed into a form, or says what is allowed.</summary>
internal static class Typed
{
    /// <summary>A figure, with a point or a comma.</summary>
    /// <exception cref="ChangeRefusedException">It is no figure.</exception>
    public static double Figure(string? typed, string field) =>
        double.TryParse(
            (typed ?? "").Trim().Replace(',', '.'),
            NumberStyles.Float,
            CultureInfo.InvariantCulture,
            out var figure
        ) && double.IsFinite(figure)
            ? figure
            : throw new ChangeRefusedException(
                field,
                $"“{Excerpt.Of(typed)}” is not a figure; write it as 2.5 or 2,5."
            );

    /// <summary>A whole number.</summary>
    /// <exception cref="ChangeRefusedException">It is none.</exception>
    public static int Whole(string? typed, string field) =>
        Figure(typed, field) is var figure && double.IsInteger(figure) && Math.Abs(figure) < 1e6
            ? (int)figure
            : throw new ChangeRefusedException(field, $"“{Excerpt.Of(typed)}” is not a whole number.");

    /// <summary>Words with commas between them.</summary>
    public static IReadOnlyList<string> List(string? typed) =>
        (typed ?? "").Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);

    /// <summary>What was typed, or null when nothing was.</summary>
    public static string? OrNull(string? typed) => string.IsNullOrWhiteSpace(typed) ? null : typed.Trim();

    /// <summary>What was typed, trimmed.</summary>
    public static string Text(string? typed) => (typed ?? "").Trim();

    /// <summary>Identities with commas between them.</summary>
    public static IReadOnlyList<T> List<T>(string? typed)
        where T : struct, IIdentity<T> => [.. List(typed).Select(T.Of)];

    /// <summary>The identity that was typed.</summary>
    public static T Id<T>(string? typed)
        where T : struct, IIdentity<T> => T.Of(Text(typed));

    /// <summary>The identity that was typed, or null when nothing was.</summary>
    public static T? IdOrNull<T>(string? typed)
        where T : struct, IIdentity<T> => OrNull(typed) is { } text ? T.Of(text) : null;

    /// <summary>An identity for something new that is called so, unlike those taken.</summary>
    public static T IdFor<T>(string? old, string? name, IEnumerable<T> taken)
        where T : struct, IIdentity<T> => T.Of(old ?? FrameChange.IdFor(Text(name), taken.Select(t => t.Text)));

    /// <summary>A figure as it is typed.</summary>
    public static string Write(double figure) => figure.ToString("0.######", CultureInfo.InvariantCulture);
}

/// <summary>The five fields that tell which machine or engine it is.</summary>
public sealed class IdentityForm
{
    /// <summary>Type as on the plate.</summary>
    public string? Type { get; set; }

    /// <summary>Own serial number.</summary>
    public string? Serial { get; set; }

    /// <summary>First serial number of the diagram.</summary>
    public string? SerialFrom { get; set; }

    /// <summary>Last serial number of the diagram.</summary>
    public string? SerialTo { get; set; }

    /// <summary>Diagram that applies.</summary>
    public string? Diagram { get; set; }

    internal static IdentityForm Of(Identity? identity) =>
        new()
        {
            Type = identity?.Type,
            Serial = identity?.Serial,
            SerialFrom = identity?.SerialFrom,
            SerialTo = identity?.SerialTo,
            Diagram = identity?.Diagram,
        };

    internal Identity? Read()
    {
        var read = new Identity(
            Typed.OrNull(Type),
            Typed.OrNull(Serial),
            Typed.OrNull(SerialFrom),
            Typed.OrNull(SerialTo),
            Typed.OrNull(Diagram)
        );
        return read == new Identity() ? null : read;
    }
}
