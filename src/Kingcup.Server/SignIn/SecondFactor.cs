using Kingcup.Storage;
using NodaTime;
using Npgsql;
using OtpNet;
using QRCoder;

namespace Kingcup.Server.SignIn;

/// <summary>Codes that change every half minute (RFC 6238), for those who want them or have to.</summary>
internal static class SecondFactor
{
    private const int SecretBytes = 20;

    /// <summary>A new secret.</summary>
    internal static byte[] NewSecret() => KeyGeneration.GenerateRandomKey(SecretBytes);

    /// <summary>The secret as an application for codes reads it.</summary>
    internal static string AddressOf(byte[] secret, string business, string email) =>
        new OtpUri(OtpType.Totp, secret, email, business).ToString();

    /// <summary>The same as a picture (SVG) to be pointed at.</summary>
    internal static string PictureOf(string address)
    {
        using QRCodeGenerator generator = new();
        using QRCodeData data = generator.CreateQrCode(address, QRCodeGenerator.ECCLevel.M);
        using SvgQRCode picture = new(data);
        return picture.GetGraphic(4);
    }

    /// <summary>The secret as letters and digits, to be typed.</summary>
    internal static string TextOf(byte[] secret) => Base32Encoding.ToString(secret);

    /// <summary>Whether a code is good now; each is good once.</summary>
    internal static async Task<bool> UseAsync(NpgsqlConnection connection, StaffRow staff, string? code, Instant now)
    {
        string digits = new([.. (code ?? "").Where(char.IsAsciiDigit)]);
        if (staff.TotpSecret is not { } secret || digits.Length != 6)
            return false;
        bool isGood = new Totp(secret).VerifyTotp(
            now.ToDateTimeUtc(),
            digits,
            out long step,
            new VerificationWindow(previous: 1, future: 1)
        );
        return isGood && await StaffStore.UseTotpStepAsync(connection, staff.Id, step);
    }
}
