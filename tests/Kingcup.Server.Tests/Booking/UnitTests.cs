using System.Net;
using System.Text.Json.Nodes;
using Dapper;
using Kingcup.Testing;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Booking;

/// <summary>Which of the equal places or things a visit has, chosen by hand: over HTTP, at two desks at once, undone.</summary>
public sealed class UnitTests(World world)
{
    private static JsonNode Ok(ApiAnswer answer)
    {
        answer.Status.ShouldBe(HttpStatusCode.OK, answer.Body?.ToJsonString());
        return answer.Body!;
    }

    private async Task<JsonNode> FindAsync(JsonNode visit) => Ok(await world.Desk.GetAsync($"/api/v1/visits/{visit["id"]}"));

    private static int Hood(JsonNode visit) => visit["units"]!.AsArray().Single(IsHood)!["unit"]!.GetValue<int>();

    private static bool IsHood(JsonNode? held) => held!["name"]!.GetValue<string>() == "Steam hood";

    private async Task<JsonNode> OptionAsync(JsonNode visit) =>
        Ok(await world.Desk.GetAsync($"/api/v1/visits/{visit["id"]}/units")).AsArray().Single(choice => IsHood(choice!["held"]))!["others"]!
            .AsArray()
            .Single()!;

    private static Task<ApiAnswer> PutAsync(ApiClient who, JsonNode visit, int to)
    {
        JsonNode held = visit["units"]!.AsArray().Single(IsHood)!;
        return who.PostAsync(
            $"/api/v1/visits/{visit["id"]}/unit",
            new
            {
                line = held["line"]!.GetValue<int>(),
                resourceId = held["resourceId"]!.GetValue<string>(),
                from = held["unit"]!.GetValue<int>(),
                to,
            },
            World.Match(visit)
        );
    }

    /// <summary>Two facials ten minutes apart, each under a hood for 20 minutes that dries for another 5.</summary>
    private Task<JsonNode> FacialAsync(int day, int minute, string practitioner) =>
        world.BookAsync("Marsh clay facial 75", World.At(day, 10 + minute / 60, minute % 60), practitioner);

    private async Task<(JsonNode First, JsonNode Second)> TwoAsync(int day)
    {
        JsonNode first = await FacialAsync(day, 0, "Suki Amara");
        return (first, await FacialAsync(day, 10, "Odile Fenwright"));
    }

    [Fact]
    public async Task A_free_one_is_told_as_free_and_taken_and_undone()
    {
        JsonNode visit = await FacialAsync(59, 0, "Suki Amara");
        Hood(visit).ShouldBe(0);
        JsonNode option = await OptionAsync(visit);
        option["unit"]!.GetValue<int>().ShouldBe(1);
        option["moves"]!.AsArray().ShouldBeEmpty();
        JsonNode changed = Ok(await PutAsync(world.Desk, visit, 1));
        Hood(changed).ShouldBe(1);
        Hood(await FindAsync(visit)).ShouldBe(1);
        Ok(await world.Desk.GetAsync($"/api/v1/visits/{visit["id"]}/history"))[1]!["action"]!.GetValue<string>().ShouldBe("Unit");
        await UndoLastAsync(visit);
        Hood(await FindAsync(visit)).ShouldBe(0);
    }

    [Fact]
    public async Task Whoever_is_there_is_told_first_changes_to_the_other_one_and_comes_back_with_the_undo()
    {
        (JsonNode first, JsonNode second) = await TwoAsync(73);
        (Hood(first), Hood(second)).ShouldBe((0, 1));
        JsonNode move = (await OptionAsync(first))["moves"]!.AsArray().Single()!;
        move["start"]!.GetValue<string>().ShouldBe(World.At(73, 10, 10));
        move["unit"]!.GetValue<int>().ShouldBe(0);
        Hood(Ok(await PutAsync(world.Desk, first, 1))).ShouldBe(1);
        Hood(await FindAsync(second)).ShouldBe(0);
        // Whoever had the other visit open is told that it has changed.
        (await PutAsync(world.Desk, second, 0)).Status.ShouldBe(HttpStatusCode.PreconditionFailed);
        await UndoLastAsync(first);
        (Hood(await FindAsync(first)), Hood(await FindAsync(second))).ShouldBe((0, 1));
    }

    [Fact]
    public async Task Whoever_has_begun_is_not_moved_away()
    {
        (JsonNode first, JsonNode second) = await TwoAsync(66);
        // Nobody arrives so long before; the state and its history are set as they would stand then.
        await using NpgsqlConnection connection = await world.Database.Database.OpenAsync();
        await connection.ExecuteAsync(
            """
            WITH begun AS (UPDATE visit SET state = 'InTreatment' WHERE id = @id RETURNING id, starts_at, state)
            INSERT INTO history (at, actor, action, subject_kind, subject_id, after)
            SELECT starts_at, 'test', 'State', 'visit', id, jsonb_build_object('state', state) FROM begun
            """,
            new { id = Guid.Parse(second["id"]!.GetValue<string>()) }
        );
        (await OptionAsync(first))["refused"]!.GetValue<string>().ShouldBe("Ada Marsh is there already.");
        ApiAnswer refused = await PutAsync(world.Desk, first, 1);
        refused.Status.ShouldBe(HttpStatusCode.Conflict);
        refused.Code.ShouldBe("unit");
        (Hood(await FindAsync(first)), Hood(await FindAsync(second))).ShouldBe((0, 1));
    }

    [Theory]
    [InlineData(0, 87)]
    [InlineData(2, 94)]
    [InlineData(-1, 101)]
    [InlineData(int.MaxValue, 108)]
    public async Task One_that_there_is_not_or_that_it_has_is_refused_by_name(int to, int day)
    {
        JsonNode visit = await FacialAsync(day, 0, "Suki Amara");
        ApiAnswer refused = await PutAsync(world.Desk, visit, to);
        refused.Status.ShouldBe(HttpStatusCode.BadRequest, refused.Body?.ToJsonString());
        refused.Field.ShouldBe("to");
    }

    [Fact]
    public async Task Two_desks_at_two_servers_that_exchange_the_same_two_at_once_leave_each_on_one_of_its_own()
    {
        (JsonNode first, JsonNode second) = await TwoAsync(80);
        ApiAnswer[] answers = await Task.WhenAll(PutAsync(world.Desk, first, 1), PutAsync(world.OtherDesk, second, 0));
        answers.Select(answer => answer.Status).Order().ShouldBe([HttpStatusCode.OK, HttpStatusCode.PreconditionFailed]);
        (Hood(await FindAsync(first)), Hood(await FindAsync(second))).ShouldBe((1, 0));
    }

    private async Task UndoLastAsync(JsonNode visit)
    {
        JsonNode step = await world.StepOfAsync(visit);
        Ok(await world.Desk.PostAsync($"/api/v1/undo/{step["id"]}", new { }));
    }
}
