using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.PartTests.Grounds;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>The survey of a machine's grounds: what draws while a point is read, and which way home is told to be bad.</summary>
public class GroundSurveyTests
{
    private readonly Dictionary<TerminalAddress, Circuit> bulbs = [];

    public static TheoryData<string> Machines => ["orchard-tractor-4", "quay-scooter-3", "hill-quad-2", "run-stand-1"];

    /// <summary>
    /// Every way home made bad by what loses a tenth of a volt at the most that it carries, read with a meter's noise: it leads, or
    /// shares the lead with what no point tells it from. Sound ones raise nothing.
    /// </summary>
    [Theory]
    [MemberData(nameof(Machines))]
    public void Each_way_home_that_is_bad_leads_the_list(string machine)
    {
        var circuit = Shipped.Circuit(machine);
        var survey = GroundSurvey.Of(circuit)!;
        var random = new Random(4);
        Assert.Empty(survey.Judge(Read(circuit, survey, random)));
        var (right, tried) = (0, 0);
        var missed = new List<string>();
        foreach (var fault in circuit.Faults.Where(f => f.Kind == FaultKind.HighResistance && f.Paths.Count == 0))
        {
            if (
                !circuit.Topology.Ground().Contains(fault.Nodes.From)
                || !circuit.Topology.Ground().Contains(fault.Nodes.To)
            )
            {
                continue;
            }

            foreach (var ohms in new[] { 0.05, 0.5, 20 })
            {
                var read = Read(circuit, survey, random, (fault, ohms));

                // What moves no point by more than a meter shows is no matter of grounds.
                if (read.All(r => Math.Abs(r.Value - survey.Points[r.Key].Sound.Value) < 0.1))
                {
                    continue;
                }

                tried++;
                var suspects = survey.Judge(read);
                if (suspects.Count > 0 && suspects[0].Words.Contains(fault.Words))
                {
                    right++;
                    Assert.InRange(suspects[0].Extra.Value, suspects[0].IsOpen ? 0.1 : ohms / 2.5, ohms * 2.5);
                }
                else
                {
                    missed.Add($"{fault.Words} {ohms}: {string.Join(" / ", suspects.Select(s => s.Words[0]))}");
                }
            }
        }

        TestContext.Current.TestOutputHelper?.WriteLine($"{machine}: {right} of {tried}; {string.Join("; ", missed)}");
        Assert.True(tried > 10);
        Assert.True(right >= 0.95 * tried, $"{right} of {tried}: {string.Join("\n", missed)}");
    }

    /// <summary>
    /// By hand: headlamps of a tractor draw with the lamps on, the block with the starter, and a pressure switch, through which
    /// nothing comes, wants a bulb. An idle ground proves nothing, so no sound figure is none.
    /// </summary>
    [Fact]
    public void Every_point_names_what_must_draw()
    {
        var circuit = Shipped.Circuit("orchard-tractor-4");
        var survey = GroundSurvey.Of(circuit)!;
        GroundPoint At(string words) => survey.Points.First(p => p.Words.Contains(words, StringComparison.Ordinal));
        Assert.Contains("LIGHTS", At("left headlamp").Setting.Words(circuit.Machine), StringComparison.Ordinal);
        Assert.True(At("engine block").Cranks);
        Assert.True(At("oil pressure switch").ByBulb);
        Assert.All(survey.Points, p => Assert.True(p.Sound.Value > 0.0005));
        Assert.Null(GroundSurvey.Of(Shipped.Circuit("hedgerow-mower-2")));
    }

    /// <summary>Two at once in two circuits are both named, the one that loses more volts first.</summary>
    [Fact]
    public void Two_bad_grounds_are_both_named()
    {
        var circuit = Shipped.Circuit("orchard-tractor-4");
        var survey = GroundSurvey.Of(circuit)!;
        Fault At(string words) =>
            circuit.Faults.First(f =>
                f.Kind == FaultKind.HighResistance
                && circuit.NodeOf(survey.Points.First(p => p.Words.Contains(words, StringComparison.Ordinal)).At)
                    is var node
                && (f.Nodes.From == node || f.Nodes.To == node)
            );
        var (lamp, body) = (At("left headlamp"), At("start solenoid"));
        var suspects = survey.Judge(Read(circuit, survey, new Random(8), (lamp, 1), (body, 0.3)));
        Assert.Equal(2, suspects.Count);
        Assert.Contains(suspects, s => s.Words.Contains(lamp.Words));
        Assert.Contains(suspects, s => s.Words.Contains(body.Words));
        Assert.True(suspects[0].Lost.Value >= suspects[1].Lost.Value);
    }

    /// <summary>
    /// Reads every point of a machine with faults, apart from the survey's own working: where a bulb is wanted, one is wired
    /// into the machine.
    /// </summary>
    private Dictionary<int, double> Read(
        Circuit circuit,
        GroundSurvey survey,
        Random random,
        params (Fault Fault, double Ohms)[] planted
    )
    {
        var read = new Dictionary<int, double>();
        for (var p = 0; p < survey.Points.Count; p++)
        {
            var point = survey.Points[p];
            var tried = point.ByBulb
                ? bulbs.GetValueOrDefault(point.At) ?? (bulbs[point.At] = WithBulb(circuit.Machine, point.At))
                : circuit;
            var values = tried.NominalParameters();
            foreach (var (fault, ohms) in planted)
            {
                tried.Plant(tried.Faults.First(f => f.Id == fault.Id), ohms, values);
            }

            var state = new CircuitState(tried);
            state.Begin(values);
            state.Move(tried.Setting(null));
            state.Move(point.Setting);
            var volts = Math.Abs(state.Drop(tried.NodeOf(point.At), tried.Reference));
            read[p] = Math.Abs(
                (volts * (1 + (0.03 * HealthyMachine.Normal(random)))) + (0.002 * HealthyMachine.Normal(random))
            );
        }

        return read;
    }

    private static Circuit WithBulb(Machine machine, TerminalAddress at)
    {
        var battery = machine.Parts.First(x => x.Kind.EndsWith("battery", StringComparison.Ordinal));
        Wire To(string id, string terminal, TerminalAddress end) =>
            new()
            {
                Id = new WireId(id),
                From = new WireEnd(TerminalAddress.Of($"test-bulb.{terminal}"), "ring"),
                To = new WireEnd(end, "ring"),
                Gauge = "25 mm2",
                LengthM = 0.1,
                Colours = ["black"],
                Zone = "test",
            };
        return Circuit.Compile(
            machine with
            {
                Parts =
                [
                    .. machine.Parts,
                    new Part
                    {
                        Id = new PartId("test-bulb"),
                        Name = "bulb",
                        Kind = "load",
                        Place = battery.Place,
                        Terminals = [TerminalId.Of("+"), TerminalId.Of("-")],
                        Values = new Dictionary<string, double> { ["ohms"] = 12.0 * 12 / 21 },
                    },
                ],
                Wires = [.. machine.Wires, To("test-1", "+", battery.At("+")), To("test-2", "-", at)],
            }
        );
    }
}
