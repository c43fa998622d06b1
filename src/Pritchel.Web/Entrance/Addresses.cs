using System.Net;

namespace Pritchel.Web.Entrance;

/// <summary>Where the application listens, and the names it answers to.</summary>
public sealed class Addresses
{
    private readonly HashSet<string> names = new(StringComparer.OrdinalIgnoreCase) { "localhost" };

    /// <summary>Of the addresses that it is told to listen at, and names it is told to answer to besides.</summary>
    /// <param name="urls">Addresses, parted by semicolons: "http://127.0.0.1:5147".</param>
    /// <param name="told">Names told.</param>
    public Addresses(string urls, IEnumerable<string> told)
    {
        names.UnionWith(told);
        string[] hosts =
        [
            .. urls.Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Select(HostOf),
        ];
        IsLoopbackOnly = hosts.All(IsLoopback);
        names.UnionWith(hosts.Where(h => h.Length > 0 && char.IsLetter(h[0])));
        if (!IsLoopbackOnly)
        {
            names.UnionWith([Environment.MachineName, Environment.MachineName + ".local"]);
        }
    }

    /// <summary>Whether nothing but this machine reaches it.</summary>
    public bool IsLoopbackOnly { get; }

    /// <summary>
    /// Whether a name is this application's own. Numbers always are; a name that is none of those known may be anybody's,
    /// pointed here by a page that wants to read the record.
    /// </summary>
    /// <param name="host">Host of a request, without its port.</param>
    public bool Knows(string host) => names.Contains(host) || IPAddress.TryParse(host.Trim('[', ']'), out _);

    /// <summary>Why it may not listen there; null where it may.</summary>
    /// <param name="guarded">Whether it asks for a passphrase.</param>
    public string? Refusal(bool guarded) =>
        IsLoopbackOnly || guarded
            ? null
            : "That address can be reached from other machines, and nobody would be asked who they are. Put a passphrase of 8 letters or more into a file and start with --passphrase FILE; or leave --urls out to be reached from this machine only.";

    private static string HostOf(string url)
    {
        var host = url[(url.IndexOf("://", StringComparison.Ordinal) is var at and >= 0 ? at + 3 : 0)..];
        var end = host.IndexOf(']', StringComparison.Ordinal);
        return end > 0 ? host[1..end] : host.Split(':', '/')[0];
    }

    private static bool IsLoopback(string host) =>
        host.Equals("localhost", StringComparison.OrdinalIgnoreCase)
        || (IPAddress.TryParse(host, out var number) && IPAddress.IsLoopback(number));
}
