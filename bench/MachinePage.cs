using System.Diagnostics;
using System.Globalization;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.TestHost;
using Microsoft.Extensions.DependencyInjection;
using Pritchel.Web;
using Pritchel.Workshop;

namespace Pritchel.Bench;

/// <summary>Server time of a machine's page, at rest and with its engine at work, in the application's own pipeline.</summary>
internal static class MachinePage
{
    private const int Warming = 8;
    private const int Asked = 40;

    public static async Task<int> RunAsync()
    {
        CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        var folder = Directory.CreateTempSubdirectory("pritchel-bench").FullName;
        await using var host = new WebApplicationFactory<StartOptions>().WithWebHostBuilder(b =>
            b.ConfigureTestServices(s =>
                s.AddSingleton(new WorkshopOptions(folder) { Demo = false, WorksAhead = false })
            )
        );
        var client = host.CreateClient();
        foreach (
            var address in new[]
            {
                "/machines/sound-cruiser-2",
                "/machines/sound-cruiser-2?rpm=3200&p.key=ON",
                "/machines/ridge-carrier-4",
                "/machines/ridge-carrier-4?rpm=3500&c.key=ON",
            }
        )
        {
            var (times, bytes) = (new List<double>(), 0);
            for (var i = 0; i < Warming + Asked; i++)
            {
                var watch = Stopwatch.StartNew();
                bytes = (await client.GetStringAsync(address)).Length;
                if (i >= Warming)
                {
                    times.Add(watch.Elapsed.TotalMilliseconds);
                }
            }

            times.Sort();
            Console.WriteLine(
                $"{address}: median {times[Asked / 2]:0} ms, worst {times[^1]:0} ms of {Asked}; {bytes / 1024} kB before compression"
            );
        }

        return 0;
    }
}
