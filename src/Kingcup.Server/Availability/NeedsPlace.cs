using Kingcup.Core.Availability;
using Kingcup.Core.Calendar;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Availability;

/// <summary>A visit booked ahead that has lost its place.</summary>
/// <param name="Visit">The visit.</param>
/// <param name="Reasons">What it has lost.</param>
public sealed record LostVisit(StoredVisit Visit, IReadOnlyList<Reason> Reasons);

/// <summary>A visit that needs a place, for the tray.</summary>
public sealed record NeedsPlaceAnswer
{
    /// <summary>The visit.</summary>
    public required Guid VisitId { get; init; }

    /// <summary>What the client reads out.</summary>
    public required string Reference { get; init; }

    /// <summary>Where.</summary>
    public required Guid LocationId { get; init; }

    /// <summary>Local date.</summary>
    public required LocalDate Date { get; init; }

    /// <summary>When the client comes.</summary>
    public required Instant Start { get; init; }

    /// <summary>Zone of the location.</summary>
    public required string Zone { get; init; }

    /// <summary>Who comes.</summary>
    public required string Client { get; init; }

    /// <summary>What for.</summary>
    public required string Service { get; init; }

    /// <summary>Where it stands.</summary>
    public required Kingcup.Core.Booking.VisitState State { get; init; }

    /// <summary>When it lapses, where somebody still has to agree; null for anything else.</summary>
    public required Instant? LapsesAt { get; init; }

    /// <summary>What it has lost; empty for what only waits for somebody to agree.</summary>
    public required IReadOnlyList<ReasonText> Reasons { get; init; }
}

/// <summary>Finds the visits that have lost their place. Nothing is kept about it: it follows from the setup, what holds on dates, and the
/// book.</summary>
internal static class NeedsPlace
{
    /// <summary>
    /// The visits ahead that a change of the setup may hit: those with a person, room, pool, service or location that is not as it was.
    /// Each
    /// of them has a version that counts its changes.
    /// </summary>
    internal static Task<IReadOnlyList<StoredVisit>> TouchedAsync(NpgsqlConnection connection, Setup before, Setup after, Instant now)
    {
        Guid[] resources = Changed(
            before,
            after,
            setup =>
                [
                    .. setup.Parts.Practitioners.Select(listed => (listed.Practitioner.Id, $"{listed.Version}")),
                    .. setup.Parts.Rotas.Select(rota => (rota.Value.PractitionerId, $"rota {rota.Value.From} {rota.Version}")),
                    .. setup.Parts.Rooms.Select(listed => (listed.Room.Id, $"{listed.Version}")),
                    .. setup.Parts.Pools.Select(listed => (listed.Pool.Id, $"{listed.Version}")),
                    .. setup.Parts.RepeatingBlocks.Select(block => (block.Value.ResourceId, $"block {block.Value.Id} {block.Version}")),
                ]
        );
        Guid[] services = Changed(
            before,
            after,
            setup => [.. setup.Parts.Services.Select(listed => (listed.Service.Id, $"{listed.Version}"))]
        );
        Guid[] locations = Changed(
            before,
            after,
            setup =>
                [
                    .. setup.Parts.Locations.Select(listed => (listed.Location.Id, $"{listed.Version}")),
                    .. setup.Parts.YearlyClosures.Select(closure =>
                        (closure.Value.LocationId, $"closed {closure.Value.Date} {closure.Version}")
                    ),
                ]
        );
        return BookStore.WithAnyAsync(connection, resources, services, locations, now);
    }

    private static Guid[] Changed(Setup before, Setup after, Func<Setup, HashSet<(Guid Id, string Version)>> versions)
    {
        HashSet<(Guid Id, string Version)> changed = versions(before);
        changed.SymmetricExceptWith(versions(after));
        return [.. changed.Select(version => version.Id).Distinct()];
    }

    /// <summary>What holds on the dates of visits.</summary>
    internal static async Task<CalendarWindow> DatesAsync(NpgsqlConnection connection, IReadOnlyList<StoredVisit> ahead) =>
        ahead.Count == 0
            ? CalendarWindow.Empty
            : await CalendarReader.WindowAsync(
                connection,
                ahead.Min(visit => visit.Visit.Date).PlusDays(-1),
                ahead.Max(visit => visit.Visit.Date).PlusDays(2)
            );

    /// <summary>Those of <paramref name="ahead"/> that no longer have their place in a setup.</summary>
    internal static IReadOnlyList<LostVisit> Of(Setup setup, DatedCalendar dated, IEnumerable<StoredVisit> ahead)
    {
        Dictionary<(Guid, LocalDate), DayBook> days = [];
        List<LostVisit> lost = [];
        foreach (StoredVisit visit in ahead)
        {
            if (setup.HouseOf(visit.Visit.LocationId) is not { } house)
                continue;
            LocalDate date = visit.Visit.StartsAt.InZone(house.Location.Zone).Date;
            if (!days.TryGetValue((house.Location.Id, date), out DayBook? day))
                days[(house.Location.Id, date)] = day = new DayBook(house, date, dated, []);
            Dictionary<Guid, Guid> serviceOf = visit.Lines.ToDictionary(line => line.Id, line => line.ServiceId);
            IReadOnlyList<Reason> reasons = PlaceCheck.Of(
                day,
                visit.Claims.Select(claim => new StandingClaim(
                    claim.ResourceId,
                    claim.Unit,
                    claim.During,
                    claim.Core,
                    claim.Role,
                    serviceOf[claim.OccupationId]
                )
                {
                    OutsideShift = claim.OutsideShift,
                    Unsuited = claim.Unsuited,
                    OverBlocks = claim.OverBlocks,
                })
            );
            if (reasons.Count > 0)
                lost.Add(new LostVisit(visit, reasons));
        }

        return lost;
    }

    internal static NeedsPlaceAnswer Answer(Setup setup, LostVisit lost)
    {
        VisitRow visit = lost.Visit.Visit;
        House house = setup.HouseOf(visit.LocationId)!;
        return new NeedsPlaceAnswer
        {
            VisitId = visit.Id,
            Reference = visit.Reference,
            LocationId = visit.LocationId,
            Date = visit.Date,
            Start = visit.StartsAt,
            Zone = house.Location.Zone.Id,
            Client = $"{visit.GivenName} {visit.FamilyName}",
            Service = string.Join(" + ", lost.Visit.Lines.Select(line => setup.ServiceOf(line.ServiceId)?.Name ?? "")),
            State = visit.VisitState,
            LapsesAt = visit.LapsesAt,
            Reasons = ReasonWords.Of([.. lost.Reasons], house),
        };
    }
}
