using Pritchel.Core.Circuits;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Tests;

/// <summary>Machines that ship with the program.</summary>
internal static class Shipped
{
    private static readonly Lazy<Circuit> TractorOnce = new(() => Circuit.Compile(Read("orchard-tractor-4")));

    public static Circuit Tractor => TractorOnce.Value;

    public static string Text(string id) =>
        File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "machines", id + ".json"));

    public static Machine Read(string id)
    {
        var reading = MachineFile.Read(Text(id));
        Assert.Empty(reading.Problems);
        return reading.Machine!;
    }

    public static ControlSetting Setting(Circuit circuit, params (string Control, string Position)[] positions) =>
        circuit.Setting(positions.ToDictionary(p => p.Control, p => p.Position));
}
