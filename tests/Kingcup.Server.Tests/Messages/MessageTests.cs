using System.Globalization;
using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Server.Tests.Money;
using Kingcup.Storage;
using Kingcup.Testing;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Messages;

/// <summary>What clients and the team are told: once, never before it is so, and whatever goes wrong on the way.</summary>
public sealed class MessageTests(PayWorld world) : IClassFixture<PayWorld>
{
    private const string Service = "Deep tissue 60";
    private static int _next;

    /// <summary>Somebody new at the desk, with an address of their own.</summary>
    private static (object Client, string Email, string Phone) Somebody(string givenName = "Bea")
    {
        int number = Interlocked.Increment(ref _next);
        string email = $"bea{number}@example.test",
            phone = $"+35386{number:D7}";
        return (new { givenName, familyName = $"Lark {number}", email, phone }, email, phone);
    }

    /// <summary>A free start some days from now, each time another.</summary>
    private async Task<string> StartAsync(int daysAhead)
    {
        string from = (await world.NowAsync()).AddDays(daysAhead).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
        return (await world.StartsAsync(Service, 1, from: from))[0];
    }

    /// <summary>The time on the clock at the business.</summary>
    private static string ThereAt(string start) =>
        TimeZoneInfo
            .ConvertTime(DateTimeOffset.Parse(start, CultureInfo.InvariantCulture), TimeZoneInfo.FindSystemTimeZoneById("Europe/Dublin"))
            .ToString("HH:mm", CultureInfo.InvariantCulture);

