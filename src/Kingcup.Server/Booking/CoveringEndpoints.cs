using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Clients;
using Kingcup.Core.Services;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <summary>Covering for somebody who is away: what has lost its place on a day, and where all of it could go.</summary>
internal static class CoveringEndpoints
{
    private const int MostAtOnce = 100;

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/locations/{locationId:guid}/covering/{date}")
            .RequireAuthorization(Rights.KeepBook)
            .WithTags("Book")
            .Problems();
        group
            .MapGet("", ProposeAsync)
            .WithSummary("The visits of a day that have lost their place, with a place for as many as can have one. Nothing is changed.");
        group
            .MapPost("", PlaceAsync)
            .WithSummary("Places visits one after another. Each stands for itself: the answer says what became of each.");
    }

    private static async Task<Ok<CoverAnswer[]>> ProposeAsync(
        Guid locationId,
        string date,
        Database database,
        BookReader book,
        IClock clock
    )
    {
        LocalDate on = BookEndpoints.Date(date, "date");
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        House house = setup.HouseOf(locationId) ?? throw Refused.NotFound("There is no such location.");
        Instant now = clock.GetCurrentInstant();
        DayBook day = (await book.DaysAsync(connection, setup, house, on, 1))[0];
        StoredVisit[] ahead =
        [
            .. (await BookStore.DayAsync(connection, locationId, on)).Where(visit =>
                VisitStates.CanMove(visit.Visit.VisitState) && visit.Visit.EndsAt > now
            ),
        ];
        IReadOnlyList<LostVisit> lost = NeedsPlace.Of(setup, day.Dated, ahead);
        ILookup<Guid, ClientVisit> others = (
            await BookStore.AheadAsync(connection, on.PlusDays(-1), [.. lost.Select(visit => visit.Visit.Visit.ClientId).Distinct()])
        ).ToLookup(line => line.ClientId, line => line.Line);
        HashSet<Guid> lostIds = [.. lost.Select(visit => visit.Visit.Visit.Id)];
        Dictionary<Guid, LostVisit> byId = lost.ToDictionary(visit => visit.Visit.Visit.Id);
        return TypedResults.Ok(
            Covering
                .Propose(day, [.. lost.Select(visit => UncoveredOf(visit, others[visit.Visit.Visit.ClientId], lostIds))], now)
                .Select(cover => Of(setup, house, byId[cover.VisitId], cover))
                .ToArray()
        );
    }

    /// <summary>What has lost its place first looks for one with whoever else is still to treat it, then with anybody.</summary>
    private static Uncovered UncoveredOf(LostVisit lost, IEnumerable<ClientVisit> others, HashSet<Guid> lostIds)
    {
        StoredVisit visit = lost.Visit;
        HashSet<Guid> gone = GoneOf(lost);
        VisitWish present = BookingChecks.PresentStaff(visit);
        VisitWish With(Func<LineWish, Guid?> practitioner) =>
            present with
            {
                Lines =
                [
                    .. present.Lines.Select(line => line with
                    {
                        PractitionerId = practitioner(line),
                        RoomId = line.RoomId is { } room && gone.Contains(room) ? null : line.RoomId,
                    }),
                ],
            };
        return new Uncovered(
            visit.Visit.Id,
            visit.Visit.ClientId,
            new Interval(visit.Visit.StartsAt, visit.Visit.EndsAt),
            [
                With(line => line.PractitionerId),
                With(line => line.PractitionerId is { } who && gone.Contains(who) ? null : line.PractitionerId),
                With(_ => null),
            ]
        )
        {
            Occupations = visit.Lines.Select(line => line.Id).ToHashSet(),
            Elsewhere =
            [
                .. others
                    .Where(other => ClientHistory.Holds(other) && !lostIds.Contains(other.VisitId))
                    .Select(other => new Interval(other.Start, other.End)),
            ],
        };
    }

    /// <summary>Who and what a visit has lost.</summary>
    private static HashSet<Guid> GoneOf(LostVisit lost) =>
        [.. lost.Reasons.SelectMany(reason => new[] { reason.OwnerId, reason.SubjectId }).OfType<Guid>()];

    private static CoverAnswer Of(Setup setup, House house, LostVisit lost, Cover cover)
    {
        StoredVisit visit = lost.Visit;
        string Name(Guid id) => house.Practitioners.First(practitioner => practitioner.Id == id).Name;
        return new CoverAnswer
        {
            Visit = NeedsPlace.Answer(setup, lost),
            Version = visit.Visit.Version,
            With = [.. visit.Claims.Where(claim => claim.Role is not null).Select(claim => claim.ResourceId).Distinct().Select(Name)],
            Asked = visit.Lines.Any(line => line.PractitionerAsked),
            Phone = visit.Visit.Phone,
            Start = cover.Plan?.Start,
            NewWith = [.. cover.Plan?.Lines.SelectMany(line => line.Practitioners).Distinct().Select(Name) ?? []],
            NewRooms =
            [
                .. cover.Plan?.Lines.Select(line => line.RoomId)
                    .OfType<Guid>()
                    .Distinct()
                    .Select(id => house.Rooms.First(room => room.Id == id).Name)
                    ?? [],
            ],
            Lines =
            [
                .. cover.Plan?.Lines.Zip(visit.Lines).Select(line => new CoverLine(
                    line.First.Practitioners[0],
                    line.Second.RoomAsked && line.Second.RoomId is { } room && !GoneOf(lost).Contains(room) ? room : null
                )) ?? [],
            ],
            Ways = cover.Ways,
        };
    }

    private static async Task<Ok<StatedAnswer[]>> PlaceAsync(
        Guid locationId,
        string date,
        PlacesRequest request,
        HttpContext http,
        Database database,
        BookingDesk desk
    )
    {
        BookEndpoints.Date(date, "date");
        if (request.Visits.Count is 0 or > MostAtOnce) throw Refused.Invalid("visits", $"Choose 1 to {MostAtOnce} visits.");
        List<StatedAnswer> answers = [];
        foreach (PlaceRequest place in request.Visits.DistinctBy(place => place.VisitId))
        {
            try
            {
                StoredVisit visit;
                await using (NpgsqlConnection connection = await database.OpenAsync())
                {
                    visit = await BookStore.FindAsync(connection, place.VisitId) ?? throw Refused.NotFound("There is no such visit.");
                }

                if (visit.Visit.LocationId != locationId) throw Refused.NotFound("There is no such visit.");
                await desk.LayAsync(place.VisitId, place.Version, LayOf(visit, place), http.Actor());
                answers.Add(new StatedAnswer(place.VisitId, true, null));
            }
            catch (Refused refused)
            {
                answers.Add(new StatedAnswer(place.VisitId, false, refused.Detail.ToString()));
            }
        }

        return TypedResults.Ok(answers.ToArray());
    }

    private static LayRequest LayOf(StoredVisit visit, PlaceRequest place)
    {
        if (place.Lines.Count != visit.Lines.Count)
            throw Refused.Invalid("lines", "Say for each line of the visit who is to take it.");
        return new LayRequest(
            place.Start,
            [
                .. visit.Lines.Select((line, i) => new DeskLineRequest(
                    line.ServiceId,
                    place.Lines[i].PractitionerId,
                    [.. visit.AddOnsByLine[i].Select(added => new AddOnRequest(added.AddOnId, added.Count))]
                )
                {
                    Id = line.Id,
                    RoomId = place.Lines[i].RoomId,
                    Minutes = line.SetMinutes,
                    Person = line.Person,
                    OffsetMinutes = BookingChecks.OffsetOf(visit, i),
                    // Somebody who stands in was not asked for.
                    Asked = line.PractitionerAsked && visit.LeadOf(line) == place.Lines[i].PractitionerId,
                }),
            ]
        );
    }
}
