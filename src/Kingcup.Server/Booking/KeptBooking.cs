using System.Text.Json;
using System.Text.Json.Serialization;
using Kingcup.Storage;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;

namespace Kingcup.Server.Booking;

/// <summary>Who books what, as it is kept until a payment is settled.</summary>
/// <param name="Request">What the client sent.</param>
/// <param name="Origin">What they are known by.</param>
/// <param name="Terms">What was settled when the payment was begun.</param>
/// <param name="PayerId">Who pays, or null where the client does.</param>
internal sealed record KeptBooking(PublicBookRequest Request, OriginAsked Origin, PaidTerms Terms, Guid? PayerId = null)
{
    internal static JsonSerializerOptions Json { get; } = new JsonSerializerOptions
    {
        Converters = { new JsonStringEnumConverter() },
    }.ConfigureForNodaTime(DateTimeZoneProviders.Tzdb);
}
