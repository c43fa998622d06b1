using System.Globalization;
using CsvHelper;
using Pritchel.Core.Machines;

namespace Pritchel.Web.Api;

/// <summary>A machine's wires and joints as CSV (RFC 4180), for a spreadsheet or the bench.</summary>
internal static class MachineLists
{
    public static string Wires(Machine machine) =>
        Write(
            machine.Wires.Select(w => new
            {
                wire = w.Id.Text,
                colours = string.Join('/', w.Colours),
                gauge = w.Gauge,
                lengthM = w.LengthM,
                zone = w.Zone,
                from = w.From.At.Text,
                fromInWords = MachineWords.Terminal(machine, w.From.At),
                fromJoint = w.From.Joint,
                to = w.To.At.Text,
                toInWords = MachineWords.Terminal(machine, w.To.At),
                toJoint = w.To.Joint,
            })
        );

    public static string Joints(Machine machine) =>
        Write(
            machine
                .Wires.SelectMany(w => new[] { (Wire: w, End: w.From), (Wire: w, End: w.To) })
                .Select(j =>
                {
                    var part = MachineWords.PartAt(machine, j.End.At);
                    var place = MachineWords.PlaceOf(machine, part);
                    return new
                    {
                        at = j.End.At.Text,
                        inWords = MachineWords.Terminal(machine, j.End.At),
                        joint = j.End.Joint,
                        wire = j.Wire.Id.Text,
                        colours = string.Join('/', j.Wire.Colours),
                        place = place.Name,
                        minutes = place.Minutes,
                        opens = place.Opens ?? "",
                        engineMayTurn = place.EngineMayTurn,
                    };
                })
        );

    private static string Write<T>(IEnumerable<T> rows)
    {
        using var text = new StringWriter(CultureInfo.InvariantCulture);
        using (var csv = new CsvWriter(text, CultureInfo.InvariantCulture))
        {
            csv.WriteRecords(rows);
        }

        return text.ToString();
    }
}
