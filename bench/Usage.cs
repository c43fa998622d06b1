using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Simulation;

namespace Pritchel.Bench;

internal static class Usage
{
    public static int Show()
    {
        Console.WriteLine(
            """
            rehearse [N]   hunts every fault that stops the tractor cranking, N times each (1), by three strategies
            next-test      milliseconds from a reading to the next test, in the core
            evaluate M C N hidden faults hunted, N of each complaint whose id holds C on each machine whose id holds M
                           (several of either by comma, "all" for all). After it any of: "habits" for people's habits with old machines, "differing" for a world that differs from
                           what is believed, "seldom" for faults there in a third of tries, "doubles" for two at once, "misplaced" for leads put on wrongly,
                           "strategies" for half-splitting, end to end and random order beside, "watched" for what must hold at every step
                           checked, "listed" for every hunt by name; several worlds, "believed" among them, are hunted one after another with each kit;
                           "later=K" leaves the first K out, for what those chose
            trace M D N    the first N hunts of one duty's evaluation told reading by reading, where the verdict was not right; "every", "seldom" and "differing" as may be;
                           with a fault's id, all of that fault; "seed=K" for the hunt of that seed
            properties M C N hunts as evaluated, and what must hold at every step of each of them checked ("habits" and the others as above)
            first-test M C seconds to the predictions of each complaint, and from them to the first test; with "coarse" after
                           them, of the coarse predictions alone, twice
            first-page M N seconds of server time from a complaint to the page with its first test, of every Nth complaint
            warm-page M N  the same in an application started anew on tables that are on disk, and the memory it then holds
            lookahead M D  minutes of the program's choice against the best possible, of a machine's duty or of two small
                           complaints
            priors M C     what is doubted of each complaint before a reading, by classes of causes, as a table
            machine-page   milliseconds of server time of a machine's page, at rest and at work
            next-page M D  milliseconds of server time from Enter on a reading to the page with the next test, of a machine's
                           duty or the tractor that does not crank; with "seldom" after them, of what failed three times in eight
            dictionary     a full fault dictionary on one core and two; one solve against dense factorisation and ngspice
            proof          seconds of a proof of 4096 settings and every single fault, and how soon one ends that is given up
            solve          time and allocation of one settled case
            """
        );
        return 2;
    }

    /// <summary>The shipped machines whose ids hold one of several words, by comma; "all" for all.</summary>
    public static IEnumerable<Circuit> Circuits(string ids) =>
        Directory
            .EnumerateFiles(Path.Combine(AppContext.BaseDirectory, "machines"), "*.json")
            .Where(f => !f.EndsWith(".schema.json", StringComparison.Ordinal))
            .Where(f => ids == "all" || ids.Split(',').Any(id => f.Contains(id, StringComparison.Ordinal)))
            .Order(StringComparer.Ordinal)
            .Select(f => Circuit.Compile(MachineFile.Read(File.ReadAllText(f)).Machine!));

    public static DiagnosisKit Tractor()
    {
        var file = Path.Combine(AppContext.BaseDirectory, "machines", "orchard-tractor-4.json");
        return DiagnosisKit.Build(
            Circuit.Compile(MachineFile.Read(File.ReadAllText(file)).Machine!),
            new DutyId("cranks"),
            []
        );
    }
}
