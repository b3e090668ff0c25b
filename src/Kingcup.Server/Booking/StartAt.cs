using NodaTime;

namespace Kingcup.Server.Booking;

/// <summary>A start, as an instant and as the clock of the location shows it.</summary>
/// <param name="Start">The instant.</param>
/// <param name="Local">Local date and time.</param>
public sealed record StartAt(Instant Start, LocalDateTime Local);
