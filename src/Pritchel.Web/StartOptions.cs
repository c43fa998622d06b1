namespace Pritchel.Web;

/// <summary>What the command line asked for.</summary>
/// <param name="DataFolder">Folder of the record.</param>
/// <param name="Demo">Whether to fill an empty record with demo data.</param>
/// <param name="HostArguments">Arguments left for the host, such as --urls.</param>
public sealed record StartOptions(string DataFolder, bool Demo, string[] HostArguments)
{
    private const string DefaultUrl = "http://127.0.0.1:5147";

    /// <summary>Reads "--data DIR", "--empty" and leaves the rest. Without "--urls" it listens on loopback only.</summary>
    public static StartOptions Parse(string[] args)
    {
        var (data, demo, host) = ("data", true, new List<string>());
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

        return new StartOptions(Path.GetFullPath(data), demo, [.. host]);
    }

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
