using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Messages;

/// <summary>What owners say of messages: checked field by field, tried before it is saved.</summary>
public sealed class MessageRuleTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private const string Path = "/api/v1/setup/messages";

    private static object Rule(
        string trigger = "beforeStart",
        int offsetMinutes = 120,
        string body = "Hello {{ client }}",
        string subject = "Soon",
        string language = "en",
        string recipient = "client",
        string channel = "email"
    ) =>
        new
        {
            trigger,
            channel,
            recipient,
            offsetMinutes,
            lateMinutes = 60,
            isOn = true,
            texts = new[] { new { language, subject, body } },
        };

    private async Task<(string? Field, string? Says)> RefusedAsync(object rule)
    {
        ApiAnswer answer = await world.Owner.PostAsync(Path, rule, World.Key());
        answer.Status.ShouldBe(HttpStatusCode.BadRequest, answer.Body?.ToJsonString());
        return (answer.Field, answer.Body!["errors"]!.AsObject().First().Value!.ToString());
    }

    [Fact]
    public async Task A_business_begins_with_what_is_usually_said_and_each_of_it_can_be_filled_in()
    {
        JsonArray rules = (await world.Owner.GetAsync(Path)).Body!.AsArray();
        string[] triggers = [.. rules.Select(rule => (string)rule!["trigger"]!).Distinct()];
        foreach (
            string trigger in (string[])
                [
                    "booked", "requested", "approved", "declined", "moved", "cancelled", "fee", "refund", "unfinished", "beforeStart",
                ]
        )
            triggers.ShouldContain(trigger);
        string[] variables =
        [
            .. (await world.Owner.GetAsync("/api/v1/setup/message-variables")).Body!.AsArray().Select(known => (string)known!["name"]!),
        ];
        foreach (JsonNode? text in rules.Select(rule => rule!["texts"]![0]))
        {
            foreach (string[] without in (string[][])[[], variables])
            {
                ApiAnswer tried = await world.Owner.PostAsync(
                    $"{Path}/try",
                    new
                    {
                        subject = (string)text!["subject"]!,
                        body = (string)text["body"]!,
                        without,
                    }
                );
                tried.Status.ShouldBe(HttpStatusCode.OK, tried.Body?.ToJsonString());
                ((string)tried.Body!["body"]!).ShouldNotContain("{");
                ((string)tried.Body!["body"]!).ShouldNotContain("\n\n\n");
            }
        }
    }

    [Fact]
    public async Task A_sentence_goes_with_the_variable_that_is_empty()
    {
        async Task<string> SaysAsync(params string[] without) =>
            (string)(
                await world.Owner.PostAsync(
                    $"{Path}/try",
                    new
                    {
                        subject = "",
                        body = "Come.{% sentence %} You have paid {{ deposit }} of {{ price }}.{% endsentence %}\n\nGoodbye, {{ client }}.",
                        without,
                    }
                )
            ).Body!["body"]!;
        (await SaysAsync()).ShouldBe("Come. You have paid €25.00 of €84.00.\n\nGoodbye, Maeve.");
        (await SaysAsync("deposit")).ShouldBe("Come.\n\nGoodbye, Maeve.");
        (await SaysAsync("price")).ShouldBe("Come.\n\nGoodbye, Maeve.");
    }

    [Fact]
    public async Task What_cannot_be_sent_is_refused_with_the_field()
    {
        (await RefusedAsync(Rule(body: "Hello {{ clinet }}"))).ShouldSatisfyAllConditions(
            refused => refused.Field.ShouldBe("texts[0].body"),
            refused => refused.Says!.ShouldContain("clinet")
        );
        (await RefusedAsync(Rule(body: "Hello {% if %}"))).Field.ShouldBe("texts[0].body");
        (await RefusedAsync(Rule(body: "{% for i in (1..1000000) %}{% for j in (1..1000000) %}x{% endfor %}{% endfor %}"))).Field
            .ShouldBe("texts[0].body");
        (await RefusedAsync(Rule(subject: "{{ client "))).Field.ShouldBe("texts[0].subject");
        (await RefusedAsync(Rule(subject: ""))).Field.ShouldBe("texts[0].subject");
        (await RefusedAsync(Rule(language: "English"))).Field.ShouldBe("texts[0].language");
        (await RefusedAsync(Rule(offsetMinutes: 0))).Field.ShouldBe("offsetMinutes");
        (await RefusedAsync(Rule(trigger: "booked"))).Field.ShouldBe("offsetMinutes");
        (await RefusedAsync(Rule(recipient: "staff"))).Field.ShouldBe("staffIds");
        (await RefusedAsync(Rule(trigger: "unfinished", offsetMinutes: 0, channel: "text"))).Field.ShouldBe("channel");
        object silent = new { trigger = "booked", channel = "email", recipient = "client", isOn = true, texts = Array.Empty<object>() };
        (await RefusedAsync(silent)).Field.ShouldBe("texts");
    }

    [Fact]
    public async Task A_message_is_added_changed_over_the_version_that_was_seen_and_taken_out()
    {
        JsonNode made = (await world.Owner.PostAsync(Path, Rule(), World.Key())).Body!;
        string path = $"{Path}/{made["id"]}";
        JsonObject changed = made.DeepClone().AsObject();
        changed["isOn"] = false;
        JsonObject irish = new() { ["language"] = "ga", ["subject"] = "Go luath", ["body"] = "Dia duit, {{ client }}" };
        changed["texts"]!.AsArray().Add(irish);
        ApiAnswer saved = await world.Owner.PutAsync(path, changed, (long)made["version"]!);
        saved.Status.ShouldBe(HttpStatusCode.OK, saved.Body?.ToJsonString());
        saved.Body!["texts"]!.AsArray().Count.ShouldBe(2);
        (await world.Owner.PutAsync(path, changed, (long)made["version"]!)).Status.ShouldBe(HttpStatusCode.PreconditionFailed);
        (await world.Owner.DeleteAsync(path, (long)saved.Body["version"]!)).Status.ShouldBe(HttpStatusCode.NoContent);
        (await world.Owner.GetAsync(Path)).Body!.AsArray().ShouldNotContain(rule => (string)rule!["id"]! == (string)made["id"]!);
    }

    [Fact]
    public async Task Quiet_hours_are_set_and_kept_in_steps_of_five_minutes()
    {
        JsonNode quiet = (await world.Owner.GetAsync("/api/v1/setup/quiet-hours")).Body!;
        ((string)quiet["from"]!, (string)quiet["until"]!).ShouldBe(("21:00:00", "08:00:00"));
        ApiAnswer saved = await world.Owner.PutAsync(
            "/api/v1/setup/quiet-hours",
            new { from = "20:30:00", until = "08:00:00" },
            (long)quiet["version"]!
        );
        saved.Status.ShouldBe(HttpStatusCode.OK, saved.Body?.ToJsonString());
        ApiAnswer odd = await world.Owner.PutAsync(
            "/api/v1/setup/quiet-hours",
            new { from = "20:31:00", until = "08:00:00" },
            (long)saved.Body!["version"]!
        );
        (odd.Status, odd.Field).ShouldBe((HttpStatusCode.BadRequest, "from"));
    }
}
