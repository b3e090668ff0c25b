using System.Globalization;
using System.Net;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Kingcup.Server.Tests.Money;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Booking;

/// <summary>What clients ask for: answered with other times that are kept, chosen once, declined, or lapsed; the money follows.</summary>
public sealed partial class RequestTests(PayWorld world) : IClassFixture<PayWorld>, IAsyncLifetime
{
    private const string Service = "Deep tissue 60";

    /// <summary>Whatever is booked online is only asked for.</summary>
    public async ValueTask InitializeAsync()
    {
        JsonObject location = (JsonObject)(await world.Owner.GetAsync("/api/v1/setup/locations")).Body!.AsArray()
            .First(one => (string)one!["id"]! == world.MillStreet)!;
        if ((string?)location["online"]?["approval"] == "everyone") return;
        await world.Owner.ChangeAsync(
            $"/api/v1/setup/locations/{world.MillStreet}",
            location,
            one => one["online"]!["approval"] = "everyone"
        );
    }

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    private sealed record Asked(PayWorld.Client Client, JsonNode Visit) : IDisposable
    {
        internal string Id => (string)Visit["id"]!;

        internal string Email => (string)Visit["client"]!["email"]!;

        public void Dispose() => Client.Dispose();
    }

    /// <summary>Somebody asks for a time some days ahead, and pays the deposit.</summary>
    private async Task<Asked> AskAsync(int daysAhead = 20)
    {
        PayWorld.Client client = world.Somebody();
        (string token, string page) = await client.ToCardAsync((await StartsAsync(daysAhead, 1))[0]);
        await world.Gateway.EnterAsync(page);
        JsonNode paid = await client.FinishAsync(token);
        paid["visit"]!["isRequest"]!.GetValue<bool>().ShouldBeTrue();
        Guid id = await world.ScalarAsync<Guid>(
            "SELECT id FROM visit WHERE reference = @reference",
            new { reference = (string)paid["visit"]!["reference"]! }
        );
        return new Asked(client, await VisitAsync(id.ToString()));
    }

    private async Task<string[]> StartsAsync(int daysAhead, int count) =>
        await world.StartsAsync(
            Service,
            count,
            from: (await world.NowAsync()).AddDays(daysAhead).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
        );

    private async Task<JsonNode> VisitAsync(string id) => (await world.Owner.GetAsync($"/api/v1/visits/{id}")).Body!;

    /// <summary>What is held for it: 30 % of the price of whoever does it.</summary>
    private async Task<long> DepositAsync(Asked asked) =>
        (long)(await world.Owner.GetAsync($"/api/v1/visits/{asked.Id}/money")).Body!["deposit"]!["amount"]!;

    private async Task<JsonNode> RequestAsync(Asked asked) => (await world.Owner.GetAsync($"/api/v1/visits/{asked.Id}/request")).Body!;

    private Task<ApiAnswer> ProposeAsync(JsonNode visit, string[] starts, string words = "") =>
        world.Owner.PostAsync(
            $"/api/v1/visits/{visit["id"]}/propose",
            new { times = starts.Select(start => new { start }), words },
            World.Match(visit)
        );

    private async Task<(string State, string? By)> StandsAsync(Asked asked)
    {
        JsonNode visit = await VisitAsync(asked.Id);
        return ((string)visit["state"]!, (string?)visit["cancelledBy"]);
    }

    /// <summary>The page of one's own bookings, opened by the link of a message.</summary>
    private async Task<(ApiClient Http, JsonNode Visit)> MineAsync(Asked asked, string subject, ServerProcess? server = null)
    {
        string text = (string)(await world.Gateway.ArrivesAsync(asked.Email, subject))["text"]!;
        string link = Link().Match(text).Value;
        ApiClient http = new(server ?? world.Second);
        (await http.PostAsync("/api/public/v1/mine/open", new { token = link[(link.IndexOf('#', StringComparison.Ordinal) + 1)..] }))
            .Status.ShouldBe(HttpStatusCode.NoContent);
        JsonNode mine = (await http.GetAsync("/api/public/v1/mine")).Body!;
        return (http, mine["ahead"]!.AsArray().Single()!);
    }

