namespace Pritchel.Core.PartTests.KeySwitch;

/// <summary>What is asked of an unknown switch.</summary>
/// <param name="Position">Number of the position, from 0.</param>
/// <param name="One">Post under one probe, from 0.</param>
/// <param name="Other">Post under the other, above <paramref name="One"/>.</param>
public readonly record struct SwitchQuestion(int Position, int One, int Other);

/// <summary>What was heard.</summary>
/// <param name="Question">What was asked.</param>
/// <param name="Beeps">Whether the two posts join.</param>
public readonly record struct SwitchAnswer(SwitchQuestion Question, bool Beeps);
