using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using NodaTime.Text;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Booking;

/// <summary>Two desks at two servers move the same day's visits about at once.</summary>
public sealed class MovesAtOnceTests(World world) : IAsyncLifetime
{
    // Not the desk of the other tests: so many moves would push theirs out of the twenty things that can be undone.
    private ApiClient _here = null!,
        _there = null!;

    public async ValueTask InitializeAsync()
    {
        _here = await ApiClient.SignedInAsync(world.First, "manager@harrowmere.test");
        _there = await ApiClient.SignedInAsync(world.Second, "manager@harrowmere.test");
    }

    public ValueTask DisposeAsync()
    {
        _here.Dispose();
        _there.Dispose();
        return ValueTask.CompletedTask;
    }

    private static Task<ApiAnswer> MoveAsync(ApiClient desk, JsonNode visit, string start) =>
        desk.PostAsync($"/api/v1/visits/{visit["id"]}/move", new { start }, World.Match(visit));

    private static async Task<JsonNode> FindAsync(ApiClient desk, JsonNode visit) =>
        (await desk.GetAsync($"/api/v1/visits/{visit["id"]}")).Body!;

    /// <summary>Each wants the place of the other: neither can have it while the other is there, and both stay where they are.</summary>
    [Fact]
    public async Task Two_that_want_each_others_place_at_once_both_stay()
    {
        JsonNode early = await world.BookAsync("Podiatry 40", World.At(70, 9), "Rafe Lindqvist"),
            late = await world.BookAsync("Podiatry 40", World.At(70, 14), "Rafe Lindqvist");
        ApiAnswer[] answers = await Task.WhenAll(
            MoveAsync(_here, early, World.At(70, 14)),
            MoveAsync(_there, late, World.At(70, 9))
        );
        answers.ShouldAllBe(answer => answer.Status == HttpStatusCode.Conflict);
        foreach (JsonNode visit in new[] { early, late })
        {
            JsonNode stands = await FindAsync(world.Desk, visit);
            stands["version"]!.GetValue<long>().ShouldBe(1);
            stands["start"]!.GetValue<string>().ShouldBe(visit["start"]!.GetValue<string>());
            stands["claims"]!.ToJsonString().ShouldBe(visit["claims"]!.ToJsonString());
        }

    }

    /// <summary>
    /// Four visits and nine places, moved at random by two desks that each know how the day stood a moment ago. Whatever they were
    /// answered: no two visits meet, each has been changed as often as somebody was told so, and lies where its last mover was told.
    /// </summary>
    [Fact]
    public async Task Moved_about_at_random_they_never_meet_and_lie_where_the_last_mover_was_told()
    {
        string[] places = [.. Enumerable.Range(0, 9).Select(i => World.At(77, 8 + i * 50 / 60, i * 50 % 60))];
        JsonNode[] visits = new JsonNode[4];
        for (int i = 0; i < visits.Length; i++)
            visits[i] = await world.BookAsync("Podiatry 40", World.At(77, 8 + i), "Rafe Lindqvist");
        (Guid Visit, long Version, string Start)[][] told = await Task.WhenAll(
            new[] { _here, _there }.Select((desk, seed) => MoveAboutAsync(desk, new Random(seed), visits, places))
        );
        told.Sum(moves => moves.Length).ShouldBeGreaterThan(0, "somebody has moved something");

        JsonNode[] stand = await Task.WhenAll(visits.Select(visit => FindAsync(world.Desk, visit)));
        foreach (JsonNode visit in stand)
        {
            (Guid Visit, long Version, string Start)[] own =
            [
                .. told.SelectMany(moves => moves).Where(move => move.Visit == visit["id"]!.GetValue<Guid>()).OrderBy(move => move.Version),
            ];
            visit["version"]!.GetValue<long>().ShouldBe(1 + own.Length);
            own.Select(move => move.Version).ShouldBe(Enumerable.Range(2, own.Length).Select(version => (long)version));
            if (own.Length > 0) visit["start"]!.GetValue<string>().ShouldBe(own[^1].Start);
        }

        string rafe = world.Practitioner("Rafe Lindqvist");
        (NodaTime.Instant From, NodaTime.Instant Until)[] held =
        [
            .. stand
                .Select(visit =>
                    visit["claims"]!.AsArray().Single(claim => claim!["resourceId"]!.GetValue<string>() == rafe)!
                )
                .Select(claim => (At(claim["from"]!), At(claim["until"]!)))
                .Order(),
        ];
        for (int i = 1; i < held.Length; i++)
            held[i].From.ShouldBeGreaterThanOrEqualTo(held[i - 1].Until);
    }

    private static NodaTime.Instant At(JsonNode instant) => InstantPattern.ExtendedIso.Parse(instant.GetValue<string>()).Value;

    private static async Task<(Guid Visit, long Version, string Start)[]> MoveAboutAsync(
        ApiClient desk,
        Random random,
        JsonNode[] visits,
        string[] places
    )
    {
        List<(Guid, long, string)> told = [];
        for (int i = 0; i < 25; i++)
        {
            JsonNode seen = await FindAsync(desk, visits[random.Next(visits.Length)]);
            ApiAnswer answer = await MoveAsync(desk, seen, places[random.Next(places.Length)]);
            answer.Status.ShouldBeOneOf(HttpStatusCode.OK, HttpStatusCode.Conflict, HttpStatusCode.PreconditionFailed);
            if (answer.Status != HttpStatusCode.OK)
                continue;
            JsonNode moved = answer.Body!;
            told.Add((moved["id"]!.GetValue<Guid>(), moved["version"]!.GetValue<long>(), moved["start"]!.GetValue<string>()));
        }

        return [.. told];
    }
}