    private static object Choice(JsonNode visit, int place) =>
        new
        {
            version = (long)visit["version"]!,
            proposalId = (string)visit["times"]![place]!["id"]!,
            priceSeen = (long)visit["times"]![place]!["price"]!["amount"]!,
        };

    private async Task<bool> IsFreeAsync(string start)
    {
        using ApiClient asking = new(world.First);
        JsonNode answer = (
            await asking.PostAsync(
                "/api/public/v1/starts",
                new
                {
                    locationId = world.MillStreet,
                    lines = new[] { new { serviceId = world.Service(Service) } },
                    from = start[..10],
                    days = 1,
                }
            )
        ).Body!;
        return answer["days"]!.AsArray().SelectMany(day => day!["starts"]!.AsArray()).Any(one => (string)one!["start"]! == start);
    }

    [Fact]
    public async Task Other_times_are_kept_told_and_one_of_them_chosen_and_the_deposit_stays()
    {
        using Asked asked = await AskAsync();
        long deposit = await DepositAsync(asked);
        deposit.ShouldBeGreaterThan(0);
        JsonNode request = await RequestAsync(asked);
        request["against"]!.AsArray().ShouldBeEmpty();
        request["known"]![0]!.GetValue<string>().ShouldBe("New here.");
        string[] starts = await StartsAsync(24, 3);
        ApiAnswer answered = await ProposeAsync(asked.Visit, starts, "Tobias is away then.");
        answered.Status.ShouldBe(HttpStatusCode.OK, answered.Body?.ToJsonString());
        ((string)answered.Body!["state"]!).ShouldBe("answered");

        // The time asked for is free again; those proposed are not, and the tray says whose turn it is.
        (await IsFreeAsync((string)asked.Visit["start"]!)).ShouldBeTrue();
        JsonNode tray = (await world.Owner.GetAsync("/api/v1/needs-place")).Body!;
        ((string)tray.AsArray().Single(one => (string)one!["visitId"]! == asked.Id)!["state"]!).ShouldBe("answered");
        string[] kept = [.. (await RequestAsync(asked))["times"]!.AsArray().Select(time => (string)time!["start"]!)];
        kept.ShouldBe(starts);
        // What was answered holds nothing of its own, and is in order as it waits.
        (await world.WrongAsync()).ShouldBeEmpty();

        await world.ClockAsync(2);
        (ApiClient http, JsonNode mine) = await MineAsync(asked, "Another time for Deep tissue 60?");
        using ApiClient phone = http;
        ((string)mine["state"]!).ShouldBe("answered");
        ((string)mine["words"]!).ShouldBe("Tobias is away then.");
        ApiAnswer chosen = await phone.PostAsync($"/api/public/v1/mine/visits/{asked.Id}/choose", Choice(mine, 1));
        chosen.Status.ShouldBe(HttpStatusCode.OK, chosen.Body?.ToJsonString());
        JsonNode stands = await VisitAsync(asked.Id);
        ((string)stands["state"]!, (string)stands["start"]!).ShouldBe(("confirmed", starts[1]));
        (await IsFreeAsync(starts[0])).ShouldBeTrue();
        (await DepositAsync(asked)).ShouldBe(deposit);
        await world.Gateway.ArrivesAsync(asked.Email, "You are booked on");

        // Chosen is chosen: a second press on a stale page takes nothing more.
        (await phone.PostAsync($"/api/public/v1/mine/visits/{asked.Id}/choose", Choice(mine, 2))).Status.ShouldBe(
            HttpStatusCode.PreconditionFailed
        );
    }

    [Fact]
    public async Task Of_two_phones_that_choose_at_once_on_two_servers_one_wins()
    {
        using Asked asked = await AskAsync();
        string[] starts = await StartsAsync(26, 3);
        (await ProposeAsync(asked.Visit, starts)).Status.ShouldBe(HttpStatusCode.OK);
        await world.ClockAsync(2);
        (ApiClient one, JsonNode mine) = await MineAsync(asked, "Another time", world.First);
        (ApiClient other, _) = await MineAsync(asked, "Another time");
        using (one)
        using (other)
        {
            ApiAnswer[] answers = await Task.WhenAll(
                one.PostAsync($"/api/public/v1/mine/visits/{asked.Id}/choose", Choice(mine, 0)),
                other.PostAsync($"/api/public/v1/mine/visits/{asked.Id}/choose", Choice(mine, 1))
            );
            answers.Count(answer => answer.Status == HttpStatusCode.OK).ShouldBe(1);
        }

        (
            await world.ScalarAsync<long>("SELECT count(*) FROM proposal WHERE visit_id = @id", new { id = Guid.Parse(asked.Id) })
        ).ShouldBe(0);
    }

