using Kingcup.Server.Api;
using Kingcup.Storage;
using Microsoft.AspNetCore.Identity;

namespace Kingcup.Server.SignIn;

/// <summary>
/// Hashes and checks passwords. It is made to be slow, so only a few are worked on at once, and never while a connection or a lock
/// is held.
/// </summary>
public static class Passwords
{
    /// <summary>Least characters of a password.</summary>
    public const int Least = 10;

    /// <summary>Most characters of a password.</summary>
    public const int Most = 200;

    private static readonly PasswordHasher<StaffRow> _hasher = new();
    private static readonly SemaphoreSlim _atOnce = new(Math.Max(1, Environment.ProcessorCount / 2));
    private static readonly TimeSpan _patience = TimeSpan.FromSeconds(5);

    // Checked when nobody has that address, so that the answer takes as long as for somebody who has.
    private static readonly string _nobodys = _hasher.HashPassword(new StaffRow(), Guid.NewGuid().ToString());

    /// <summary>Hashes a password as it is kept.</summary>
    public static string Hash(string password) => _hasher.HashPassword(new StaffRow(), password);

    /// <summary>Hashes a password when its turn comes.</summary>
    /// <exception cref="Refused">Too many are being worked on.</exception>
    internal static Task<string> HashAsync(string password) => InTurnAsync(() => Hash(password));

    /// <summary>Whether a password is that of an account; takes as long when there is no account.</summary>
    /// <exception cref="Refused">Too many are being worked on.</exception>
    internal static Task<bool> AreAsync(StaffRow? staff, string password) => AreAsync(staff?.PasswordHash, password);

    /// <summary>Whether a password is that of a hash; takes as long when there is none.</summary>
    /// <exception cref="Refused">Too many are being worked on.</exception>
    internal static async Task<bool> AreAsync(string? hash, string password) =>
        await InTurnAsync(() =>
            _hasher.VerifyHashedPassword(new StaffRow(), hash ?? _nobodys, password) != PasswordVerificationResult.Failed
        ) && hash is not null;

    /// <summary>Refuses a password nobody should choose.</summary>
    internal static void Check(Checks checks, string? password, string field) =>
        checks.Require(password is { Length: >= Least and <= Most }, field, $"Choose a password of {Least} characters or more.");

    private static async Task<T> InTurnAsync<T>(Func<T> work)
    {
        if (!await _atOnce.WaitAsync(_patience)) throw Refused.Busy();
        try
        {
            return await Task.Run(work);
        }
        finally
        {
            _atOnce.Release();
        }
    }
}
