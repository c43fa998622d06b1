using System.Globalization;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Tests;

/// <summary>The shipped machines against their truth tables (truth/README.md), written by hand.</summary>
public class MachineTruthTests
{
    private static readonly string Folder = Path.Combine(AppContext.BaseDirectory, "truth");

    public static TheoryData<string> Machines => [.. Shipped.Ids, .. Shipped.Variants];

    [Theory]
    [MemberData(nameof(Machines))]
    public void Every_row_of_its_truth_table_holds(string id)
    {
        var circuit = Shipped.Circuit(id);
        var rows = Rows(id).ToList();
        Assert.True(rows.Count >= 10, "ten rows at least");
        var wrong = rows.SelectMany(row => Wrong(circuit, row)).ToList();
        Assert.True(wrong.Count == 0, string.Join('\n', wrong));
    }

    /// <summary>Rows of a shipped machine's truth table.</summary>
    internal static IEnumerable<string> Rows(string id) =>
        File.ReadAllLines(Path.Combine(Folder, id + ".txt")).Where(r => r.Contains('|'));

    /// <summary>Claims of a row that a machine does not keep.</summary>
    internal static IEnumerable<string> Wrong(Circuit circuit, string row)
    {
        var columns = row.Split('|', StringSplitOptions.TrimEntries);
        var claims = columns[2].Split(',', StringSplitOptions.TrimEntries);
        var outcome = Outcome.Of(Case(circuit, columns[0], columns[1], claims));
        foreach (var claim in claims.Where(c => !c.StartsWith("with ", StringComparison.Ordinal)))
        {
            var contrary = claim.StartsWith("no ", StringComparison.Ordinal);
            if (Holds(outcome, contrary ? claim[3..] : claim, contrary) == contrary)
            {
                yield return $"{columns[0]} at {columns[1]}: not “{claim}” ({string.Join("; ", outcome.Reasons)})";
            }
        }
    }

    /// <summary>Whether a claim holds; a contrary one about all coils is held against any.</summary>
    private static bool Holds(Outcome outcome, string claim, bool contrary)
    {
        const double Glows = 0.3;
        const double ChargingAmps = 0.1;
        var (verb, what) = claim.Split(' ', 2) is [var v, var w] ? (v, w) : (claim, null);
        var sparks = outcome.Sparks.Where(s => what is null || s.Part.Text == what).ToList();
        return (verb, what) switch
        {
            ("cranks", null) => outcome.Cranks.Count > 0 && !outcome.Chatters,
            ("cranks", _) => outcome.Cranks.ContainsKey(new EngineId(what)) && !outcome.Chatters,
            ("sparks", _) when sparks.Count == 0 => throw new InvalidDataException($"no coil {what}"),
            ("sparks", _) => contrary ? sparks.Any(s => s.Level >= 1) : sparks.All(s => s.Level >= 1),
            ("fuel", _) => outcome.FuelOn,
            ("runs", _) => outcome.Runs,
            ("charges", null) => outcome.Charges.Values.Any(a => a > ChargingAmps),
            ("charges", _) => outcome.Charges[new PartId(what)] > ChargingAmps,
            ("lit", not null) => outcome.Glows[new PartId(what)] > Glows,
            ("sounds", not null) => outcome.Sounds.Contains(new PartId(what)),
            ("works", not null) => outcome.Works.Contains(new PartId(what)),
            ("code", not null) => outcome.Codes.Any(c => c.Contains(what, StringComparison.Ordinal)),
            _ => throw new InvalidDataException($"“{claim}” is not a claim of truth/README.md"),
        };
    }

    private static Case Case(Circuit circuit, string controls, string rpm, string[] claims)
    {
        var waited = 0.0;
        if (controls.IndexOf(" after ", StringComparison.Ordinal) is var at and > 0)
        {
            waited = double.Parse(
                controls[(at + 7)..].Replace(" s", "", StringComparison.Ordinal),
                CultureInfo.InvariantCulture
            );
            controls = controls[..at];
        }

        var speeds = rpm.Contains('=')
            ? rpm.Split(' ').Select(s => s.Split('=')).ToDictionary(s => new EngineId(s[0]), s => Rpm(s[1]))
            : circuit.Engines.ToDictionary(e => e.Id, _ => Rpm(rpm));
        return new Case
        {
            Circuit = circuit,
            Settings = [.. controls.Split(", then ").Select(c => Setting(circuit, c))],
            Speeds = speeds,
            Waited = new Seconds(waited),
            Faults =
            [
                .. claims
                    .Where(c => c.StartsWith("with ", StringComparison.Ordinal))
                    .Select(c => Planted(circuit, c[5..])),
            ],
        };
    }

    private static Rpm Rpm(string text) => new(double.Parse(text, CultureInfo.InvariantCulture));

    private static ControlSetting Setting(Circuit circuit, string text) =>
        circuit.Setting(
            text.Split(' ', StringSplitOptions.RemoveEmptyEntries)
                .Select(p => p.Split('='))
                .ToDictionary(p => p[0], p => p[1])
        );

    private static PlantedFault Planted(Circuit circuit, string text)
    {
        const double Middling = 0.5;
        var (id, fraction) = text.Split(':') is [var i, var f]
            ? (i, double.Parse(f, CultureInfo.InvariantCulture))
            : (text, Middling);
        return new PlantedFault(
            circuit.Faults.FirstOrDefault(f => f.Id.Text == id) ?? throw new InvalidDataException($"no fault {id}"),
            fraction
        );
    }
}
