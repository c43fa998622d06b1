using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Pritchel.Data;

namespace Pritchel.Web.Entrance;

/// <summary>Who may sign in: each has a name, words of their own and a role. There is always an owner.</summary>
/// <param name="members">The framework's own keeping of them.</param>
public sealed class MemberDesk(UserManager<Member> members)
{
    /// <summary>Most characters of a name.</summary>
    public const int LongestName = 40;

    /// <summary>Most characters of words.</summary>
    public const int LongestWords = 200;

    /// <summary>Everybody, by name.</summary>
    public async Task<IReadOnlyList<Member>> ListAsync(CancellationToken cancel) =>
        await members.Users.AsNoTracking().OrderBy(m => m.UserName).ToListAsync(cancel);

    /// <summary>Whether there is anybody yet.</summary>
    public Task<bool> AnyAsync(CancellationToken cancel) => members.Users.AnyAsync(cancel);

    /// <summary>Takes somebody in.</summary>
    /// <returns>What is wrong; null where they are in.</returns>
    public async Task<string?> AddAsync(string? name, MemberRole role, string? words)
    {
        var called = name?.Trim() ?? "";
        return NameFault(called) ?? TooLong(words) ?? Fault(await members.CreateAsync(New(called, role), words ?? ""));
    }

    /// <summary>Makes an owner, or gives one that is there new words: for whoever holds the workshop's passphrase.</summary>
    /// <returns>What is wrong; null where they are in.</returns>
    public async Task<string?> OwnerAsync(string? name, string? words)
    {
        if (await members.FindByNameAsync(name?.Trim() ?? "") is not { } there)
        {
            return await AddAsync(name, MemberRole.Owner, words);
        }

        if ((TooLong(words) ?? await RenewAsync(there, words) ?? await WithoutCodeAsync(there)) is { } fault)
        {
            return fault;
        }

        there.Role = MemberRole.Owner;
        await members.SetLockoutEndDateAsync(there, null);
        await members.ResetAccessFailedCountAsync(there);
        return Fault(await members.UpdateSecurityStampAsync(there));
    }

    /// <summary>Changes what somebody may do.</summary>
    /// <returns>What is wrong; null where it is changed.</returns>
    public async Task<string?> RoleAsync(string? name, MemberRole role, CancellationToken cancel)
    {
        if (await members.FindByNameAsync(name ?? "") is not { } there)
        {
            return Gone;
        }

        if (role != MemberRole.Owner && await IsLastOwnerAsync(there, cancel))
        {
            return LastOwner;
        }

        there.Role = role;
        return Fault(await members.UpdateSecurityStampAsync(there));
    }

    /// <summary>Takes somebody out; what they entered keeps their name.</summary>
    /// <returns>What is wrong; null where they are out.</returns>
    public async Task<string?> TakeOutAsync(string? name, CancellationToken cancel) =>
        await members.FindByNameAsync(name ?? "") is not { } there ? Gone
        : await IsLastOwnerAsync(there, cancel) ? LastOwner
        : Fault(await members.DeleteAsync(there));

    /// <summary>Gives somebody new words, as they ask for or because the old ones are forgotten.</summary>
    /// <param name="name">Whom.</param>
    /// <param name="old">Their words so far; null where an owner gives new ones.</param>
    /// <param name="words">The new ones.</param>
    /// <returns>What is wrong; null where they are changed.</returns>
    public async Task<string?> WordsAsync(string? name, string? old, string? words)
    {
        if (await members.FindByNameAsync(name ?? "") is not { } there)
        {
            return Gone;
        }

        if (TooLong(words) is { } fault)
        {
            return fault;
        }

        if (old is null)
        {
            await members.SetLockoutEndDateAsync(there, null);
            return await RenewAsync(there, words) ?? await WithoutCodeAsync(there);
        }

        return TooLong(old) ?? Fault(await members.ChangePasswordAsync(there, old, words ?? ""));
    }

    private const string Gone = "Nobody of that name is here any more.";
    private const string LastOwner = "The last owner stays one: make somebody else an owner first.";

    private static Member New(string name, MemberRole role) => new() { UserName = name, Role = role };

    /// <summary>New words without the old ones: checked before the old ones are gone.</summary>
    private async Task<string?> RenewAsync(Member there, string? words)
    {
        foreach (var check in members.PasswordValidators)
        {
            if (Fault(await check.ValidateAsync(members, there, words ?? "")) is { } fault)
            {
                return fault;
            }
        }

        there.PasswordHash = members.PasswordHasher.HashPassword(there, words!);
        return Fault(await members.UpdateSecurityStampAsync(there));
    }

    /// <summary>Asks for no code any more: whoever is given new words may have lost what shows it.</summary>
    private async Task<string?> WithoutCodeAsync(Member there)
    {
        await members.ResetAuthenticatorKeyAsync(there);
        return Fault(await members.SetTwoFactorEnabledAsync(there, false));
    }

    private async Task<bool> IsLastOwnerAsync(Member member, CancellationToken cancel) =>
        member.Role == MemberRole.Owner && await members.Users.CountAsync(m => m.Role == MemberRole.Owner, cancel) == 1;

    private static string? NameFault(string name) =>
        name.Length is 0 or > LongestName || name.Any(char.IsControl)
            ? $"The name: 1 to {LongestName} characters that print."
            : null;

    private static string? TooLong(string? words) =>
        words is { Length: > LongestWords } ? $"The words: {LongestWords} characters at the most." : null;

    private static string? Fault(IdentityResult result) =>
        result.Succeeded ? null
        : result.Errors.FirstOrDefault() is not { } error ? "That did not work; nothing was changed."
        : error.Code switch
        {
            nameof(IdentityErrorDescriber.DuplicateUserName) => "Somebody of that name is here already.",
            nameof(IdentityErrorDescriber.PasswordTooShort) =>
                $"The words: {SigningIn.FewestCharacters} characters or more.",
            nameof(IdentityErrorDescriber.PasswordMismatch) => "Those are not the words so far.",
            _ => error.Description,
        };
}
