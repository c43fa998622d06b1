using System.Globalization;
using Pritchel.Workshop;

namespace Pritchel.Web;

/// <summary>What the command line asked for.</summary>
/// <param name="Workshop">Where the record is, and what is done with it at the start.</param>
/// <param name="HostArguments">Arguments left for the host, such as --urls.</param>
public sealed record StartOptions(WorkshopOptions Workshop, string[] HostArguments)
{
    private const int MostTableMegabytes = 1_000_000;
    private const string DefaultUrl = "http://127.0.0.1:5147";

    /// <summary>
    /// Reads "--data DIR", "--empty", "--no-ahead", "--tables MB", "--tables-at DIR", "--backups DIR" and "--restore FILE", and leaves the rest. Without "--urls" it listens on
    /// loopback only.
    /// </summary>
    /// <exception cref="FormatException">A size is none.</exception>
    public static StartOptions Parse(string[] args)
    {
        var (data, demo, ahead, host) = ("data", true, true, new List<string>());
        var (tables, tablesAt) = (new WorkshopOptions("").TableMegabytes, (string?)null);
        var (backups, restore) = ((string?)null, (string?)null);
        for (var i = 0; i < args.Length; i++)
        {
            if (args[i] is "--data" && i + 1 < args.Length)
            {
                data = args[++i];
            }
            else if (args[i].StartsWith("--data=", StringComparison.Ordinal))
            {
                data = args[i]["--data=".Length..];
            }
            else if (args[i] is "--empty")
            {
                demo = false;
            }
            else if (args[i] is "--no-ahead")
            {
                ahead = false;
            }
            else if (args[i] is "--tables" && i + 1 < args.Length)
            {
                tables = Megabytes(args[++i]);
            }
            else if (args[i] is "--tables-at" && i + 1 < args.Length)
            {
                tablesAt = args[++i];
            }
            else if (args[i] is "--backups" && i + 1 < args.Length)
            {
                backups = args[++i];
            }
            else if (args[i] is "--restore" && i + 1 < args.Length)
            {
                restore = args[++i];
            }
            else
            {
                host.Add(args[i]);
            }
        }

        if (
            !host.Exists(a => a.StartsWith("--urls", StringComparison.Ordinal))
            && Environment.GetEnvironmentVariable("ASPNETCORE_URLS") is null
        )
        {
            host.AddRange(["--urls", DefaultUrl]);
        }

        return new StartOptions(
            new WorkshopOptions(Path.GetFullPath(data))
            {
                TableFolder = Path.GetFullPath(tablesAt ?? Path.Combine(data, "tables")),
                BackupFolder = Path.GetFullPath(backups ?? Path.Combine(data, "backups")),
                Restore = restore is null ? null : Path.GetFullPath(restore),
                Demo = demo,
                WorksAhead = ahead,
                TableMegabytes = tables,
            },
            [.. host]
        );
    }

    private static int Megabytes(string typed) =>
        int.TryParse(typed, NumberStyles.None, CultureInfo.InvariantCulture, out var megabytes)
        && megabytes <= MostTableMegabytes
            ? megabytes
            : throw new FormatException(
                $"--tables: “{typed}” is no size; type megabytes from 0 to {MostTableMegabytes}."
            );

    /// <summary>Static files: beside the program once published, in the source tree while building.</summary>
    public static string WebRoot()
    {
        var beside = Path.Combine(AppContext.BaseDirectory, "wwwroot");
        for (
            var folder = new DirectoryInfo(AppContext.BaseDirectory);
            !Directory.Exists(beside) && folder is not null;
            folder = folder.Parent
        )
        {
            beside = Path.Combine(folder.FullName, "src", "Pritchel.Web", "wwwroot");
        }

        return beside;
    }
}
