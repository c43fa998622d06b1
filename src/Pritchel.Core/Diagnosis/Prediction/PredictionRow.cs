using System.Runtime.InteropServices;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <summary>One row of figures as kept in a file: the sound machine's, one figure for all, whole steps, or figures as they are.</summary>
internal static class PredictionRow
{
    private const byte AsSound = 0;
    private const byte Constant = 1;
    private const byte Steps = 2;
    private const byte Raw = 3;

    public static void Write(BinaryWriter writer, float[] row, float[]? sound)
    {
        if (row.Length == 0)
        {
            return;
        }

        if (sound is not null && (ReferenceEquals(row, sound) || row.AsSpan().SequenceEqual(sound)))
        {
            writer.Write(AsSound);
        }
        else if (!row.AsSpan().ContainsAnyExcept(row[0]))
        {
            writer.Write(Constant);
            writer.Write(row[0]);
        }
        else if (Array.TrueForAll(row, InSteps))
        {
            writer.Write(Steps);
            foreach (var figure in row)
            {
                writer.Write((short)(figure / Predictions.Step));
            }
        }
        else
        {
            writer.Write(Raw);
            writer.Write(MemoryMarshal.AsBytes(row.AsSpan()));
        }
    }

    public static float[] Read(BinaryReader reader, int length, float[]? sound, Dictionary<float, float[]>? constants)
    {
        if (length == 0)
        {
            return [];
        }

        switch (reader.ReadByte())
        {
            case AsSound:
                return sound ?? throw new InvalidDataException("A row is alike to none.");
            case Constant:
                return Same(reader.ReadSingle(), length, constants);
            case Steps:
                var row = new float[length];
                Span<short> steps = stackalloc short[length];
                reader.BaseStream.ReadExactly(MemoryMarshal.AsBytes(steps));
                for (var i = 0; i < length; i++)
                {
                    row[i] = steps[i] * Predictions.Step;
                }

                return row;
            case Raw:
                var raw = new float[length];
                reader.BaseStream.ReadExactly(MemoryMarshal.AsBytes(raw.AsSpan()));
                return raw;
            default:
                throw new InvalidDataException("A row is of no known form.");
        }
    }

    public static void Write(BinaryWriter writer, Hanging[] row)
    {
        foreach (var how in row)
        {
            writer.Write(how.Share);
            writer.Write(how.Low);
            writer.Write(how.High);
        }
    }

    public static Hanging[] ReadHanging(BinaryReader reader, int length)
    {
        var row = new Hanging[length];
        for (var i = 0; i < length; i++)
        {
            row[i] = new Hanging(reader.ReadSingle(), reader.ReadSingle(), reader.ReadSingle());
        }

        return row;
    }

    private static bool InSteps(float figure) =>
        Math.Abs(figure / Predictions.Step) < short.MaxValue
        && (short)(figure / Predictions.Step) * Predictions.Step == figure;

    private static float[] Same(float value, int length, Dictionary<float, float[]>? constants)
    {
        if (constants is not null && constants.TryGetValue(value, out var known) && known.Length == length)
        {
            return known;
        }

        var row = new float[length];
        Array.Fill(row, value);
        if (constants is not null && !float.IsNaN(value))
        {
            constants[value] = row;
        }

        return row;
    }
}
