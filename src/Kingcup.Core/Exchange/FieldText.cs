using System.Globalization;
using System.Text.RegularExpressions;
using NodaTime;
using NodaTime.Text;

namespace Kingcup.Core.Exchange;

/// <summary>A stretch of a service as a file writes it.</summary>
/// <param name="Minutes">How long.</param>
/// <param name="IsAttended">Whether a practitioner is with the client.</param>
public sealed record PhaseText(int Minutes, bool IsAttended);

/// <summary>A qualification as a file writes it.</summary>
/// <param name="Name">Its name.</param>
/// <param name="From">First date on which it counts, or null.</param>
/// <param name="Until">Last date on which it counts, or null.</param>
public sealed record HeldText(string Name, LocalDate? From, LocalDate? Until);

/// <summary>
/// Reads what people write in the cells of a file, in the ways people of several countries write it. What cannot be read with
/// certainty is null, never a guess.
/// </summary>
public static partial class FieldText
{
    private static readonly string[] _yes = ["yes", "y", "true", "1", "x", "on", "ja", "oui", "si", "sí"];
    private static readonly string[] _no = ["no", "n", "false", "0", "off", "nein", "non"];
    private static readonly LocalDatePattern[] _dates =
        [.. new[] { "uuuu-MM-dd", "uuuu/MM/dd", "dd.MM.uuuu", "d.M.uuuu" }.Select(LocalDatePattern.CreateWithInvariantCulture)];

    /// <summary>Yes or no; null when it says neither.</summary>
    public static bool? YesNo(string text)
    {
        string plain = Plain(text);
        return _yes.Contains(plain) ? true : _no.Contains(plain) ? false : null;
    }

    /// <summary>Minutes from "50", "50 min", "1:15", "1 h", "1 h 15 min", "1.5 h" or "1,5 h"; null when it is none of these.</summary>
    public static int? Minutes(string text)
    {
        string plain = Plain(text);
        if (ClockForm().Match(plain) is { Success: true } clock) return (Whole(clock.Groups[1]) * 60) + Whole(clock.Groups[2]);
        if (HoursForm().Match(plain) is { Success: true } hours)
        {
            decimal whole = decimal.Parse(hours.Groups[1].Value.Replace(',', '.'), CultureInfo.InvariantCulture) * 60;
            return whole == decimal.Truncate(whole) && whole <= int.MaxValue / 2
                ? (int)whole + (hours.Groups[2].Success ? Whole(hours.Groups[2]) : 0)
                : null;
        }

        return MinutesForm().Match(plain) is { Success: true } minutes ? Whole(minutes.Groups[1]) : null;
    }

    /// <summary>
    /// Money in minor units from "84", "84.00", "84,00", "€ 1.234,50", "1,234.50" or "1 234,50 EUR". A single mark before exactly
    /// three figures parts thousands, unless the currency itself has three decimals. Null when it is no amount.
    /// </summary>
    /// <param name="text">As written.</param>
    /// <param name="decimals">Decimals of the currency, 0 to 3.</param>
    public static long? Amount(string text, int decimals)
    {
        string plain = new([
            .. text.Where(letter =>
                !char.IsWhiteSpace(letter)
                && letter is not '\'' and not '’'
                && !char.IsLetter(letter)
                && char.GetUnicodeCategory(letter) != UnicodeCategory.CurrencySymbol
            ),
        ]);
        if (plain.Length is 0 or > 20 || !plain.All(letter => char.IsAsciiDigit(letter) || letter is '.' or ','))
            return null;
        int mark = plain.LastIndexOfAny(['.', ',']);
        int after = mark < 0 ? 0 : plain.Length - mark - 1;
        bool isThousands = mark >= 0 && after == 3 && (decimals != 3 || plain.Count(letter => letter == plain[mark]) > 1);
        string whole = mark < 0 || isThousands ? plain : plain[..mark];
        string part = mark < 0 || isThousands ? "" : plain[(mark + 1)..];
        if (!ThousandsForm().IsMatch(whole) || (part.Length > 0 && whole.Contains(plain[mark], StringComparison.Ordinal))) return null;
        // More decimals than the currency has must be noughts.
        if (part.Length > decimals && part[decimals..].Any(letter => letter != '0')) return null;
        string digits = new string([.. whole.Where(char.IsAsciiDigit)]) + part.PadRight(decimals, '0')[..decimals];
        return long.TryParse(digits, NumberStyles.None, CultureInfo.InvariantCulture, out long amount) ? amount : null;
    }

    /// <summary>A date with the year first, or with dots; others could mean two days and are null.</summary>
    public static LocalDate? Date(string text)
    {
        foreach (LocalDatePattern pattern in _dates)
            if (pattern.Parse(text.Trim()) is { Success: true } parsed) return parsed.Value;
        return null;
    }

