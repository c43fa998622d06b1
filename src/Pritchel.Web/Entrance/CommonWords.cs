using System.Buffers.Binary;
using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Identity;
using Pritchel.Data;

namespace Pritchel.Web.Entrance;

/// <summary>
/// Words that everybody tries first: those of eight characters and more among the thirty thousand commonest passwords of a published
/// list (zxcvbn 4.4.2, MIT licence), kept as the first eight bytes of their SHA-256, so that none of them stands here.
/// </summary>
public sealed class CommonWords : IPasswordValidator<Member>
{
    /// <summary>What is said of them.</summary>
    public const string Refusal =
        "The words: those are among the first that anybody tries. A few unlike ones in a row will do.";

    private static readonly Lazy<HashSet<ulong>> Known = new(Read);

    /// <summary>Whether words are among them, in whatever case.</summary>
    public static bool Has(string words) => Known.Value.Contains(First(words.Trim()));

    /// <inheritdoc/>
    public Task<IdentityResult> ValidateAsync(UserManager<Member> manager, Member user, string? password) =>
        Task.FromResult(
            password is not null && Has(password)
                ? IdentityResult.Failed(new IdentityError { Code = nameof(CommonWords), Description = Refusal })
                : IdentityResult.Success
        );

    private static ulong First(string words) =>
        BinaryPrimitives.ReadUInt64BigEndian(SHA256.HashData(Encoding.UTF8.GetBytes(words.ToLowerInvariant())));

    private static HashSet<ulong> Read()
    {
        using var file = typeof(CommonWords).Assembly.GetManifestResourceStream("common-words.bin")!;
        var (known, one) = (new HashSet<ulong>(), new byte[sizeof(ulong)]);
        while (file.ReadAtLeast(one, one.Length, throwOnEndOfStream: false) == one.Length)
        {
            known.Add(BinaryPrimitives.ReadUInt64BigEndian(one));
        }

        return known;
    }
}
