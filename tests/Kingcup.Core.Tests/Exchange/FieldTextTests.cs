using CsCheck;
using Kingcup.Core.Clients;
using Kingcup.Core.Exchange;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Exchange;

/// <summary>What people write in the cells of a file, and what is not guessed at.</summary>
public sealed class FieldTextTests
{
    [Theory]
    [InlineData("50", 50)]
    [InlineData(" 50 min", 50)]
    [InlineData("1:15", 75)]
    [InlineData("1 h", 60)]
    [InlineData("1h 15", 75)]
    [InlineData("1 h 15 min", 75)]
    [InlineData("1.5 h", 90)]
    [InlineData("1,25 hours", 75)]
    [InlineData("an hour", null)]
    [InlineData("-50", null)]
    [InlineData("1:5", null)]
    [InlineData("", null)]
    [InlineData("9999999999", null)]
    public void Lengths_are_read_in_the_ways_people_write_them(string text, int? minutes) => FieldText.Minutes(text).ShouldBe(minutes);

    [Theory]
    [InlineData("84", 2, 8400L)]
    [InlineData("84.00", 2, 8400L)]
    [InlineData("84,5", 2, 8450L)]
    [InlineData("€ 84.00", 2, 8400L)]
    [InlineData("1.234,50 EUR", 2, 123450L)]
    [InlineData("1,234.50", 2, 123450L)]
    [InlineData("1'234.50", 2, 123450L)]
    [InlineData("1 234,50", 2, 123450L)]
    [InlineData("1,234", 2, 123400L)]
    [InlineData("1.234.567", 2, 123456700L)]
    [InlineData("84.000", 3, 84000L)]
    [InlineData("5000", 0, 5000L)]
    [InlineData("5000.00", 0, 5000L)]
    [InlineData("84.005", 3, 84005L)]
    [InlineData("84.505", 2, 8450500L)]
    [InlineData("84.5050", 2, null)]
    [InlineData("8,4,0", 2, null)]
    [InlineData("-84", 2, null)]
    [InlineData("about", 2, null)]
    [InlineData("1.2.3", 2, null)]
    [InlineData("", 2, null)]
    public void Money_is_read_with_the_marks_of_several_countries(string text, int decimals, long? amount) =>
        FieldText.Amount(text, decimals).ShouldBe(amount);

    [Fact]
    public void Money_written_with_two_decimals_is_read_back() =>
        Gen.Long[0, 99_999_999].Sample(amount =>
        {
            string plain = System.FormattableString.Invariant($"{amount / 100}.{amount % 100:00}");
            FieldText.Amount(plain, 2).ShouldBe(amount);
            FieldText.Amount(plain.Replace('.', ','), 2).ShouldBe(amount);
            FieldText.Amount(System.FormattableString.Invariant($"{amount / 100m:#,##0.00}"), 2).ShouldBe(amount);
        });

    [Theory]
    [InlineData("Yes", true)]
    [InlineData("x", true)]
    [InlineData("FALSE", false)]
    [InlineData("0", false)]
    [InlineData("perhaps", null)]
    public void Yes_and_no_are_read_and_nothing_else(string text, bool? answer) => FieldText.YesNo(text).ShouldBe(answer);

    [Fact]
    public void A_date_that_could_be_two_is_not_read()
    {
        FieldText.Date("2027-12-28").ShouldBe(new LocalDate(2027, 12, 28));
        FieldText.Date("3.4.2027").ShouldBe(new LocalDate(2027, 4, 3));
        FieldText.Date("03/04/2027").ShouldBeNull();
        FieldText.Date("2027-02-30").ShouldBeNull();
    }

    [Fact]
    public void Phases_are_read_as_they_are_written()
    {
        PhaseText[] peel = [new(20, true), new(25, false), new(15, true)];
        FieldText.Phases(peel).ShouldBe("20 + 25 alone + 15");
        FieldText.Phases("20 + 25 alone + 15")!.ShouldBe(peel);
        FieldText.Phases("1 h+25alone")!.ShouldBe([new(60, true), new(25, false)]);
        FieldText.Phases("20 + soon").ShouldBeNull();
        FieldText.Phases("20 +").ShouldBeNull();
    }

    [Fact]
    public void Qualifications_are_read_with_their_dates()
    {
        FieldText
            .Held("Laser from 2025-01-10 until 2027-12-28")
            .ShouldBe(new HeldText("Laser", new LocalDate(2025, 1, 10), new LocalDate(2027, 12, 28)));
        FieldText.Held("Work from home until 2027-12-28")!.Until.ShouldBe(new LocalDate(2027, 12, 28));
        FieldText.Held("Laser until soon").ShouldBeNull();
        HeldText held = new("Hot stone massage", null, new LocalDate(2028, 2, 29));
        FieldText.Held(FieldText.Held(held)).ShouldBe(held);
    }

    [Theory]
    [InlineData("Ada Quinn", "Ada", "Quinn")]
    [InlineData("Quinn, Ada", "Ada", "Quinn")]
    [InlineData("Ada Maria Quinn", "Ada Maria", "Quinn")]
    [InlineData("van der Berg, Ada", "Ada", "van der Berg")]
    public void A_whole_name_is_parted(string text, string given, string family) => FieldText.Names(text).ShouldBe((given, family));

    [Fact]
    public void One_word_is_no_whole_name() => FieldText.Names("Ada").ShouldBeNull();

    [Fact]
    public void What_a_spreadsheet_would_run_is_kept_as_text_and_comes_back()
    {
        foreach (string text in new[] { "=1+1", "+353 1", "-", "@sum", "plain", "'quoted", "" })
        {
            FieldText.Harmless(text).ShouldNotStartWith("=");
            FieldText.Cell(FieldText.Harmless(text)).ShouldBe(text == "-" ? "-" : text);
        }
    }

    [Fact]
    public void Columns_are_found_by_our_heads_and_by_others_and_none_twice()
    {
        IReadOnlyDictionary<string, int> found = ImportFields.Guess(
            ImportKind.Clients,
            ["Notes", "LAST NAME", "First name", "Mobile", "E-Mail", "Telephone"]
        );
        found.ShouldBe(
            new Dictionary<string, int>
            {
                ["alert"] = 0,
                ["familyName"] = 1,
                ["givenName"] = 2,
                ["phone"] = 3,
                ["email"] = 4,
            },
            ignoreOrder: true
        );
        foreach (ImportKind kind in Enum.GetValues<ImportKind>())
        {
            IReadOnlyList<ImportField> fields = ImportFields.Of(kind);
            IReadOnlyDictionary<string, int> own = ImportFields.Guess(kind, [.. fields.Select(import => import.Label)]);
            own.Count.ShouldBe(fields.Count);
            foreach ((int i, ImportField field) in fields.Index()) own[field.Name].ShouldBe(i);
        }
    }

    [Fact]
    public void A_client_is_known_by_address_and_name_or_number_and_name()
    {
        ContactRules
            .KnownBy("Ada", "Quinn", "ADA@example.com", "+353850123456")
            .ShouldBe(["ada@example.com ada quinn", "+353850123456 ada quinn"]);
        ContactRules.KnownBy("Ada", "Quinn", null, null).ShouldBe(["ada quinn"]);
    }
}
