using System.Net.Mail;
using PhoneNumbers;

namespace Kingcup.Core.Clients;

/// <summary>What a name, an e-mail address and a telephone number have to look like.</summary>
public static class ContactRules
{
    /// <summary>Longest given or family name.</summary>
    public const int LongestName = 80;

    /// <summary>Longest word for what two clients are to each other.</summary>
    public const int LongestRelation = 40;

    /// <summary>Longest e-mail address (RFC 5321).</summary>
    public const int LongestEmail = 254;

    private static readonly PhoneNumberUtil _numbers = PhoneNumberUtil.GetInstance();

    /// <summary>
    /// A name without the blanks around it, or null when it is empty, too long or holds control characters. Signs nobody sees that turn
    /// the direction of writing are left out: telephones put them round names, and others hide with them what a name says.
    /// </summary>
    public static string? Name(string? text)
    {
        string trimmed = string.Concat((text ?? "").Where(letter => !TurnsDirection(letter))).Trim();
        return trimmed.Length is > 0 and <= LongestName && !trimmed.Any(char.IsControl) ? trimmed : null;
    }

    private static bool TurnsDirection(char letter) => letter is (>= '\u202A' and <= '\u202E') or (>= '\u2066' and <= '\u2069');

    /// <summary>What two clients are to each other, or null when it is empty, longer than 40 characters or holds control
    /// characters.</summary>
    public static string? Relation(string? text) => Name(text) is { Length: <= LongestRelation } relation ? relation : null;

    /// <summary>An e-mail address in lower case, or null when it is not one.</summary>
    public static string? Email(string? text)
    {
        string trimmed = (text ?? "").Trim();
        bool plausible = trimmed.Length <= LongestEmail
            && MailAddress.TryCreate(trimmed, out MailAddress? address)
            && address.Address == trimmed
            && address.Host.Contains('.', StringComparison.Ordinal)
            && !address.Host.EndsWith('.') && !trimmed.Any(char.IsWhiteSpace);
        return plausible ? trimmed.ToLowerInvariant() : null;
    }

    /// <summary>A number in E.164 as people read it, in groups; what is not one comes back as it is.</summary>
    public static string Readable(string number)
    {
        try
        {
            return _numbers.Format(_numbers.Parse(number, null), PhoneNumberFormat.INTERNATIONAL);
        }
        catch (NumberParseException)
        {
            return number;
        }
    }

    /// <summary>
    /// A telephone number in international form (E.164), or null when its length or form cannot be one.
    /// Numbers set aside for made-up people pass, so only the possible length is asked for.
    /// </summary>
    /// <param name="text">As typed, with or without the country.</param>
    /// <param name="region">Country (ISO 3166-1 alpha-2) of numbers typed without one.</param>
    public static string? Phone(string? text, string region)
    {
        string trimmed = (text ?? "").Trim();
        if (trimmed.Length is 0 or > 40 || trimmed.Any(char.IsLetter)) return null;
        try
        {
            PhoneNumber number = _numbers.Parse(trimmed, region);
            return _numbers.IsPossibleNumber(number) ? _numbers.Format(number, PhoneNumberFormat.E164) : null;
        }
        catch (NumberParseException)
        {
            return null;
        }
    }

    /// <summary>By what a client is known again: address and name, or number and name, in lower case.</summary>
    public static IEnumerable<string> KnownBy(string givenName, string familyName, string? email, string? phone)
    {
        string name = $"{givenName} {familyName}".ToLowerInvariant();
        if (email is not null) yield return $"{email.ToLowerInvariant()} {name}";
        if (phone is not null) yield return $"{phone} {name}";
        if (email is null && phone is null) yield return name;
    }
}
