using Kingcup.Core.Clients;
using Kingcup.Testing;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Storage.Tests.Clients;

/// <summary>Clients, what is written of them, and whom they are linked with.</summary>
public sealed class ClientStoreTests : IAsyncLifetime
{
    private static readonly Change _change = new("Nell", TestDatabase.Now);
    private TestDatabase _test = null!;
    private NpgsqlConnection _connection = null!;

    public async ValueTask InitializeAsync()
    {
        _test = await TestDatabase.EmptyAsync();
        _connection = await _test.Database.OpenAsync();
    }

    public async ValueTask DisposeAsync()
    {
        await _connection.DisposeAsync();
        await _test.DisposeAsync();
    }

    private async Task<ClientRow> AddAsync(string given, string family, string? email = null, string? phone = null)
    {
        ClientRow client = new()
        {
            Id = Guid.CreateVersion7(),
            GivenName = given,
            FamilyName = family,
            Email = email,
            Phone = phone,
            CreatedAt = TestDatabase.Now,
        };
        await ClientStore.AddAsync(_connection, client, _change);
        return (await ClientStore.FindAsync(_connection, client.Id))!;
    }

    private static ClientRow Renamed(ClientRow client, string family) =>
        new()
        {
            Id = client.Id,
            GivenName = client.GivenName,
            FamilyName = family,
            Email = client.Email,
            Phone = client.Phone,
            CreatedAt = client.CreatedAt,
            Version = client.Version,
        };

    private async Task<string[]> FoundAsync(string text) =>
        [.. (await ClientStore.SearchAsync(_connection, text, 20)).Select(client => client.GivenName)];

    private async Task<HistoryRow[]> HistoryAsync(Guid id) => [.. await History.OfAsync(_connection, id)];

    [Fact]
    public async Task A_client_comes_back_as_entered_with_an_entry_of_the_history()
    {
        ClientRow ada = await AddAsync("Ada", "Marsh", "ada@example.com", "+353209100001");
        (ada.GivenName, ada.FamilyName, ada.Email, ada.Phone, ada.Version).ShouldBe(
            ("Ada", "Marsh", "ada@example.com", "+353209100001", 1));
        (ada.MayBookOnline, ada.KnownBefore, ada.Own, ada.Visits, ada.NoShows).ShouldBe((true, false, null, 0, 0));
        HistoryRow entry = (await HistoryAsync(ada.Id)).ShouldHaveSingleItem();
        (entry.Actor, entry.Action, entry.Before).ShouldBe(("Nell", "Added", null));
        entry.After!.ShouldContain("ada@example.com");
    }

    [Fact]
    public async Task A_change_keeps_before_and_after_and_a_stale_one_changes_nothing()
    {
        ClientRow ada = await AddAsync("Ada", "Marsh");
        (await ClientStore.SaveAsync(_connection, ada, Renamed(ada, "Reed"), _change)).ShouldBeTrue();
        (await ClientStore.SaveAsync(_connection, ada, Renamed(ada, "Rush"), _change)).ShouldBeFalse();
        ClientRow now = (await ClientStore.FindAsync(_connection, ada.Id))!;
        (now.FamilyName, now.Version).ShouldBe(("Reed", 2));
        HistoryRow changed = (await HistoryAsync(ada.Id)).Single(entry => entry.Action == "Changed");
        changed.Before!.ShouldContain("Marsh");
        changed.After!.ShouldContain("Reed");
    }

    [Fact]
    public async Task Somebody_is_found_by_any_word_of_theirs_in_any_order()
    {
        await AddAsync("Ada", "Marsh", "ada.marsh@example.com", "+353209100001");
        await AddAsync("Adam", "Rush", null, "+353209100002");
        await AddAsync("Bea", "Adair");
        (await FoundAsync("ada")).ShouldBe(["Bea", "Ada", "Adam"], ignoreOrder: true);
        (await FoundAsync("marsh ada")).ShouldBe(["Ada"]);
        (await FoundAsync("MARSH")).ShouldBe(["Ada"]);
        (await FoundAsync("ada.marsh@")).ShouldBe(["Ada"]);
        (await FoundAsync("020 910 0002")).ShouldBe(["Adam"]);
        (await FoundAsync("+353 20 910 0001")).ShouldBe(["Ada"]);
        (await FoundAsync("9100")).ShouldBe(["Ada", "Adam"], ignoreOrder: true);
        (await FoundAsync("nobody")).ShouldBeEmpty();
        (await FoundAsync("   ")).ShouldBeEmpty();
    }

