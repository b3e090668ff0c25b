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
/// <param name="VisitId">The visit.</param>
/// <param name="Reference">What the client reads out.</param>
/// <param name="LocationId">Where.</param>
/// <param name="Date">Local date.</param>
/// <param name="Start">When the client comes.</param>
/// <param name="Zone">Zone of the location.</param>
/// <param name="Client">Who comes.</param>
/// <param name="Service">What for.</param>
/// <param name="State">Where it stands.</param>
/// <param name="Reasons">What it has lost; empty for a request that waits for approval.</param>
public sealed record NeedsPlaceAnswer(
    Guid VisitId, string Reference, Guid LocationId, LocalDate Date, Instant Start, string Zone, string Client, string Service,
    Kingcup.Core.Booking.VisitState State, IReadOnlyList<ReasonText> Reasons);

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
        Guid[] resources = Changed(before, after, setup =>
        [
            .. setup.Parts.Practitioners.Select(listed => (listed.Practitioner.Id, $"{listed.Version}")),
            .. setup.Parts.Rotas.Select(rota => (rota.Value.PractitionerId, $"rota {rota.Value.From} {rota.Version}")),
            .. setup.Parts.Rooms.Select(listed => (listed.Room.Id, $"{listed.Version}")),
            .. setup.Parts.Pools.Select(listed => (listed.Pool.Id, $"{listed.Version}")),
            .. setup.Parts.RepeatingBlocks.Select(block => (block.Value.ResourceId, $"block {block.Value.Id} {block.Version}")),
        ]);
        Guid[] services = Changed(before, after, setup =>
        [
            .. setup.Parts.Services.Select(listed => (listed.Service.Id, $"{listed.Version}")),
        ]);
        Guid[] locations = Changed(before, after, setup =>
        [
            .. setup.Parts.Locations.Select(listed => (listed.Location.Id, $"{listed.Version}")),
            .. setup.Parts.YearlyClosures.Select(closure => (closure.Value.LocationId, $"closed {closure.Value.Date} {closure.Version}")),
        ]);
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
            if (setup.HouseOf(visit.Visit.LocationId) is not { } house) continue;
            LocalDate date = visit.Visit.StartsAt.InZone(house.Location.Zone).Date;
            if (!days.TryGetValue((house.Location.Id, date), out DayBook? day))
                days[(house.Location.Id, date)] = day = new DayBook(house, date, dated, []);
            Dictionary<Guid, Guid> serviceOf = visit.Lines.ToDictionary(line => line.Id, line => line.ServiceId);
            IReadOnlyList<Reason> reasons = PlaceCheck.Of(day, visit.Claims.Select(claim => new StandingClaim(
                claim.ResourceId, claim.Unit, claim.During, claim.Core, claim.Role, serviceOf[claim.OccupationId])
            {
                OutsideShift = claim.OutsideShift,
                OverBlocks = claim.OverBlocks,
            }));
            if (reasons.Count > 0) lost.Add(new LostVisit(visit, reasons));
        }

        return lost;
    }

    internal static NeedsPlaceAnswer Answer(Setup setup, LostVisit lost)
    {
        VisitRow visit = lost.Visit.Visit;
        House house = setup.HouseOf(visit.LocationId)!;
        return new NeedsPlaceAnswer(
            visit.Id,
            visit.Reference,
            visit.LocationId,
            visit.Date,
            visit.StartsAt,
            house.Location.Zone.Id,
            $"{visit.GivenName} {visit.FamilyName}",
            string.Join(" + ", lost.Visit.Lines.Select(line => setup.ServiceOf(line.ServiceId)?.Name ?? "")),
            visit.VisitState,
            ReasonWords.Of([.. lost.Reasons], house)
        );
    }
}
