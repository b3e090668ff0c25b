using System.Net;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Kingcup.Server.Tests.Money;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Clients;

/// <summary>Who may book online, as the owner chooses it, and a client's own password.</summary>
public sealed partial class AccessTests(PayWorld world) : IClassFixture<PayWorld>
{
    private const string Public = "/api/public/v1",
        Mine = $"{Public}/mine",
        Service = "Acupuncture 45";

    private static int _next;

    private async Task LetAsync(bool guests, bool newPeople, bool knownPeople)
    {
        ApiAnswer answer = await SaveAsync(guests, newPeople, knownPeople);
        answer.Status.ShouldBe(HttpStatusCode.OK, answer.Body?.ToJsonString());
    }

    private async Task<ApiAnswer> SaveAsync(bool guests, bool newPeople, bool knownPeople)
    {
        JsonObject page = (await world.Owner.GetAsync("/api/v1/setup/booking-page")).Body!.AsObject();
        (page["booksGuests"], page["booksNew"], page["booksKnown"]) = (guests, newPeople, knownPeople);
        return await world.Owner.PutAsync("/api/v1/setup/booking-page", page, (long)page["version"]!);
    }

    private async Task<ApiAnswer> BookAsync(
        ApiClient http,
        string email,
        string start,
        string? asClient = null,
        string givenName = "Dana"
    ) =>
        await http.PostAsync(
            $"{Public}/visits",
            new
            {
                locationId = world.MillStreet,
                start,
                lines = new[] { new { serviceId = world.Service(Service) } },
                givenName,
                familyName = $"Finch {email.Split('@')[0].ToUpperInvariant()}",
                email,
                phone = $"+35385{1_230_000 + Interlocked.Increment(ref _next)}",
                @as = asClient,
            },
            World.Key()
        );

    private async Task<string[]> StartsAsync(int many)
    {
        // Nobody pays before it, so that who books is all that matters.
        foreach (JsonNode? rule in (await world.Owner.GetAsync("/api/v1/setup/guarantees")).Body!.AsArray())
            (await world.Owner.DeleteAsync($"/api/v1/setup/guarantees/{rule!["id"]}", (long)rule["version"]!)).Status
                .ShouldBe(HttpStatusCode.NoContent);
        return await world.StartsAsync(Service, many);
    }

    private static string Somebody() => $"dana{Interlocked.Increment(ref _next)}@example.test";

    /// <summary>Shows that an address is theirs, by the code that arrives there.</summary>
    private async Task ShowAsync(ApiClient http, string address, bool toBook)
    {
        async Task<string[]> CodesAsync() =>
            [
                .. (await world.Gateway.ArrivedAsync(address))
                    .Select(mail => Code().Match((string)mail!["text"]!))
                    .Where(found => found.Success)
                    .Select(found => found.Groups[1].Value),
            ];
        int before = (await CodesAsync()).Length;
        (await http.PostAsync($"{Mine}/code", new { address, toBook })).Status.ShouldBe(HttpStatusCode.NoContent);
        await PayWorld.UntilAsync(async () => (await CodesAsync()).Length > before);
        string code = (await CodesAsync())[0];
        (await http.PostAsync($"{Mine}/enter", new { address, code })).Status.ShouldBe(HttpStatusCode.NoContent);
    }

