using System.Globalization;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.PartTests.KeySwitch;

/// <summary>An unknown key switch as a part test of the record: posts lettered from A, positions numbered from 1.</summary>
public static class SwitchSheet
{
    /// <summary>Key that it is kept by.</summary>
    public const string Key = "unknown-switch";

    /// <summary>Fewest and most posts.</summary>
    public static (int Least, int Most) Posts => (3, 8);

    /// <summary>Fewest and most positions.</summary>
    public static (int Least, int Most) Positions => (2, 5);

    private const string Beeps = "beeps";
    private const string Silent = "silent";
    private const double BeepFigure = 2;

    /// <summary>A switch to be named.</summary>
    /// <param name="name">What it is called.</param>
    /// <param name="posts">How many posts it has.</param>
    /// <param name="positions">How many positions its key has.</param>
    /// <param name="lastSprings">Whether the last springs back.</param>
    public static SheetBegan Begin(string name, int posts, int positions, bool lastSprings)
    {
        PositionId[] all = [.. Enumerable.Range(1, positions).Select(p => new PositionId($"{p}"))];
        return new SheetBegan(
            Key,
            new TestedPart(
                new Part
                {
                    Id = new PartId("switch"),
                    Name = name,
                    Kind = "switch",
                    Place = BenchMachine.Place,
                    Terminals = [.. Enumerable.Range(0, posts).Select(p => TerminalId.Of(Post(p)))],
                },
                [new Control(new ControlId("key"), "Key", all, all[0], lastSprings ? [all[^1]] : [])],
                FiguresKnown: false
            ),
            null,
            null
        );
    }

    /// <summary>Letter of a post.</summary>
    public static string Post(int post) => ((char)('A' + post)).ToString();

    /// <summary>An answer as a step.</summary>
    public static SheetRead Answered(SwitchAnswer answer, string meter) =>
        new(
            $"{answer.Question.Position}-{answer.Question.One}-{answer.Question.Other}",
            answer.Beeps ? Beeps : Silent,
            answer.Beeps ? BeepFigure : 0,
            meter
        );

    /// <summary>What is known of a switch by its steps.</summary>
    public static (UnknownSwitch Known, IReadOnlyList<SwitchAnswer> Answers) Of(SheetState state)
    {
        var key = state.Began.Tested.Controls[0];
        List<SwitchAnswer> answers = [.. state.Read.Select(Answer)];
        return (
            new UnknownSwitch(
                state.Began.Tested.Part.Terminals.Count,
                key.Positions.Count,
                key.Held.Count > 0,
                answers
            ),
            answers
        );
    }

    private static SwitchAnswer Answer(SheetRead read)
    {
        int[] parts = [.. read.Reading.Split('-').Select(p => int.Parse(p, CultureInfo.InvariantCulture))];
        return new SwitchAnswer(new SwitchQuestion(parts[0], parts[1], parts[2]), read.Figure > 1);
    }
}
