using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;

namespace Pritchel.Core.Tests;

/// <summary>A lead off what commands a lamp or a starter that is on when it must not: what each fault then does, by hand.</summary>
public class TakeOffTests
{
    private static readonly Lazy<DiagnosisKit> Lamp = new(() => Shipped.Kit("harbour-launch-1", "not-heat-lamp"));
    private static readonly Lazy<DiagnosisKit> Starter = new(() => Shipped.Kit("orchard-tractor-4", "not-starter"));

    /// <summary>
    /// The lamp is fed at the panel; its other side runs over wire 43, both couplings and wire 45 to the switch on the engine,
    /// which grounds it when hot. Off the switch, a closed switch has no say; wire 45 bare on the engine has, until the coupling
    /// before it is apart.
    /// </summary>
    [Theory]
    [InlineData("off the temperature switch", null, 0)]
    [InlineData("off the temperature switch", "temp-switch/hot/welded", 0)]
    [InlineData("off the temperature switch", "45/chafed", 2)]
    [InlineData("engine coupling above the gearbox apart", "45/chafed", 0)]
    [InlineData("engine coupling above the gearbox apart", "temp-switch/hot/welded", 0)]
    public void A_lamp_with_its_lead_off_tells_switch_from_wire(string words, string? fault, double seen) =>
        Assert.Equal(seen, Seen(Lamp.Value, words, fault));

    /// <summary>A welded solenoid turns the starter with nothing on S; what holds S live turns it no more.</summary>
    [Theory]
    [InlineData("off the start solenoid", null, 0)]
    [InlineData("off the start solenoid", "solenoid/welded", 2)]
    public void A_starter_with_the_lead_off_its_solenoid_tells_contacts_from_command(
        string words,
        string? fault,
        double seen
    ) => Assert.Equal(seen, Seen(Starter.Value, words, fault));

    /// <summary>Nothing that feeds the lamp, and nothing of other circuits, is taken off for it.</summary>
    [Fact]
    public void Only_what_commands_it_comes_off()
    {
        var machine = Lamp.Value.Circuit.Machine;
        var off = Lamp
            .Value.Table.Conditions.Where(c => c.Observable == LoadSeen.Instance)
            .SelectMany(c => c.Off)
            .Select(o =>
                o.WireEnd is { } end
                    ? machine.Index.PartAt(machine.Index.TerminalOf(end)!.Value)!.Id.Text
                    : o.Coupling!.Value.Text
            )
            .ToHashSet();
        string[] command = ["temp-switch", "P1", "P2", "oil-switch", "seal-switch", "buzzer", "oil-lamp"];
        Assert.Empty(off.Except(command));
        Assert.Contains("temp-switch", off);
    }

    /// <summary>
    /// What a meter makes of an ignition's pulses decides nothing: no volts are known on a kill lead while the engine turns, and
    /// those of the lamp beside it are.
    /// </summary>
    [Fact]
    public void No_volts_are_read_where_an_ignition_s_pulses_stand()
    {
        var table = Shipped.Kit("orchard-zero-turn-7", "warns-oil-lamp").Table;
        var circuit = table.Circuit;
        var turning = table
            .Conditions.ToList()
            .FindIndex(c => c.Observable == DirectVolts.Instance && c.Speed == DutySpeed.Work);
        Assert.True(turning >= 0);
        bool Known(string at) =>
            table
                .Healthy.Across(new ProbePair(turning, circuit.NodeOf(TerminalAddress.Of(at)), circuit.Reference))
                .IsKnown(0);
        Assert.False(Known("key.M"));
        Assert.False(Known("blade-switch.5"));
        Assert.True(Known("oil-lamp.-"));
        Assert.True(Known("key.B"));
    }

    private static double Seen(DiagnosisKit kit, string words, string? fault)
    {
        var condition = kit
            .Table.Conditions.ToList()
            .FindIndex(c => c.Observable == LoadSeen.Instance && c.Words.Contains(words, StringComparison.Ordinal));
        Assert.True(
            condition >= 0,
            $"no test says {words}: {string.Join("; ", kit.Table.Conditions.Where(c => c.Observable == LoadSeen.Instance).Select(c => c.Words))}"
        );
        var (red, _) = kit.Table.Conditions[condition].Pairs![0];
        var hypothesis = kit.Table.Hypotheses.First(h => h.Fault?.Id.Text == fault && h.HasPredictions);
        var seen = hypothesis.At(condition, red).ToArray().Order().ToArray();
        return Math.Round(LoadSeen.Instance.Figure(seen[seen.Length / 2]), 6);
    }
}
