namespace Kingcup.Core.Messages;

/// <summary>How many text messages some words take (GSM 03.38 and 03.40).</summary>
public static class TextLength
{
    private const string Basic =
        "@£$¥èéùìòÇ\nØø\rÅåΔ_ΦΓΛΩΠΨΣΘΞÆæßÉ !\"#¤%&'()*+,-./0123456789:;<=>?"
        + "¡ABCDEFGHIJKLMNOPQRSTUVWXYZÄÖÑÜ§¿abcdefghijklmnopqrstuvwxyzäöñüà";

    // These take two places each.
    private const string Extended = "^{}\\[~]|€";

    private const int Single = 160,
        Joined = 153,
        SingleWide = 70,
        JoinedWide = 67;

    /// <summary>The number of text messages; 0 for no words.</summary>
    public static int PartsOf(string words)
    {
        ArgumentNullException.ThrowIfNull(words);
        if (words.Length == 0) return 0;
        bool isBasic = words.All(letter =>
            Basic.Contains(letter, StringComparison.Ordinal) || Extended.Contains(letter, StringComparison.Ordinal)
        );
        int places = isBasic ? words.Length + words.Count(letter => Extended.Contains(letter, StringComparison.Ordinal)) : words.Length;
        (int single, int joined) = isBasic ? (Single, Joined) : (SingleWide, JoinedWide);
        return places <= single ? 1 : (places + joined - 1) / joined;
    }
}
