using Kingcup.Core.Calendar;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Kingcup.Server.Calendar;

/// <summary>Closures, and days on which nothing more is booked online.</summary>
internal static class ClosureEndpoints
{
    private const string WhyClosed = "Say why it is closed; only those who read the book see it.",
        WhyStopped = "Say why online booking is stopped.",
        SaneYears = "Choose a date between the years 2000 and 2100.";

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/setup").RequireAuthorization(Rights.EditSetup).WithTags("Setup").Problems();
        group
            .MapPost("/closed-days", CloseDaysAsync)
            .Hits()
            .WithSummary(
                "Closes locations on dates, or stops online booking for them, all at once. Where one is closed or stopped then "
                    + "already, that stays as it is."
            );
        group
            .MapPut("/locations/{id:guid}/closures/{date}", SaveClosureAsync)
            .Changes()
            .WithSummary("Closes a location on a date, once or every year. Needs If-Match, 0 for a new one.");
        group
            .MapDelete("/locations/{id:guid}/closures/{date}", RemoveClosureAsync)
            .Changes()
            .WithSummary("Takes a closure back. Needs If-Match.");
        group
            .MapPut("/locations/{id:guid}/stops/{date}", SaveStopAsync)
            .Changes()
            .WithSummary("Stops online booking for a date. Needs If-Match, 0 for a new one.");
        group
            .MapDelete("/locations/{id:guid}/stops/{date}", RemoveStopAsync)
            .Changes()
            .WithSummary("Lets a date be booked online again. Needs If-Match.");
    }

    private static async Task<Ok<LocationDocument[]>> CloseDaysAsync(
        ClosedDaysRequest request, HttpContext http, CalendarDesk desk, Database database, BookReader book, IClock clock)
    {
        await desk.ChangeAsync(http, async (setup, connection) =>
        {
            Check(request, setup);
            IReadOnlyList<ClosureDocument> closures = request.Closures ?? [];
            IReadOnlyList<StopDocument> stops = request.Stops ?? [];
            List<Guid> ids = [.. request.LocationIds!.Distinct()];
            return await Task.FromResult(new CalendarPlan
            {
                Days = [.. closures.Select(closure => closure.Date).Concat(stops.Select(stop => stop.Date)).Distinct()],
                Meets = [.. ids.SelectMany(id => closures.Select(closure => Met(setup, id, closure.Date)))],
                IsStanding = closures.Any(closure => closure.Yearly),
                WriteAsync = change => WriteDaysAsync(change, ids, closures, stops),
            });
        });
        return await book.ReadAsync(database, (setup, connection) => LocationDocument.AllAsync(connection, setup, clock));
    }

    private static async Task WriteDaysAsync(
        CalendarChange change,
        List<Guid> ids,
        IReadOnlyList<ClosureDocument> closures,
        IReadOnlyList<StopDocument> stops
    )
    {
        foreach ((int i, ClosureDocument closure) in closures.Index())
        {
            bool isNew = false;
            foreach (Guid id in ids)
            {
                if (await ClosureAsync(change, id, closure.Date) is not null) continue;
                isNew = true;
                string? forClients = string.IsNullOrWhiteSpace(closure.ForClients) ? null : closure.ForClients.Trim();
                await CloseAsync(change, null, new Closure(id, closure.Date, closure.Yearly, closure.Reason!.Trim(), forClients));
            }

            if (!isNew) throw Refused.Invalid($"closures[{i}].date", "It is closed then already. To change that, take it back first.");
        }

        foreach ((int i, StopDocument stop) in stops.Index())
        {
            bool isNew = false;
            foreach (Guid id in ids)
            {
                if (await StopAsync(change, id, stop.Date) is not null) continue;
                isNew = true;
                await StopAsync(change, null, new OnlineStop(id, stop.Date, stop.Reason!.Trim()));
            }

            if (!isNew) throw Refused.Invalid($"stops[{i}].date", "It is stopped then already. To change that, take it back first.");
        }
    }

    private static void Check(ClosedDaysRequest request, Setup setup)
    {
        IReadOnlyList<Guid> ids = request.LocationIds ?? [];
        Checks checks = new();
        checks.Require(ids.Count is >= 1 and <= 200, "locationIds", "Choose 1 to 200 locations.");
        foreach ((int i, Guid id) in ids.Index())
            checks.Require(setup.HouseOf(id) is not null, $"locationIds[{i}]", "There is no such location.");
        checks.Require((request.Closures?.Count ?? 0) + (request.Stops?.Count ?? 0) is >= 1 and <= 400, "closures", "Name 1 to 400 days.");
        foreach ((int i, ClosureDocument closure) in (request.Closures ?? []).Index())
        {
            checks.Name(closure.Reason, $"closures[{i}].reason", WhyClosed);
            checks.Optional(closure.ForClients, $"closures[{i}].forClients");
            checks.Require(closure.Date.Year is >= 2000 and <= 2100, $"closures[{i}].date", SaneYears);
        }

        foreach ((int i, StopDocument stop) in (request.Stops ?? []).Index())
        {
            checks.Name(stop.Reason, $"stops[{i}].reason", WhyStopped);
            checks.Require(stop.Date.Year is >= 2000 and <= 2100, $"stops[{i}].date", SaneYears);
        }

        checks.Done();
    }

    private static Task<Ok<LocationDocument>> SaveClosureAsync(
        Guid id,
        string date,
        ClosureDocument request,
        HttpContext http,
        CalendarDesk desk,
        Database database,
        BookReader book,
        IClock clock
    )
    {
        Checks checks = new();
        string? reason = checks.Name(request.Reason, "reason", WhyClosed), forClients = checks.Optional(request.ForClients, "forClients");
        checks.Done();
        return ChangeAsync(id, date, http, desk, database, book, clock, request.Yearly, async (change, on) =>
        {
            Versioned<Closure>? before = await ClosureAsync(change, id, on);
            OwnCalendar.Match(http, before?.Version ?? 0);
            await CloseAsync(change, before, new Closure(id, on, request.Yearly, reason!, forClients));
        });
    }

    private static Task<Ok<LocationDocument>> RemoveClosureAsync(
        Guid id,
        string date,
        HttpContext http,
        CalendarDesk desk,
        Database database,
        BookReader book,
        IClock clock
    ) =>
        ChangeAsync(
            id,
            date,
            http,
            desk,
            database,
            book,
            clock,
            false,
            async (change, on) =>
            {
                Versioned<Closure> before = await ClosureAsync(change, id, on) ?? throw Refused.NotFound("There is no such closure.");
                OwnCalendar.Match(http, before.Version);
                await change.Writer.RemoveClosureAsync(id, on);
                await change.RecordAsync("location", id, "Closure taken back", ClosureDocument.Of(before), null);
            }
        );

    private static Task<Ok<LocationDocument>> SaveStopAsync(
        Guid id, string date, StopDocument request, HttpContext http, CalendarDesk desk, Database database, BookReader book, IClock clock)
    {
        Checks checks = new();
        string? reason = checks.Name(request.Reason, "reason", WhyStopped);
        checks.Done();
        return ChangeAsync(id, date, http, desk, database, book, clock, null, async (change, on) =>
        {
            Versioned<OnlineStop>? before = await StopAsync(change, id, on);
            OwnCalendar.Match(http, before?.Version ?? 0);
            await StopAsync(change, before, new OnlineStop(id, on, reason!));
        });
    }

    private static Task<Ok<LocationDocument>> RemoveStopAsync(
        Guid id,
        string date,
        HttpContext http,
        CalendarDesk desk,
        Database database,
        BookReader book,
        IClock clock
    ) =>
        ChangeAsync(
            id,
            date,
            http,
            desk,
            database,
            book,
            clock,
            null,
            async (change, on) =>
            {
                Versioned<OnlineStop> before = await StopAsync(change, id, on) ?? throw Refused.NotFound("There is no such stop.");
                OwnCalendar.Match(http, before.Version);
                await change.Writer.RemoveStopAsync(id, on);
                await change.RecordAsync("location", id, "Online opened", StopDocument.Of(before), null);
            }
        );

    /// <summary>Changes one date of a location.</summary>
    /// <param name="id">The location.</param>
    /// <param name="date">The date as the address has it.</param>
    /// <param name="http">The request.</param>
    /// <param name="desk">Makes the change.</param>
    /// <param name="database">The database.</param>
    /// <param name="book">Reads the answer.</param>
    /// <param name="clock">The clock.</param>
    /// <param name="yearly">Whether the closure it becomes comes back every year; null for what is no closure.</param>
    /// <param name="write">Writes.</param>
    private static async Task<Ok<LocationDocument>> ChangeAsync(
        Guid id,
        string date,
        HttpContext http,
        CalendarDesk desk,
        Database database,
        BookReader book,
        IClock clock,
        bool? yearly,
        Func<CalendarChange, LocalDate, Task> write
    )
    {
        LocalDate on = BookEndpoints.Date(date, "date");
        await desk.ChangeAsync(http, (setup, _) =>
        {
            BusinessEndpoints.Location(setup, id);
            return Task.FromResult(new CalendarPlan
            {
                Days = [on],
                Meets = yearly is null ? [] : [Met(setup, id, on)],
                IsStanding = yearly is { } becomes
                    && (becomes || setup.Parts.YearlyClosures.Any(closure => closure.Value.LocationId == id && closure.Value.Date == on)),
                WriteAsync = change => write(change, on),
            });
        });
        return await book.ReadAsync(database, (setup, connection) => LocationDocument.OneAsync(connection, setup, id, clock));
    }

    private static StretchOfTime Met(Setup setup, Guid id, LocalDate date)
    {
        BookDay day = new(date, setup.HouseOf(id)!.Location.Zone);
        return new StretchOfTime(null, id, new Interval(day.Start, day.End));
    }

    private static async Task<Versioned<Closure>?> ClosureAsync(CalendarChange change, Guid id, LocalDate on) =>
        change.Setup.Parts.YearlyClosures.FirstOrDefault(closure => closure.Value.LocationId == id && closure.Value.Date == on)
        ?? (await CalendarReader.WindowAsync(change.Connection, on, on, id)).Closures.SingleOrDefault();

    private static async Task<Versioned<OnlineStop>?> StopAsync(CalendarChange change, Guid id, LocalDate on) =>
        (await CalendarReader.WindowAsync(change.Connection, on, on, id)).Stops.SingleOrDefault();

    private static async Task CloseAsync(CalendarChange change, Versioned<Closure>? before, Closure made)
    {
        await change.Writer.SaveAsync(made);
        await change.RecordAsync(
            "location",
            made.LocationId,
            "Closed",
            before is null ? null : ClosureDocument.Of(before),
            ClosureDocument.Of(new Versioned<Closure>(made, (before?.Version ?? 0) + 1))
        );
    }

    private static async Task StopAsync(CalendarChange change, Versioned<OnlineStop>? before, OnlineStop made)
    {
        await change.Writer.SaveStopAsync(made.LocationId, made.Date, made.Reason);
        await change.RecordAsync(
            "location",
            made.LocationId,
            "Online stopped",
            before is null ? null : StopDocument.Of(before),
            StopDocument.Of(new Versioned<OnlineStop>(made, (before?.Version ?? 0) + 1))
        );
    }
}
