using Pritchel.Core.Machines;

namespace Pritchel.Core.Tests;

/// <summary>Places of one engine on the other, by hand from the cruiser's wire list.</summary>
public class TwinEngineTests
{
    private static readonly TwinEngine Cruiser = TwinEngine.Of(Shipped.Circuit("sound-cruiser-2").Machine)!;

    [Theory]
    [InlineData("p-starter.post", "s-starter.post")]
    [InlineData("s-key.B", "p-key.B")]
    [InlineData("p-P1.3a", "s-P1.3a")]
    [InlineData("8@from", "57@from")]
    [InlineData("98@to", "49@to")]
    [InlineData("bus.port", "bus.starboard")]
    [InlineData("bus.helm", null)]
    [InlineData("99@to", null)]
    public void A_place_has_its_like_on_the_other_engine(string address, string? like) =>
        Assert.Equal(like, Cruiser.Opposite(PointId.Of(address))?.Text);

    [Fact]
    public void The_controls_are_put_over_and_shared_ones_stay()
    {
        var turned = Cruiser.Opposite(
            new NamedSetting(
                Texts.Positions(
                    new Dictionary<string, string>
                    {
                        ["p-key"] = "START",
                        ["p-bank"] = "ON",
                        ["link"] = "off",
                    }
                )
            )
        )!;
        Assert.Equal("START", turned[new ControlId("s-key")].Text);
        Assert.Equal("ON", turned[new ControlId("s-bank")].Text);
        Assert.Equal("off", turned[new ControlId("link")].Text);
        Assert.Equal("starboard engine", Cruiser.OtherThan(PointId.Of("p-coil.+"))!.Name);
    }

    [Theory]
    [InlineData("orchard-tractor-4")]
    [InlineData("ridge-twin-1")]
    public void One_engine_has_no_twin(string machine) => Assert.Null(TwinEngine.Of(Shipped.Circuit(machine).Machine));
}
