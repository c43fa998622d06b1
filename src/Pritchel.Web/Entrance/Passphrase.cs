using System.Security.Cryptography;
using System.Text;

namespace Pritchel.Web.Entrance;

/// <summary>The passphrase that whoever reaches the application is asked for; none where only this machine reaches it.</summary>
public sealed class Passphrase
{
    /// <summary>Fewest characters.</summary>
    public const int Fewest = 8;

    private const int MostTries = 5;
    private static readonly TimeSpan Rest = TimeSpan.FromMinutes(10);

    private readonly byte[]? hash;
    private readonly TimeProvider clock;
    private readonly Lock gate = new();
    private readonly Dictionary<string, (int Tries, DateTimeOffset Since)> wrong = new(StringComparer.Ordinal);

    /// <summary>One of some words; none where they are null.</summary>
    public Passphrase(string? words, TimeProvider clock)
    {
        this.clock = clock;
        hash = words is null ? null : Hash(words);
    }

    /// <summary>Whether one is asked for.</summary>
    public bool IsAsked => hash is not null;

    /// <summary>Reads it from a file: its first line.</summary>
    /// <exception cref="FormatException">There is no such file, or its first line is too short or among the first that anybody tries.</exception>
    public static string ReadFile(string path)
    {
        try
        {
            var words = File.ReadLines(path).FirstOrDefault()?.Trim() ?? "";
            return words.Length < Fewest
                    ? throw new FormatException(
                        $"--passphrase: the first line of that file has {words.Length} characters; {Fewest} or more."
                    )
                : CommonWords.Has(words)
                    ? throw new FormatException(
                        "--passphrase: the first line of that file is among the first that anybody tries; a few unlike words in a row will do."
                    )
                : words;
        }
        catch (IOException e)
        {
            throw new FormatException($"--passphrase: “{path}” cannot be read: {e.Message}", e);
        }
        catch (UnauthorizedAccessException e)
        {
            throw new FormatException($"--passphrase: “{path}” may not be read.", e);
        }
    }

    /// <summary>Whether somebody may try; after five wrong ones they rest for ten minutes.</summary>
    /// <param name="who">Address that they come from.</param>
    public bool MayTry(string who)
    {
        lock (gate)
        {
            return !wrong.TryGetValue(who, out var tried)
                || tried.Tries < MostTries
                || clock.GetUtcNow() - tried.Since > Rest;
        }
    }

    /// <summary>Tries some words.</summary>
    public bool Is(string? words, string who)
    {
        if (hash is null || !MayTry(who))
        {
            return false;
        }

        // In the same time whether right or wrong.
        var right = CryptographicOperations.FixedTimeEquals(hash, Hash(words ?? ""));
        lock (gate)
        {
            var now = clock.GetUtcNow();
            foreach (var old in wrong.Where(w => now - w.Value.Since > Rest).Select(w => w.Key).ToList())
            {
                wrong.Remove(old);
            }

            if (right)
            {
                wrong.Remove(who);
            }
            else
            {
                wrong[who] = (wrong.GetValueOrDefault(who).Tries + 1, now);
            }
        }

        return right;
    }

    private static byte[] Hash(string words) => SHA256.HashData(Encoding.UTF8.GetBytes(words.Trim()));
}
