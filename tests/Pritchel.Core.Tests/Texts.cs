using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Keys of observables, as the record and the API have them.</summary>
internal static class Quantity
{
    public const string Volts = "volts";
    public const string Ohms = "ohms";
    public const string Spark = "spark";
    public const string Amps = "amps";
    public const string Diode = "diode";
    public const string Action = "action";
    public const string Glow = "glow";
    public const string AcVolts = "acVolts";
    public const string PeakVolts = "peakVolts";
    public const string Beep = "beep";
}

/// <summary>What tests say in texts, as machine files write it.</summary>
internal static class Texts
{
    public static Observable Reads(string key) => ObservableCatalogue.Named(key)!;

    public static int NodeOf(this Circuit circuit, string point) => circuit.NodeOf(PointId.Of(point));

    public static bool HasNode(this Circuit circuit, string point) => circuit.HasNode(PointId.Of(point));

    public static Device DeviceOf(this Circuit circuit, string part) => circuit.DeviceOf(new PartId(part));

    public static ControlSetting Setting(this Circuit circuit, IReadOnlyDictionary<string, string> positions) =>
        circuit.Setting(positions.ToDictionary(p => new ControlId(p.Key), p => new PositionId(p.Value)));

    public static Part? Part(this MachineIndex index, string part) => index.Part(new PartId(part));

    public static Wire? Wire(this MachineIndex index, string wire) => index.Wire(new WireId(wire));

    public static Control? Control(this MachineIndex index, string control) => index.Control(new ControlId(control));

    public static IReadOnlyDictionary<ControlId, PositionId> Positions(IReadOnlyDictionary<string, string> positions) =>
        positions.ToDictionary(p => new ControlId(p.Key), p => new PositionId(p.Value));

    /// <summary>An element as written: "fuse", "key/B-S", "12@from/joint", a wire where there is a wire of that name and no part.</summary>
    public static Element ElementOf(Circuit circuit, string text) =>
        circuit.BranchKeys.Select(k => k.Of).First(e => e.Text == text);

    public static Element Part(string part) => Owner.Of(new PartId(part)).Element();

    /// <summary>A lamp as it looked in a condition of a kit.</summary>
    public static LampSeen Seen(DiagnosisKit kit, string lamp, int condition, LampLook look) =>
        new(
            new PartId(lamp),
            kit.Table.Conditions[condition].Setting.Named(kit.Circuit.Machine),
            kit.Table.Conditions[condition].Speed,
            look
        );

    public static int BranchOf(this Circuit circuit, string text) =>
        circuit.BranchKeys.ToList().FindIndex(k => k.Of.Text == text);
}
