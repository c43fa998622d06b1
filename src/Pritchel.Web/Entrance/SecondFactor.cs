using Microsoft.AspNetCore.Identity;
using Pritchel.Data;
using QRCoder;

namespace Pritchel.Web.Entrance;

/// <summary>A key that an authenticator takes in.</summary>
/// <param name="Key">As typed, in groups of four.</param>
/// <param name="Drawing">As a square to be read by its camera, in SVG.</param>
public sealed record AuthenticatorKey(string Key, string Drawing);

/// <summary>
/// The code that somebody may want to be asked for besides their words: six digits, another every half minute (RFC 6238), from any
/// authenticator that takes such a key. Who has lost it is given new words by an owner and asked for none.
/// </summary>
/// <param name="members">The framework's own keeping of members and their keys.</param>
public sealed class SecondFactor(UserManager<Member> members)
{
    private const string Issuer = "Pritchel";
    private const int Group = 4;
    private const int ModulePixels = 4;

    /// <summary>Whether a member is asked for a code.</summary>
    public static bool IsAsked(Member member) => member.TwoFactorEnabled;

    /// <summary>A member's key: made where there is none yet.</summary>
    public async Task<AuthenticatorKey> KeyAsync(Member member)
    {
        var key = await members.GetAuthenticatorKeyAsync(member);
        if (string.IsNullOrEmpty(key))
        {
            await members.ResetAuthenticatorKeyAsync(member);
            key = await members.GetAuthenticatorKeyAsync(member);
        }

        // The form that authenticators agree on; unlike a standard it has no number.
        var address =
            $"otpauth://totp/{Issuer}:{Uri.EscapeDataString(member.UserName!)}?secret={key}&issuer={Issuer}&digits=6";
        using var data = QRCodeGenerator.GenerateQrCode(address, QRCodeGenerator.ECCLevel.M);
        using var square = new SvgQRCode(data);
        return new AuthenticatorKey(
            string.Join(' ', key!.Chunk(Group).Select(c => new string(c))),
            square.GetGraphic(ModulePixels)
        );
    }

    /// <summary>Asks a member for a code from now on, or no longer; either wants a code that is right.</summary>
    /// <returns>What is wrong; null where it is done.</returns>
    public async Task<string?> AskAsync(Member member, bool ask, string? code)
    {
        if (
            !await members.VerifyTwoFactorTokenAsync(
                member,
                members.Options.Tokens.AuthenticatorTokenProvider,
                Digits(code)
            )
        )
        {
            return "The code: the six digits that the authenticator shows now.";
        }

        if (!ask)
        {
            await members.ResetAuthenticatorKeyAsync(member);
        }

        await members.SetTwoFactorEnabledAsync(member, ask);
        return null;
    }

    /// <summary>A code as typed, spaces out.</summary>
    public static string Digits(string? code) => new([.. (code ?? "").Where(char.IsAsciiDigit).Take(MostDigits)]);

    private const int MostDigits = 12;
}
