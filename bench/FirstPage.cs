using System.Diagnostics;
using System.Globalization;
using System.Text.RegularExpressions;
using Pritchel.Core.Diagnosis.Complaints;

namespace Pritchel.Bench;

/// <summary>
/// Server time from the complaint as written down to the page with its first test: post, redirect and page, in the
/// application's own pipeline without a network, for every so many of all complaints. Told once without any time to write it
/// in, and once with the seconds that choosing an answer and pressing a button take.
/// </summary>
internal static partial class FirstPage
{
    private const int WritingSeconds = 2;

    public static async Task<int> RunAsync(string[] args)
    {
        CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        var machines = args.Length > 0 ? args[0] : "all";
        var oneIn = args.Length > 1 ? int.Parse(args[1], CultureInfo.InvariantCulture) : 1;
        var complaints = Usage
            .Circuits(machines)
            .SelectMany(c => Symptoms.Of(c).Select(s => (Machine: c.Machine.Id, Duty: s.Duty.Id)))
            .Where((_, i) => i % oneIn == 0)
            .ToList();
        foreach (var seconds in new[] { WritingSeconds, 0 })
        {
            // Each in an application of its own, so that nothing is there already; one complaint warms its compiler.
            await using var host = NextPage.Start();
            var client = host.CreateClient();
            await TimeAsync(client, complaints[^1].Machine.Text, complaints[^1].Duty.Text, WritingSeconds);
            var times = new List<(string Complaint, double Seconds)>();
            foreach (var (machine, duty) in complaints)
            {
                times.Add(($"{machine} {duty}", await TimeAsync(client, machine.Text, duty.Text, seconds)));
            }

            var sorted = times.OrderBy(t => t.Seconds).ToArray();
            Console.WriteLine(
                $"{seconds} s to write: median {sorted[sorted.Length / 2].Seconds:0.00} s, nine in ten within "
                    + $"{sorted[(int)(0.9 * (sorted.Length - 1))].Seconds:0.00} s, within a second "
                    + $"{sorted.Count(t => t.Seconds < 1)} of {sorted.Length}"
            );
            foreach (var (complaint, took) in sorted.TakeLast(6).Reverse())
            {
                Console.WriteLine($"  {took:0.00} s {complaint}");
            }
        }

        return 0;
    }

    private static async Task<double> TimeAsync(HttpClient client, string machine, string duty, int seconds)
    {
        var tag = await NextPage.OpenAsync(client, machine, duty);
        var html = await client.GetStringAsync($"/jobs/{tag}/complaint");
        var form = NextPage.Hidden(html.Split("class=\"complaint\"")[1].Split("</form>")[0]);
        form["HeardSaid"] = Answer().Match(html).Groups[1].Value;
        form["Failed"] = form["Tried"] = "3";
        await Task.Delay(TimeSpan.FromSeconds(seconds));
        var watch = Stopwatch.StartNew();
        var answer = await client.PostAsync($"/jobs/{tag}/complaint", new FormUrlEncodedContent(form));
        html = await answer.Content.ReadAsStringAsync();
        var took = watch.Elapsed.TotalSeconds;
        if (html.Contains("role=\"alert\"", StringComparison.Ordinal))
        {
            throw new InvalidOperationException(html.Split("role=\"alert\"")[1][..200]);
        }

        // All predictions are let come to their end, which takes a reader no longer than the first reading.
        await client.GetStringAsync($"/api/v1/jobs/{tag}/suspects");
        return took;
    }

    [GeneratedRegex("name=\"HeardSaid\" value=\"([^\"]*)\"", RegexOptions.None, 1000)]
    private static partial Regex Answer();
}
