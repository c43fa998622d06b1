using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <content>How a table is kept in a file.</content>
public sealed partial class PredictionTable
{
    // First in a file: form 1.
    private const int FileMark = 0x31_54_52_50;

    /// <summary>Writes what was worked out, so that reading it gives the same table.</summary>
    public void Write(Stream stream)
    {
        using var writer = new BinaryWriter(stream, System.Text.Encoding.UTF8, leaveOpen: true);
        writer.Write(FileMark);
        writer.Write(Seed);
        writer.Write(Particles);
        writer.Write(Conditions.Count);
        writer.Write(Circuit.Network.NodeCount);
        writer.Write(Hypotheses.Count);
        Healthy.Write(writer, null);
        var numbers = Circuit.Faults.Select((f, i) => (f.Id, i)).ToDictionary(f => f.Id, f => f.i);
        foreach (var hypothesis in Hypotheses.SkipLast(1))
        {
            writer.Write(numbers[hypothesis.Fault!.Id]);
            hypothesis.Write(writer, Healthy);
        }
    }

    /// <summary>A table as it was written.</summary>
    /// <param name="stream">Where it was written to.</param>
    /// <param name="circuit">The same machine.</param>
    /// <param name="duty">The same duty.</param>
    /// <param name="altered">The same alterations.</param>
    /// <param name="meter">The same meter.</param>
    /// <exception cref="InvalidDataException">It is no table of these.</exception>
    public static PredictionTable Read(
        Stream stream,
        Circuit circuit,
        Duty duty,
        IReadOnlyList<AlterationId> altered,
        Meter meter
    )
    {
        var table = new PredictionTable(circuit, duty, altered, meter);
        using var reader = new BinaryReader(stream, System.Text.Encoding.UTF8, leaveOpen: true);
        try
        {
            table.Read(reader);
            return table;
        }
        catch (EndOfStreamException e)
        {
            throw new InvalidDataException("The table is cut short.", e);
        }
    }

    private void Read(BinaryReader reader)
    {
        var mark = reader.ReadInt32();
        Seed = reader.ReadInt32();
        if (
            mark != FileMark
            || reader.ReadInt32() != Particles
            || reader.ReadInt32() != Conditions.Count
            || reader.ReadInt32() != Circuit.Network.NodeCount
        )
        {
            throw new InvalidDataException("The table is not one of this machine and duty.");
        }

        var hypotheses = new Hypothesis[reader.ReadInt32()];
        var constants = new Dictionary<float, float[]>();
        var sound = Hypothesis.Read(reader, this, null, null, constants);
        hypotheses[^1] = sound;
        for (var h = 0; h + 1 < hypotheses.Length; h++)
        {
            hypotheses[h] = Hypothesis.Read(reader, this, Circuit.Faults[reader.ReadInt32()], sound, constants);
        }

        Hypotheses = hypotheses;
    }
}
