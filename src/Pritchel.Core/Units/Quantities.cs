using System.Globalization;

namespace Pritchel.Core.Units;

/// <summary>Electrical potential difference, in volts.</summary>
/// <param name="Value">Volts; may be negative (red probe below black).</param>
public readonly record struct Volts(double Value)
{
    /// <inheritdoc/>
    public override string ToString() => Engineering.Format(Value, "V");
}

/// <summary>Electrical resistance, in ohms.</summary>
/// <param name="Value">Ohms; <see cref="double.PositiveInfinity"/> is an open circuit.</param>
public readonly record struct Ohms(double Value)
{
    /// <summary>No conducting path at all.</summary>
    public static readonly Ohms Open = new(double.PositiveInfinity);

    /// <summary>Whether nothing conducts.</summary>
    public bool IsOpen => double.IsPositiveInfinity(Value);

    /// <inheritdoc/>
    public override string ToString() => IsOpen ? "open" : Engineering.Format(Value, "Ω");
}

/// <summary>Charge that a battery holds, in ampere hours.</summary>
/// <param name="Value">Ampere hours.</param>
public readonly record struct AmpHours(double Value);

/// <summary>Electric current, in amperes.</summary>
/// <param name="Value">Amperes, positive from the first named terminal to the second.</param>
public readonly record struct Amps(double Value)
{
    /// <inheritdoc/>
    public override string ToString() => Engineering.Format(Value, "A");
}

/// <summary>Length, in metres.</summary>
/// <param name="Value">Metres, one way.</param>
public readonly record struct Metres(double Value);

/// <summary>Conductor cross-section, in square millimetres.</summary>
/// <param name="Value">Square millimetres of copper.</param>
public readonly record struct SquareMillimetres(double Value);

/// <summary>Temperature, in degrees Celsius.</summary>
/// <param name="Value">Degrees Celsius.</param>
public readonly record struct Celsius(double Value);

/// <summary>A person's working time, in minutes.</summary>
/// <param name="Value">Minutes, not negative.</param>
public readonly record struct Minutes(double Value)
{
    /// <summary>Adds two durations.</summary>
    public static Minutes operator +(Minutes a, Minutes b) => new(a.Value + b.Value);

    /// <summary>As spoken: whole minutes, "½ min" under three quarters of one.</summary>
    public override string ToString() =>
        Value < 0.75 ? "½ min" : string.Create(CultureInfo.InvariantCulture, $"{Math.Round(Value)} min");
}

/// <summary>Engine speed, in revolutions a minute.</summary>
/// <param name="Value">Revolutions a minute, not negative.</param>
public readonly record struct Rpm(double Value);

/// <summary>Time, in seconds.</summary>
/// <param name="Value">Seconds, not negative.</param>
public readonly record struct Seconds(double Value);

/// <summary>Frequency, in hertz.</summary>
/// <param name="Value">Hertz, not negative.</param>
public readonly record struct Hertz(double Value);
