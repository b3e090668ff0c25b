using Kingcup.Core.Calendar;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Server.Team;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Calendar;

/// <summary>A rota to be given to others too.</summary>
/// <param name="To">Practitioners who get the same shifts from the same date on.</param>
public sealed record CopyRotaRequest(IReadOnlyList<Guid>? To);

/// <summary>When somebody works, and when not.</summary>
/// <param name="PractitionerId">Who.</param>
/// <param name="Rotas">Rotas by their first date.</param>
/// <param name="Changes">Shift changes by date, from the day before yesterday on.</param>
/// <param name="Blocks">Blocked time and time off, from the day before yesterday on, repeating and once.</param>
public sealed record WorkAnswer(
    Guid PractitionerId,
    IReadOnlyList<RotaDocument> Rotas,
    IReadOnlyList<ShiftChangeDocument> Changes,
    IReadOnlyList<BlockDocument> Blocks
);

/// <summary>One day of somebody's calendar.</summary>
/// <param name="Date">The date.</param>
/// <param name="Shifts">Shifts as they hold that day.</param>
/// <param name="IsChange">Whether a shift change replaces the rota.</param>
/// <param name="Reason">Why it does.</param>
/// <param name="Closures">Why locations are closed that day.</param>
/// <param name="Blocks">What is blocked, in words of time and reason.</param>
/// <param name="Version">Version of the shift change, to be sent as If-Match with one; 0 where the rota holds.</param>
public sealed record WorkDay(
    LocalDate Date,
    IReadOnlyList<ShiftDocument> Shifts,
    bool IsChange,
    string? Reason,
    IReadOnlyList<string> Closures,
    IReadOnlyList<WorkBlock> Blocks,
    long Version
);

/// <summary>Blocked time on a day.</summary>
/// <param name="BlockId">The block.</param>
/// <param name="From">From when, local.</param>
/// <param name="Until">Until when, local.</param>
/// <param name="Reason">Why.</param>
/// <param name="Kind">Blocked, or away.</param>
/// <param name="Repeats">Whether it repeats.</param>
public sealed record WorkBlock(Guid BlockId, LocalDateTime From, LocalDateTime Until, string Reason, BlockKind Kind, bool Repeats);

