using System.Globalization;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests;

/// <summary>What may be told of a loose part.</summary>
public static class FigureRules
{
    /// <summary>Most characters of what it is called.</summary>
    public const int MostName = 60;

    /// <summary>What is wrong with a name; null for nothing.</summary>
    public static string? OfName(string name) =>
        name.Length is 0 or > MostName ? $"What it is called: 1 to {MostName} characters."
        : name.Any(char.IsControl) || name.Contains('<') || name.Contains('>')
            ? "What it is called: letters that print, without < or >."
        : null;

    /// <summary>What is wrong with a figure of a kind; null for nothing.</summary>
    public static string? OfFigure(DeviceKind kind, string name, double figure)
    {
        if (kind.Values.FirstOrDefault(v => v.Name == name) is not { } rule)
        {
            return $"“{name}” is no figure of that kind; allowed: {string.Join(", ", kind.Values.Select(v => v.Name))}.";
        }

        string Said(double value) => value.ToString("0.######", CultureInfo.InvariantCulture);
        return figure >= rule.Least && figure <= rule.Most
            ? null
            : $"{name}: {Said(figure)} is not allowed; {Said(rule.Least)} to {Said(rule.Most)}.";
    }
}
