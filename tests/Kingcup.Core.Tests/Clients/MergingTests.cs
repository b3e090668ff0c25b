using CsCheck;
using Kingcup.Core.Clients;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Clients;

/// <summary>Two records of one person: how they are told, what they become, and that they can be taken apart.</summary>
public sealed class MergingTests
{
    private static readonly Gen<string?> _text = Gen.OneOfConst<string?>(null, "a", "b", "c");

    private static readonly Gen<Preferences> _preferences = Gen.Select(
        Gen.Bool,
        _text,
        (quiet, words) => quiet || words is not null ? new Preferences(null, null, quiet, null, words) : Preferences.None
    );

    private static readonly Gen<ClientFacts> _facts = Gen.Select(
        Gen.Select(Gen.OneOfConst("Lea", "Léa", "Le", "Anna", "Haas"), Gen.OneOfConst("Haas", "Hass", "Marsh", "Lea", "Quillfeather")),
        Gen.Select(_text, _text, _text, _text),
        Gen.Select(Gen.Int[0, 3], Gen.Bool),
        _preferences,
        (name, words, more, preferences) =>
            new ClientFacts
            {
                GivenName = name.Item1,
                FamilyName = name.Item2,
                Email = words.Item1,
                Phone = words.Item2,
                Alert = words.Item3,
                Source = words.Item4,
                Born = more.Item1 == 0 ? null : new LocalDate(1984, 4, more.Item1),
                MayBookOnline = more.Item2,
                Preferences = preferences,
            }
    );

    private static readonly Gen<ClientField[]> _choice = Gen.OneOfConst(Enum.GetValues<ClientField>()).Array[0, 8];

    private static ClientFacts Named(string given, string family) => new() { GivenName = given, FamilyName = family };

    [Fact]
    public void Taken_apart_at_once_everything_is_as_it_was() =>
        Gen.Select(_facts, _facts, _choice).Sample((kept, gone, choice) =>
        {
            ClientFacts merged = Merging.Merged(kept, gone, choice);
            Merging.TakenApart(kept, merged, merged).ShouldBe(kept);
        });

    [Fact]
    public void What_was_changed_since_stays_and_the_rest_goes_back() =>
        Gen.Select(_facts, _facts, _choice, _facts).Select(_choice).Sample((worlds, changed) =>
        {
            (ClientFacts kept, ClientFacts gone, ClientField[] choice, ClientFacts later) = worlds;
            ClientFacts merged = Merging.Merged(kept, gone, choice);
            ClientFacts now = Merging.Merged(merged, later, changed);
            ClientFacts apart = Merging.TakenApart(kept, merged, now);
            IReadOnlyList<ClientField> since = Merging.Differing(merged, now);
            Merging.Differing(apart, now).ShouldNotContain(field => since.Contains(field));
            Merging.Differing(apart, kept).ShouldBeSubsetOf(since);
        });

    [Fact]
    public void Every_field_is_that_of_one_of_the_two_as_chosen() =>
        Gen.Select(_facts, _facts, _choice).Sample((kept, gone, choice) =>
        {
            ClientFacts merged = Merging.Merged(kept, gone, choice);
            Merging.Differing(merged, kept).ShouldBeSubsetOf(choice);
            Merging.Differing(merged, gone).ShouldNotContain(field => choice.Contains(field));
        });

    /// <summary>Looking only at those that share something misses nobody, names no pair twice, and none that was told apart.</summary>
    [Fact]
    public void The_likely_pairs_among_clients_are_all_that_any_two_of_them_make() =>
        Gen.Select(_facts.Array[0, 9], Gen.Select(Gen.Int[0, 8], Gen.Int[0, 8]).Array[0, 3])
            .Sample((facts, told) =>
            {
                SharingClient[] clients = [.. facts.Select((one, i) => new SharingClient(Id(i), one))];
                HashSet<(Guid, Guid)> apart = [.. told.Select(pair => (Id(pair.Item1), Id(pair.Item2)))];
                var expected = clients
                    .SelectMany((one, i) => clients.Skip(i + 1).Select(other => (one, other)))
                    .Where(pair => !apart.Contains((pair.one.Id, pair.other.Id)) && !apart.Contains((pair.other.Id, pair.one.Id)))
                    .Select(pair => (pair.one.Id, pair.other.Id, Duplicates.Of(pair.one.Facts, pair.other.Facts).Score))
                    .Where(pair => pair.Score >= Duplicates.Likely);
                IReadOnlyList<LikelyPair> found = Duplicates.Among(clients, apart);
                found.Select(pair => (pair.OneId, pair.OtherId, pair.Likeness.Score)).ShouldBe(expected, ignoreOrder: true);
                found.Select(pair => pair.Likeness.Score).ShouldBeInOrder(SortDirection.Descending);
            });