    [Fact]
    public async Task What_nobody_answers_or_chooses_lapses_once_is_told_and_the_deposit_goes_back()
    {
        using Asked silent = await AskAsync(30);
        using Asked undecided = await AskAsync(32);
        Dictionary<Asked, long> deposits = new()
        {
            [silent] = await DepositAsync(silent),
            [undecided] = await DepositAsync(undecided),
        };
        string[] starts = await StartsAsync(34, 2);
        (await ProposeAsync(undecided.Visit, starts)).Status.ShouldBe(HttpStatusCode.OK);
        await world.ClockAsync((24 * 60) + 1);
        await PayWorld.UntilAsync(async () => (await StandsAsync(silent)).State == "cancelled");
        await PayWorld.UntilAsync(async () => (await StandsAsync(undecided)).State == "cancelled");
        (await StandsAsync(silent)).By.ShouldBe("nobody");
        (await StandsAsync(undecided)).By.ShouldBe("nobody");
        (await IsFreeAsync(starts[0])).ShouldBeTrue();
        await world.ClockAsync(12);
        foreach (Asked asked in (Asked[])[silent, undecided])
        {
            await PayWorld.UntilAsync(async () =>
                await world.ScalarAsync<long>(
                    "SELECT coalesce(sum(amount), 0)::bigint FROM card_work WHERE visit_id = @id AND kind = 'Refund' AND state = 'Done'",
                    new { id = Guid.Parse(asked.Id) }
                ) == deposits[asked]
            );
            await world.Gateway.ArrivesAsync(asked.Email, "has lapsed");
            (
                await world.ScalarAsync<long>(
                    "SELECT count(*) FROM history WHERE subject_id = @id AND action = 'Cancelled'",
                    new { id = Guid.Parse(asked.Id) }
                )
            ).ShouldBe(1);
            // A page that was left open does not bring it back.
            (await world.Owner.PostAsync($"/api/v1/visits/{asked.Id}/state", new { state = "confirmed" }, World.Match(asked.Visit)))
                .Status.ShouldBe(HttpStatusCode.PreconditionFailed);
        }
    }

    [Fact]
    public async Task An_answer_is_undone_taken_back_or_declined_and_nothing_stays_kept()
    {
        using Asked asked = await AskAsync(36);
        string[] starts = await StartsAsync(38, 2);
        JsonNode visit = (await ProposeAsync(asked.Visit, starts)).Body!;
        string step = (string)(await world.Owner.GetAsync("/api/v1/undo")).Body![0]!["id"]!;
        (await world.Owner.PostAsync($"/api/v1/undo/{step}", new { })).Status.ShouldBe(HttpStatusCode.OK);
        (await StandsAsync(asked)).State.ShouldBe("requested");
        (await IsFreeAsync(starts[0])).ShouldBeTrue();

        visit = (await ProposeAsync(await VisitAsync(asked.Id), starts)).Body!;
        (
            await world.Owner.PostAsync($"/api/v1/visits/{asked.Id}/state", new { state = "requested" }, World.Match(visit))
        ).Status.ShouldBe(HttpStatusCode.OK);
        (await IsFreeAsync((string)asked.Visit["start"]!)).ShouldBeFalse();
        (await IsFreeAsync(starts[1])).ShouldBeTrue();

        visit = (await ProposeAsync(await VisitAsync(asked.Id), starts)).Body!;
        ApiAnswer declined = await world.Owner.PostAsync(
            $"/api/v1/visits/{asked.Id}/cancel",
            new { reason = "no room", by = "business", words = "Please try the week after." },
            World.Match(visit)
        );
        declined.Status.ShouldBe(HttpStatusCode.OK, declined.Body?.ToJsonString());
        (await IsFreeAsync(starts[1])).ShouldBeTrue();
        await world.ClockAsync(2);
        string text = (string)(await world.Gateway.ArrivesAsync(asked.Email, "Your request for"))["text"]!;
        text.ShouldContain("Please try the week after.");
        text.ShouldNotContain("no room");
        // Times that were given to nobody are not put to the client again by undoing that.
        step = (string)(await world.Owner.GetAsync("/api/v1/undo")).Body![0]!["id"]!;
        (await world.Owner.PostAsync($"/api/v1/undo/{step}", new { })).Code.ShouldBe("undo");
    }

