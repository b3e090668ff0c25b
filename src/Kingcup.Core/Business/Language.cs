using System.Globalization;
using System.Text.RegularExpressions;
using Kingcup.Core.Money;
using NodaTime;

namespace Kingcup.Core.Business;

/// <summary>
/// A language with the country it is spoken in: what sentences are called in it, and how it writes numbers, dates and times of day.
/// English needs no messages, since it stands in the code.
/// </summary>
/// <param name="culture">How numbers, dates and times are written.</param>
/// <param name="messages">Messages by the English pattern; sentences without one are said in English.</param>
/// <param name="forms">Names of the plural forms of 0 to 199, as Unicode has them; from there on the last hundred repeats.</param>
public sealed partial class Language(
    CultureInfo culture,
    IReadOnlyDictionary<string, Message> messages,
    IReadOnlyList<string> forms
)
{
    private static readonly AsyncLocal<Func<Language>?> _current = new();
    private readonly string _date = Weekday().Replace(culture.DateTimeFormat.LongDatePattern, "").Trim();

    /// <summary>English as it stands in the code, with 24 hours.</summary>
    public static Language English { get; } = For(CultureInfo.GetCultureInfo("en-IE"));

    /// <summary>The language of whoever is answered; English unless something else was said.</summary>
    public static Language Current => _current.Value?.Invoke() ?? English;

    /// <summary>Says what is spoken from here on, in this flow of work and what it calls.</summary>
    /// <param name="language">The language, asked for whenever a sentence is read, as it may be known only later.</param>
    public static void Speak(Func<Language> language) => _current.Value = language;

    /// <summary>English words with a country's way of writing dates and times.</summary>
    public static Language For(CultureInfo culture) => new(culture, new Dictionary<string, Message>(), []);

    /// <summary>What a sentence is called in it, or null where the English has to do.</summary>
    public Message? Find(Sentence sentence) => messages.Count == 0 ? null : messages.GetValueOrDefault(sentence.Pattern);

    /// <summary>The plural form of a number: one, few, many, other and so on.</summary>
    public string FormOf(int number)
    {
        long size = Math.Abs((long)number);
        return forms.Count < 200 ? (size == 1 ? "one" : "other") : forms[(int)(size < 200 ? size : 100 + size % 100)];
    }

    /// <summary>A value as the language writes it.</summary>
    public string Write(object? value) => value switch
    {
        null => "",
        string text => text,
        Sentence sentence => sentence.In(this),
        Sentence.Counted counted => Write(counted.Number),
        int number => number.ToString("N0", culture),
        long number => number.ToString("N0", culture),
        LocalDate date => date.ToDateOnly().ToString(_date, culture),
        LocalTime time => time.ToTimeOnly().ToString("t", culture),
        Sum sum => sum.In(culture),
        IsoDayOfWeek day => culture.DateTimeFormat.GetAbbreviatedDayName((DayOfWeek)((int)day % 7)),
        _ => throw new ArgumentException($"A sentence cannot hold a {value.GetType().Name}.", nameof(value)),
    };

    /// <summary>A date with its day of the week, as it stands in a letter.</summary>
    public string LongDateOf(LocalDate date) => date.ToDateOnly().ToString("D", culture);

    // A sentence says a date without its day of the week, so that goes from the long date with what parts it from the rest.
    [GeneratedRegex("(,? *dddd[,.]? *)")]
    private static partial Regex Weekday();
}

/// <summary>A sentence in another language, taken apart.</summary>
/// <param name="parts">Its texts, values and plurals in order.</param>
public sealed class Message(IReadOnlyList<Message.Part> parts)
{
    /// <summary>A part: a text; a value by its number; or forms of a plural of that value. A number itself is a value of null.</summary>
    /// <param name="Text">The text, or null.</param>
    /// <param name="Value">The number of the value, or null for the number the plural around it counts.</param>
    /// <param name="Forms">What stands there for each plural form, or null for the value itself.</param>
    public sealed record Part(string? Text, int? Value, IReadOnlyDictionary<string, Message>? Forms);

    /// <summary>The message with its values.</summary>
    public string With(IReadOnlyList<object?> values, Language language) => Write(values, language, null);

    private string Write(IReadOnlyList<object?> values, Language language, int? counted) =>
        string.Concat(parts.Select(part =>
        {
            if (part.Text is not null) return part.Text;
            if (part.Value is not { } index) return language.Write(counted);
            object? value = index < values.Count ? values[index] : null;
            if (part.Forms is null) return language.Write(value);
            int number = value is Sentence.Counted of ? of.Number : value as int? ?? 0;
            return (part.Forms.GetValueOrDefault(language.FormOf(number)) ?? part.Forms.Values.Last()).Write(values, language, number);
        }));
}
