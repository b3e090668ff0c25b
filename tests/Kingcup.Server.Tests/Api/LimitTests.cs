using System.Globalization;
using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Api;

/// <summary>Limits the API document states of what is kept, from which the screens take theirs.</summary>
public sealed class LimitTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private static readonly Dictionary<string, string> _keptAt = new()
    {
        ["AccountDocument"] = "/api/v1/setup/accounts",
        ["AddOnDocument"] = "/api/v1/setup/add-ons",
        ["BookingPageDocument"] = "/api/v1/setup/booking-page",
        ["BusinessDocument"] = "/api/v1/setup/business",
        ["CategoryDocument"] = "/api/v1/setup/categories",
        ["ClientDocument"] = "/api/v1/clients",
        ["EquipmentDocument"] = "/api/v1/setup/equipment",
        ["GuaranteeDocument"] = "/api/v1/setup/guarantees",
        ["LocationDocument"] = "/api/v1/setup/locations",
        ["MessageRuleDocument"] = "/api/v1/setup/messages",
        ["PromoDocument"] = "/api/v1/setup/promos",
        ["PolicyDocument"] = "/api/v1/setup/locations/{0}/policy",
        ["PractitionerDocument"] = "/api/v1/setup/practitioners",
        ["QuestionDocument"] = "/api/v1/setup/questions",
        ["RoomDocument"] = "/api/v1/setup/rooms",
        ["ServiceDocument"] = "/api/v1/setup/services",
    };

    private async Task<JsonObject> SchemasAsync() =>
        (await world.Owner.GetAsync("/openapi/v1.json")).Body!["components"]!["schemas"]!.AsObject();

    /// <summary>Something of the kind as it is stored, and where.</summary>
    private async Task<(string Address, JsonObject Stored)> OneOfAsync(string kind)
    {
        string address = string.Format(CultureInfo.InvariantCulture, _keptAt[kind], await world.IdAsync("locations", "Mill Street"));
        if (kind == "ClientDocument")
        {
            JsonNode made = (
                await world.Owner.PostAsync(address, new { givenName = "Ada", familyName = "Marsh", phone = "020 910 0001" })
            ).Body!;
            address += "/" + (string)made["id"]!;
            return (address, (await world.Owner.GetAsync(address)).Body!.AsObject());
        }

        JsonNode found = (await world.Owner.GetAsync(address)).Body!;
        if (found is JsonObject only) return (address, only);
        JsonArray all = found.AsArray();
        if (kind == "GuaranteeDocument")
        {
            JsonObject rule = new()
            {
                ["place"] = "location",
                ["placeId"] = await world.IdAsync("locations", "Mill Street"),
                ["demand"] = "nothing",
            };
            return (address + "/", (await world.Owner.PostAsync(address, rule)).Body!.AsObject());
        }

        if (all.Count == 0)
        {
            kind.ShouldBe("QuestionDocument");
            JsonObject question = new()
            {
                ["text"] = "How did you find us?",
                ["hint"] = "",
                ["kind"] = "line",
                ["choices"] = new JsonArray(),
                ["required"] = false,
                ["serviceIds"] = new JsonArray(),
            };
            return (address + "/", (await world.Owner.PostAsync(address, question)).Body!.AsObject());
        }

        JsonObject first = all[0]!.DeepClone().AsObject();
        return ($"{address}/{(string)first["id"]!}", first);
    }

    [Fact]
    public async Task Whatever_is_beyond_a_limit_the_document_states_is_refused_at_its_field_and_nothing_is_kept()
    {
        int tried = 0;
        foreach ((string kind, JsonNode? schema) in await SchemasAsync())
        {
            if (!kind.EndsWith("Document", StringComparison.Ordinal)) continue;
            foreach ((string field, JsonNode? property) in schema!["properties"]?.AsObject() ?? [])
            {
                List<JsonNode> beyond = [];
                if (property!["maxLength"] is { } longest) beyond.Add(JsonValue.Create(new string('x', (int)longest + 1)));
                if (property["minimum"] is { } least) beyond.Add(JsonValue.Create((int)least - 1));
                if (property["maximum"] is { } most) beyond.Add(JsonValue.Create((int)most + 1));
                if (beyond.Count == 0) continue;
                _keptAt.ShouldContainKey(kind);
                (string address, JsonObject stored) = await OneOfAsync(kind);
                if (address.EndsWith('/')) address += (string)stored["id"]!;
                foreach (JsonNode value in beyond)
                {
                    JsonObject changed = stored.DeepClone().AsObject();
                    changed[field] = value;
                    ApiAnswer answer = await world.Owner.PutAsync(address, changed, stored["version"]!.GetValue<long>());
                    answer.Status.ShouldBe(HttpStatusCode.BadRequest, $"{kind}.{field}");
                    answer.Body!["errors"]!.AsObject().ShouldContainKey(field);
                    tried++;
                }
            }
        }

        tried.ShouldBeGreaterThan(30);
    }

    [Fact]
    public async Task A_value_at_its_limit_is_kept_and_blanks_around_a_text_do_not_count()
    {
        (string address, JsonObject room) = await OneOfAsync("RoomDocument");
        JsonObject kept = await world.Owner.ChangeAsync(
            address,
            room,
            entry =>
            {
                entry["name"] = "  " + new string('x', 200) + " ";
                entry["capacity"] = 200;
            }
        );
        ((string)kept["name"]!).ShouldBe(new string('x', 200));
        ((int)kept["capacity"]!).ShouldBe(200);
    }
}
