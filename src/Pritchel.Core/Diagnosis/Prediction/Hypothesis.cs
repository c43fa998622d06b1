using System.Collections.Concurrent;
using System.Runtime.InteropServices;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <summary>One thing that may be wrong, with what it would show.</summary>
public sealed class Hypothesis
{
    private readonly Predictions? shown;
    private readonly Heard[] heard;
    private readonly double[]? mass;

    internal Hypothesis(Fault? fault, Predictions? shown, Heard[] heard, double[]? mass = null)
    {
        this.mass = mass;
        Fault = fault;
        this.shown = shown;
        this.heard = heard;
    }

    /// <summary>Whether these draws of a machine were heard as the same draws of this one, but for one stray.</summary>
    internal bool IsLike(Heard[] others)
    {
        const int OneStrayIn = 64;
        var differ = 0;
        for (var p = 0; p < others.Length; p++)
        {
            differ += others[p] == heard[p] ? 0 : 1;
        }

        return differ <= others.Length / OneStrayIn;
    }

    /// <summary>Whether a particle's figures in a condition are this hypothesis's own.</summary>
    internal bool Shows(Predictions other, int condition, int particle) => shown!.Same(other, condition, particle);

    /// <summary>Lends its figures to another of the same draws, in the conditions that the other's fault does not reach.</summary>
    internal void Lend(Predictions other, bool[] reaches)
    {
        for (var c = 0; c < reaches.Length; c++)
        {
            if (!reaches[c])
            {
                other.Borrow(shown!, c);
            }
        }
    }

    /// <summary>Keeps what is alike once, see <see cref="Predictions.Pack"/>.</summary>
    /// <returns>It.</returns>
    internal Hypothesis Pack(Hypothesis sound, ConcurrentDictionary<float, float[]> constants)
    {
        if (!ReferenceEquals(this, sound))
        {
            shown?.Pack(sound.shown, constants);
        }

        return this;
    }

    /// <summary>The same of the sound machine, which others are compared with until all are worked out.</summary>
    internal void PackAsSound(ConcurrentDictionary<float, float[]> constants) =>
        shown!.Pack(null, constants, keepsExact: true);

    /// <summary>Lets go of what others were compared with.</summary>
    internal void DropExact() => shown!.DropExact();

    /// <summary>Writes what it shows; the fault is told by whoever knows its number.</summary>
    internal void Write(BinaryWriter writer, Hypothesis? sound)
    {
        foreach (var said in heard)
        {
            writer.Write((byte)said);
        }

        Write(writer, Severities);
        Write(writer, mass ?? []);
        writer.Write(shown is not null);
        shown?.Write(writer, sound?.shown);
    }

    /// <summary>What was written of a hypothesis of the same table.</summary>
    internal static Hypothesis Read(
        BinaryReader reader,
        PredictionTable table,
        Fault? fault,
        Hypothesis? sound,
        Dictionary<float, float[]> constants
    )
    {
        var heard = new Heard[table.Particles];
        for (var p = 0; p < heard.Length; p++)
        {
            heard[p] = (Heard)reader.ReadByte();
        }

        var (severities, mass) = (ReadFigures(reader), ReadFigures(reader));
        Predictions? shown = null;
        if (reader.ReadBoolean())
        {
            shown = new Predictions(table, isRead: true);
            shown.Read(reader, sound?.shown, constants);
        }

        return new Hypothesis(fault, shown, heard, mass.Length == 0 ? null : mass) { Severities = severities };
    }

    private static void Write(BinaryWriter writer, double[] figures)
    {
        writer.Write(figures.Length);
        writer.Write(MemoryMarshal.AsBytes(figures.AsSpan()));
    }

    private static double[] ReadFigures(BinaryReader reader)
    {
        const int Most = 4096;
        var count = reader.ReadInt32();
        if (count is < 0 or > Most)
        {
            throw new InvalidDataException("So many particles are never drawn.");
        }

        var figures = new double[count];
        reader.BaseStream.ReadExactly(MemoryMarshal.AsBytes(figures.AsSpan()));
        return figures;
    }

    /// <summary>About how many bytes of memory its predictions take that no other's are.</summary>
    internal long Bytes => shown?.Bytes ?? 0;

    /// <summary>Severity of each particle, as a fraction of the fault's range; none where nothing was kept.</summary>
    internal double[] Severities { get; init; } = [];

    /// <summary>The same, for those outside.</summary>
    public ReadOnlySpan<double> SeverityBy => Severities;

    /// <summary>Conditions in which the fault shows at all.</summary>
    internal bool[] Reaches(Hypothesis healthy, int conditions) =>
        [.. Enumerable.Range(0, conditions).Select(c => c == 0 || !shown!.Borrowed(healthy.shown!, c))];

    /// <summary>A fault that leaves the duty alone: it keeps no predictions and is taken for the sound machine.</summary>
    internal Hypothesis Harmless(Fault? fault) => new(fault, null, heard);

    /// <summary>The fault; null for the sound machine.</summary>
    public Fault? Fault { get; }

    /// <summary>Whether predictions were kept; a hypothesis that does its duty keeps none.</summary>
    public bool HasPredictions => shown is not null;

    /// <summary>How much a particle stands for, one on average: rare severities are drawn more often than they occur.</summary>
    internal double Mass(int particle) => mass?[particle] ?? 1;

    /// <summary>What is heard, by particle.</summary>
    public ReadOnlySpan<Heard> HeardBy => heard;

    /// <summary>
    /// What stands at a node in a condition before a meter loads it, by particle, on the scale of what is read: volts above battery
    /// negative, or kept apart where nothing joins it to that; in a condition of pairs, the reading with this node under the red probe, and
    /// zero for the black one.
    /// </summary>
    public ReadOnlySpan<float> At(int condition, int node) =>
        shown is null ? [] : shown.At(condition, node, heard.Length);

    /// <summary>What a meter shows between two points in a condition, by particle.</summary>
    public Across Across(ProbePair at) =>
        shown is null
            ? default
            : new Across(
                shown.At(at.Condition, at.Red, heard.Length),
                shown.At(at.Condition, at.Black, heard.Length),
                shown.Hanging(at.Condition, at.Red),
                shown.Hanging(at.Condition, at.Black)
            );

    /// <summary>Whether the circuit chatters in a condition, by particle.</summary>
    public ReadOnlySpan<bool> Chatters(int condition) => shown!.Chatters[condition];

    /// <summary>Volts share of a lamp in a condition, by particle.</summary>
    public ReadOnlySpan<float> Glow(int condition, int lamp) =>
        shown!.Glows[condition].AsSpan(lamp * heard.Length, heard.Length);
}
