using System.Text;

namespace Kingcup.Core.Exchange;

/// <summary>Writes a person as a vCard 4.0 (RFC 6350).</summary>
public static class VisitingCard
{
    // RFC 6350, 3.2: a line is folded before it grows longer than this, the line break not counted.
    private const int MostOctets = 75;

    /// <summary>A card, each line ended as the format asks.</summary>
    public static string Of(Guid id, string givenName, string familyName, string? email, string? phone)
    {
        StringBuilder card = new();
        Add("BEGIN:VCARD");
        Add("VERSION:4.0");
        Add($"UID:urn:uuid:{id}");
        Add($"FN:{Escaped(givenName)} {Escaped(familyName)}");
        Add($"N:{Escaped(familyName)};{Escaped(givenName)};;;");
        if (email is not null) Add($"EMAIL:{Escaped(email)}");
        if (phone is not null) Add($"TEL;VALUE=uri:tel:{phone}");
        Add("END:VCARD");
        return card.ToString();

        void Add(string line)
        {
            int octets = 0;
            foreach (Rune rune in line.EnumerateRunes())
            {
                if (octets + rune.Utf8SequenceLength > MostOctets)
                {
                    card.Append("\r\n ");
                    octets = 1;
                }

                card.Append(rune.ToString());
                octets += rune.Utf8SequenceLength;
            }

            card.Append("\r\n");
        }
    }

    private static string Escaped(string text) =>
        text.Replace(@"\", @"\\", StringComparison.Ordinal)
            .Replace(",", @"\,", StringComparison.Ordinal)
            .Replace(";", @"\;", StringComparison.Ordinal)
            .Replace("\r\n", @"\n", StringComparison.Ordinal)
            .Replace("\n", @"\n", StringComparison.Ordinal);
}