    [Fact]
    public async Task Where_only_those_who_have_shown_an_address_book_a_new_one_shows_it_and_is_known_from_then_on()
    {
        string email = Somebody();
        string[] starts = await StartsAsync(3);
        await LetAsync(guests: false, newPeople: true, knownPeople: true);
        try
        {
            using ApiClient http = new(world.Second);
            ApiAnswer refused = await BookAsync(http, email, starts[0]);
            (refused.Status, refused.Code).ShouldBe((HttpStatusCode.Unauthorized, "show-first"));
            await ShowAsync(http, email, toBook: true);
            // What was shown is this address and no other.
            ApiAnswer other = await BookAsync(http, Somebody(), starts[0]);
            (other.Status, other.Code).ShouldBe((HttpStatusCode.Unauthorized, "show-first"));
            JsonNode who = (await http.GetAsync($"{Mine}/who")).Body!;
            ((string)who["address"]!, (bool)who["isEmail"]!).ShouldBe((email, true));
            who["people"]!.AsArray().ShouldBeEmpty();
            ((bool)who["mayBookAsNew"]!).ShouldBeTrue();
            // Nobody's bookings are theirs yet.
            (await http.GetAsync(Mine)).Status.ShouldBe(HttpStatusCode.Unauthorized);
            ApiAnswer booked = await BookAsync(http, email.ToUpperInvariant(), starts[0]);
            booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
            JsonNode person = (await http.GetAsync($"{Mine}/who")).Body!["people"]!.AsArray().ShouldHaveSingleItem()!;
            (await BookAsync(http, "", starts[1], (string)person["id"]!)).Status.ShouldBe(HttpStatusCode.Created);
            (await http.GetAsync(Mine)).Body!["ahead"]!.AsArray().Count.ShouldBe(2);
        }
        finally
        {
            await LetAsync(guests: true, newPeople: false, knownPeople: true);
        }
    }

    [Fact]
    public async Task Where_only_clients_book_nobody_else_is_sent_a_code_or_begins_to_pay()
    {
        string email = Somebody(),
            stranger = Somebody();
        string[] starts = await StartsAsync(2);
        using ApiClient known = new(world.First),
            unknown = new(world.Second);
        (await BookAsync(known, email, starts[0])).Status.ShouldBe(HttpStatusCode.Created);
        await LetAsync(guests: false, newPeople: false, knownPeople: true);
        try
        {
            (await unknown.PostAsync($"{Mine}/code", new { address = stranger, toBook = true })).Status.ShouldBe(HttpStatusCode.NoContent);
            await ShowAsync(known, email, toBook: true);
            // The code of the one who asked later has come: that of the other never will.
            (await world.Gateway.ArrivedAsync(stranger)).ShouldBeEmpty();
            (await BookAsync(unknown, stranger, starts[1])).Code.ShouldBe("show-first");
            ApiAnswer paying = await unknown.PostAsync(
                $"{Public}/payments",
                world.Somebody().Booking(starts[1]),
                World.Key()
            );
            (paying.Status, paying.Code).ShouldBe((HttpStatusCode.Unauthorized, "show-first"));
            // Having shown who one is is not enough: one books as oneself.
            (await BookAsync(known, email, starts[1])).Code.ShouldBe("show-first");
            JsonNode who = (await known.GetAsync($"{Mine}/who")).Body!;
            ((bool)who["mayBookAsNew"]!).ShouldBeFalse();
            JsonNode person = who["people"]!.AsArray().ShouldHaveSingleItem()!;
            (await BookAsync(known, "", starts[1], (string)person["id"]!)).Status.ShouldBe(HttpStatusCode.Created);
        }
        finally
        {
            await LetAsync(guests: true, newPeople: false, knownPeople: true);
        }
    }

    [Theory]
    [InlineData(false, false, false, "booksGuests")]
    [InlineData(false, true, false, "booksNew")]
    [InlineData(true, true, false, "booksNew")]
    public async Task A_mix_by_which_nobody_books_or_nobody_comes_back_is_refused(bool guests, bool newPeople, bool known, string field)
    {
        ApiAnswer refused = await SaveAsync(guests, newPeople, known);
        (refused.Status, refused.Field).ShouldBe((HttpStatusCode.BadRequest, field));
    }

