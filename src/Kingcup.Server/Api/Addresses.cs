using System.Net;
using System.Net.Sockets;
using System.Security.Cryptography;
using System.Text;
using Kingcup.Storage;
using Npgsql;

namespace Kingcup.Server.Api;

/// <summary>
/// Turns what says who asks (an address range, a device, an account) into hashes with a key of this database, so that it can be
/// counted and never read.
/// </summary>
public sealed class Addresses(Database database)
{
    private const string DeviceCookie = "kingcup-device";
    private volatile byte[]? _key;

    /// <summary>The range a request came from: an IPv4 address, or the first 64 bits of an IPv6 address, which is what one house is
    /// given.</summary>
    public static string RangeOf(IPAddress? address)
    {
        if (address is null)
            return "";
        if (address.IsIPv4MappedToIPv6)
            address = address.MapToIPv4();
        return address.AddressFamily == AddressFamily.InterNetworkV6
            ? Convert.ToHexString(address.GetAddressBytes().AsSpan(0, 8))
            : address.ToString();
    }

    /// <summary>Hash of the range of a request.</summary>
    internal Task<byte[]> RangeAsync(HttpContext http, NpgsqlConnection? connection = null) =>
        HashAsync("range", RangeOf(http.Connection.RemoteIpAddress), connection);

    /// <summary>Hash of an account's e-mail address.</summary>
    internal Task<byte[]> AccountAsync(string email, NpgsqlConnection? connection = null) => HashAsync("account", email, connection);

    /// <summary>Hash of the device a request came from; a new one is given a name that means nothing.</summary>
    internal async Task<byte[]> DeviceAsync(HttpContext http)
    {
        string? device = http.Request.Cookies[DeviceCookie];
        if (device is not { Length: 64 } || !device.All(char.IsAsciiHexDigit))
        {
            device = Convert.ToHexString(RandomNumberGenerator.GetBytes(32));
            http.Response.Cookies.Append(DeviceCookie, device, new CookieOptions
            {
                HttpOnly = true,
                SameSite = SameSiteMode.Strict,
                Secure = http.Request.IsHttps,
                MaxAge = TimeSpan.FromDays(400),
                IsEssential = true,
                Path = "/api/public",
            });
        }

        return await HashAsync("device", device, null);
    }

    private async Task<byte[]> HashAsync(string kind, string text, NpgsqlConnection? connection)
    {
        if (_key is null)
        {
            NpgsqlConnection own = connection ?? await database.OpenAsync();
            try
            {
                _key = await LimitStore.SecretAsync(own, "addresses", RandomNumberGenerator.GetBytes(32));
            }
            finally
            {
                if (connection is null) await own.DisposeAsync();
            }
        }

        return HMACSHA256.HashData(_key, Encoding.UTF8.GetBytes($"{kind} {text}"));
    }
}
