using System.Diagnostics;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Simulation;

namespace Pritchel.Bench;

/// <summary>
/// A proof of 4096 settings and every single fault: the tractor with six more lamps, each behind a switch of its own, compared
/// with itself. Seconds, and how soon it stops once it is given up.
/// </summary>
internal static class Proofs
{
    private const int Lamps = 6;

    public static int Run()
    {
        var machine = With(Usage.Tractor().Circuit.Machine, Lamps);
        var (after, before) = (Circuit.Compile(machine), Circuit.Compile(machine));
        for (var run = 1; run <= 3; run++)
        {
            var (watch, told) = (Stopwatch.StartNew(), 0);
            var proof = DesignProof.Of(after, before, null, (done, _) => Interlocked.Exchange(ref told, done));
            Console.WriteLine(
                $"{proof.Settings} settings, {proof.Faults} single faults, before and after: {watch.Elapsed.TotalSeconds:0.00} s, told of {told} steps; {(proof.IsSound ? "sound" : "not sound")}"
            );
        }

        using var cancel = new CancellationTokenSource();
        var (given, stopped) = (Stopwatch.StartNew(), TimeSpan.Zero);
        try
        {
            DesignProof.Of(
                after,
                before,
                null,
                (done, all) =>
                {
                    if (done == all / 4)
                    {
                        stopped = given.Elapsed;
                        cancel.Cancel();
                    }
                },
                cancel.Token
            );
        }
        catch (OperationCanceledException)
        {
            Console.WriteLine($"given up at a quarter: ended {(given.Elapsed - stopped).TotalMilliseconds:0} ms later");
        }

        return 0;
    }

    private static Machine With(Machine machine, int lamps)
    {
        var (place, gauge) = (machine.Index.Part(new PartId("hours"))!.Place, "1 mm2");
        Wire Lead(string id, string from, string to) =>
            new()
            {
                Id = new WireId(id),
                From = new WireEnd(TerminalAddress.Of(from), "push-on"),
                To = new WireEnd(TerminalAddress.Of(to), "push-on"),
                Gauge = gauge,
                LengthM = 0.5,
                Colours = ["white"],
                Zone = machine.Wires[0].Zone,
            };
        var all = Enumerable.Range(1, lamps).ToList();
        return machine with
        {
            Controls =
            [
                .. machine.Controls,
                .. all.Select(i => new Control(
                    new ControlId($"more{i}"),
                    $"Lamp switch {i}",
                    [new PositionId("off"), new PositionId("on")],
                    new PositionId("off"),
                    []
                )),
            ],
            Parts =
            [
                .. machine.Parts,
                .. all.SelectMany(i =>
                    new[]
                    {
                        new Part
                        {
                            Id = new PartId($"more-switch{i}"),
                            Name = $"lamp switch {i}",
                            Kind = "switch",
                            Place = place,
                            Terminals = [new TerminalId("1"), new TerminalId("2")],
                            Contacts =
                            [
                                new Contact(
                                    new ContactId("on"),
                                    [new TerminalId("1"), new TerminalId("2")],
                                    new ControlId($"more{i}"),
                                    [new PositionId("on")]
                                ),
                            ],
                        },
                        new Part
                        {
                            Id = new PartId($"more-lamp{i}"),
                            Name = $"lamp {i}",
                            Kind = "lamp",
                            Place = place,
                            Terminals = [new TerminalId("+"), new TerminalId("-")],
                            Values = new Dictionary<string, double> { ["watts"] = 5 },
                        },
                    }
                ),
            ],
            Wires =
            [
                .. machine.Wires,
                .. all.SelectMany(i =>
                    new[]
                    {
                        Lead($"m{i}a", "SP2.x", $"more-switch{i}.1"),
                        Lead($"m{i}b", $"more-switch{i}.2", $"more-lamp{i}.+"),
                        Lead($"m{i}c", $"more-lamp{i}.-", "frame.loom bolt"),
                    }
                ),
            ],
        };
    }
}