    /// <summary>The parts of a list, with semicolons between them.</summary>
    public static IReadOnlyList<string> List(string text) =>
        [
            .. text.Split([';', '\n'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
                .Distinct(StringComparer.OrdinalIgnoreCase),
        ];

    /// <summary>Phases from "20 + 25 alone + 15"; null when a part is no length.</summary>
    public static IReadOnlyList<PhaseText>? Phases(string text)
    {
        List<PhaseText> phases = [];
        foreach (string part in text.Split('+', StringSplitOptions.TrimEntries))
        {
            bool isAlone = part.EndsWith("alone", StringComparison.OrdinalIgnoreCase);
            if (Minutes(isAlone ? part[..^5] : part) is not { } minutes) return null;
            phases.Add(new PhaseText(minutes, !isAlone));
        }

        return phases;
    }

    /// <summary>Writes phases as they are read.</summary>
    public static string Phases(IEnumerable<PhaseText> phases) =>
        string.Join(
            " + ",
            phases.Select(phase => string.Create(CultureInfo.InvariantCulture, $"{phase.Minutes}{(phase.IsAttended ? "" : " alone")}"))
        );

    /// <summary>A qualification from "Laser", "Laser until 2027-12-28" or "Laser from 2025-01-10 until 2027-12-28"; null when a date is
    /// none.</summary>
    public static HeldText? Held(string text)
    {
        Match match = HeldForm().Match(text.Trim());
        string name = match.Groups["name"].Value;
        LocalDate? from = null, until = null;
        if (match.Groups["from"] is { Success: true } first && (from = Date(first.Value)) is null) return null;
        if (match.Groups["until"] is { Success: true } last && (until = Date(last.Value)) is null) return null;
        return name.Length == 0 ? null : new HeldText(name, from, until);
    }

    /// <summary>Writes a qualification as it is read.</summary>
    public static string Held(HeldText held)
    {
        ArgumentNullException.ThrowIfNull(held);
        return string.Create(CultureInfo.InvariantCulture, $"{held.Name}{Dated(" from ", held.From)}{Dated(" until ", held.Until)}");
        static string Dated(string word, LocalDate? date) => date is { } day ? word + LocalDatePattern.Iso.Format(day) : "";
    }

    /// <summary>
    /// Given and family name from "Ada Quinn" or "Quinn, Ada"; the last word is the family name. Null when there is one word only.
    /// </summary>
    public static (string Given, string Family)? Names(string text)
    {
        string trimmed = text.Trim();
        int comma = trimmed.IndexOf(',', StringComparison.Ordinal);
        (string given, string family) = comma >= 0
            ? (trimmed[(comma + 1)..].Trim(), trimmed[..comma].Trim())
            : trimmed.LastIndexOf(' ') is > 0 and int blank ? (trimmed[..blank].Trim(), trimmed[(blank + 1)..]) : ("", trimmed);
        return given.Length == 0 || family.Length == 0 ? null : (given, family);
    }

    /// <summary>
    /// A cell as a file keeps it. One that begins with a mark a spreadsheet takes for a formula gets an apostrophe in front, so
    /// that what a client typed is never run on somebody's desk.
    /// </summary>
    public static string Harmless(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        return text.Length > 0 && IsFormulaMark(text[0]) ? "'" + text : text;
    }

    /// <summary>A cell as it was before <see cref="Harmless"/>, without the blanks around it.</summary>
    public static string Cell(string? text)
    {
        // The sign with code 0 is in no text anybody wrote.
        string trimmed = (text ?? "").Replace("\0", "", StringComparison.Ordinal).Trim();
        return trimmed.Length > 1 && trimmed[0] == '\'' && IsFormulaMark(trimmed[1]) ? trimmed[1..] : trimmed;
    }

    private static bool IsFormulaMark(char item) => item is '=' or '+' or '-' or '@' or '\t' or '\r';

    private static string Plain(string text) => text.Trim().ToLowerInvariant();

    private static int Whole(Group group) => int.Parse(group.Value, CultureInfo.InvariantCulture);

    [GeneratedRegex(@"^(\d{1,2}):(\d{2})$")]
    private static partial Regex ClockForm();

    [GeneratedRegex(@"^(\d{1,3}(?:[.,]\d{1,2})?)\s*(?:h|hr|hrs|hour|hours|std)\.?(?:\s*(\d{1,3})\s*(?:m|min|mins|minutes)?\.?)?$")]
    private static partial Regex HoursForm();

    [GeneratedRegex(@"^(\d{1,5})\s*(?:m|min|mins|minute|minutes)?\.?$")]
    private static partial Regex MinutesForm();

    [GeneratedRegex(@"^(?:\d+|\d{1,3}(?:\.\d{3})+|\d{1,3}(?:,\d{3})+)$")]
    private static partial Regex ThousandsForm();

    [GeneratedRegex(@"^(?<name>.*?)(?:\s+from\s+(?<from>\d\S*))?(?:\s+until\s+(?<until>\S+))?$", RegexOptions.IgnoreCase)]
    private static partial Regex HeldForm();
}
