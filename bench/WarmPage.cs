using System.Diagnostics;
using System.Globalization;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.TestHost;
using Microsoft.Extensions.DependencyInjection;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Web;
using Pritchel.Workshop;

namespace Pritchel.Bench;

/// <summary>
/// Server time from the complaint as written down to the page with its first test, once tables are on disk: in an
/// application started anew on them, nothing in its memory. Then how much memory it holds after all have been visited, and
/// after they have been visited again.
/// </summary>
internal static partial class WarmPage
{
    private const double Wanted = 0.3;

    public static async Task<int> RunAsync(string[] args)
    {
        CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        var oneIn = args.Length > 1 ? int.Parse(args[1], CultureInfo.InvariantCulture) : 1;
        var complaints = Usage
            .Circuits(args.Length > 0 ? args[0] : "all")
            .SelectMany(c => Symptoms.Of(c).Select(s => (Machine: c.Machine.Id.Text, Duty: s.Duty.Id.Text)))
            .Where((_, i) => i % oneIn == 0)
            .ToList();
        var folder = Directory.CreateTempSubdirectory("pritchel-warm").FullName;
        var watch = Stopwatch.StartNew();
        await using (var first = Start(folder))
        {
            foreach (var (machine, duty) in complaints)
            {
                await TimeAsync(first.CreateClient(), machine, duty);
            }

            var files = new DirectoryInfo(Path.Combine(folder, "tables")).EnumerateFiles("*.table").ToList();
            Console.WriteLine(
                $"{complaints.Count} complaints worked out in {watch.Elapsed.TotalMinutes:0.0} min: {files.Count} tables, {files.Sum(f => f.Length) / 1e6:0.0} MB, the largest {files.Max(f => f.Length) / 1e6:0.0} MB"
            );
        }

        await using var again = Start(folder);
        var client = again.CreateClient();
        await client.GetStringAsync("/");
        for (var round = 1; round <= 2; round++)
        {
            var times = new List<(string Complaint, double Seconds, bool Whole)>();
            foreach (var (machine, duty) in complaints)
            {
                var (seconds, whole) = await TimeAsync(client, machine, duty);
                times.Add(($"{machine} {duty}", seconds, whole));
            }

            var sorted = times.OrderBy(t => t.Seconds).ToArray();
            Console.WriteLine(
                $"round {round}: median {sorted[sorted.Length / 2].Seconds * 1000:0} ms, 95 % within {sorted[(int)(0.95 * (sorted.Length - 1))].Seconds * 1000:0} ms, under {Wanted * 1000:0} ms {sorted.Count(t => t.Seconds < Wanted)} of {sorted.Length}, from whole tables {sorted.Count(t => t.Whole)}"
            );
            foreach (var (complaint, took, _) in sorted.TakeLast(6).Reverse())
            {
                Console.WriteLine($"  {took * 1000:0} ms {complaint}");
            }

            GC.Collect(2, GCCollectionMode.Aggressive, blocking: true, compacting: true);
            Console.WriteLine(
                $"  memory after it: {GC.GetTotalMemory(forceFullCollection: true) / 1e6:0} MB managed, {Environment.WorkingSet / 1e6:0} MB in all"
            );
        }

        Directory.Delete(folder, recursive: true);
        return 0;
    }

    private static WebApplicationFactory<StartOptions> Start(string folder) =>
        new WebApplicationFactory<StartOptions>().WithWebHostBuilder(b =>
            b.ConfigureTestServices(s =>
                s.AddSingleton(new WorkshopOptions(folder) { Demo = false, WorksAhead = false })
            )
        );

    private static async Task<(double Seconds, bool Whole)> TimeAsync(HttpClient client, string machine, string duty)
    {
        var tag = await NextPage.OpenAsync(client, machine, duty);
        var html = await client.GetStringAsync($"/jobs/{tag}/complaint");
        var form = NextPage.Hidden(html.Split("class=\"complaint\"")[1].Split("</form>")[0]);
        form["HeardSaid"] = Answer().Match(html).Groups[1].Value;
        form["Failed"] = form["Tried"] = "3";
        var watch = Stopwatch.StartNew();
        var answer = await client.PostAsync($"/jobs/{tag}/complaint", new FormUrlEncodedContent(form));
        html = await answer.Content.ReadAsStringAsync();
        var took = watch.Elapsed.TotalSeconds;
        await client.GetStringAsync($"/api/v1/jobs/{tag}/suspects");
        return (took, !html.Contains("A first estimate", StringComparison.Ordinal));
    }

    [GeneratedRegex("name=\"HeardSaid\" value=\"([^\"]*)\"", RegexOptions.None, 1000)]
    private static partial Regex Answer();
}