    [Fact]
    public async Task Where_nobody_is_to_show_themselves_nobody_books_as_a_client()
    {
        string email = Somebody();
        string[] starts = await StartsAsync(2);
        using ApiClient http = new(world.First);
        (await BookAsync(http, email, starts[0])).Status.ShouldBe(HttpStatusCode.Created);
        await ShowAsync(http, email, toBook: false);
        JsonNode person = (await http.GetAsync($"{Mine}/who")).Body!["people"]!.AsArray().ShouldHaveSingleItem()!;
        await LetAsync(guests: true, newPeople: false, knownPeople: false);
        try
        {
            (await BookAsync(http, "", starts[1], (string)person["id"]!)).Code.ShouldBe("show-first");
            (await BookAsync(http, email, starts[1])).Status.ShouldBe(HttpStatusCode.Created);
        }
        finally
        {
            await LetAsync(guests: true, newPeople: false, knownPeople: true);
        }
    }

    [Fact]
    public async Task A_password_opens_ones_own_bookings_until_it_is_taken_away_or_the_address_is_not_theirs()
    {
        string email = Somebody();
        string start = (await StartsAsync(1))[0];
        using ApiClient http = new(world.First),
            elsewhere = new(world.Second),
            third = new(world.First);
        (await BookAsync(http, email, start)).Status.ShouldBe(HttpStatusCode.Created);
        const string Chosen = "sea-holly-and-thrift";
        Task<ApiAnswer> SignInAsync(ApiClient by, string password) =>
            by.PostAsync($"{Mine}/sign-in", new { address = email, password });
        Task<ApiAnswer> SetAsync(string? password, string? of = null) =>
            http.PutAsync($"{Mine}/password", new { personId = of ?? Guid.Empty.ToString(), password });

        (await SignInAsync(elsewhere, Chosen)).Status.ShouldBe(HttpStatusCode.Unauthorized);
        (await SetAsync(Chosen)).Status.ShouldBe(HttpStatusCode.Unauthorized);
        await ShowAsync(http, email, toBook: false);
        JsonNode mine = (await http.GetAsync(Mine)).Body!;
        JsonNode person = mine["people"]!.AsArray().ShouldHaveSingleItem()!;
        string id = (string)person["id"]!;
        ((bool)person["hasPassword"]!).ShouldBeFalse();
        // Not of somebody else, and no short one.
        (await SetAsync(Chosen)).Status.ShouldBe(HttpStatusCode.Unauthorized);
        (await SetAsync("short", id)).Field.ShouldBe("password");
        (await SetAsync(Chosen, id)).Status.ShouldBe(HttpStatusCode.NoContent);
        ((bool)(await http.GetAsync(Mine)).Body!["people"]![0]!["hasPassword"]!).ShouldBeTrue();
        (await SignInAsync(elsewhere, Chosen + "!")).Field.ShouldBe("password");
        (await SignInAsync(elsewhere, Chosen)).Status.ShouldBe(HttpStatusCode.NoContent);
        (await elsewhere.GetAsync(Mine)).Body!["ahead"]!.AsArray().ShouldHaveSingleItem();
        // The database has it as a hash only.
        (await world.ScalarAsync<long>("SELECT count(*) FROM client_password WHERE hash LIKE '%' || @Chosen || '%'", new { Chosen }))
            .ShouldBe(0);

        // A new one ends what was opened by the old one elsewhere, not here.
        (await SetAsync(Chosen + "-2", id)).Status.ShouldBe(HttpStatusCode.NoContent);
        (await elsewhere.GetAsync(Mine)).Status.ShouldBe(HttpStatusCode.Unauthorized);
        (await http.GetAsync(Mine)).Status.ShouldBe(HttpStatusCode.OK);
        (await SignInAsync(third, Chosen)).Status.ShouldBe(HttpStatusCode.Unauthorized);
        (await SignInAsync(third, Chosen + "-2")).Status.ShouldBe(HttpStatusCode.NoContent);

        // Taken away, it opens nothing, and what it opened is over; set again, it is good again.
        (await SetAsync(null, id)).Status.ShouldBe(HttpStatusCode.NoContent);
        (await third.GetAsync(Mine)).Status.ShouldBe(HttpStatusCode.Unauthorized);
        (await SignInAsync(third, Chosen + "-2")).Status.ShouldBe(HttpStatusCode.Unauthorized);
        ((bool)(await http.GetAsync(Mine)).Body!["people"]![0]!["hasPassword"]!).ShouldBeFalse();
        (await SetAsync(Chosen + "-2", id)).Status.ShouldBe(HttpStatusCode.NoContent);
        (await SignInAsync(third, Chosen + "-2")).Status.ShouldBe(HttpStatusCode.NoContent);

        // The desk enters another address: neither the password nor what it opened is good any more.
        JsonNode client = (await world.Owner.GetAsync($"/api/v1/clients/{id}")).Body!;
        client["email"] = $"new-{email}";
        (await world.Owner.PutAsync($"/api/v1/clients/{id}", client.AsObject(), (long)client["version"]!)).Status
            .ShouldBe(HttpStatusCode.OK);
        (await third.GetAsync(Mine)).Status.ShouldBe(HttpStatusCode.Unauthorized);
        (await SignInAsync(third, Chosen + "-2")).Status.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task Of_two_who_share_an_address_each_password_opens_the_bookings_of_one()
    {
        string email = Somebody();
        string[] starts = await StartsAsync(2);
        using ApiClient both = new(world.First),
            one = new(world.Second);
        (await BookAsync(both, email, starts[0])).Status.ShouldBe(HttpStatusCode.Created);
        (await BookAsync(both, email, starts[1], givenName: "Una")).Status.ShouldBe(HttpStatusCode.Created);
        await ShowAsync(both, email, toBook: false);
        JsonNode[] people = [.. (await both.GetAsync(Mine)).Body!["people"]!.AsArray().OfType<JsonNode>()];
        people.Length.ShouldBe(2);
        static string PasswordOf(JsonNode person) => $"of {(string)person["name"]!}";
        foreach (JsonNode person in people)
            (await both.PutAsync($"{Mine}/password", new { personId = (string)person["id"]!, password = PasswordOf(person) })).Status
                .ShouldBe(HttpStatusCode.NoContent);
        foreach (JsonNode person in people)
        {
            (await one.PostAsync($"{Mine}/sign-in", new { address = email, password = PasswordOf(person) })).Status
                .ShouldBe(HttpStatusCode.NoContent);
            JsonNode mine = (await one.GetAsync(Mine)).Body!;
            ((string)mine["people"]!.AsArray().ShouldHaveSingleItem()!["id"]!).ShouldBe((string)person["id"]!);
            ((string)mine["ahead"]!.AsArray().ShouldHaveSingleItem()!["name"]!).ShouldBe((string)person["name"]!);
        }
    }

    [Fact]
    public async Task Five_guesses_at_a_password_rest_it_over_both_servers_and_a_code_still_opens()
    {
        string email = Somebody();
        using ApiClient http = new(world.First),
            guessing = new(world.Second);
        (await BookAsync(http, email, (await StartsAsync(1))[0])).Status.ShouldBe(HttpStatusCode.Created);
        await ShowAsync(http, email, toBook: false);
        string id = (string)(await http.GetAsync(Mine)).Body!["people"]![0]!["id"]!;
        (await http.PutAsync($"{Mine}/password", new { personId = id, password = "sea-holly-and-thrift" })).Status
            .ShouldBe(HttpStatusCode.NoContent);
        foreach (int i in Enumerable.Range(0, 5))
        {
            ApiClient by = i % 2 == 0 ? http : guessing;
            (await by.PostAsync($"{Mine}/sign-in", new { address = email, password = $"guess {i}" })).Status
                .ShouldBe(HttpStatusCode.Unauthorized);
        }

        (await guessing.PostAsync($"{Mine}/sign-in", new { address = email, password = "sea-holly-and-thrift" })).Status
            .ShouldBe(HttpStatusCode.Unauthorized);
        await ShowAsync(guessing, email, toBook: false);
        (await guessing.GetAsync(Mine)).Status.ShouldBe(HttpStatusCode.OK);
    }

    [GeneratedRegex("code is ([0-9]{6})")]
    private static partial Regex Code();
}
