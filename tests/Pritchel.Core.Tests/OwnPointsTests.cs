using CsCheck;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.PartTests;
using Pritchel.Core.PartTests.Points;

namespace Pritchel.Core.Tests;

/// <summary>Points of somebody's own: targets as they are typed, and figures judged with the meter's doubt.</summary>
public class OwnPointsTests
{
    [Theory]
    [InlineData("12.6 ± 0.1", 12.5, 12.7)]
    [InlineData("12.6 +/- 0.1", 12.5, 12.7)]
    [InlineData("20 ± 10 %", 18, 22)]
    [InlineData("9.6 to 12", 9.6, 12)]
    [InlineData("at least 9.6", 9.6, double.PositiveInfinity)]
    [InlineData("≤ 200m", double.NegativeInfinity, 0.2)]
    [InlineData("AT MOST 0.2", double.NegativeInfinity, 0.2)]
    public void A_target_is_read_as_typed(string typed, double least, double most)
    {
        var wanted = Wanted.Parse(typed, DirectVolts.Instance, out var error);
        Assert.Equal("", error);
        Assert.Equal(least, wanted!.Value.Least, 9);
        Assert.Equal(most, wanted.Value.Most, 9);
    }

    [Theory]
    [InlineData("")]
    [InlineData("about 3")]
    [InlineData("12 to 9")]
    [InlineData("9.6 ± −1")]
    [InlineData("OL")]
    [InlineData("at least lots")]
    public void What_is_no_target_is_refused_with_what_is_allowed(string typed)
    {
        Assert.Null(Wanted.Parse(typed, DirectVolts.Instance, out var error));
        Assert.Contains("Should read", error, StringComparison.Ordinal);
        Assert.Contains("at most 0.2", error, StringComparison.Ordinal);
    }

    /// <summary>
    /// A fifth of a volt is allowed: 0.12 passes and 0.31 does not, 0.2 read to a hundredth is neither. Ohms of 0.4 against 0.38 to
    /// 0.46 are beyond a meter whose leads alone may be off by as much; OL is OL.
    /// </summary>
    [Theory]
    [InlineData("volts", "at most 0.2", "0.12", PointOutcome.Within)]
    [InlineData("volts", "at most 0.2", "0.31", PointOutcome.Outside)]
    [InlineData("volts", "at most 0.2", "0.20", PointOutcome.CannotTell)]
    [InlineData("ohms", "0.42 ± 10 %", "0.6", PointOutcome.CannotTell)]
    [InlineData("ohms", "180 to 220", "205", PointOutcome.Within)]
    [InlineData("ohms", "OL", "OL", PointOutcome.Within)]
    [InlineData("ohms", "OL", "4.7", PointOutcome.Outside)]
    [InlineData("ohms", "at least 1M", "OL", PointOutcome.Within)]
    [InlineData("ohms", "180 to 220", "OL", PointOutcome.Outside)]
    public void A_figure_is_judged_with_the_meters_doubt(
        string reads,
        string wanted,
        string typed,
        PointOutcome outcome
    )
    {
        var state = Stood();
        var placed = PointSheet.Placed(state, "here to there", reads, wanted, out _)!;
        state = Stood(placed);
        var read = PointSheet.Answered(state, placed.Point.Id, typed, Meter.Ordinary, out _)!;
        Assert.Equal(outcome, PointSheet.Of(Stood(placed, read), Meter.Ordinary)[0].Outcome);
    }

    /// <summary>More doubt never turns a figure from one side of a limit to the other, and none at all decides every figure.</summary>
    [Fact]
    public void Doubt_only_ever_makes_undecided() =>
        Gen.Select(Gen.Double[-20, 20], Gen.Double[-20, 20], Gen.Double[0, 5], Gen.Double[0, 5], Gen.Double[0, 5])
            .Sample(
                (figure, least, width, doubt, more) =>
                {
                    var point = new Point(
                        "p1",
                        "here to there",
                        DirectVolts.Instance,
                        new Wanted(least, least + width)
                    );
                    var (sure, unsure) = (point.Judge(figure, doubt), point.Judge(figure, doubt + more));
                    Assert.True(unsure == sure || unsure == PointOutcome.CannotTell);
                    Assert.NotEqual(PointOutcome.CannotTell, point.Judge(figure, 0));
                }
            );

    [Fact]
    public void A_point_taken_back_takes_its_reading_with_it_and_its_number_is_not_given_again()
    {
        var first = PointSheet.Placed(Stood(), "a to b", "volts", "at most 1", out _)!;
        var undone = Stood(first, new SheetUndone(2));
        Assert.Empty(PointSheet.Of(undone, Meter.Ordinary));
        Assert.NotEqual(first.Point.Id, PointSheet.Placed(undone, "c to d", "volts", "at most 1", out _)!.Point.Id);
    }

    private static SheetState Stood(params SheetStep[] steps) =>
        SheetState.Of([
            .. steps
                .Prepend(PointSheet.Begin("drops", out _)!)
                .Select((s, i) => new RecordedStep(i + 1, DateTimeOffset.UnixEpoch, s)),
        ]);
}
