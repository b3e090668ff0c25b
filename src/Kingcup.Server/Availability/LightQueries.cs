using Kingcup.Core.Availability;
using Kingcup.Core.Money;
using Kingcup.Core.Time;
using Kingcup.Server.Booking;
using Kingcup.Server.Money;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Availability;

/// <summary>Answers what glows in the book while something is carried.</summary>
public sealed class LightQueries(Database database, BookReader book, StartQueries starts, IClock clock)
{
    /// <summary>Where a visit fits on some days, lane by lane, and how it would lie.</summary>
    public async Task<LightsAnswer> OfAsync(LightsRequest request)
    {
        ArgumentNullException.ThrowIfNull(request);
        StartQueries.Carried carried;
        NarrowRequest narrow = NarrowRequest.Check(request.Narrow);
        LightFinder finder;
        Dictionary<LocalDate, WeekLoad?> weeks = [];
        NpgsqlConnection connection = await database.OpenAsync();
        await using (connection)
        {
            carried = await starts.CarriedAsync(connection, request);
            finder = new LightFinder(carried.House, narrow.Of(carried.Wish), request.AnyLead ?? false);
            foreach (LocalDate monday in carried.Days.Select(day => BookReader.MondayOf(day.Day.Date)).Distinct())
            {
                weeks[monday] = finder.AsksForLoad
                    ? WeekLoad.Of(await book.DaysAsync(connection, carried.Setup, carried.House, monday, 7))
                    : null;
            }
        }

        VisitPrice usual = Prices.Usual(carried.Setup, carried.Wanted);
        Instant earliest = clock.GetCurrentInstant() - Duration.FromMinutes(Grain.Minutes);
        return new LightsAnswer(
            [
                .. carried.Days.Select(day =>
                {
                    int from = earliest <= day.Day.Start ? DaySet.First : day.Day.Ceiling(Instant.Min(earliest, day.Day.End));
                    IReadOnlyList<LaneLight> lights = finder.On(
                        day,
                        narrow.Of(day.Day) & DaySet.Range(from, DaySet.Last + 1),
                        weeks[BookReader.MondayOf(day.Day.Date)]
                    );
                    return new DayLights(day.Day.Date, [.. lights.Select(lane => Of(day, lane, carried.PriceOf))]);
                }),
            ],
            finder.UsualMinutes,
            new MoneyAnswer(usual.Total, carried.Setup.Business.Currency),
            usual.IsFrom
        );
    }

    private static LaneLights Of(DayBook day, LaneLight lane, Func<VisitPlan, MoneyAnswer> price) =>
        new(
            lane.ResourceId,
            [
                .. lane.Ranges.Select(range => new LightRangeAnswer
                {
                    First = day.Day.At(range.First),
                    Last = day.Day.At(range.Last),
                    Minutes = (int)(range.Plan.End - range.Plan.Start).TotalMinutes,
                    PractitionerId = range.Plan.Lines[0].Practitioners[0],
                    Practitioner = StartQueries.PeopleOf(day.House, range.Plan),
                    Rooms = StartQueries.RoomsOf(day.House, range.Plan),
                    Price = price(range.Plan),
                    Claims = [.. range.Plan.Claims.Select(claim => Of(range.Plan.Start, claim))],
                }),
            ]
        );

    private static LightClaim Of(Instant start, PlannedClaim claim) =>
        new(
            claim.Line,
            claim.ResourceId,
            claim.Unit,
            (int)(claim.During.Start - start).TotalMinutes,
            (int)(claim.During.End - start).TotalMinutes,
            (int)(claim.Core.Start - start).TotalMinutes,
            (int)(claim.Core.End - start).TotalMinutes
        );
}