    private async Task<JsonNode> BookAsync(object client, string start)
    {
        ApiAnswer made = await world.Owner.PostAsync(
            "/api/v1/visits",
            new
            {
                locationId = world.MillStreet,
                start,
                lines = new[] { new { serviceId = world.Service(Service) } },
                newClient = client,
            }
        );
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body?.ToJsonString());
        return made.Body!;
    }

    private async Task<JsonNode> DoAsync(JsonNode visit, string what, object body)
    {
        ApiAnswer done = await world.Owner.PostAsync($"/api/v1/visits/{visit["id"]}/{what}", body, World.Match(visit));
        done.Status.ShouldBe(HttpStatusCode.OK, done.Body?.ToJsonString());
        return done.Body!;
    }

    private async Task DeleteAsync(JsonNode visit) =>
        (await world.Owner.DeleteAsync($"/api/v1/visits/{visit["id"]}", (long)visit["version"]!)).Status
            .ShouldBe(HttpStatusCode.NoContent);

    /// <summary>Waits until everything that has happened was told or left out, and everything due has gone.</summary>
    private async Task QuietAsync()
    {
        await world.ClockAsync(2);
        await PayWorld.UntilAsync(async () =>
            await world.ScalarAsync<long>("SELECT count(*) FROM message_event WHERE kind = 'Visit'") == 0
            && await world.ScalarAsync<long>("SELECT count(*) FROM message WHERE state = 'Sending' OR state = 'Waiting' AND tries = 0") == 0
        );
    }

    private async Task<string[]> SubjectsAsync(string email) =>
        [.. (await world.Gateway.ArrivedAsync(email)).Select(mail => ((string)mail!["subject"]!).Split(" on ")[0].Split(':')[0]).Reverse()];

    private async Task<JsonNode> OfVisitAsync(JsonNode visit) =>
        (await world.Owner.GetAsync($"/api/v1/visits/{visit["id"]}/messages")).Body!;

    [Fact]
    public async Task What_the_desk_books_is_told_a_minute_later_once_with_an_entry_for_a_calendar()
    {
        (object client, string email, _) = Somebody();
        JsonNode visit = await BookAsync(client, await StartAsync(20));
        (await world.Gateway.ArrivedAsync(email)).ShouldBeEmpty();
        await QuietAsync();
        JsonNode mail = (await world.Gateway.ArrivedAsync(email)).ShouldHaveSingleItem()!;
        ((string)mail["subject"]!).ShouldStartWith("Your booking on ");
        string text = (string)mail["text"]!;
        text.ShouldContain("Hello Bea,");
        text.ShouldContain((string)visit["reference"]!);
        text.ShouldContain(Service);
        text.ShouldNotContain("{{");
        // Nothing was paid, so nothing is said of it.
        text.ShouldNotContain("left to pay");
        ((string)mail["from"]!).ShouldContain("bookings@harrowmere.test");
        string calendar = (string)mail["calendar"]!;
        calendar.ShouldContain("METHOD:PUBLISH");
        calendar.ShouldContain(((string)visit["start"]!).Replace("-", "").Replace(":", ""));
        calendar.ShouldContain($"UID:{visit["id"]}@kingcup");
        JsonNode told = (await OfVisitAsync(visit))["messages"]!.AsArray().ShouldHaveSingleItem()!;
        ((string)told["state"]!, (bool)told["hasCalendar"]!).ShouldBe(("sent", true));
    }

    [Fact]
    public async Task Nobody_is_told_of_a_slip_of_the_hand()
    {
        (object client, string email, _) = Somebody();
        string start = await StartAsync(21),
            later = (await world.StartsAsync(Service, 2, from: start[..10]))[1];
        JsonNode visit = await BookAsync(client, start);
        await QuietAsync();
        JsonNode moved = await DoAsync(visit, "move", new { start = later });
        JsonNode back = await DoAsync(moved, "move", new { start });
        JsonNode cancelled = await DoAsync(back, "cancel", new { reason = "Ill" });
        await DoAsync(cancelled, "state", new { state = "confirmed" });
        await QuietAsync();
        (await SubjectsAsync(email)).ShouldBe(["Your booking"]);

        (object other, string never, _) = Somebody();
        JsonNode mistake = await BookAsync(other, later);
        await DeleteAsync(mistake);
        await QuietAsync();
        (await world.Gateway.ArrivedAsync(never)).ShouldBeEmpty();
    }

    [Fact]
    public async Task Moving_and_cancelling_are_told_with_what_was_before()
    {
        (object client, string email, _) = Somebody();
        string start = await StartAsync(22),
            later = (await world.StartsAsync(Service, 2, from: start[..10]))[1];
        JsonNode visit = await BookAsync(client, start);
        await QuietAsync();
        JsonNode moved = await DoAsync(visit, "move", new { start = later });
        await QuietAsync();
        JsonNode mail = await world.Gateway.ArrivesAsync(email, "Moved to");
        ((string)mail["text"]!).ShouldContain($"at {ThereAt(start)} is now on");
        ((string)mail["text"]!).ShouldContain($"at {ThereAt(later)}:");
        await DoAsync(moved, "cancel", new { reason = "The practitioner is in a bad mood" });
        await QuietAsync();
        JsonNode gone = await world.Gateway.ArrivesAsync(email, "Cancelled:");
        // What the desk writes for itself stays there.
        ((string)gone["text"]!).ShouldNotContain("bad mood");
        ((string)gone["calendar"]!).ShouldContain("METHOD:CANCEL");
        (await SubjectsAsync(email)).Select(subject => subject.Split(' ')[0]).ShouldBe(["Your", "Moved", "Cancelled"]);
    }

    [Fact]
    public async Task What_somebody_else_has_deleted_is_told_as_cancelled()
    {
        (object client, string email, _) = Somebody();
        JsonNode visit = await BookAsync(client, await StartAsync(23));
        await QuietAsync();
        await DeleteAsync(visit);
        await QuietAsync();
        JsonNode mail = await world.Gateway.ArrivesAsync(email, "Cancelled:");
        ((string)mail["text"]!).ShouldContain("Hello Bea,");
    }

    [Fact]
    public async Task A_row_of_visits_is_told_of_once()
    {
        (object client, string email, _) = Somebody();
        string[] starts = await world.StartsAsync(Service, 3, world.Practitioner("Ines Calloway"), (await StartAsync(24))[..10]);
        ApiAnswer made = await world.Owner.PostAsync(
            "/api/v1/visits/repeat",
            new
            {
                locationId = world.MillStreet,
                lines = new[] { new { serviceId = world.Service(Service), practitionerId = world.Practitioner("Ines Calloway") } },
                occurrences = starts.Select(start => new { start }),
                newClient = client,
            }
        );
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body?.ToJsonString());
        await QuietAsync();
        JsonNode mail = (await world.Gateway.ArrivedAsync(email)).ShouldHaveSingleItem()!;
        ((string)mail["text"]!).ShouldContain("The same again on ");
    }

    [Theory]
    [InlineData("error")]
    [InlineData("lost")]
    public async Task What_does_not_get_through_is_tried_again_and_arrives_once(string fault)
    {
        (object client, string email, _) = Somebody();
        JsonNode visit = await BookAsync(client, await StartAsync(25));
        await world.Gateway.FaultAsync("mail", fault);
        await world.ClockAsync(2);
        await PayWorld.UntilAsync(async () => (await OfVisitAsync(visit))["messages"]!.AsArray() is [{ } told] && (int)told["tries"]! == 1
            && (string)told["state"]! == "waiting");
        JsonNode waiting = (await OfVisitAsync(visit))["messages"]!.AsArray().Single()!;
        ((string)waiting["because"]!).ShouldNotBeEmpty();
        (DateTimeOffset.Parse((string)waiting["dueAt"]!, CultureInfo.InvariantCulture) - await world.NowAsync())
            .ShouldBeInRange(TimeSpan.FromSeconds(-60), TimeSpan.FromSeconds(60));
        await world.ClockAsync(2);
        await PayWorld.UntilAsync(async () => (string)(await OfVisitAsync(visit))["messages"]!.AsArray().Single()!["state"]! == "sent");
        (await world.Gateway.ArrivedAsync(email)).ShouldHaveSingleItem();
    }

    [Fact]
    public async Task What_never_gets_through_is_shown_and_can_be_tried_once_more()
    {
        (object client, string email, _) = Somebody();
        JsonNode visit = await BookAsync(client, await StartAsync(26));
        await world.Gateway.FaultAsync("mail", "error", 5);
        async Task<JsonNode> ToldAsync() => (await OfVisitAsync(visit))["messages"]!.AsArray().SingleOrDefault() ?? new JsonObject();
        int tries = 0;
        foreach (int minutes in (int[])[2, 2, 6, 31, 361])
        {
            await world.ClockAsync(minutes);
            tries++;
            await PayWorld.UntilAsync(async () =>
                await ToldAsync() is { } told && (int?)told["tries"] == tries && (string)told["state"]! != "sending"
            );
        }

        JsonNode failed = await ToldAsync();
        ((string)failed["state"]!).ShouldBe("failed");
        ApiAnswer list = await world.Owner.GetAsync("/api/v1/messages?only=failed");
        list.Body!["messages"]!.AsArray().Select(message => (string)message!["id"]!).ShouldContain((string)failed["id"]!);
        ((int)list.Body!["failed"]!).ShouldBeGreaterThan(0);
        (await world.Owner.PostAsync($"/api/v1/messages/{failed["id"]}/again", new { })).Status.ShouldBe(HttpStatusCode.NoContent);
        await world.Gateway.ArrivesAsync(email, "Your booking");
        ApiAnswer twice = await world.Owner.PostAsync($"/api/v1/messages/{failed["id"]}/again", new { });
        (twice.Status, twice.Code).ShouldBe((HttpStatusCode.Conflict, "not-failed"));
    }

    [Fact]
    public async Task A_paid_booking_tells_its_client_at_once_what_was_paid_and_the_practitioner_who_comes()
    {
        string start = await StartAsync(27);
        using PayWorld.Client client = world.Somebody();
        (string token, string page) = await client.ToCardAsync(start);
        await world.Gateway.EnterAsync(page);
        JsonNode paid = await client.FinishAsync(token);
        string email = await world.ScalarAsync<string>(
            "SELECT c.email FROM visit v JOIN client c ON c.id = v.client_id WHERE v.reference = @reference",
            new { reference = (string)paid["visit"]!["reference"]! }
        );
        JsonNode mail = await world.Gateway.ArrivesAsync(email, "Your booking");
        ((string)mail["text"]!).ShouldContain("You have paid €");
        ((string)mail["text"]!).ShouldContain("is left to pay");
        string practitioner = await world.ScalarAsync<string>(
            """
            SELECT coalesce(p.email, '') FROM visit v JOIN appointment a ON a.visit_id = v.id JOIN claim k ON k.occupation_id = a.id
                JOIN practitioner p ON p.id = k.resource_id WHERE v.reference = @reference LIMIT 1
            """,
            new { reference = (string)paid["visit"]!["reference"]! }
        );
        JsonNode told = (await world.Owner.GetAsync("/api/v1/messages?only=" + (practitioner.Length > 0 ? "sent" : "left-out"))).Body!;
        told["messages"]!.AsArray().ShouldContain(message => (string)message!["recipient"]! == "practitioner");
    }

    [Fact]
    public async Task Who_leaves_in_the_middle_of_paying_is_written_to_after_an_hour_unless_they_have_booked_since()
    {
        using PayWorld.Client left = world.Somebody(),
            back = world.Somebody();
        string[] starts = await world.StartsAsync(Service, 4, from: (await StartAsync(28))[..10]);
        (string leftToken, _) = await left.ToCardAsync(starts[0]);
        (string backToken, _) = await back.ToCardAsync(starts[1]);
        await left.PostAsync("/payments/leave", new { token = leftToken });
        await back.PostAsync("/payments/leave", new { token = backToken });
        JsonNode leftBooking = JsonNode.Parse(System.Text.Json.JsonSerializer.Serialize(left.Booking(starts[0])))!,
            backBooking = JsonNode.Parse(System.Text.Json.JsonSerializer.Serialize(back.Booking(starts[1])))!;
        (string again, string page) = await back.ToCardAsync(starts[2]);
        await world.Gateway.EnterAsync(page);
        ((string)(await back.FinishAsync(again))["state"]!).ShouldBe("booked");
        await world.ClockAsync(30);
        await QuietAsync();
        (await SubjectsAsync((string)leftBooking["email"]!)).ShouldBeEmpty();
        await world.ClockAsync(31);
        JsonNode mail = await world.Gateway.ArrivesAsync((string)leftBooking["email"]!, "not finished");
        ((string)mail["text"]!).ShouldContain($"{PayWorld.Address}/book");
        (await SubjectsAsync((string)backBooking["email"]!)).ShouldNotContain("Your booking is not finished");
    }

    [Fact]
    public async Task A_reminder_goes_once_and_anew_for_the_new_time_of_a_visit_that_was_moved()
    {
        (object client, string email, _) = Somebody();
        string start = await StartAsync(4);
        JsonNode visit = await BookAsync(client, start);
        await QuietAsync();
        JsonNode ahead = (await OfVisitAsync(visit))["ahead"]!.AsArray().First(one => (string)one!["channel"]! == "email")!;
        ((bool)ahead["isLeftOut"]!).ShouldBeFalse();
        DateTimeOffset at = DateTimeOffset.Parse((string)ahead["at"]!, CultureInfo.InvariantCulture);
        (at <= DateTimeOffset.Parse(start, CultureInfo.InvariantCulture).AddHours(-48)).ShouldBeTrue();
        await world.ClockAsync((int)(at - await world.NowAsync()).TotalMinutes + 1);
        await world.Gateway.ArrivesAsync(email, "See you on");
        string later = await StartAsync(7);
        await DoAsync(visit, "move", new { start = later });
        await QuietAsync();
        await world.Gateway.ArrivesAsync(email, "Moved to");
        JsonNode next = (await OfVisitAsync(visit))["ahead"]!.AsArray().First(one => (string)one!["channel"]! == "email")!;
        DateTimeOffset then = DateTimeOffset.Parse((string)next["at"]!, CultureInfo.InvariantCulture);
        await world.ClockAsync((int)(then - await world.NowAsync()).TotalMinutes + 1);
        await PayWorld.UntilAsync(async () => (await SubjectsAsync(email)).Count(subject => subject == "See you") == 2);
    }

    [Fact]
    public async Task A_visit_booked_inside_the_offset_says_that_it_has_no_reminder()
    {
        (object client, string email, _) = Somebody();
        string start = await StartAsync(6);
        DateTimeOffset near = DateTimeOffset.Parse(start, CultureInfo.InvariantCulture).AddHours(-20);
        await world.ClockAsync((int)(near - await world.NowAsync()).TotalMinutes);
        JsonNode visit = await BookAsync(client, start);
        await QuietAsync();
        await PayWorld.UntilAsync(async () =>
            (await OfVisitAsync(visit))["messages"]!.AsArray().Any(message => (string?)message!["because"] == "too-soon")
        );
        (await SubjectsAsync(email)).ShouldBe(["Your booking"]);
    }

    [Fact]
    public async Task A_reminder_that_was_made_before_its_booking_was_told_goes_all_the_same()
    {
        (object client, string email, _) = Somebody();
        string start = await StartAsync(6);
        await using NpgsqlConnection other = await world.Database.Database.OpenAsync();
        await using (NpgsqlTransaction telling = await other.BeginTransactionAsync())
        {
            // Another server is busy with what has happened, and the mail server is away.
            await PayWorld.UntilAsync(() => MessageStore.PlansAsync(other));
            await world.Gateway.FaultAsync("mail", "error", 10_000);
            JsonNode visit = await BookAsync(client, start);
            DateTimeOffset due = DateTimeOffset.Parse(start, CultureInfo.InvariantCulture).AddHours(-47);
            await world.ClockAsync((int)(due - await world.NowAsync()).TotalMinutes);
            await PayWorld.UntilAsync(async () =>
                (await OfVisitAsync(visit))["messages"]!.AsArray().Any(message => (string)message!["state"]! == "waiting")
            );
        }

        await world.Gateway.FaultAsync("mail", "error", 0);
        await world.Gateway.ArrivesAsync(email, "Your booking on ");
        await world.Gateway.ArrivesAsync(email, "See you on ");
        (await SubjectsAsync(email)).Count(subject => subject == "See you").ShouldBe(1);
    }

    [Fact]
    public async Task A_text_goes_only_to_whoever_has_agreed_to_it()
    {
        (object client, _, string phone) = Somebody();
        (object silent, _, string never) = Somebody();
        // A day before these it is not quiet.
        string[] starts =
        [
            .. (await world.StartsAsync(Service, 20, from: (await StartAsync(5))[..10]))
                .Where(start => string.CompareOrdinal(ThereAt(start), "10:00") >= 0 && string.CompareOrdinal(ThereAt(start), "18:00") <= 0)
                .Take(2),
        ];
        JsonNode[] visits = [await BookAsync(client, starts[0]), await BookAsync(silent, starts[1])];
        (
            await world.Owner.PostAsync(
                $"/api/v1/clients/{visits[0]["client"]!["id"]}/consents",
                new { kind = "texts", given = true, words = "You may write to my telephone." },
                World.Key()
            )
        ).Status.ShouldBe(HttpStatusCode.Created);
        foreach ((string start, JsonNode visit) in starts.Zip(visits))
        {
            DateTimeOffset due = DateTimeOffset.Parse(start, CultureInfo.InvariantCulture).AddHours(-23);
            await world.ClockAsync(Math.Max(0, (int)(due - await world.NowAsync()).TotalMinutes));
            // Others have visits at the same time.
            await PayWorld.UntilAsync(async () =>
                await world.ScalarAsync<long>(
                    "SELECT count(*) FROM message WHERE channel = 'Text' AND visit_id = @id AND settled_at IS NOT NULL",
                    new { id = Guid.Parse((string)visit["id"]!) }
                ) > 0
            );
        }

        (
            await world.ScalarAsync<string>(
                "SELECT state || ' ' || coalesce(because, '') FROM message WHERE channel = 'Text' AND visit_id = @id",
                new { id = Guid.Parse((string)visits[0]["id"]!) }
            )
        ).ShouldBe("Sent ");
        JsonNode text = await world.Gateway.ArrivesAsync(phone, "see you on");
        ((string)text["kind"]!).ShouldBe("text");
        await QuietAsync();
        (await world.Gateway.ArrivedAsync(never)).ShouldBeEmpty();
    }

    [Fact]
    public async Task What_a_server_had_taken_when_it_was_killed_is_sent_by_the_other()
    {
        (object client, string email, _) = Somebody();
        JsonNode visit = await BookAsync(client, await StartAsync(29));
        await world.Gateway.FaultAsync("mail", "error");
        await world.ClockAsync(2);
        await PayWorld.UntilAsync(async () => (await OfVisitAsync(visit))["messages"]!.AsArray() is [{ } told] && (int)told["tries"]! == 1
            && (string)told["state"]! == "waiting");
        // As a server leaves it that has died while it was sending.
        await world.ScalarAsync<int>(
            "UPDATE message SET state = 'Sending', taken_until = @until WHERE visit_id = @id RETURNING 1",
            new { id = Guid.Parse((string)visit["id"]!), until = (await world.NowAsync()).AddMinutes(10) }
        );
        await world.ClockAsync(5);
        await QuietOfOthersAsync();
        (await world.Gateway.ArrivedAsync(email)).ShouldBeEmpty();
        await world.ClockAsync(6);
        await world.Gateway.ArrivesAsync(email, "Your booking");
        await PayWorld.UntilAsync(async () => (string)(await OfVisitAsync(visit))["messages"]!.AsArray().Single()!["state"]! == "sent");
        (await world.Gateway.ArrivedAsync(email)).ShouldHaveSingleItem();
    }

    /// <summary>Waits until somebody else's message has gone, so that whatever was due before it was looked at.</summary>
    private async Task QuietOfOthersAsync()
    {
        (object client, string email, _) = Somebody();
        await BookAsync(client, await StartAsync(33));
        await world.ClockAsync(2);
        await world.Gateway.ArrivesAsync(email, "Your booking");
    }

    [Fact]
    public async Task A_client_is_written_to_in_their_language_with_dates_and_money_as_it_writes_them()
    {
        JsonArray rules = (await world.Owner.GetAsync("/api/v1/setup/messages")).Body!.AsArray();
        JsonNode rule = rules.First(one => (string)one!["trigger"]! == "moved")!;
        rule["texts"]!.AsArray().Add(
            new JsonObject { ["language"] = "de", ["subject"] = "Neuer Termin: {{ date }}", ["body"] = "{{ client }}, {{ price }}" }
        );
        (await world.Owner.PutAsync($"/api/v1/setup/messages/{rule["id"]}", rule.AsObject(), (long)rule["version"]!)).Status
            .ShouldBe(HttpStatusCode.OK);
        (object client, string email, _) = Somebody();
        string start = await StartAsync(31),
            later = (await world.StartsAsync(Service, 2, from: start[..10]))[1];
        JsonNode visit = await BookAsync(client, start);
        string path = $"/api/v1/clients/{visit["client"]!["id"]}";
        JsonObject known = (await world.Owner.GetAsync(path)).Body!.AsObject();
        known["language"] = "Deutsch";
        ApiAnswer refused = await world.Owner.PutAsync(path, known, (long)known["version"]!);
        (refused.Status, refused.Field).ShouldBe((HttpStatusCode.BadRequest, "language"));
        known["language"] = "de";
        (await world.Owner.PutAsync(path, known, (long)known["version"]!)).Status.ShouldBe(HttpStatusCode.OK);
        await QuietAsync();
        // What nobody has written in their language is said in that of the business, with their dates.
        await world.Gateway.ArrivesAsync(email, "Your booking on ");
        await DoAsync(visit, "move", new { start = later });
        await QuietAsync();
        JsonNode mail = await world.Gateway.ArrivesAsync(email, "Neuer Termin: ");
        ((string)mail["subject"]!).ShouldMatch("(Montag|Dienstag|Mittwoch|Donnerstag|Freitag|Samstag|Sonntag)");
        ((string)mail["text"]!).ShouldMatch("^Bea, [0-9]+,[0-9]{2}.€$");
    }

    [Fact]
    public async Task What_follows_a_visit_goes_to_who_has_not_come_back()
    {
        (
            await world.Owner.PostAsync(
                "/api/v1/setup/messages",
                new
                {
                    trigger = "afterEnd",
                    channel = "email",
                    recipient = "client",
                    offsetMinutes = 60 * 24 * 21,
                    // The two visits may be days apart, by what else is booked.
                    lateMinutes = 60 * 24 * 7,
                    onlyIfNotBack = true,
                    serviceIds = new[] { world.Service(Service) },
                    isOn = true,
                    texts = new[] { new { language = "en", subject = "Time for the next one?", body = "Hello {{ client }}" } },
                },
                World.Key()
            )
        ).Status.ShouldBe(HttpStatusCode.Created);
        (object away, string awayEmail, _) = Somebody();
        (object back, string backEmail, _) = Somebody();
        string[] starts = await world.StartsAsync(Service, 2, from: (await StartAsync(3))[..10]);
        JsonNode first = await BookAsync(away, starts[0]),
            second = await BookAsync(back, starts[1]);
        await world.Owner.PostAsync(
            "/api/v1/visits",
            new
            {
                locationId = world.MillStreet,
                start = await StartAsync(35),
                lines = new[] { new { serviceId = world.Service(Service) } },
                clientId = (string)second["client"]!["id"]!,
            }
        );
        DateTimeOffset over = DateTimeOffset.Parse(starts[1], CultureInfo.InvariantCulture).AddHours(2);
        await world.ClockAsync((int)(over - await world.NowAsync()).TotalMinutes);
        foreach (JsonNode visit in (JsonNode[])[first, second])
        {
            JsonNode there = await DoAsync(visit, "state", new { state = "arrived" });
            await DoAsync(there, "state", new { state = "done" });
        }

        // In the middle of a day: three weeks on, the clock may have changed and it may be quiet.
        DateTimeOffset late = new DateTimeOffset(over.UtcDateTime.Date, TimeSpan.Zero).AddDays(22).AddHours(10);
        await world.ClockAsync((int)(late - await world.NowAsync()).TotalMinutes);
        await world.Gateway.ArrivesAsync(awayEmail, "Time for the next one?");
        await QuietOfOthersAsync();
        (await SubjectsAsync(backEmail)).ShouldNotContain("Time for the next one?");
    }

    [Fact]
    public async Task What_cannot_be_told_stops_nothing_else()
    {
        await world.ScalarAsync<int>(
            """
            INSERT INTO message_event (at, ready_at, kind, by_client, about)
            VALUES ('2027-01-01', '2027-01-01', 'Unfinished', true, '{"Start": "not a time"}') RETURNING 1
            """
        );
        (object client, string email, _) = Somebody();
        await BookAsync(client, await StartAsync(32));
        await world.ClockAsync(2);
        await world.Gateway.ArrivesAsync(email, "Your booking");
        (await world.ScalarAsync<long>("SELECT count(*) FROM message_event WHERE at = '2027-01-01'")).ShouldBe(1);
        await world.ScalarAsync<int>("DELETE FROM message_event WHERE at = '2027-01-01' RETURNING 1");
    }

    [Fact]
    public async Task What_people_call_themselves_stays_text()
    {
        (object client, string email, _) = Somebody("Bea {{ price }} <b>");
        await BookAsync(client, await StartAsync(30));
        await QuietAsync();
        JsonNode mail = await world.Gateway.ArrivesAsync(email, "Your booking");
        ((string)mail["text"]!).ShouldContain("Hello Bea {{ price }} <b>,");
    }
}
