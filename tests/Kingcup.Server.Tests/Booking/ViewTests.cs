using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Booking;

/// <summary>The book by week, by month, as an agenda, and views that are saved.</summary>
public sealed class ViewTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private async Task<JsonNode> BookAsync(string practitioner, string service, string start, string family)
    {
        object visit = new
        {
            locationId = await world.IdAsync("locations", "Mill Street"),
            start,
            lines = new[]
            {
                new
                {
                    serviceId = await world.IdAsync("services", service),
                    practitionerId = await world.IdAsync("practitioners", practitioner),
                },
            },
            newClient = new { givenName = "Ada", familyName = family },
        };
        ApiAnswer answer = await world.Desk.PostAsync("/api/v1/visits", visit);
        answer.Status.ShouldBe(HttpStatusCode.Created, answer.Body?.ToJsonString());
        return answer.Body!;
    }

    private async Task<string> HouseAsync() => await world.IdAsync("locations", "Mill Street");

    private async Task<string[]> FamiliesAsync(string query) =>
        [
            .. (await world.Desk.GetAsync($"/api/v1/agenda?locationId={await HouseAsync()}&{query}"))
                .Body!["visits"]!.AsArray()
                .Select(visit => (string)visit!["client"]!["familyName"]!)
                .Where(family => family.StartsWith("View", StringComparison.Ordinal)),
        ];

    [Fact]
    public async Task A_week_has_a_lane_for_each_day_with_what_lies_in_it_and_nothing_else()
    {
        string ines = await world.IdAsync("practitioners", "Ines Calloway");
        JsonNode own = await BookAsync("Ines Calloway", "Deep tissue 60", "2027-03-24T11:00:00Z", "Viewweek");
        JsonNode other = await BookAsync("Tobias Quill", "Deep tissue 60", "2027-03-24T11:00:00Z", "Viewother");
        JsonNode week = (
            await world.Desk.GetAsync($"/api/v1/locations/{await HouseAsync()}/weeks/2027-03-28?resourceId={ines}")
        ).Body!;
        JsonArray days = week["days"]!.AsArray();
        days.Select(day => (string)day!["date"]!).ShouldBe(Enumerable.Range(22, 7).Select(day => $"2027-03-{day}"));
        foreach (JsonNode? day in days)
            day!["lanes"]!.AsArray().Single()!["id"]!.GetValue<string>().ShouldBe(ines);
        string[] shown = [.. days.SelectMany(day => day!["visits"]!.AsArray()).Select(visit => (string)visit!["id"]!)];
        shown.ShouldContain((string)own["id"]!);
        shown.ShouldNotContain((string)other["id"]!);
        (
            await world.Desk.GetAsync($"/api/v1/locations/{await HouseAsync()}/weeks/2027-03-28?resourceId={Guid.Empty}")
        ).Status.ShouldBe(HttpStatusCode.BadRequest);
    }

    [Fact]
    public async Task A_month_says_what_the_days_say()
    {
        string house = await HouseAsync();
        JsonNode month = (await world.Desk.GetAsync($"/api/v1/locations/{house}/months/2027-03-15")).Body!;
        JsonArray days = month["days"]!.AsArray();
        (days.Count, (string)days[0]!["date"]!).ShouldBe((42, "2027-03-01"));
        JsonArray fullness = (await world.Desk.GetAsync($"/api/v1/locations/{house}/fullness?from=2027-03-01&days=28")).Body!.AsArray();
        foreach ((JsonNode? day, JsonNode? whole) in days.Zip(fullness))
        {
            int? full = whole!["fullness"]?.GetValue<int>();
            JsonArray parts = day!["parts"]!.AsArray();
            (parts.Count == 0).ShouldBe(full is null, (string)day["date"]!);
            // The whole lies between the fullest part and the emptiest.
            if (full is { } percent)
                percent.ShouldBeInRange(
                    parts.Min(part => part!["fullness"]!.GetValue<int>()),
                    parts.Max(part => part!["fullness"]!.GetValue<int>())
                );
        }

        string tobias = await world.IdAsync("practitioners", "Tobias Quill");
        JsonArray own = (await world.Desk.GetAsync($"/api/v1/locations/{house}/months/2027-03-15?practitionerId={tobias}"))
            .Body!["days"]!.AsArray();
        own.Sum(day => day!["freeMinutes"]!.GetValue<int>()).ShouldBeLessThan(days.Sum(day => day!["freeMinutes"]!.GetValue<int>()));
    }

    [Fact]
    public async Task An_agenda_holds_what_its_filter_says()
    {
        await BookAsync("Ines Calloway", "Deep tissue 60", "2027-04-07T11:00:00Z", "Viewone");
        await BookAsync("Tobias Quill", "Deep tissue 60", "2027-04-08T14:00:00Z", "Viewtwo");
        string ines = await world.IdAsync("practitioners", "Ines Calloway"),
            massage = await world.IdAsync("categories", "Massage"),
            skin = await world.IdAsync("categories", "Skin");
        const string Both = "from=2027-04-07&until=2027-04-08";
        (await FamiliesAsync("from=2027-04-07&until=2027-04-07")).ShouldBe(["Viewone"]);
        (await FamiliesAsync(Both)).ShouldBe(["Viewone", "Viewtwo"]);
        (await FamiliesAsync($"{Both}&resourceId={ines}")).ShouldBe(["Viewone"]);
        (await FamiliesAsync($"{Both}&categoryId={massage}")).ShouldBe(["Viewone", "Viewtwo"]);
        (await FamiliesAsync($"{Both}&categoryId={skin}")).ShouldBeEmpty();
        (await FamiliesAsync($"{Both}&categoryId={skin}&categoryId={massage}")).ShouldBe(["Viewone", "Viewtwo"]);
        (await FamiliesAsync($"{Both}&state=cancelled&state=done")).ShouldBeEmpty();
        (await FamiliesAsync($"{Both}&source=Online")).ShouldBeEmpty();

        string csv = await world.Desk.TextAsync($"/api/v1/agenda.csv?{Both}&locationId={await HouseAsync()}&resourceId={ines}");
        string line = csv.Split('\n').Single(text => text.Contains("Viewone", StringComparison.Ordinal));
        // The clock of the house, in summer an hour before the sun's.
        line.ShouldStartWith("2027-04-07,12:00,13:00,");
    }

    [Theory]
    [InlineData("from=2027-03-02&until=2027-03-01", "until")]
    [InlineData("from=2027-03-02&until=2027-05-03", "until")]
    [InlineData("from=soon&until=2027-03-01", "from")]
    [InlineData("from=2027-03-02&until=2027-03-02&source=Elsewhere", "source")]
    [InlineData("from=2027-03-02&until=2027-03-02&state=gone", "state")]
    [InlineData("from=2027-03-02&until=2027-03-02&state=1", "state")]
    public async Task What_no_agenda_can_hold_is_refused(string query, string field) =>
        (await world.Desk.GetAsync("/api/v1/agenda?" + query)).Field.ShouldBe(field);

    [Fact]
    public async Task Of_several_each_stands_for_itself()
    {
        JsonNode fresh = await BookAsync("Tobias Quill", "Deep tissue 60", "2027-03-02T14:00:00Z", "Viewfresh"),
            stale = await BookAsync("Ines Calloway", "Deep tissue 60", "2027-03-24T16:00:00Z", "Viewstale");
        JsonNode answers = (
            await world.Desk.PostAsync(
                "/api/v1/agenda/state",
                new
                {
                    visits = new[]
                    {
                        new { id = (string)fresh["id"]!, version = fresh["version"]!.GetValue<long>() },
                        new { id = (string)stale["id"]!, version = stale["version"]!.GetValue<long>() + 1 },
                        new { id = Guid.Empty.ToString(), version = 1L },
                    },
                    state = "arrived",
                }
            )
        ).Body!;
        answers.AsArray().Select(answer => answer!["isDone"]!.GetValue<bool>()).ShouldBe([true, false, false]);
        answers.AsArray().Skip(1).ShouldAllBe(answer => answer!["why"]!.GetValue<string>().Length > 10);
        (await world.Desk.GetAsync($"/api/v1/visits/{fresh["id"]}")).Body!["state"]!.GetValue<string>().ShouldBe("arrived");
        object none = new { visits = Array.Empty<object>(), state = "done" };
        (await world.Desk.PostAsync("/api/v1/agenda/state", none)).Field.ShouldBe("visits");
    }

    [Fact]
    public async Task A_view_is_ones_own_or_for_all()
    {
        async Task<string[]> Names(ApiClient who) =>
            [.. (await who.GetAsync("/api/v1/views")).Body!.AsArray().Select(view => (string)view!["name"]!)];
        object View(string name, bool isForAll, string query = "source=Online") => new { name, query, isForAll };
        (await world.Desk.PostAsync("/api/v1/views", View("My online ones", false))).Status.ShouldBe(HttpStatusCode.OK);
        ApiAnswer forAll = await world.Owner.PostAsync("/api/v1/views", View("Everybody's", true));
        (await Names(world.Desk)).ShouldBe(["Everybody's", "My online ones"]);
        (await Names(world.Owner)).ShouldBe(["Everybody's"]);
        // Called the same it is replaced, whatever its capitals.
        (await world.Desk.PostAsync("/api/v1/views", View("my ONLINE ones", false, "by=practitioner"))).Body!["query"]!
            .GetValue<string>()
            .ShouldBe("by=practitioner");
        (await Names(world.Desk)).Length.ShouldBe(2);
        (await world.Desk.DeleteAsync($"/api/v1/views/{forAll.Body!["id"]}", 0)).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await world.Owner.DeleteAsync($"/api/v1/views/{forAll.Body!["id"]}", 0)).Status.ShouldBe(HttpStatusCode.NoContent);
        (await world.Desk.PostAsync("/api/v1/views", View(" ", false))).Field.ShouldBe("name");
        (await world.Desk.PostAsync("/api/v1/views", View("x", false, "a b"))).Field.ShouldBe("query");
    }
}
