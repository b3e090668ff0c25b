using System.Globalization;
using CsCheck;
using Kingcup.Core.Business;
using NodaTime;
using Shouldly;
using Xunit;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Core.Tests.Business;

/// <summary>What is said to people, in English and in another language.</summary>
public sealed class SentenceTests
{
    private static readonly LocalDate _date = new(2027, 3, 5);

    private static Language In(string locale, string pattern, params Message.Part[] parts) =>
        new(CultureInfo.GetCultureInfo(locale), new Dictionary<string, Message> { [pattern] = new Message(parts) }, []);

    private static Message.Part Text(string text) => new(text, null, null);

    private static Message.Part Value(int index) => new(null, index, null);

    [Fact]
    public void English_is_said_as_it_stands()
    {
        string name = "Ines";
        Sentence sentence = $"{name} is away until {_date}, from {new LocalTime(9, 5)}.";
        sentence.ToString().ShouldBe("Ines is away until 5 March 2027, from 09:05.");
        sentence.Pattern.ShouldBe("{0} is away until {1}, from {2}.");
    }

    [Theory]
    [InlineData(0, "0 visits wait.")]
    [InlineData(1, "1 visit waits.")]
    [InlineData(1200, "1,200 visits wait.")]
    public void A_number_takes_the_form_of_its_word(int number, string said) =>
        Say($"{Count(number, "visit waits", "visits wait")}.").ToString().ShouldBe(said);

    [Theory]
    [InlineData("", "")]
    [InlineData("Ines", "Ines")]
    [InlineData("Ines Jo", "Ines and Jo")]
    [InlineData("Ines Jo Suki", "Ines, Jo and Suki")]
    [InlineData("Ines Jo Suki Mara", "Ines, Jo, Suki and Mara")]
    public void Names_stand_in_a_row(string names, string said) =>
        List(names.Split(' ', StringSplitOptions.RemoveEmptyEntries)).ToString().ShouldBe(said);

    [Fact]
    public void Dates_and_times_are_those_of_the_country()
    {
        Sentence sentence = $"{_date} {new LocalTime(20, 15)}";
        string In(string locale) => sentence.In(Language.For(CultureInfo.GetCultureInfo(locale))).Replace('\u202f', ' ');
        In("en-IE").ShouldBe("5 March 2027 20:15");
        In("en-US").ShouldBe("March 5, 2027 8:15 PM");
        In("de-DE").ShouldBe("5. März 2027 20:15");
    }

    [Fact]
    public void Every_locale_a_business_may_choose_can_write_dates_and_times()
    {
        foreach (CultureInfo culture in CultureInfo.GetCultures(CultureTypes.AllCultures).Where(culture => culture.Name.Length > 0))
        {
            Language language = Language.For(culture);
            language.Write(_date).Length.ShouldBeInRange(6, 40, culture.Name);
            language.Write(new LocalTime(20, 15)).Length.ShouldBeInRange(4, 40, culture.Name);
            language.Write(1200).ShouldNotBeEmpty();
        }
    }

    [Fact]
    public void Another_language_may_put_values_elsewhere()
    {
        Language german = In("de-DE", "{0} needs {1} first.", Text("Vor "), Value(0), Text(" kommt "), Value(1), Text("."));
        Say($"{"Laser"} needs {"a consultation"} first.").In(german).ShouldBe("Vor Laser kommt a consultation.");
        Say($"{"Laser"} is not free.").In(german).ShouldBe("Laser is not free.");
    }

    [Fact]
    public void What_stands_in_a_sentence_is_translated_too()
    {
        Language german = In("de-DE", "another visit", Text("ein anderer Termin"));
        Say($"The client has {Say("another visit")}.").In(german).ShouldBe("The client has ein anderer Termin.");
    }

    [Fact]
    public void Plurals_are_those_of_the_language()
    {
        // Polish: 1 wizyta, 2 to 4 wizyty, 5 wizyt, 22 wizyty again, 112 wizyt.
        string[] forms =
        [
            .. Enumerable
                .Range(0, 200)
                .Select(number =>
                    number == 1 ? "one"
                    : number % 10 is >= 2 and <= 4 && number % 100 is not (>= 12 and <= 14) ? "few"
                    : "many"
                ),
        ];
        Message Of(string word) => new([new Message.Part(null, null, null), Text(" " + word)]);
        Dictionary<string, Message> words = new()
        {
            ["one"] = Of("wizyta"),
            ["few"] = Of("wizyty"),
            ["many"] = Of("wizyt"),
            ["other"] = Of("wizyty"),
        };
        Language polish = new(
            CultureInfo.GetCultureInfo("pl-PL"),
            new Dictionary<string, Message>
            {
                ["{0, plural, one {# visit} other {# visits}}"] = new([new Message.Part(null, 0, words)]),
            },
            forms
        );
        string Said(int number) => Say($"{Count(number, "visit", "visits")}").In(polish);
        Said(1).ShouldBe("1 wizyta");
        Said(3).ShouldBe("3 wizyty");
        Said(5).ShouldBe("5 wizyt");
        Said(22).ShouldBe("22 wizyty");
        Said(112).ShouldBe("112 wizyt");
        Said(1003).Replace('\u00a0', ' ').ShouldEndWith("wizyty");
    }

    [Fact]
    public void Whatever_a_value_holds_it_is_said_as_it_is()
    {
        Language german = In("de-DE", "{0} is with {1}.", Value(1), Text(" ist bei "), Value(0), Text("."));
        Gen.Select(Gen.String, Gen.String)
            .Sample(
                (name, other) =>
                {
                    Sentence sentence = $"{name} is with {other}.";
                    sentence.In(Language.English).ShouldBe(name + " is with " + other + ".");
                    sentence.In(german).ShouldBe(other + " ist bei " + name + ".");
                    sentence.Pattern.ShouldBe("{0} is with {1}.");
                }
            );
    }

    [Fact]
    public void Sentences_follow_each_other_with_a_space()
    {
        Join([]).ToString().ShouldBeEmpty();
        Join([Say("One thing.")]).ToString().ShouldBe("One thing.");
        Join([Say("One thing."), Say($"{2} more.")]).ToString().ShouldBe("One thing. 2 more.");
    }

    [Fact]
    public async Task What_is_spoken_holds_for_one_flow_of_work_and_not_for_another()
    {
        Language german = In("de-DE", "That time is not free.", Text("Die Zeit ist nicht frei."));
        Sentence sentence = "That time is not free.";
        async Task<string> SaidAsync(Language language)
        {
            Language.Speak(() => language);
            await Task.Yield();
            return sentence;
        }
        string[] said = await Task.WhenAll(Enumerable.Range(0, 40).Select(i => SaidAsync(i % 2 == 0 ? german : Language.English)));
        for (int i = 0; i < said.Length; i++)
            said[i].ShouldBe(i % 2 == 0 ? "Die Zeit ist nicht frei." : "That time is not free.");
        sentence.ToString().ShouldBe("That time is not free.");
    }

    [Fact]
    public void The_same_of_the_same_is_one_sentence()
    {
        Sentence Of(string name) => $"{name} is away.";
        Of("Ines").ShouldBe(Of("Ines"));
        Of("Ines").ShouldNotBe(Of("Jo"));
        new[] { Of("Jo"), Of("Ines"), Of("Jo") }.Distinct().Count().ShouldBe(2);
    }

    [Fact]
    public void A_value_nobody_can_write_is_refused() =>
        Should.Throw<ArgumentException>(() => Say($"{3.5}").ToString()).Message.ShouldContain("Double");
}
