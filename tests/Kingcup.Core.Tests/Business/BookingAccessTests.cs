using Kingcup.Core.Business;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Business;

/// <summary>Who books online.</summary>
public sealed class BookingAccessTests
{
    public static TheoryData<bool, bool, bool> Mixes() =>
        [.. from mix in Enumerable.Range(0, 8) select ((mix & 1) != 0, (mix & 2) != 0, (mix & 4) != 0)];

    [Theory]
    [MemberData(nameof(Mixes))]
    public void A_mix_is_whole_when_a_stranger_or_a_client_books_and_whoever_signs_up_may_come_back(bool guests, bool news, bool known)
    {
        BookingAccess access = new(guests, news, known);
        bool somebodyBooks = access.Lets(isKnown: true, isProven: true) || access.Lets(isKnown: false, isProven: false);
        bool newcomersComeBack = !access.ProvesStrangers || access.Lets(isKnown: true, isProven: true);
        access.IsWhole.ShouldBe(somebodyBooks && newcomersComeBack);
    }

    [Theory]
    [MemberData(nameof(Mixes))]
    public void Showing_an_address_never_takes_anything_away(bool guests, bool news, bool known)
    {
        BookingAccess access = new(guests, news, known);
        foreach (bool isKnown in (bool[])[true, false])
            (!access.Lets(isKnown, isProven: false) || access.Lets(isKnown, isProven: true)).ShouldBeTrue();
    }

    [Fact]
    public void Usually_anybody_books_and_clients_by_their_record() =>
        (BookingAccess.Usual.Lets(false, false), BookingAccess.Usual.Lets(true, false), BookingAccess.Usual.ProvesStrangers).ShouldBe(
            (true, true, false)
        );

    [Fact]
    public void Where_new_people_show_their_address_a_name_alone_does_not_do()
    {
        BookingAccess access = new(Guests: false, NewPeople: true, KnownPeople: true);
        access.Lets(isKnown: false, isProven: false).ShouldBeFalse();
        access.Lets(isKnown: false, isProven: true).ShouldBeTrue();
    }
}