    [Fact]
    public void What_very_many_share_says_nothing_of_any_two_of_them()
    {
        ClientFacts atTheHotel = Named("Lea", "Haas") with { Phone = "+353209100100" };
        SharingClient[] Guests(int count) => [.. Enumerable.Range(0, count).Select(i => new SharingClient(Id(i), atTheHotel))];
        Duplicates.Among(Guests(2), []).ShouldHaveSingleItem().Likeness.Score.ShouldBe(85);
        Duplicates.Among(Guests(Duplicates.MostSharing), []).Count.ShouldBe(50 * 49 / 2);
        Duplicates.Among(Guests(Duplicates.MostSharing + 1), []).ShouldBeEmpty();
    }

    private static Guid Id(int number) => new(number + 1, 0, 0, new byte[8]);

    [Fact]
    public void What_is_empty_is_filled_and_whoever_was_barred_stays_barred() =>
        Gen.Select(_facts, _facts).Sample((kept, gone) =>
        {
            ClientFacts merged = Merging.Merged(kept, gone, Merging.Proposed(kept, gone));
            (merged.GivenName, merged.FamilyName).ShouldBe((kept.GivenName, kept.FamilyName));
            merged.Email.ShouldBe(kept.Email ?? gone.Email);
            merged.Born.ShouldBe(kept.Born ?? gone.Born);
            merged.MayBookOnline.ShouldBe(kept.MayBookOnline && gone.MayBookOnline);
        });

    [Fact]
    public void Likeness_is_the_same_either_way_and_needs_more_than_a_name() =>
        Gen.Select(_facts, _facts).Sample((one, other) =>
        {
            Likeness likeness = Duplicates.Of(one, other);
            likeness.Score.ShouldBe(Duplicates.Of(other, one).Score);
            likeness.Score.ShouldBeInRange(0, 100);
            bool sharesNothing = (one.Email is null || one.Email != other.Email) && (one.Phone is null || one.Phone != other.Phone)
                && (one.Born is null || one.Born != other.Born);
            if (sharesNothing) likeness.IsLikely.ShouldBeFalse();
        });

    public static TheoryData<ClientFacts, ClientFacts, int, bool> Pairs => new()
    {
        // Entered twice, once with the accent and once without.
        { Named("Zoë", "Müller-Haas") with { Phone = "+353851" }, Named("Zoe", "Muller Haas") with { Phone = "+353851" }, 85, true },
        // The two names in the wrong fields.
        { Named("Lea", "Haas") with { Email = "l@x.test" }, Named("Haas", "Lea") with { Email = "l@x.test" }, 80, true },
        // A slip in a long name.
        { Named("Marianne", "Calloway") with { Phone = "+1" }, Named("Mariane", "Callowya") with { Phone = "+1" }, 70, true },
        // Alex, and Alexandra.
        { Named("Alex", "Marsh") with { Phone = "+1" }, Named("Alexandra", "Marsh") with { Phone = "+1" }, 65, true },
        // Married since: address and number are the same.
        {
            Named("Una", "Quill") with { Phone = "+1", Email = "u@x.test" },
            Named("Una", "Marsh") with { Phone = "+1", Email = "u@x.test" },
            85,
            true
        },
        // A mother and her child: the same number and address.
        {
            Named("Lea", "Haas") with { Phone = "+1", Email = "l@x.test" },
            Named("Nils", "Haas") with { Phone = "+1", Email = "l@x.test" },
            0,
            false
        },
        // Father and son of one name.
        {
            Named("John", "Marsh") with { Phone = "+1", Born = new LocalDate(1950, 1, 1) },
            Named("John", "Marsh") with { Phone = "+1", Born = new LocalDate(1980, 1, 1) },
            25,
            false
        },
        // Two of one name.
        { Named("Anna", "Marsh"), Named("Anna", "Marsh"), 50, false },
        // One letter makes another name of a short one.
        { Named("Jan", "Marsh") with { Phone = "+1" }, Named("Jon", "Marsh") with { Phone = "+1" }, 0, false },
    };

    [Theory]
    [MemberData(nameof(Pairs))]
    public void Examples_of_likeness(ClientFacts one, ClientFacts other, int score, bool isLikely)
    {
        Likeness likeness = Duplicates.Of(one, other);
        likeness.Score.ShouldBe(score, string.Join(", ", likeness.Reasons));
        likeness.IsLikely.ShouldBe(isLikely);
    }
}
