using System.Globalization;
using Microsoft.AspNetCore.Mvc.ModelBinding.Validation;
using Pritchel.Core.PartTests;
using Pritchel.Core.PartTests.KeySwitch;
using Pritchel.Core.Units;

namespace Pritchel.Web.Pages.PartTests;

/// <summary>An unknown key switch as typed.</summary>
[ValidateNever]
public sealed class SwitchTyped
{
    /// <summary>How many posts it has.</summary>
    public string? Posts { get; set; }

    /// <summary>How many positions.</summary>
    public string? Positions { get; set; }

    /// <summary>Whether its last position springs back.</summary>
    public bool Springs { get; set; }

    /// <summary>What a form begins with: most are so.</summary>
    public static SwitchTyped Usual =>
        new()
        {
            Posts = "5",
            Positions = "3",
            Springs = true,
        };

    /// <summary>The sheet that begins with it, or what is wrong.</summary>
    public (SheetBegan? Began, string? Why) Read()
    {
        var (fewest, most) = SwitchSheet.Posts;
        var (least, top) = SwitchSheet.Positions;
        return Count(Posts, fewest, most) is not { } posts
                ? (null, $"Posts: “{Excerpt.Of(Posts)}” is not allowed; {fewest} to {most}.")
            : Count(Positions, least, top) is not { } positions
                ? (null, $"Positions: “{Excerpt.Of(Positions)}” is not allowed; {least} to {top}.")
            : (SwitchSheet.Begin("Unknown key switch", posts, positions, Springs), null);
    }

    private static int? Count(string? typed, int least, int most) =>
        int.TryParse(typed, NumberStyles.None, CultureInfo.InvariantCulture, out var count)
        && count >= least
        && count <= most
            ? count
            : null;
}
