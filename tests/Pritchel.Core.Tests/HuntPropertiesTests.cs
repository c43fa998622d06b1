using Pritchel.Core.Practice;
using Pritchel.Hunts;

namespace Pritchel.Core.Tests;

/// <summary>
/// What must hold of every hunt, on one complaint of each kind: told loosely nothing is sharpened, nothing is put aside as designed where
/// the sound machine does it, what is asked tells two apart, hands stay away from what turns, the order of readings is all one, and what is
/// dear was read itself. All machines and complaints: the bench's "properties".
/// </summary>
public class HuntPropertiesTests
{
    [Theory]
    [InlineData("orchard-tractor-4", "cranks")]
    [InlineData("hill-quad-2", "cranks")]
    [InlineData("hill-quad-2", "not-neutral-lamp")]
    [InlineData("hedgerow-mower-2", "sparks-magneto")]
    [InlineData("hedgerow-mower-2", "sparks-magneto-idle")]
    [InlineData("harbour-launch-1", "holds-house-switch-2")]
    [InlineData("quay-scooter-3", "charges-battery")]
    [InlineData("orchard-zero-turn-7", "warns-oil-lamp")]
    [InlineData("orchard-zero-turn-7", "stops-magneto1-blades-1")]
    public void Hold_at_every_step_of_hunts_with_people_s_habits(string machine, string duty)
    {
        var kit = Shipped.Kit(machine, duty);
        var evaluation = new Evaluation(kit, World.Habitual);
        var (broken, looked) = (new List<string>(), 0);
        for (var seed = 0; seed < 4; seed++)
        {
            var watched = new HuntProperties(kit);
            evaluation.Hunt(seed, watched);
            broken.AddRange(watched.Broken);
            looked += watched.Checked;
        }

        Assert.True(broken.Count == 0, string.Join('\n', broken));
        Assert.True(looked > 12, $"looked {looked} times");
    }

    /// <summary>Two slips leave two chafed wires that read alike wherever a probe can go: nothing is asked to tell them apart.</summary>
    [Fact]
    public void Hold_of_a_hunt_that_slips_have_led_astray()
    {
        var kit = Shipped.Kit("ridge-carrier-4", "not-pump");
        var watched = new HuntProperties(kit);
        const int TwoSlips = 720023081;
        new Evaluation(kit, World.Habitual).Hunt(TwoSlips, watched);
        Assert.True(watched.Broken.Count == 0, string.Join('\n', watched.Broken));
        Assert.True(watched.Checked > 12, $"looked {watched.Checked} times");
    }
}
