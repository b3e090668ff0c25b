using System.Text.Json.Nodes;
using Kingcup.Testing;

namespace Kingcup.Browser.Tests.Booking;

/// <summary>Visits that are there before somebody looks.</summary>
internal static class Visits
{
    /// <summary>Books a row of visits of one line for Maren Holt.</summary>
    internal static async Task BookRowAsync(ApiClient desk, string locationId, string service, string practitioner, params string[] starts)
    {
        JsonNode setup = (await desk.GetAsync("/api/v1/setup")).Body!;
        string Id(string list, string name) =>
            setup[list]!.AsArray().Single(entry => (string)entry!["name"]! == name)!["id"]!.GetValue<string>();
        ApiAnswer answer = await desk.PostAsync(
            "/api/v1/visits/repeat",
            new
            {
                locationId,
                occurrences = starts.Select(start => new { start }),
                newClient = new { givenName = "Maren", familyName = "Holt" },
                lines = new[] { new { serviceId = Id("services", service), practitionerId = Id("practitioners", practitioner) } },
            }
        );
        if (answer.Status != System.Net.HttpStatusCode.Created) throw new InvalidOperationException(answer.Body?.ToJsonString());
    }

    /// <summary>Books a visit of one line for a new client.</summary>
    internal static async Task<JsonNode> BookAsync(
        ApiClient desk,
        string locationId,
        string service,
        string start,
        string practitioner,
        string given,
        string family,
        string? email = null
    )
    {
        JsonNode setup = (await desk.GetAsync("/api/v1/setup")).Body!;
        string Id(string list, string name) =>
            setup[list]!.AsArray().Single(entry => (string)entry!["name"]! == name)!["id"]!.GetValue<string>();
        ApiAnswer answer = await desk.PostAsync(
            "/api/v1/visits",
            new
            {
                locationId,
                start,
                newClient = new { givenName = given, familyName = family, email },
                lines = new[] { new { serviceId = Id("services", service), practitionerId = Id("practitioners", practitioner) } },
            }
        );
        return answer.Status == System.Net.HttpStatusCode.Created
            ? answer.Body!
            : throw new InvalidOperationException(answer.Body?.ToJsonString());
    }
}
