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
