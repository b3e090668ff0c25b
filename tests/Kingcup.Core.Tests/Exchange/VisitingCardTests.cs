using System.Text;
using CsCheck;
using Kingcup.Core.Exchange;
using Kingcup.Core.Money;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Exchange;

/// <summary>vCard 4.0 as RFC 6350 has it, and amounts as files write them.</summary>
public sealed class VisitingCardTests
{
    private static readonly Guid _id = Guid.Parse("0190a5de-0000-7000-8000-000000000001");

    [Fact]
    public void A_card_says_who_it_is() =>
        VisitingCard
            .Of(_id, "Ada", "Quinn", "ada@example.com", "+353850123456")
            .ShouldBe(
                "BEGIN:VCARD\r\nVERSION:4.0\r\nUID:urn:uuid:0190a5de-0000-7000-8000-000000000001\r\nFN:Ada Quinn\r\n"
                    + "N:Quinn;Ada;;;\r\nEMAIL:ada@example.com\r\nTEL;VALUE=uri:tel:+353850123456\r\nEND:VCARD\r\n"
            );

    [Fact]
    public void Marks_of_the_format_are_escaped_and_what_is_unknown_is_left_out() =>
        VisitingCard
            .Of(_id, @"A,d;a\", "Quinn", null, null)
            .ShouldContain("FN:A\\,d\\;a\\\\ Quinn\r\nN:Quinn;A\\,d\\;a\\\\;;;\r\nEND:VCARD\r\n");

    [Fact]
    public void No_line_is_longer_than_75_octets_and_unfolded_it_is_what_it_was() =>
        Gen.OneOfConst("a", "é", "語", ";", "😀", " ")
            .Array[1, 160]
            .Select(string.Concat)
            .Sample(name =>
            {
                string card = VisitingCard.Of(_id, name, "Quinn", null, null);
                card.Split("\r\n").ShouldAllBe(line => Encoding.UTF8.GetByteCount(line) <= 75);
                card.Replace("\r\n ", "", StringComparison.Ordinal)
                    .ShouldContain($"FN:{name.Replace(";", "\\;", StringComparison.Ordinal)} Quinn\r\n");
            });

    [Theory]
    [InlineData(8400, "EUR", "84.00")]
    [InlineData(5, "EUR", "0.05")]
    [InlineData(5000, "JPY", "5000")]
    [InlineData(84005, "KWD", "84.005")]
    public void Amounts_have_the_decimals_of_their_currency(long amount, string code, string text) =>
        Currencies.Plain(amount, code).ShouldBe(text);
}
