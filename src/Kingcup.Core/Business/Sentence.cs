using System.Globalization;
using System.Runtime.CompilerServices;
using System.Text;

namespace Kingcup.Core.Business;

/// <summary>
/// Something said to people, with its values kept apart from its words, so that it can be said in another language. It is written in
/// English where it is needed, as an interpolated string: <c>Say($"{name} is not open that day.")</c>. Every text that becomes one is
/// gathered for those who translate, so it has to stand in the code as it is; a text made elsewhere is refused by the tests.
/// </summary>
/// <remarks>
/// Values are texts, whole numbers, sums of money, dates, times of day, other sentences and what <see cref="Count"/> makes. Sums, dates and
/// times are written as the language writes them when the sentence is read, not when it is made.
/// </remarks>
[InterpolatedStringHandler]
public sealed class Sentence : IEquatable<Sentence>
{
    private readonly List<object?> _parts;

    /// <summary>Begins a sentence; the compiler does so for an interpolated string.</summary>
    public Sentence(int literalLength, int formattedCount) => _parts = new List<object?>(2 * formattedCount + 1);

    private Sentence(string text) => _parts = [new Words(text)];

    // What was written here; everything else in the list is a value.
    private sealed record Words(string Text);

    /// <summary>A number of things: the form of the word depends on the number, in ways that differ between languages.</summary>
    /// <param name="Number">How many.</param>
    /// <param name="One">English for one of them, without the number.</param>
    /// <param name="Other">English for another number of them.</param>
    public readonly record struct Counted(int Number, string One, string Other);

    /// <summary>A number with the word it counts, both written out where they are used.</summary>
    public static Counted Count(int number, string one, string other) => new(number, one, other);

    /// <summary>Makes a sentence where nothing else says that one is meant.</summary>
    public static Sentence Say(Sentence sentence) => sentence;

    /// <summary>Several sentences one after the other.</summary>
    public static Sentence Join(IEnumerable<Sentence> sentences)
    {
        Sentence all = new(0, 0);
        foreach (Sentence sentence in sentences)
        {
            if (all._parts.Count > 0) all._parts.Add(" ");
            all._parts.Add(sentence);
        }

        return all;
    }

    /// <summary>Names one after the other, the last joined by a word: "Ines, Jo and Suki".</summary>
    public static Sentence List(IEnumerable<string> names)
    {
        string[] all = [.. names];
        if (all.Length == 0) return new Sentence(0, 0);
        Sentence list = new(0, 1);
        list._parts.Add(all[0]);
        for (int i = 1; i < all.Length; i++)
            list = i == all.Length - 1 ? Say($"{list} and {all[i]}") : Say($"{list}, {all[i]}");
        return list;
    }

    /// <summary>Adds what is the same each time; for the compiler.</summary>
    public void AppendLiteral(string text) => _parts.Add(new Words(text));

    /// <summary>Adds a value; for the compiler.</summary>
    public void AppendFormatted<T>(T value) => _parts.Add(value);

    /// <summary>A text that stands in the code; nothing else may become a sentence.</summary>
    public static implicit operator Sentence(string text) => new(text);

    /// <summary>The sentence in the language of whoever reads it.</summary>
    public static implicit operator string(Sentence sentence) => sentence.ToString();

    /// <summary>
    /// What the sentence is looked up by: its English with values as <c>{0}</c> and numbers as plurals of ICU's message format. Empty for
    /// names and sentences put together, which have no words of their own.
    /// </summary>
    public string Pattern
    {
        get
        {
            if (!_parts.OfType<Words>().Any() && !_parts.OfType<Counted>().Any()) return "";
            StringBuilder pattern = new();
            int value = 0;
            foreach (object? part in _parts)
            {
                _ = part switch
                {
                    Words words => pattern.Append(words.Text),
                    Counted counted => pattern.Append(
                        CultureInfo.InvariantCulture,
                        $"{{{value++}, plural, one {{# {counted.One}}} other {{# {counted.Other}}}}}"
                    ),
                    _ => pattern.Append(CultureInfo.InvariantCulture, $"{{{value++}}}"),
                };
            }

            return pattern.ToString();
        }
    }

    /// <summary>The values in the order of the English.</summary>
    public IReadOnlyList<object?> Values => [.. _parts.Where(part => part is not Words)];

    /// <summary>The sentence in a language.</summary>
    public string In(Language language) =>
        language.Find(this) is { } message ? message.With(Values, language) : string.Concat(_parts.Select(part => Plain(part, language)));

    /// <summary>The sentence in the language of whoever reads it (<see cref="Language.Current"/>).</summary>
    public override string ToString() => In(Language.Current);

    /// <summary>Whether two say the same of the same.</summary>
    public bool Equals(Sentence? other) => other is not null && _parts.SequenceEqual(other._parts);

    /// <inheritdoc />
    public override bool Equals(object? obj) => Equals(obj as Sentence);

    /// <inheritdoc />
    public override int GetHashCode() => _parts.Aggregate(0, HashCode.Combine);

    private static string? Plain(object? part, Language language) => part switch
    {
        Words words => words.Text,
        Counted counted => $"{language.Write(counted.Number)} {(counted.Number == 1 ? counted.One : counted.Other)}",
        _ => language.Write(part),
    };
}
