using System.Globalization;
using Pritchel.Workshop;

namespace Pritchel.Web;

/// <summary>What the command line asked for.</summary>
/// <param name="Workshop">Where the record is, and what is done with it at the start.</param>
/// <param name="HostArguments">Arguments left for the host, such as --urls.</param>
public sealed record StartOptions(WorkshopOptions Workshop, string[] HostArguments)
{
    /// <summary>Passphrase that whoever reaches it is asked for; null for none.</summary>
    public string? Passphrase { get; private init; }

    /// <summary>Names that it answers to besides its addresses.</summary>
    public IReadOnlyList<string> Names { get; private init; } = [];

    /// <summary>Addresses that it listens at, parted by semicolons.</summary>
    public string Urls
    {
        get
        {
            var at = Array.IndexOf(HostArguments, "--urls");
            return at >= 0 && at + 1 < HostArguments.Length
                ? HostArguments[at + 1]
                : Array.Find(HostArguments, a => a.StartsWith("--urls=", StringComparison.Ordinal))?["--urls=".Length..]
                    ?? Environment.GetEnvironmentVariable("ASPNETCORE_URLS")
                    ?? DefaultUrl;
        }
    }

    private static readonly string[] WithValue =
    [
        "--data",
        "--tables",
        "--tables-at",
        "--backups",
        "--restore",
        "--passphrase",
        "--name",
    ];

    private const int MostTableMegabytes = 1_000_000;
    private const string DefaultUrl = "http://127.0.0.1:5147";

    /// <summary>
    /// Reads "--data DIR", "--empty", "--no-ahead", "--tables MB", "--tables-at DIR", "--backups DIR", "--restore FILE",
    /// "--passphrase FILE" and "--name NAME", and leaves the rest. Without "--urls" it listens on loopback only.
    /// </summary>
    /// <exception cref="FormatException">A size is none, or a passphrase cannot be read.</exception>
    public static StartOptions Parse(string[] args)
    {
        var (data, demo, ahead, host) = ("data", true, true, new List<string>());
        var (tables, tablesAt) = (new WorkshopOptions("").TableMegabytes, (string?)null);
        var (backups, restore) = ((string?)null, (string?)null);
        var (passphrase, names) = ((string?)null, new List<string>());
        args = [.. args.SelectMany(Parted)];
        for (var i = 0; i < args.Length; i++)
        {
            if (args[i] is "--data" && i + 1 < args.Length)
            {
                data = args[++i];
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
            else if (args[i] is "--passphrase" && i + 1 < args.Length)
            {
                passphrase = Entrance.Passphrase.ReadFile(args[++i]);
            }
            else if (args[i] is "--name" && i + 1 < args.Length)
            {
                names.Add(args[++i]);
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
        )
        {
            Passphrase = passphrase,
            Names = names,
        };
    }

    /// <summary>"--data=DIR" as "--data DIR", for what is read here.</summary>
    private static string[] Parted(string argument) =>
        argument.Split('=', 2) is [var name, var value] && WithValue.Contains(name, StringComparer.Ordinal)
            ? [name, value]
            : [argument];

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
