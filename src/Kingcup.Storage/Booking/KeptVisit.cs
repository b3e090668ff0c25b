using System.Text.Json;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;

namespace Kingcup.Storage;

/// <summary>A visit as it is kept beside the book: how it stood before a step, or how it would lie. Whom it is for is not in it, who may
/// change their name meanwhile.</summary>
internal sealed record KeptVisit(
    VisitRow Visit,
    IReadOnlyList<AppointmentRow> Lines,
    IReadOnlyList<ClaimRow> Claims,
    IReadOnlyList<LineAddOn> AddOns,
    IReadOnlyList<PricePartRow> PriceParts,
    IReadOnlyList<VisitPersonRow> People
)
{
    private static readonly JsonSerializerOptions _json = new JsonSerializerOptions().ConfigureForNodaTime(DateTimeZoneProviders.Tzdb);

    /// <summary>The visit as JSON.</summary>
    internal static string Json(StoredVisit visit) =>
        JsonSerializer.Serialize(
            new KeptVisit(
                visit.Visit with
                {
                    GivenName = "",
                    FamilyName = "",
                    Phone = null,
                    Email = null,
                    Alert = null,
                },
                visit.Lines,
                visit.Claims,
                visit.AddOns,
                visit.PriceParts,
                visit.People
            ),
            _json
        );

    /// <summary>The visit that was kept.</summary>
    internal static StoredVisit Read(string json)
    {
        KeptVisit kept = JsonSerializer.Deserialize<KeptVisit>(json, _json)!;
        return new StoredVisit(kept.Visit, kept.Lines, kept.Claims, kept.AddOns) { PriceParts = kept.PriceParts, People = kept.People };
    }
}