    [Fact]
    public async Task Signs_of_patterns_are_only_signs()
    {
        await AddAsync("Ada", "Marsh");
        await AddAsync("Per_cent", "100%");
        (await FoundAsync("%")).ShouldBe(["Per_cent"]);
        (await FoundAsync("_")).ShouldBe(["Per_cent"]);
        (await FoundAsync("\\")).ShouldBeEmpty();
    }

    private Task<IReadOnlyList<StoredLink>> LinksAsync(ClientRow client) => LinkStore.OfAsync(_connection, client.Id);

    private Task<bool> LinkAsync(ClientLink link, long version) => LinkStore.SaveAsync(_connection, link, version, _change);

    [Fact]
    public async Task Links_say_what_one_may_do_for_the_other_each_way_for_itself()
    {
        ClientRow parent = await AddAsync("Ada", "Marsh"), child = await AddAsync("Bea", "Marsh"), friend = await AddAsync("Cal", "Reed");
        ClientLink books = new(parent.Id, child.Id, "parent") { MayBook = true, MayPay = true };
        (await LinkAsync(books, 0)).ShouldBeTrue();
        (await LinkAsync(new ClientLink(friend.Id, parent.Id, "friend") { MaySee = true }, 0)).ShouldBeTrue();
        (await LinksAsync(parent)).Select(stored => (stored.FromName, stored.ToName)).ShouldBe(
            [("Cal Reed", "Ada Marsh"), ("Ada Marsh", "Bea Marsh")]);
        StoredLink ofChild = (await LinksAsync(child)).ShouldHaveSingleItem();
        (ofChild.Link, ofChild.Version).ShouldBe((books, 1));

        // Whoever has not seen it as it stands changes nothing.
        ClientLink guardian = books with { MayPay = false, Relation = "guardian" };
        (await LinkAsync(guardian, 0)).ShouldBeFalse();
        (await LinkAsync(guardian, 2)).ShouldBeFalse();
        (await LinksAsync(child)).ShouldHaveSingleItem().Link.ShouldBe(books);
        (await LinkAsync(guardian, 1)).ShouldBeTrue();
        ofChild = (await LinksAsync(child)).ShouldHaveSingleItem();
        (ofChild.Link, ofChild.Version).ShouldBe((guardian, 2));

        // One way taken back is only that way, and both histories know all of it.
        (await LinkAsync(new ClientLink(child.Id, parent.Id, "child"), 0)).ShouldBeTrue();
        (await LinkStore.RemoveAsync(_connection, guardian, 1, _change)).ShouldBeFalse();
        (await LinkStore.RemoveAsync(_connection, guardian, 2, _change)).ShouldBeTrue();
        (await LinksAsync(child)).ShouldHaveSingleItem().Link.From.ShouldBe(child.Id);
        foreach (ClientRow client in new[] { parent, child })
            (await HistoryAsync(client.Id)).Select(entry => entry.Action).Where(action => action != "Added").ShouldBe(
                    client == parent
                        ? ["Linked", "Linked", "Link changed", "Linked", "Link taken back"]
                        : ["Linked", "Link changed", "Linked", "Link taken back"]);
    }

    [Fact]
    public async Task Nobody_is_linked_with_themselves_or_with_nobody()
    {
        ClientRow ada = await AddAsync("Ada", "Marsh");
        foreach (Guid other in new[] { ada.Id, Guid.NewGuid() })
            await Should.ThrowAsync<PostgresException>(() => LinkAsync(new ClientLink(ada.Id, other, "friend"), 0));
        (await LinksAsync(ada)).ShouldBeEmpty();
    }
}
