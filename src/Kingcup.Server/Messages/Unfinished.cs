using System.Text.Json;
using Kingcup.Server.Booking;
using NodaTime;

namespace Kingcup.Server.Messages;

/// <summary>A booking somebody began to pay for and left.</summary>
/// <param name="Email">Where they are written to.</param>
/// <param name="GivenName">How they are called.</param>
/// <param name="LocationId">Where they wanted to come.</param>
/// <param name="ServiceIds">What they wanted.</param>
/// <param name="Start">When.</param>
internal sealed record Unfinished(string Email, string GivenName, Guid LocationId, IReadOnlyList<Guid> ServiceIds, Instant Start)
{
    /// <summary>What is kept of a booking that waited for its payment, as JSON.</summary>
    /// <param name="wanted">Who wanted to book what, as it was kept with the payment.</param>
    internal static string Json(string wanted)
    {
        PublicBookRequest request = JsonSerializer.Deserialize<KeptBooking>(wanted, KeptBooking.Json)!.Request;
        return JsonSerializer.Serialize(
            new Unfinished(
                (request.Email ?? "").Trim().ToLowerInvariant(),
                (request.GivenName ?? "").Trim(),
                request.LocationId,
                [.. (request.Lines ?? []).Select(line => line.ServiceId)],
                request.Start
            ),
            KeptBooking.Json
        );
    }

    /// <summary>Reads what was kept.</summary>
    internal static Unfinished Read(string json) => JsonSerializer.Deserialize<Unfinished>(json, KeptBooking.Json)!;
}