    private Task<ApiAnswer> HoldAsync(PayWorld.Client client, string start, string practitionerId) =>
        client.PostAsync(
            "/holds",
            new
            {
                locationId = world.MillStreet,
                start,
                lines = new[] { new { serviceId = world.Service(Service), practitionerId } },
            }
        );

    [Fact]
    public async Task What_is_proposed_is_nobody_elses_until_the_moment_it_lapses()
    {
        using Asked asked = await AskAsync(46);
        string start = (await StartsAsync(48, 1))[0];
        JsonNode answered = (await ProposeAsync(asked.Visit, [start])).Body!;
        string line = (string)(await RequestAsync(asked))["times"]![0]!["lines"]![0]!;
        string who = world.Practitioner(line[(line.IndexOf(" with ", StringComparison.Ordinal) + " with ".Length)..]);
        using PayWorld.Client other = world.Somebody(world.Second);
        (await HoldAsync(other, start, who)).Code.ShouldBe("start-taken");
        ApiAnswer atTheDesk = await world.Owner.PostAsync(
            "/api/v1/visits",
            new
            {
                locationId = world.MillStreet,
                start,
                lines = new[] { new { serviceId = world.Service(Service), practitionerId = who } },
                newClient = new { givenName = "Bo", familyName = "Reed", phone = "020 910 0099" },
            },
            World.Key()
        );
        atTheDesk.Status.ShouldBe(HttpStatusCode.Conflict);
        // Whoever keeps the book sees in it for whom it is kept, and until when.
        JsonNode day = (await world.Owner.GetAsync($"/api/v1/locations/{world.MillStreet}/days/{start[..10]}")).Body!;
        JsonNode kept = day["lanes"]!.AsArray().Single(lane => (string)lane!["id"]! == who)!["kept"]!.AsArray().Single()!;
        ((string)kept["visitId"]!, (string)kept["from"]!).ShouldBe((asked.Id, start));
        ((string)kept["client"]!).ShouldStartWith("Ada ");
        await world.ClockAsync(24 * 60);
        (await HoldAsync(other, start, who)).Status.ShouldBe(HttpStatusCode.Created);
        (
            await world.Owner.PostAsync(
                $"/api/v1/visits/{asked.Id}/choose",
                new { proposalId = Guid.NewGuid() },
                World.Match(answered)
            )
        ).Status.ShouldBeOneOf(HttpStatusCode.Conflict, HttpStatusCode.PreconditionFailed);
    }

