namespace Pritchel.Web.Drawings;

/// <summary>Paint for wire colours.</summary>
public static class WirePaint
{
    private static readonly Dictionary<string, string> ByName = new(StringComparer.Ordinal)
    {
        ["black"] = "#22221f",
        ["brown"] = "#7a4a25",
        ["red"] = "#c9302c",
        ["orange"] = "#e5801f",
        ["yellow"] = "#efc41d",
        ["green"] = "#2f9150",
        ["olive"] = "#76823a",
        ["blue"] = "#2b5db0",
        ["light blue"] = "#74b4dc",
        ["violet"] = "#7d4a9e",
        ["grey"] = "#8d9691",
        ["dark grey"] = "#5b6360",
        ["white"] = "#f7f7f2",
        ["pink"] = "#e59ab4",
        ["tan"] = "#cba772",
        ["slate"] = "#5c7891",
    };

    /// <summary>Paint of a colour by name.</summary>
    public static string Of(string colour) => ByName.GetValueOrDefault(colour, "#8d9691");
}