/// <summary>Rotas and shift changes.</summary>
internal static class ShiftEndpoints
{
    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/setup").RequireAuthorization(Rights.EditShifts).WithTags("Shifts").Problems();
        group.MapGet("/practitioners/{id:guid}/work", WorkAsync).WithSummary("Rotas, shift changes and blocked time of a practitioner.");
        RouteGroupBuilder days = api.MapGroup("/setup").RequireAuthorization(Rights.KeepDays).WithTags("Shifts").Problems();
        days.MapGet("/practitioners/{id:guid}/calendar", CalendarAsync).WithSummary("Each day of a run of days as it holds.");
        group.MapPut("/practitioners/{id:guid}/rotas/{from}", SaveRotaAsync).Changes()
            .WithSummary("Sets the rota from a date on. Needs If-Match, 0 where none begins then.");
        group
            .MapDelete("/practitioners/{id:guid}/rotas/{from}", RemoveRotaAsync)
            .Changes()
            .WithSummary("Takes a rota out; the one before it holds again. Needs If-Match.");
        group.MapPost("/practitioners/{id:guid}/rotas/{from}/copy", CopyRotaAsync).Hits().WithSummary("Gives a rota to others too.");
        days.MapPut("/practitioners/{id:guid}/shift-changes/{date}", SaveChangeAsync).Changes()
            .WithSummary("Replaces the rota on one date. Needs If-Match, 0 where the rota holds.");
        days
            .MapDelete("/practitioners/{id:guid}/shift-changes/{date}", RemoveChangeAsync)
            .Changes()
            .WithSummary("Takes a shift change back; the rota holds again. Needs If-Match.");
    }

    private static async Task<Ok<WorkAnswer>> WorkAsync(Guid id, HttpContext http, Database database, BookReader book, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        await OwnCalendar.AllowAsync(http, connection, id, reading: true);
        Setup setup = await book.SetupAsync(connection);
        TeamEndpoints.Find(setup, id);
        return TypedResults.Ok(await WorkOfAsync(setup, connection, id, clock));
    }

    private static async Task<WorkAnswer> WorkOfAsync(Setup setup, NpgsqlConnection connection, Guid id, IClock clock)
    {
        CalendarWindow ahead = await CalendarReader.WindowAsync(connection, OwnCalendar.Since(clock), null, id);
        return new WorkAnswer(
            id,
            [.. setup.Parts.Rotas.Where(rota => rota.Value.PractitionerId == id).OrderBy(rota => rota.Value.From).Select(RotaDocument.Of)],
            [.. ahead.Changes.Select(ShiftChangeDocument.Of)],
            BlockEndpoints.Of(setup, id, ahead));
    }

    private static async Task<Ok<WorkDay[]>> CalendarAsync(
        Guid id,
        string from,
        int days,
        HttpContext http,
        Database database,
        BookReader book
    )
    {
        LocalDate first = BookEndpoints.Date(from, "from");
        if (days is < 1 or > 100) throw Refused.Invalid("days", "Ask for 1 to 100 days.");
        await using NpgsqlConnection connection = await database.OpenAsync();
        await OwnCalendar.AllowAsync(http, connection, id, reading: true);
        Setup setup = await book.SetupAsync(connection);
        TeamEndpoints.Find(setup, id);
        CalendarWindow window = await CalendarReader.WindowAsync(connection, first.PlusDays(-1), first.PlusDays(days));
        DatedCalendar dated = window.With(setup);
        Dictionary<LocalDate, long> versions = window
            .Changes.Where(change => change.Value.PractitionerId == id)
            .ToDictionary(change => change.Value.Date, change => change.Version);
        DateTimeZone zone = OwnCalendar.HomeOf(setup, id).Location.Zone;
        return TypedResults.Ok(Enumerable.Range(0, days).Select(offset => new BookDay(first.PlusDays(offset), zone))
            .Select(day => Day(setup, dated, id, day, versions.GetValueOrDefault(day.Date))).ToArray());
    }

    private static WorkDay Day(Setup setup, DatedCalendar dated, Guid id, BookDay day, long version)
    {
        ShiftChange? change = dated.ChangeOn(id, day.Date);
        return new WorkDay(
            day.Date,
            [.. dated.ShiftsOn(setup.Rotas, id, day.Date).Select(ShiftDocument.Of)],
            change is not null,
            change?.Reason,
            [
                .. setup
                    .Locations.Select(listed => (listed.Location.Name, Closure: dated.ClosureOn(listed.Location.Id, day.Date)))
                    .Where(listed => listed.Closure is not null)
                    .Select(listed => $"{listed.Name}: {listed.Closure!.Reason}"),
            ],
            [
                .. dated
                    .Blocks.Around(day)
                    .Where(block => block.ResourceId == id && block.During.Start < day.End && block.During.End > day.Start)
                    .Select(block => new WorkBlock(
                        block.BlockId ?? Guid.Empty,
                        block.During.Start.InZone(day.Zone).LocalDateTime,
                        block.During.End.InZone(day.Zone).LocalDateTime,
                        block.Reason,
                        block.Kind,
                        block.Date is not null
                    )),
            ],
            version
        );
    }

    private static Versioned<Rota>? RotaOf(Setup setup, Guid id, LocalDate from) =>
        setup.Parts.Rotas.FirstOrDefault(rota => rota.Value.PractitionerId == id && rota.Value.From == from);

    private static Task<Ok<WorkAnswer>> SaveRotaAsync(
        Guid id,
        string from,
        RotaDocument request,
        HttpContext http,
        SetupDesk desk,
        Database database,
        BookReader book,
        IClock clock
    ) =>
        ChangeRotaAsync(
            id,
            http,
            desk,
            database,
            book,
            clock,
            async change =>
            {
                LocalDate first = BookEndpoints.Date(from, "from");
                Versioned<Rota>? before = RotaOf(change.Setup, id, first);
                OwnCalendar.Match(http, before?.Version ?? 0);
                Checks checks = new();
                Rota rota = (request with { From = first }).Check(checks, change.Setup, id);
                checks.Done();
                await change.Writer.SaveAsync(rota);
                await change.RecordAsync(
                    "practitioner",
                    id,
                    "Rota",
                    before is null ? null : RotaDocument.Of(before),
                    RotaDocument.Of(rota, (before?.Version ?? 0) + 1)
                );
            }
        );

    private static Task<Ok<WorkAnswer>> RemoveRotaAsync(
        Guid id,
        string from,
        HttpContext http,
        SetupDesk desk,
        Database database,
        BookReader book,
        IClock clock
    ) =>
        ChangeRotaAsync(
            id,
            http,
            desk,
            database,
            book,
            clock,
            async change =>
            {
                LocalDate first = BookEndpoints.Date(from, "from");
                Versioned<Rota> before = RotaOf(change.Setup, id, first) ?? throw Refused.NotFound("There is no such rota.");
                OwnCalendar.Match(http, before.Version);
                await change.Writer.RemoveRotaAsync(id, first);
                await change.RecordAsync("practitioner", id, "Rota taken out", RotaDocument.Of(before), null);
            }
        );

    private static Task<Ok<WorkAnswer>> CopyRotaAsync(
        Guid id,
        string from,
        CopyRotaRequest request,
        HttpContext http,
        SetupDesk desk,
        Database database,
        BookReader book,
        IClock clock
    ) =>
        ChangeRotaAsync(
            id,
            http,
            desk,
            database,
            book,
            clock,
            async change =>
            {
                if (!http.User.IsInRole("Owner") && !http.User.IsInRole("Manager"))
                    throw OwnCalendar.NotAllowed();
                LocalDate first = BookEndpoints.Date(from, "from");
                Rota rota = RotaOf(change.Setup, id, first)?.Value ?? throw Refused.NotFound("There is no such rota.");
                if (request.To is not { Count: > 0 })
                    throw Refused.Invalid("to", "Choose who gets this rota.");
                foreach ((int i, Guid other) in request.To.Index())
                {
                    if (change.Setup.Practitioners.All(practitioner => practitioner.Id != other))
                        throw Refused.Invalid($"to[{i}]", "There is no such practitioner.");
                    Versioned<Rota>? before = RotaOf(change.Setup, other, first);
                    await change.Writer.SaveAsync(rota with { PractitionerId = other });
                    await change.RecordAsync(
                        "practitioner",
                        other,
                        "Rota",
                        before is null ? null : RotaDocument.Of(before),
                        RotaDocument.Of(rota, (before?.Version ?? 0) + 1)
                    );
                }
            }
        );

    private static async Task<Ok<WorkAnswer>> ChangeRotaAsync(
        Guid id, HttpContext http, SetupDesk desk, Database database, BookReader book, IClock clock, Func<SetupChange, Task> write) =>
        await BusinessEndpoints.SavedAsync(desk, http, database, book, async change =>
        {
            await OwnCalendar.AllowAsync(http, change.Connection, id);
            TeamEndpoints.Find(change.Setup, id);
            await write(change);
        }, (setup, connection) => WorkOfAsync(setup, connection, id, clock));

    private static Task<Ok<WorkAnswer>> SaveChangeAsync(
        Guid id,
        string date,
        ShiftChangeDocument request,
        HttpContext http,
        CalendarDesk desk,
        Database database,
        BookReader book,
        IClock clock
    ) =>
        ChangeDayAsync(
            id,
            date,
            http,
            desk,
            database,
            book,
            clock,
            (setup, on) =>
            {
                List<Shift> shifts = [.. (request.Shifts ?? []).Select(shift => shift.Shift)];
                Checks checks = new();
                checks.Require(shifts.Count <= 6, "shifts", "A day has 6 shifts at the most.");
                checks.Require((request.Reason?.Length ?? 0) <= 200, "reason", "200 characters at the most.");
                foreach ((int i, ShiftDocument shift) in (request.Shifts ?? []).Index()) shift.Check(checks, setup, $"shifts[{i}].");
                checks.Add(ShiftCheck.Of(shifts, at => $"shifts[{at}]."));
                checks.Done();
                ShiftChange made = new(
                    id,
                    on,
                    shifts,
                    request.WorksDuringClosure,
                    string.IsNullOrWhiteSpace(request.Reason) ? null : request.Reason.Trim()
                );
                return async (change, before) =>
                {
                    OwnCalendar.Match(http, before?.Version ?? 0);
                    await change.Writer.SaveAsync(made);
                    await change.RecordAsync(
                        "practitioner",
                        id,
                        "Shift change",
                        before is null ? null : ShiftChangeDocument.Of(before),
                        ShiftChangeDocument.Of(made, (before?.Version ?? 0) + 1)
                    );
                };
            }
        );

    private static Task<Ok<WorkAnswer>> RemoveChangeAsync(
        Guid id,
        string date,
        HttpContext http,
        CalendarDesk desk,
        Database database,
        BookReader book,
        IClock clock
    ) =>
        ChangeDayAsync(
            id,
            date,
            http,
            desk,
            database,
            book,
            clock,
            (_, on) =>
                async (change, before) =>
                {
                    if (before is null)
                        throw Refused.NotFound("There is no such shift change.");
                    OwnCalendar.Match(http, before.Version);
                    await change.Writer.RemoveChangeAsync(id, on);
                    await change.RecordAsync("practitioner", id, "Shift change taken back", ShiftChangeDocument.Of(before), null);
                }
        );

    private static async Task<Ok<WorkAnswer>> ChangeDayAsync(
        Guid id, string date, HttpContext http, CalendarDesk desk, Database database, BookReader book, IClock clock,
        Func<Setup, LocalDate, Func<CalendarChange, Versioned<ShiftChange>?, Task>> check)
    {
        LocalDate on = BookEndpoints.Date(date, "date");
        await desk.ChangeAsync(http, async (setup, connection) =>
        {
            await OwnCalendar.AllowAsync(http, connection, id);
            TeamEndpoints.Find(setup, id);
            Func<CalendarChange, Versioned<ShiftChange>?, Task> write = check(setup, on);
            return new CalendarPlan
            {
                Days = [on],
                Meets = [new StretchOfTime(id, null, CalendarDesk.Everywhere(setup, on))],
                WriteAsync = async change =>
                    await write(change, (await CalendarReader.WindowAsync(change.Connection, on, on, id)).Changes.SingleOrDefault()),
            };
        });
        return await book.ReadAsync(database, (setup, connection) => WorkOfAsync(setup, connection, id, clock));
    }
}
