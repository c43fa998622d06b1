using CsCheck;
using Pritchel.Core.Observables;
using Pritchel.Core.Units;

namespace Pritchel.Core.Tests;

public class ReadingTextTests
{
    [Theory]
    [InlineData("12.6", 12.6)]
    [InlineData("12,6", 12.6)]
    [InlineData(" 12.6 V", 12.6)]
    [InlineData("-0.02", -0.02)]
    [InlineData("−0.02", -0.02)]
    [InlineData(".5", 0.5)]
    [InlineData("7.", 7)]
    [InlineData("350m", 0.35)]
    [InlineData("350 mV", 0.35)]
    [InlineData("4k7", 4700)]
    [InlineData("4.7k", 4700)]
    [InlineData("1M2", 1.2e6)]
    public void Reads_what_is_typed_at_a_bench(string text, double expected)
    {
        Assert.True(ReadingText.TryParse(text, 1e9, out var reading, out _));
        Assert.Equal(expected, reading.Value, 1e-12 * Math.Abs(expected));
    }

    [Theory]
    [InlineData("OL")]
    [InlineData("ol")]
    [InlineData("O.L")]
    public void Reads_over_range(string text)
    {
        Assert.True(ReadingText.TryParse(text, 60, out var reading, out _));
        Assert.True(reading.IsOverRange);
    }

    [Theory]
    [InlineData("")]
    [InlineData("   ")]
    [InlineData("twelve")]
    [InlineData("1e999")]
    [InlineData("12.6.1")]
    [InlineData("12,6,1")]
    [InlineData("-")]
    [InlineData("NaN")]
    [InlineData("1,000.5")]
    [InlineData("<script>alert(1)</script>")]
    [InlineData("126")] // more than the largest that makes sense
    public void Refuses_and_says_what_is_allowed(string text)
    {
        Assert.False(ReadingText.TryParse(text, 60, out _, out var error));
        Assert.Contains("12.6", error, StringComparison.Ordinal);
    }

    [Fact]
    public void Never_throws_and_never_gives_a_figure_beyond_the_largest() =>
        Gen.String.Sample(text =>
            Assert.True(
                !ReadingText.TryParse(text, 60, out var reading, out _)
                    || reading.IsOverRange
                    || Math.Abs(reading.Value) <= 60
            )
        );

    [Fact]
    public void Reads_back_any_figure_it_would_show() =>
        Gen.Double[-59, 59]
            .Sample(value =>
            {
                var text = value.ToString("0.000", System.Globalization.CultureInfo.InvariantCulture);
                Assert.True(ReadingText.TryParse(text, 60, out var reading, out _));
                Assert.Equal(value, reading.Value, 0.00051);
            });

    [Fact]
    public void What_is_seen_is_one_of_its_answers_by_its_number_or_in_its_words()
    {
        foreach (var seen in ObservableCatalogue.All.OfType<SeenObservable>())
        {
            foreach (var (typed, words) in seen.Answers)
            {
                Assert.Equal(seen.Read(typed, out _)!.Value.Value, seen.Read(words, out _)!.Value.Value);
            }

            foreach (var none in (string[])["0.5", "1.2", "-1", "3", "OL", "two"])
            {
                Assert.Null(seen.Read(none, out var error));
                Assert.NotEmpty(error);
            }

            seen.Read("0.5", out var asked);
            Assert.All(seen.Answers, a => Assert.Contains(a.Words, asked, StringComparison.OrdinalIgnoreCase));
        }
    }
}
