using Kingcup.Core.Calendar;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Server.Team;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Calendar;

/// <summary>Shifts over a range of dates for several people, to be added in one go.</summary>
/// <param name="From">The first date.</param>
/// <param name="Until">The last date.</param>
/// <param name="Weekdays">On which days of the week; none for every day.</param>
/// <param name="Shift">The shift of each of these days, without breaks.</param>
/// <param name="PractitionerIds">Who works it.</param>
/// <param name="Instead">Where somebody works then already: whether this shift holds for its time, or what they work stays.</param>
/// <param name="Reason">Why, for the people who read the book.</param>
public sealed record ExtraShiftsRequest(
    LocalDate From,
    LocalDate Until,
    IReadOnlyList<Weekday>? Weekdays,
    ShiftDocument? Shift,
    IReadOnlyList<Guid>? PractitionerIds,
    bool Instead = false,
    string? Reason = null
);

/// <summary>Extra shifts that stand.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Asked">What was asked.</param>
/// <param name="AddedAt">When they were added.</param>
/// <param name="AddedBy">By whom.</param>
/// <param name="Days">How many days of people they made.</param>
/// <param name="Changed">How many of these have been changed since; those stay when the others are taken back.</param>
public sealed record ExtraShiftsAnswer(Guid Id, ExtraShiftsRequest Asked, Instant AddedAt, string AddedBy, int Days, int Changed);

/// <summary>What would come of extra shifts.</summary>
/// <param name="Days">Each day of somebody that would change, by date.</param>
/// <param name="Unchanged">How many would not: the location is closed then, or they work all of that time already.</param>
public sealed record ExtraShiftsTried(IReadOnlyList<ExtraDayTried> Days, int Unchanged);

/// <summary>A day of somebody that would change.</summary>
/// <param name="PractitionerId">Whose.</param>
/// <param name="Date">Which.</param>
/// <param name="Before">What they work now.</param>
/// <param name="After">What they would work.</param>
/// <param name="Added">What of that is new.</param>
public sealed record ExtraDayTried(
    Guid PractitionerId,
    LocalDate Date,
    IReadOnlyList<ShiftDocument> Before,
    IReadOnlyList<ShiftDocument> After,
    IReadOnlyList<ShiftDocument> Added
);

