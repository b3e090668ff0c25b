using System.Net;
using System.Text.Json.Nodes;
using Dapper;
using Kingcup.Testing;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Booking;

/// <summary>The edges of what the book allows, over HTTP. The clock stands on Monday 1 March 2027, 09:00.</summary>
public sealed class BookEdgeTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private const string Nutrition = "Nutrition review 30";

    private Task<string> MillAsync() => world.IdAsync("locations", "Mill Street");

    private async Task<object> OnlineAsync(string service, string start, string email, string phone, string? practitioner = null) =>
        new
        {
            locationId = await MillAsync(),
            start,
            lines = new[]
            {
                new
                {
                    serviceId = await world.IdAsync("services", service),
                    practitionerId = practitioner is null ? null : await world.IdAsync("practitioners", practitioner),
                },
            },
            givenName = "Ada",
            familyName = "Marsh",
            email,
            phone,
        };

    private async Task<ApiAnswer> BookOnlineAsync(ApiClient client, string service, string start, string email, string phone) =>
        await client.PostAsync("/api/public/v1/visits", await OnlineAsync(service, start, email, phone), World.Key());

    private async Task<object> AtDeskAsync(string service, string start, string clientId, string? practitioner = null) =>
        new
        {
            locationId = await MillAsync(),
            start,
            lines = new[]
            {
                new
                {
                    serviceId = await world.IdAsync("services", service),
                    practitionerId = practitioner is null ? null : await world.IdAsync("practitioners", practitioner),
                },
            },
            clientId,
        };

    private async Task<string> ClientAsync(string family)
    {
        ApiAnswer made = await world.Desk.PostAsync(
            "/api/v1/clients",
            new
            {
                givenName = "Ida",
                familyName = family,
                email = $"{family}@example.com",
                phone = "020 910 0042",
            }
        );
        return made.Body!["id"]!.GetValue<string>();
    }

    private static string[] Codes(ApiAnswer answer) =>
        [.. answer.Body!["reasons"]!.AsArray().Select(reason => reason!["code"]!.GetValue<string>())];

    private static async Task<string[]> StartsAsync(ApiClient client, object question) =>
        [.. (await client.PostAsync("/api/public/v1/starts", question)).Body!["days"]!.AsArray()
            .SelectMany(day => day!["starts"]!.AsArray()).Select(start => start!["start"]!.GetValue<string>())];

    private async Task<string[]> StartsAsync(string service, string from, int days = 1) =>
        await StartsAsync(
            world.Stranger,
            new
            {
                locationId = await MillAsync(),
                lines = new[] { new { serviceId = await world.IdAsync("services", service) } },
                from,
                days,
            }
        );

    /// <summary>The starts that fit for the desk.</summary>
    private async Task<string[]> FeasibleAsync(object question) =>
        [
            .. (await world.Desk.PostAsync("/api/v1/starts", question))
                .Body!.AsArray()
                .SelectMany(day => day!["starts"]!.AsArray())
                .Select(start => start!["start"]!.GetValue<string>()),
        ];

    /// <summary>Starts on whole hours, so that visits of up to an hour do not meet.</summary>
    private async Task<string[]> HoursAsync(string service, string from, int days = 1) =>
        [.. (await StartsAsync(service, from, days)).Where(start => start.EndsWith(":00:00Z", StringComparison.Ordinal))];

    [Fact]
    public async Task A_booking_that_was_refused_leaves_nothing_behind_in_what_its_server_remembers()
    {
        await using ServerProcess second = await ServerProcess.StartAsync(world.Database);
        using ApiClient here = new(world.Server),
            there = new(second);
        object question = new
        {
            locationId = await MillAsync(),
            lines = new[] { new { serviceId = await world.IdAsync("services", "Podiatry 40") } },
            from = "2027-03-22",
            days = 5,
        };
        string[] free = await StartsAsync(here, question);
        (await BookOnlineAsync(here, "Podiatry 40", free[0], "first@example.com", "020 910 0101")).Status.ShouldBe(HttpStatusCode.Created);
        ApiAnswer refused = await BookOnlineAsync(here, "Podiatry 40", free[0], "second@example.com", "020 910 0102");
        refused.Code.ShouldBe("start-taken");
        // The next change comes from the other server, and has the very revision the refused one would have had.
        string other = (await StartsAsync(there, question))[^1];
        (await BookOnlineAsync(there, "Podiatry 40", other, "third@example.com", "020 910 0103")).Status.ShouldBe(HttpStatusCode.Created);
        string[] left = await StartsAsync(here, question);
        left.ShouldNotContain(other);
        left.ShouldBe(await StartsAsync(there, question));
    }

    [Fact]
    public async Task The_first_answer_is_given_again_though_setup_and_visit_have_changed_since()
    {
        object body = await AtDeskAsync(Nutrition, "2027-04-06T09:00:00Z", await ClientAsync("Again"));
        (string, string) key = World.Key();
        ApiAnswer first = await world.Desk.PostAsync("/api/v1/visits", body, key);
        first.Status.ShouldBe(HttpStatusCode.Created, first.Body?.ToJsonString());
        (
            await world.Desk.PostAsync($"/api/v1/visits/{first.Body!["id"]}/cancel", new { reason = "ill" }, World.Match(first.Body))
        ).Status.ShouldBe(HttpStatusCode.OK);
        JsonObject service = await world.OneAsync("services", Nutrition);
        service = await world.Owner.ChangeAsync($"/api/v1/setup/services/{service["id"]}", service, entry => entry["isArchived"] = true);
        try
        {
            ApiAnswer again = await world.Desk.PostAsync("/api/v1/visits", body, key);
            again.Status.ShouldBe(HttpStatusCode.Created);
            again.Body!.ToJsonString().ShouldBe(first.Body.ToJsonString());
        }
        finally
        {
            await world.Owner.ChangeAsync($"/api/v1/setup/services/{service["id"]}", service, entry => entry["isArchived"] = false);
        }
    }

    [Fact]
    public async Task A_visit_of_a_service_that_is_no_longer_done_can_still_be_moved()
    {
        ApiAnswer made = await world.Desk.PostAsync(
            "/api/v1/visits",
            await AtDeskAsync("Brow shape 15", "2027-04-07T12:00:00Z", await ClientAsync("Brow")),
            World.Key()
        );
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body?.ToJsonString());
        JsonObject service = await world.OneAsync("services", "Brow shape 15");
        service = await world.Owner.ChangeAsync($"/api/v1/setup/services/{service["id"]}", service, entry => entry["isArchived"] = true);
        try
        {
            string start = (await FeasibleAsync(new
            {
                locationId = await MillAsync(),
                lines = new[] { new { serviceId = service["id"] } },
                from = "2027-04-08",
                days = 2,
                visitId = made.Body!["id"],
            }))[0];
            ApiAnswer moved = await world.Desk.PostAsync($"/api/v1/visits/{made.Body!["id"]}/move", new { start }, World.Match(made.Body));
            moved.Status.ShouldBe(HttpStatusCode.OK, moved.Body?.ToJsonString());
            moved.Body!["start"]!.GetValue<string>().ShouldBe(start);
        }
        finally
        {
            await world.Owner.ChangeAsync($"/api/v1/setup/services/{service["id"]}", service, entry => entry["isArchived"] = false);
        }
    }

    [Fact]
    public async Task One_stranger_who_books_twice_at_the_same_moment_is_one_client()
    {
        string[] hours = await HoursAsync(Nutrition, "2027-03-08", 5);
        ApiAnswer[] answers = await Task.WhenAll(
            hours[..2].Select(start => BookOnlineAsync(world.Stranger, Nutrition, start, "twice@example.com", "020 910 0104"))
        );
        answers.Select(answer => answer.Status).ShouldBe([HttpStatusCode.Created, HttpStatusCode.Created]);
        await using NpgsqlConnection connection = await world.Database.Database.OpenAsync();
        (await connection.ExecuteScalarAsync<int>("SELECT count(*)::int FROM client WHERE email = 'twice@example.com'")).ShouldBe(1);
    }

    [Fact]
    public async Task One_client_has_as_many_visits_open_online_as_the_owner_lets_them_and_is_never_at_two_places()
    {
        string[] starts =
        [
            .. (await HoursAsync(Nutrition, "2027-03-15", 5)).Intersect(await StartsAsync("Podiatry 40", "2027-03-15", 5)).Take(3),
        ];
        JsonObject page = (await world.Owner.GetAsync("/api/v1/setup/booking-page")).Body!.AsObject();
        page = await world.Owner.ChangeAsync("/api/v1/setup/booking-page", page, entry => entry["mostOpenOnline"] = 2);
        foreach (string start in starts[..2])
            (await BookOnlineAsync(world.Stranger, Nutrition, start, "many@example.com", "020 910 0105")).Status.ShouldBe(
                HttpStatusCode.Created
            );
        (await BookOnlineAsync(world.Stranger, Nutrition, starts[2], "many@example.com", "020 910 0105")).Code.ShouldBe("not-online");
        (await BookOnlineAsync(world.Stranger, Nutrition, starts[2], "other.address@example.com", "020 910 0105")).Code.ShouldBe(
            "not-online"
        );
        await world.Owner.ChangeAsync("/api/v1/setup/booking-page", page, entry => entry["mostOpenOnline"] = 5);
        // Somewhere else in the house at the same time, by the same person.
        ApiAnswer twice = await BookOnlineAsync(world.Stranger, "Podiatry 40", starts[1], "many@example.com", "020 910 0105");
        (twice.Status, twice.Code).ShouldBe((HttpStatusCode.Conflict, "not-online"));
        (await BookOnlineAsync(world.Stranger, Nutrition, starts[2], "many@example.com", "020 910 0105")).Status.ShouldBe(
            HttpStatusCode.Created
        );
    }

    [Fact]
    public async Task The_desk_is_told_of_what_comes_first_and_of_the_clients_other_visit_and_may_go_on()
    {
        string client = await ClientAsync("Patch");
        string[] free = await StartsAsync("Podiatry 40", "2027-03-08", 12);
        string start = (
            await FeasibleAsync(
                new
                {
                    locationId = await MillAsync(),
                    lines = new[] { new { serviceId = await world.IdAsync("services", "Laser small area 20") } },
                    from = "2027-03-08",
                    days = 12,
                }
            )
        ).First(free.Contains);
        object laser = await AtDeskAsync("Laser small area 20", start, client);
        ApiAnswer told = await world.Desk.PostAsync("/api/v1/visits", laser, World.Key());
        told.Code.ShouldBe("would-go-over", told.Body?.ToJsonString());
        Codes(told).ShouldBe(["prerequisiteMissing"]);
        ApiAnswer booked = await world.Desk.PostAsync(
            "/api/v1/visits",
            laser,
            World.Key(),
            ("X-Accept-Over", told.Body!["accept"]!.GetValue<string>())
        );
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());

        object podiatry = await AtDeskAsync("Podiatry 40", start, client);
        told = await world.Desk.PostAsync("/api/v1/visits", podiatry, World.Key());
        Codes(told).ShouldBe(["ownVisit"]);
        told.Body!["reasons"]![0]!["text"]!.GetValue<string>().ShouldStartWith("The client has Laser small area 20 from");
        (
            await world.Desk.PostAsync("/api/v1/visits", podiatry, World.Key(), ("X-Accept-Over", told.Body["accept"]!.GetValue<string>()))
        ).Status.ShouldBe(HttpStatusCode.Created);
    }

    [Theory]
    [InlineData("done")]
    [InlineData("noShow")]
    public async Task A_visit_that_has_not_begun_is_neither_done_nor_missed(string state)
    {
        ApiAnswer made = await world.Desk.PostAsync(
            "/api/v1/visits",
            await AtDeskAsync(
                Nutrition,
                state == "done" ? "2027-04-15T09:00:00Z" : "2027-04-15T11:00:00Z",
                await ClientAsync("Ahead" + state)
            ),
            World.Key()
        );
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body?.ToJsonString());
        ApiAnswer early = await world.Desk.PostAsync($"/api/v1/visits/{made.Body!["id"]}/state", new { state }, World.Match(made.Body));
        (early.Status, early.Code).ShouldBe((HttpStatusCode.Conflict, "state"));
        made.Body["next"]?.AsArray().Select(entry => entry!.GetValue<string>()).ShouldNotContain(state);
    }

    [Fact]
    public async Task A_block_inside_the_hour_the_clocks_leave_out_is_refused_at_its_end()
    {
        ApiAnswer answer = await world.Owner.PostAsync("/api/v1/setup/blocks", new
        {
            resourceId = await world.IdAsync("practitioners", "Maren Odell"),
            locationId = await MillAsync(),
            kind = "block",
            reason = "night",
            start = "2027-03-28T01:30:00",
            end = "2027-03-28T02:00:00",
        });
        (answer.Status, answer.Field).ShouldBe((HttpStatusCode.BadRequest, "end"), answer.Body?.ToJsonString());
    }

    [Fact]
    public async Task A_text_that_cannot_be_shown_is_refused_at_its_field_and_the_page_stays_up()
    {
        JsonObject page = (await world.Owner.GetAsync("/api/v1/setup/booking-page")).Body!.AsObject();
        page["terms"] = new string('[', 128);
        ApiAnswer answer = await world.Owner.PutAsync("/api/v1/setup/booking-page", page, page["version"]);
        (answer.Status, answer.Field).ShouldBe((HttpStatusCode.BadRequest, "terms"));
        JsonObject service = await world.OneAsync("services", Nutrition);
        service["description"] = new string('[', 128);
        (await world.Owner.PutAsync($"/api/v1/setup/services/{service["id"]}", service, service["version"])).Field.ShouldBe("description");
        (await world.Stranger.GetAsync("/api/public/v1/business")).Status.ShouldBe(HttpStatusCode.OK);
    }

    [Theory]
    [InlineData("9999-12-31T23:55:00Z")]
    [InlineData("-9998-01-01T00:00:00Z")]
    [InlineData("1999-12-31T12:00:00Z")]
    public async Task A_start_outside_every_calendar_is_refused_at_its_field(string start)
    {
        ApiAnswer answer = await BookOnlineAsync(world.Stranger, Nutrition, start, "far@example.com", "020 910 0106");
        (answer.Status, answer.Field).ShouldBe((HttpStatusCode.BadRequest, "start"), answer.Body?.ToJsonString());
    }

    [Theory]
    [InlineData("HTTPS://exa mple.com")]
    [InlineData("http://example.com")]
    [InlineData("https:\\\\example.com")]
    public async Task An_address_that_is_no_whole_https_address_is_refused(string address)
    {
        JsonObject page = (await world.Owner.GetAsync("/api/v1/setup/booking-page")).Body!.AsObject();
        page["afterAddress"] = address;
        (await world.Owner.PutAsync("/api/v1/setup/booking-page", page, page["version"])).Field.ShouldBe("afterAddress");
    }

    [Fact]
    public async Task An_address_is_kept_as_the_standard_writes_it()
    {
        JsonObject page = (await world.Owner.GetAsync("/api/v1/setup/booking-page")).Body!.AsObject();
        page["afterAddress"] = "HTTPS://Example.com/thanks";
        ApiAnswer answer = await world.Owner.PutAsync("/api/v1/setup/booking-page", page, page["version"]);
        answer.Status.ShouldBe(HttpStatusCode.OK, answer.Body?.ToJsonString());
        answer.Body!["afterAddress"]!.GetValue<string>().ShouldBe("https://example.com/thanks");
    }

    [Fact]
    public async Task Strangers_read_of_a_closure_only_what_was_written_for_them()
    {
        string mill = await MillAsync();
        ApiAnswer closed = await world.Owner.PostAsync(
            "/api/v1/setup/closed-days",
            new
            {
                locationIds = new[] { mill },
                closures = new object[]
                {
                    new { date = "2027-04-20", reason = "Boiler repair" },
                    new
                    {
                        date = "2027-04-21",
                        reason = "Boiler repair",
                        forClients = "Closed for the day",
                    },
                },
            }
        );
        closed.Status.ShouldBe(HttpStatusCode.OK, closed.Body?.ToJsonString());
        ApiAnswer starts = await world.Stranger.PostAsync(
            "/api/public/v1/starts",
            new
            {
                locationId = mill,
                lines = new[] { new { serviceId = await world.IdAsync("services", Nutrition) } },
                from = "2027-04-20",
                days = 2,
            }
        );
        starts.Body!.ToJsonString().ShouldNotContain("Boiler");
        starts.Body["days"]!.AsArray().Select(day => day!["closed"]?.GetValue<string>()).ShouldBe([null, "Closed for the day"]);
        ApiAnswer refused = await BookOnlineAsync(world.Stranger, Nutrition, "2027-04-20T09:00:00Z", "boiler@example.com", "020 910 0107");
        refused.Status.ShouldBe(HttpStatusCode.Conflict);
        refused.Body!.ToJsonString().ShouldNotContain("Boiler");
    }

    [Fact]
    public async Task A_practitioner_reads_numbers_of_colleagues_clients_once_the_owner_lets_them_and_no_longer_than_that()
    {
        ApiAnswer made = await world.Desk.PostAsync(
            "/api/v1/visits",
            await AtDeskAsync(Nutrition, "2027-04-22T09:00:00Z", await ClientAsync("Private")),
            World.Key()
        );
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body?.ToJsonString());
        using ApiClient ines = await ApiClient.SignedInAsync(world.Server, "ines@harrowmere.test");
        async Task<string?> Number() =>
            (await ines.GetAsync($"/api/v1/visits/{made.Body!["id"]}")).Body!["client"]!["phone"]?.GetValue<string>();
        (await Number()).ShouldBeNull();
        JsonObject account = (await world.Owner.GetAsync("/api/v1/setup/accounts"))
            .Body!.AsArray()
            .Single(entry => entry!["email"]!.GetValue<string>() == "ines@harrowmere.test")!
            .AsObject();
        account = await world.Owner.ChangeAsync($"/api/v1/setup/accounts/{account["id"]}", account, entry => entry["seesContacts"] = true);
        (await Number()).ShouldNotBeNull();
        await world.Owner.ChangeAsync($"/api/v1/setup/accounts/{account["id"]}", account, entry => entry["seesContacts"] = false);
        (await Number()).ShouldBeNull();
    }
}
