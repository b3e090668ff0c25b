using Kingcup.Core.Business;
using Kingcup.Core.Clients;
using Kingcup.Core.Money;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Clients;

/// <summary>Names, addresses and numbers as people type them; colours and amounts as they are kept.</summary>
public sealed class ContactRulesTests
{
    [Theory]
    [InlineData(" Ada ", "Ada")]
    [InlineData("Anne-Marie O'Neill", "Anne-Marie O'Neill")]
    [InlineData("Zoë", "Zoë")]
    [InlineData("李", "李")]
    [InlineData("\u2068Ada\u2069", "Ada")]
    [InlineData("A\u202Eda", "Ada")]
    [InlineData("\u202E", null)]
    [InlineData("", null)]
    [InlineData("   ", null)]
    [InlineData("Ada\nMarsh", null)]
    [InlineData("Ada\u0000", null)]
    [InlineData(null, null)]
    public void A_name_is_anything_people_are_called(string? typed, string? kept) => ContactRules.Name(typed).ShouldBe(kept);

    [Fact]
    public void A_name_has_an_end()
    {
        ContactRules.Name(new string('n', ContactRules.LongestName)).ShouldNotBeNull();
        ContactRules.Name(new string('n', ContactRules.LongestName + 1)).ShouldBeNull();
    }

    [Theory]
    [InlineData(" Ada.Marsh@Example.COM ", "ada.marsh@example.com")]
    [InlineData("a+b@example.co.uk", "a+b@example.co.uk")]
    [InlineData("ada", null)]
    [InlineData("ada@", null)]
    [InlineData("@example.com", null)]
    [InlineData("ada@example", null)]
    [InlineData("ada@example.", null)]
    [InlineData("ada marsh@example.com", null)]
    [InlineData("Ada <ada@example.com>", null)]
    [InlineData("ada@example.com, bea@example.com", null)]
    [InlineData(null, null)]
    public void An_address_is_one_address_and_nothing_around_it(string? typed, string? kept) => ContactRules.Email(typed).ShouldBe(kept);

    [Fact]
    public void An_address_has_an_end() =>
        ContactRules.Email($"{new string('a', ContactRules.LongestEmail)}@example.com").ShouldBeNull();

    [Theory]
    [InlineData("020 910 0001", "IE", "+353209100001")]
    [InlineData("+353 20 910 0001", "GB", "+353209100001")]
    [InlineData("00353 20 910 0001", "IE", "+353209100001")]
    [InlineData("(020) 910-0001", "IE", "+353209100001")]
    [InlineData("020 7946 0018", "GB", "+442079460018")]
    [InlineData("12", "IE", null)]
    [InlineData("call me", "IE", null)]
    [InlineData("", "IE", null)]
    [InlineData(null, "IE", null)]
    [InlineData("+353 20 910 0001 +353 20 910 0001 +353 20 910", "IE", null)]
    public void A_number_is_kept_in_one_form_however_it_was_typed(string? typed, string region, string? kept) =>
        ContactRules.Phone(typed, region).ShouldBe(kept);

    [Fact]
    public void A_number_is_read_in_groups_and_what_is_none_comes_back_as_it_is()
    {
        ContactRules.Readable("+353209100001").ShouldBe("+353 20 910 0001");
        ContactRules.Readable("reception").ShouldBe("reception");
    }

    [Fact]
    public void Somebody_is_known_by_address_or_number_together_with_their_name()
    {
        ContactRules.KnownBy("Ada", "Marsh", "ADA@example.com", "+353209100001")
            .ShouldBe(["ada@example.com ada marsh", "+353209100001 ada marsh"]);
        ContactRules.KnownBy("Ada", "Marsh", null, null).ShouldBe(["ada marsh"]);
        // A family shares an address, and each of it is somebody.
        ContactRules.KnownBy("Bea", "Marsh", "ada@example.com", null)
            .Intersect(ContactRules.KnownBy("Ada", "Marsh", "ada@example.com", null))
            .ShouldBeEmpty();
    }

    [Theory]
    [InlineData("#17594A", "#17594A")]
    [InlineData("#f4b400", "#F4B400")]
    [InlineData("17594A", null)]
    [InlineData("#17594", null)]
    [InlineData("#17594AF", null)]
    [InlineData("#1759G4", null)]
    [InlineData("red", null)]
    [InlineData(null, null)]
    public void A_colour_is_six_figures_after_a_hash(string? typed, string? kept) => (Colour.Parse(typed)?.ToString()).ShouldBe(kept);

    [Fact]
    public void Contrast_is_that_of_the_standard_and_the_same_both_ways()
    {
        Colour black = Colour.Parse("#000000")!.Value, grey = Colour.Parse("#777777")!.Value;
        black.ContrastWith(Colour.White).ShouldBe(21, 0.001);
        Colour.White.ContrastWith(Colour.White).ShouldBe(1, 0.001);
        // The grey that is known to miss readable text by a hair.
        grey.ContrastWith(Colour.White).ShouldBe(4.48, 0.01);
        grey.ContrastWith(Colour.White).ShouldBe(Colour.White.ContrastWith(grey), 0.0001);
        Colour.Parse("#17594A")!.Value.ContrastWith(Colour.White).ShouldBeGreaterThan(Colour.LeastContrast);
    }

    [Theory]
    [InlineData(8400, "EUR", "84.00")]
    [InlineData(5, "EUR", "0.05")]
    [InlineData(0, "EUR", "0.00")]
    [InlineData(8400, "JPY", "8400")]
    [InlineData(8400, "KWD", "8.400")]
    [InlineData(7, "KWD", "0.007")]
    public void An_amount_is_written_with_the_decimals_of_its_currency(long amount, string currency, string written) =>
        Currencies.Plain(amount, currency).ShouldBe(written);
}
