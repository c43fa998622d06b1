using Pritchel.Core.Diagnosis.Planning;

namespace Pritchel.Core.Tests;

/// <summary>The one figure that parts two suspects, against the capacity of a binary symmetric channel (Shannon 1948): 1 − H(e) bits.</summary>
public class DivisionTests
{
    [Theory]
    [InlineData(10, 1)]
    // Half a sigma from the middle one in 3.24 is read on the wrong side, one sigma 1 in 6.30, two sigmas 1 in 44: tables of the normal.
    [InlineData(0.5, 0.1087)]
    [InlineData(1, 0.3689)]
    [InlineData(2, 0.8434)]
    public void Two_figures_tell_what_a_channel_carries_that_errs_as_often(double sigmasFromMiddle, double bits)
    {
        const double Sigma = 0.05;
        var best = Division.Best(
            [(12 - (Sigma * sigmasFromMiddle), 0, 0.5), (12 + (Sigma * sigmasFromMiddle), 1, 0.5)],
            2,
            _ => Sigma
        );
        Assert.NotNull(best);
        Assert.Equal(12, best.Figure, 1e-9);
        // The logistic stands for the normal within a hundredth of its share.
        Assert.InRange(best.Bits, bits - 0.05, bits + 0.05);
    }

    [Fact]
    public void What_is_likelier_from_the_start_tells_no_more_than_was_in_doubt()
    {
        var best = Division.Best([(0, 0, 0.9), (12, 1, 0.1)], 2, _ => 0.01);
        // H(0.1) = 0.469 bits.
        Assert.Equal(0.469, best!.Bits, 0.001);
        Assert.Equal([0.9, 0], best.Below, (a, b) => Math.Abs(a - b) < 1e-9);
    }

    [Fact]
    public void Two_that_read_alike_are_parted_by_nothing()
    {
        Assert.Null(Division.Best([(11.71, 0, 0.5), (11.69, 0, 0.2), (11.71, 1, 0.2), (11.69, 1, 0.08)], 2, _ => 0.01));
        Assert.Null(Division.Best([(5, 0, 1)], 1, _ => 0.01));
    }

    [Fact]
    public void Of_three_steps_it_lies_where_most_is_parted()
    {
        var best = Division.Best([(0, 0, 0.4), (6, 1, 0.1), (12, 1, 0.5)], 2, _ => 0.01);
        Assert.InRange(best!.Figure, 1, 5);
    }
}
