namespace Kingcup.Core.Business;

/// <summary>Sites that may show the booking page in a frame of theirs.</summary>
public static class FrameSite
{
    /// <summary>The most sites there may be.</summary>
    public const int Most = 10;

    /// <summary>
    /// A site as a browser compares it: scheme, host and port, as https://www.example.org. Without a scheme https is meant; http only on
    /// this machine, for trying.
    /// </summary>
    /// <param name="typed">What was typed: an address of the site, with or without a path.</param>
    /// <returns>The site, or null where it is none.</returns>
    public static string? Of(string? typed)
    {
        string text = (typed ?? "").Trim();
        if (text.Length is 0 or > 300 || text.Any(letter => char.IsWhiteSpace(letter) || letter is '\\' or '*')) return null;
        if (!text.Contains("://", StringComparison.Ordinal)) text = $"https://{text}";
        if (!Uri.TryCreate(text, UriKind.Absolute, out Uri? uri) || uri is not { UserInfo: "", HostNameType: not UriHostNameType.IPv6 })
            return null;
        bool isSafe = uri.Scheme == Uri.UriSchemeHttps && uri.IdnHost.Contains('.', StringComparison.Ordinal),
            isHere = uri.Scheme is "http" or "https" && uri.IsLoopback;
        if (!isSafe && !isHere) return null;
        string host = uri.IdnHost.ToLowerInvariant();
        return host.All(letter => char.IsAsciiLetterOrDigit(letter) || letter is '.' or '-')
            ? $"{uri.Scheme}://{host}{(uri.IsDefaultPort ? "" : $":{uri.Port}")}"
            : null;
    }
}