    [Fact]
    public async Task With_whom_it_is_and_what_is_given_decide_whether_it_is_only_asked_for()
    {
        async Task ApproveAsync(string? whose)
        {
            JsonObject location = (JsonObject)(await world.Owner.GetAsync("/api/v1/setup/locations")).Body!.AsArray()
                .First(one => (string)one!["id"]! == world.MillStreet)!;
            await world.Owner.ChangeAsync(
                $"/api/v1/setup/locations/{world.MillStreet}",
                location,
                one => one["online"]!["approval"] = whose
            );
        }

        async Task LookFirstAsync(string id, bool needsApproval)
        {
            JsonObject person = (JsonObject)(await world.Owner.GetAsync("/api/v1/setup/practitioners")).Body!.AsArray()
                .First(one => (string)one!["id"]! == id)!;
            await world.Owner.ChangeAsync(
                $"/api/v1/setup/practitioners/{id}",
                person,
                one => one["needsApproval"] = needsApproval
            );
        }

        async Task<int?> AnswerHoursAsync(string name)
        {
            string id = world.Practitioner(name);
            string from = (await world.NowAsync()).AddDays(20).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
            string start = (await world.StartsAsync(Service, 1, id, from))[0];
            using PayWorld.Client client = world.Somebody();
            ApiAnswer kept = await HoldAsync(client, start, id);
            kept.Status.ShouldBe(HttpStatusCode.Created, kept.Body?.ToJsonString());
            return (int?)kept.Body!["answerHours"];
        }

        // A stranger gives a deposit here, so the desk need not look at it first.
        await ApproveAsync("payLater");
        (await AnswerHoursAsync("Tobias Quill")).ShouldBeNull();
        await ApproveAsync(null);
        await LookFirstAsync(world.Practitioner("Tobias Quill"), true);
        (await AnswerHoursAsync("Tobias Quill")).ShouldBe(24);
        (await AnswerHoursAsync("Ines Calloway")).ShouldBeNull();
        await LookFirstAsync(world.Practitioner("Tobias Quill"), false);
    }

    [Fact]
    public async Task What_cannot_be_proposed_is_refused_and_nothing_is_written()
    {
        using Asked asked = await AskAsync(40);
        string[] starts = await StartsAsync(42, 4);
        (await ProposeAsync(asked.Visit, [])).Error("times")!.ShouldContain("one to 3");
        (await ProposeAsync(asked.Visit, starts)).Error("times")!.ShouldContain("one to 3");
        (await ProposeAsync(asked.Visit, [starts[0], starts[0]])).Error("times[1].start")!.ShouldContain("meets another");
        (await ProposeAsync(asked.Visit, [starts[0]], new string('x', 501))).Error("words").ShouldNotBeNull();
        // In the middle of the night nobody is there.
        (await ProposeAsync(asked.Visit, [$"{starts[0][..10]}T02:00:00Z"])).Code.ShouldBe("start-taken");
        JsonNode stale = asked.Visit.DeepClone();
        stale["version"] = 99;
        (await ProposeAsync(stale, [starts[0]])).Status.ShouldBe(HttpStatusCode.PreconditionFailed);
        (await StandsAsync(asked)).State.ShouldBe("requested");
        (
            await world.Owner.PostAsync(
                $"/api/v1/visits/{asked.Id}/cancel",
                new { reason = "x", by = "nobody" },
                World.Match(asked.Visit)
            )
        ).Error("by").ShouldNotBeNull();

        // What is approved is neither answered nor chosen any more, and its answer is nobody else's.
        JsonNode approved = (
            await world.Owner.PostAsync($"/api/v1/visits/{asked.Id}/state", new { state = "confirmed" }, World.Match(asked.Visit))
        ).Body!;
        (await ProposeAsync(approved, [starts[0]])).Code.ShouldBe("state");
        (await world.Owner.GetAsync($"/api/v1/visits/{asked.Id}/request")).Status.ShouldBe(HttpStatusCode.NotFound);
        using Asked other = await AskAsync(44);
        JsonNode answered = (await ProposeAsync(other.Visit, [starts[1]])).Body!;
        Guid theirs = await world.ScalarAsync<Guid>("SELECT id FROM proposal WHERE visit_id = @id", new { id = Guid.Parse(other.Id) });
        (
            await world.Owner.PostAsync($"/api/v1/visits/{asked.Id}/choose", new { proposalId = theirs }, World.Match(approved))
        ).Code.ShouldBe("state");
        (
            await world.Owner.PostAsync($"/api/v1/visits/{other.Id}/choose", new { proposalId = Guid.NewGuid() }, World.Match(answered))
        ).Status.ShouldBe(HttpStatusCode.NotFound);
        (
            await world.Owner.PostAsync($"/api/v1/visits/{other.Id}/choose", new { proposalId = theirs }, World.Match(answered))
        ).Status.ShouldBe(HttpStatusCode.OK);
        ((string)(await VisitAsync(other.Id))["start"]!).ShouldBe(starts[1]);
    }

    [GeneratedRegex(@"https://\S+/book/mine#[0-9a-f]+")]
    private static partial Regex Link();
}
