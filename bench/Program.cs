using System.Diagnostics;
using Pritchel.Core.Circuits;
using Pritchel.Core.Diagnosis;
using Pritchel.Core.Machines;
using Pritchel.Core.Meters;
using Pritchel.Core.Practice;

var circuit = Circuit.Compile(MachineFile.Read(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "machines", "orchard-tractor-4.json"))).Machine!);
Console.WriteLine($"{circuit.Network.NodeCount} nodes, {circuit.Network.Branches.Count} branches, {circuit.Faults.Count} faults");
var watch = Stopwatch.StartNew();
var table = PredictionTable.Build(circuit, "cranks", []);
Console.WriteLine($"table {watch.ElapsedMilliseconds} ms; conditions: {string.Join(" | ", table.Conditions.Select(c => c.Words))}");
watch.Restart();
table = PredictionTable.Build(circuit, "cranks", []);
Console.WriteLine($"table again {watch.ElapsedMilliseconds} ms; active {table.Hypotheses.Count(h => h.HasVolts)}");
var points = ProbePoints.Of(circuit);
var plan = new TestPlan(table, points);
var meter = Meter.Ordinary;
if (args.Length > 1 && args[1] == "time")
{
    var hid = HiddenFault.Hide(table, circuit.Faults.First(f => f.Id == "brake/start/open"), meter, new Random(1))!;
    var rd = new List<Reading>();
    var sit = new Situation();
    for (var i = 0; i < 4; i++)
    {
        for (var k = 0; k < 3; k++)
        {
            watch.Restart();
            var bl = Beliefs.Weigh(table, hid.Complaint, meter, rd);
            var t1 = watch.Elapsed.TotalMilliseconds;
            var best = plan.Best(bl, sit);
            Console.WriteLine($"step {i}: weigh {t1:0.0} ms, best {watch.Elapsed.TotalMilliseconds - t1:0.0} ms, live {bl.Suspects.Count(s => s.Share > 5e-4)}, allowed {plan.Allowed(sit).Count()} -> {best[0].Red.Name} / {best[0].Black.Name} [{best[0].Condition.Words}] {best[0].Bits:0.00} bit {best[0].Minutes}");
            if (k == 2) { rd.Add(hid.Read(best[0].At)); sit = Rehearsal.After(sit, best[0], table); Console.WriteLine($"   reads {rd[^1].Volts}"); }
        }
    }
    foreach (var s in Beliefs.Weigh(table, hid.Complaint, meter, rd).Suspects.Take(5)) Console.WriteLine($"{s.Share:P1} {s.Words}");
    return;
}

foreach (var part in new[] { "solenoid", "starter" })
{
    var line = LinePath.Through(circuit, table.Conditions[0].Setting, part);
    Console.WriteLine(part + ": " + string.Join(" > ", line.Pieces.Select(p => p.Name)));
}

var lines = new[] { "solenoid", "starter" }.Select(p => LinePath.Through(circuit, table.Conditions[0].Setting, p)).ToArray();
IStrategy[] strategies = args.Length > 1 ? [new ByInformation()] : [new ByInformation(), new ByHalves(lines, circuit.Reference), new ByChance(new Random(5))];
var repeats = args.Length > 0 ? int.Parse(args[0]) : 1;
foreach (var strategy in strategies)
{
    var random = new Random(99);
    var hunts = new List<Hunt>();
    watch.Restart();
    foreach (var fault in circuit.Faults)
    {
        for (var r = 0; r < repeats; r++)
        {
            if (HiddenFault.Hide(table, fault, meter, random) is { } hidden)
            {
                hunts.Add(Rehearsal.Play(table, plan, hidden, meter, strategy));
            }
        }
    }

    Console.WriteLine($"{strategy.Name}: {hunts.Count} hunts, right {hunts.Average(h => h.Right ? 1 : 0):P1}, no verdict {hunts.Average(h => h.Verdict is null ? 1 : 0):P1}, readings {hunts.Average(h => h.Readings):0.00}, minutes {hunts.Average(h => h.Minutes.Value):0.0}, {watch.Elapsed.TotalSeconds:0.0} s");
    if (strategy is ByInformation)
    {
        foreach (var h in hunts.Where(h => !h.Right))
        {
            Console.WriteLine($"   {h.FaultId} -> {h.Verdict ?? "none"} ({h.Share:P0}) after {h.Readings}");
        }
    }
}