/// <summary>Shifts added over a range of dates in one go, and taken back in one go.</summary>
internal static class ExtraShiftEndpoints
{
    private const int MostDays = 1000,
        MostShiftsADay = 6;

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/setup/extra-shifts").RequireAuthorization(Rights.EditSetup).WithTags("Shifts").Problems();
        group.MapGet("", ListAsync).WithSummary("Extra shifts that are not over yet, the newest first.");
        group.MapPost("/try", TryAsync).WithSummary("What would come of extra shifts; nothing is kept.");
        group.MapPost("", AddAsync).Hits().WithSummary("Adds shifts over a range of dates for several people, all at once.");
        group
            .MapDelete("/{id:guid}", TakeBackAsync)
            .Hits()
            .WithSummary("Takes extra shifts back, all at once. Days past or changed since stay, and so does what is booked.");
    }

    private static async Task<Ok<ExtraShiftsAnswer[]>> ListAsync(Database database, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok((await ExtraShiftsStore.SinceAsync(connection, OwnCalendar.Since(clock))).Select(Of).ToArray());
    }

    private static ExtraShiftsAnswer Of(KeptExtraShifts kept) =>
        new(kept.Id, Of(kept.Extra), kept.AddedAt, kept.AddedBy, kept.Days, kept.Days - kept.Standing);

    private static ExtraShiftsRequest Of(ExtraShifts extra) =>
        new(
            extra.From,
            extra.Until,
            [.. extra.Weekdays.Order().Select(day => (Weekday)day)],
            ShiftDocument.Of(extra.Shift),
            extra.PractitionerIds,
            extra.Instead,
            extra.Reason
        );

    private static async Task<Ok<ExtraShiftsTried>> TryAsync(ExtraShiftsRequest request, Database database, BookReader book)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        ExtraShifts extra = Check(request, setup);
        DatedCalendar dated = (await CalendarReader.WindowAsync(connection, extra.From, extra.Until)).With(setup);
        List<ShiftChange> days = DaysOf(setup, dated, extra);
        return TypedResults.Ok(
            new ExtraShiftsTried(
                [
                    .. days.Select(day => new ExtraDayTried(
                        day.PractitionerId,
                        day.Date,
                        [.. dated.ShiftsOn(setup.Rotas, day.PractitionerId, day.Date).Select(ShiftDocument.Of)],
                        [.. day.Shifts.Select(ShiftDocument.Of)],
                        [.. extra.AddedOn(dated, setup.Rotas, day.PractitionerId, day.Date).Select(ShiftDocument.Of)]
                    )),
                ],
                (extra.Dates.Count() * extra.PractitionerIds.Count) - days.Count
            )
        );
    }

    private static async Task<Created<MadeAnswer>> AddAsync(ExtraShiftsRequest request, HttpContext http, CalendarDesk desk)
    {
        MadeAnswer made = new(Guid.CreateVersion7());
        string location = $"/api/v1/setup/extra-shifts/{made.Id}";
        await desk.ChangeAsync(
            http,
            (setup, _) =>
            {
                ExtraShifts extra = Check(request, setup);
                List<LocalDate> dates = [.. extra.Dates];
                return Task.FromResult(
                    new CalendarPlan
                    {
                        Days = dates,
                        Meets = [.. extra.PractitionerIds.SelectMany(id => Met(setup, id, dates))],
                        WriteAsync = change => WriteAsync(change, made.Id, extra),
                    }
                );
            },
            new Answered(location, made)
        );
        return TypedResults.Created(location, made);
    }

    private static async Task WriteAsync(CalendarChange change, Guid id, ExtraShifts extra)
    {
        CalendarWindow before = await CalendarReader.WindowAsync(change.Connection, extra.From, extra.Until);
        List<ShiftChange> days = DaysOf(change.Setup, before.With(change.Setup), extra);
        if (days.Count == 0)
            throw Refused.Invalid("from", "Nothing would be added: the location is closed on these days, or they work then already.");
        await change.Writer.AddAsync(id, extra, days, before, change.By);
        foreach (Guid practitionerId in extra.PractitionerIds)
            await change.RecordAsync("practitioner", practitionerId, "Extra shifts", null, Of(extra));
    }

    private static async Task<NoContent> TakeBackAsync(Guid id, HttpContext http, CalendarDesk desk, IClock clock)
    {
        await desk.ChangeAsync(
            http,
            async (setup, connection) =>
            {
                ExtraShifts extra = await FindAsync(connection, id, clock);
                IReadOnlyList<ExtraDay> days = await ExtraShiftsStore.DaysAsync(connection, id);
                return new CalendarPlan
                {
                    Days = [.. days.Select(day => day.Date).Distinct()],
                    Meets = [.. days.SelectMany(day => Met(setup, day.PractitionerId, [day.Date]))],
                    WriteAsync = change => RestoreAsync(change, id, extra),
                };
            }
        );
        return TypedResults.NoContent();
    }

    private static async Task RestoreAsync(CalendarChange change, Guid id, ExtraShifts extra)
    {
        // Under the locks: what was read before may have been changed meanwhile.
        IReadOnlyList<ExtraDay> days = await ExtraShiftsStore.DaysAsync(change.Connection, id);
        if (days.Count == 0) throw Refused.NotFound("There are no such extra shifts.");
        // What was worked on days that are past stays as it was worked.
        LocalDate today = change.By.At.InZone(change.Setup.HouseOf(extra.Shift.LocationId)!.Location.Zone).Date;
        List<ExtraDay> ahead = [.. days.Where(day => day.Date >= today)];
        if (ahead.Any(day => day.MadeBy is { } by && by != id))
            throw new Refused(
                StatusCodes.Status409Conflict,
                "later-extra-shifts",
                "Other extra shifts were added to some of these days later. Take those back first."
            );
        await change.Writer.TakeBackAsync(id, ahead);
        foreach (Guid practitionerId in extra.PractitionerIds)
            await change.RecordAsync("practitioner", practitionerId, "Extra shifts taken back", Of(extra), null);
    }

    private static async Task<ExtraShifts> FindAsync(NpgsqlConnection connection, Guid id, IClock clock) =>
        (await ExtraShiftsStore.SinceAsync(connection, OwnCalendar.Since(clock))).FirstOrDefault(kept => kept.Id == id)?.Extra
        ?? throw Refused.NotFound("There are no such extra shifts.");

    private static IEnumerable<StretchOfTime> Met(Setup setup, Guid practitionerId, IEnumerable<LocalDate> dates) =>
        dates.Select(date => new StretchOfTime(practitionerId, null, CalendarDesk.Everywhere(setup, date)));

    /// <summary>What each day of each of them becomes, by date.</summary>
    private static List<ShiftChange> DaysOf(Setup setup, DatedCalendar dated, ExtraShifts extra)
    {
        List<ShiftChange> days =
        [
            .. extra.Dates.SelectMany(date => extra.PractitionerIds.Select(id => extra.On(dated, setup.Rotas, id, date)))
                .OfType<ShiftChange>(),
        ];
        if (days.FirstOrDefault(day => day.Shifts.Count > MostShiftsADay) is { } full)
            throw Refused.Invalid(
                "practitionerIds",
                $"{NameOf(setup, full.PractitionerId)} would have more than {MostShiftsADay} shifts on {full.Date}."
            );
        return days;
    }

    private static string NameOf(Setup setup, Guid practitionerId) =>
        setup.Practitioners.First(practitioner => practitioner.Id == practitionerId).Name;

    private static ExtraShifts Check(ExtraShiftsRequest request, Setup setup)
    {
        Checks checks = new();
        checks.Require(request.From.Year is >= 2000 and <= 2100, "from", "Choose a date between the years 2000 and 2100.");
        checks.Require(request.Until >= request.From, "until", "The last day is the first or comes after it.");
        checks.Require(Period.DaysBetween(request.From, request.Until) <= 366, "until", "A year at the most in one go.");
        checks.Require((request.Reason?.Length ?? 0) <= 200, "reason", "200 characters at the most.");
        List<Guid> people = [.. (request.PractitionerIds ?? []).Distinct()];
        checks.Require(people.Count is >= 1 and <= 200, "practitionerIds", "Choose who works then.");
        foreach ((int i, Guid id) in people.Index())
            checks.Require(
                setup.Practitioners.Any(practitioner => practitioner.Id == id),
                $"practitionerIds[{i}]",
                "There is no such practitioner."
            );
        Shift? shift = request.Shift?.Shift;
        checks.Require(shift is not null, "shift", "Say from when until when, and where.");
        if (shift is not null)
        {
            request.Shift!.Check(checks, setup, "shift.");
            checks.Require(shift.Breaks.Count == 0, "shift.breaks", "Extra shifts have no breaks; add two of them instead.");
            checks.Add(ShiftCheck.Of([shift], _ => "shift."));
        }

        checks.Done();
        ExtraShifts extra = new(
            request.From,
            request.Until,
            (request.Weekdays ?? []).Select(day => (IsoDayOfWeek)day).ToHashSet(),
            shift!,
            people,
            request.Instead,
            string.IsNullOrWhiteSpace(request.Reason) ? null : request.Reason.Trim()
        );
        int dates = extra.Dates.Count();
        checks.Require(dates > 0, "weekdays", "None of these days of the week lies between the two dates.");
        checks.Require(dates * people.Count <= MostDays, "until", $"{MostDays} days of people at the most in one go.");
        checks.Done();
        return extra;
    }
}
