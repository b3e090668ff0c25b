using System.Security.Claims;
using Kingcup.Core.Availability;
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
public sealed record WorkAnswer(Guid PractitionerId, IReadOnlyList<RotaDocument> Rotas, IReadOnlyList<ShiftChangeDocument> Changes, IReadOnlyList<BlockDocument> Blocks);

/// <summary>One day of somebody's calendar.</summary>
/// <param name="Date">The date.</param>
/// <param name="Shifts">Shifts as they hold that day.</param>
/// <param name="IsChange">Whether a shift change replaces the rota.</param>
/// <param name="Reason">Why it does.</param>
/// <param name="Closures">Why locations are closed that day.</param>
/// <param name="Blocks">What is blocked, in words of time and reason.</param>
public sealed record WorkDay(LocalDate Date, IReadOnlyList<ShiftDocument> Shifts, bool IsChange, string? Reason, IReadOnlyList<string> Closures, IReadOnlyList<WorkBlock> Blocks);

/// <summary>Blocked time on a day.</summary>
/// <param name="BlockId">The block.</param>
/// <param name="From">From when, local.</param>
/// <param name="Until">Until when, local.</param>
/// <param name="Reason">Why.</param>
/// <param name="Kind">Blocked, or away.</param>
/// <param name="Repeats">Whether it repeats.</param>
public sealed record WorkBlock(Guid BlockId, LocalDateTime From, LocalDateTime Until, string Reason, BlockKind Kind, bool Repeats);

/// <summary>Rotas, shift changes, time off and blocked time.</summary>
internal static class ShiftEndpoints
{
    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/setup").RequireAuthorization(Rights.EditShifts).WithTags("Shifts").Problems();
        group.MapGet("/practitioners/{id:guid}/work", WorkAsync).WithSummary("Rotas, shift changes and blocked time of a practitioner.");
        group.MapGet("/practitioners/{id:guid}/calendar", CalendarAsync).WithSummary("Each day of a run of days as it holds.");
        group.MapPut("/practitioners/{id:guid}/rotas/{from}", SaveRotaAsync).Hits().WithSummary("Sets the rota from a date on.");
        group.MapDelete("/practitioners/{id:guid}/rotas/{from}", RemoveRotaAsync).Hits().WithSummary("Takes a rota out; the one before it holds again.");
        group.MapPost("/practitioners/{id:guid}/rotas/{from}/copy", CopyRotaAsync).Hits().WithSummary("Gives a rota to others too.");
        group.MapPut("/practitioners/{id:guid}/shift-changes/{date}", SaveChangeAsync).Hits().WithSummary("Replaces the rota on one date.");
        group.MapDelete("/practitioners/{id:guid}/shift-changes/{date}", RemoveChangeAsync).Hits().WithSummary("Takes a shift change back; the rota holds again.");
        group.MapGet("/blocks", BlocksAsync).WithSummary("Blocked time of a practitioner, room or pool, from the day before yesterday on.");
        group.MapPost("/blocks", AddBlockAsync).Hits().WithSummary("Takes time out of a practitioner, room or pool, once or repeating.");
        group.MapPut("/blocks/{id:guid}", SaveBlockAsync).Hits().WithSummary("Changes blocked time; single dates of a repeating one can be left out or moved.");
        group.MapDelete("/blocks/{id:guid}", RemoveBlockAsync).Hits().WithSummary("Gives blocked time back.");
    }

    private static async Task<Ok<WorkAnswer>> WorkAsync(Guid id, HttpContext http, Database database, BookReader book, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        await AllowAsync(http, connection, id, reading: true);
        Setup setup = await book.SetupAsync(connection);
        TeamEndpoints.Find(setup, id);
        return TypedResults.Ok(Work(setup, id, clock.GetCurrentInstant()));
    }

    private static WorkAnswer Work(Setup setup, Guid id, Instant now)
    {
        Instant since = now - Duration.FromDays(2);
        return new WorkAnswer(
            id,
            [.. setup.Parts.Rotas.Where(rota => rota.PractitionerId == id).OrderBy(rota => rota.From).Select(RotaDocument.Of)],
            [.. setup.Parts.Changes.Where(change => change.PractitionerId == id && change.Date >= since.InUtc().Date).OrderBy(change => change.Date).Select(ShiftChangeDocument.Of)],
            Blocks(setup, id, since));
    }

    private static List<BlockDocument> Blocks(Setup setup, Guid resourceId, Instant since)
    {
        ListedLocation home = HomeOf(setup, resourceId);
        DateTimeZone zone = home.Location.Zone;
        return
        [
            .. setup.Dated.Blocks.Repeating.Where(block => block.ResourceId == resourceId).Select(block => new BlockDocument(
                block.Id, resourceId, home.Location.Id, BlockKind.Block, block.Reason, Repeat: new RepeatDocument(
                    block.Repeat.First, block.Repeat.Rule, block.During.From, block.During.Until,
                    [.. block.Changed.OrderBy(one => one.Key).Select(one => new ChangedDateDocument(one.Key, one.Value?.From, one.Value?.Until))]))),
            .. setup.Dated.Blocks.Once.Where(block => block.ResourceId == resourceId && block.During.End >= since).Select(block => new BlockDocument(
                block.BlockId, resourceId, home.Location.Id, block.Kind, block.Reason, block.During.Start.InZone(zone).LocalDateTime, block.During.End.InZone(zone).LocalDateTime)),
        ];
    }

    private static async Task<Ok<WorkDay[]>> CalendarAsync(Guid id, string from, int days, HttpContext http, Database database, BookReader book)
    {
        LocalDate first = BookEndpoints.Date(from, "from");
        if (days is < 1 or > 100) throw Refused.Invalid("days", "Ask for 1 to 100 days.");
        await using NpgsqlConnection connection = await database.OpenAsync();
        await AllowAsync(http, connection, id, reading: true);
        Setup setup = await book.SetupAsync(connection);
        TeamEndpoints.Find(setup, id);
        DateTimeZone zone = HomeOf(setup, id).Location.Zone;
        return TypedResults.Ok(Enumerable.Range(0, days).Select(offset => Day(setup, id, new BookDay(first.PlusDays(offset), zone))).ToArray());
    }

    private static WorkDay Day(Setup setup, Guid id, BookDay day)
    {
        ShiftChange? change = setup.Dated.ChangeOn(id, day.Date);
        return new WorkDay(
            day.Date, [.. setup.ShiftsOn(id, day.Date).Select(ShiftDocument.Of)], change is not null, change?.Reason,
            [.. setup.Locations.Select(one => (one.Location.Name, Closure: setup.Dated.ClosureOn(one.Location.Id, day.Date))).Where(one => one.Closure is not null)
                .Select(one => $"{one.Name}: {one.Closure!.Reason}")],
            [.. setup.Dated.Blocks.Around(day).Where(block => block.ResourceId == id && block.During.Start < day.End && block.During.End > day.Start).Select(block => new WorkBlock(
                block.BlockId ?? Guid.Empty, block.During.Start.InZone(day.Zone).LocalDateTime, block.During.End.InZone(day.Zone).LocalDateTime, block.Reason, block.Kind, block.Date is not null))]);
    }

    private static Task<Ok<WorkAnswer>> SaveRotaAsync(Guid id, string from, RotaDocument request, HttpContext http, SetupDesk desk, Database database, BookReader book, IClock clock) =>
        ChangeAsync(id, http, desk, database, book, clock, async change =>
        {
            LocalDate first = BookEndpoints.Date(from, "from");
            Checks checks = new();
            Rota rota = (request with { From = first }).Check(checks, change.Setup, id);
            checks.Done();
            await change.Writer.SaveAsync(rota);
            Rota? before = change.Setup.Parts.Rotas.FirstOrDefault(one => one.PractitionerId == id && one.From == first);
            await change.RecordAsync("practitioner", id, "Rota", before is null ? null : RotaDocument.Of(before), RotaDocument.Of(rota));
        });

    private static Task<Ok<WorkAnswer>> RemoveRotaAsync(Guid id, string from, HttpContext http, SetupDesk desk, Database database, BookReader book, IClock clock) =>
        ChangeAsync(id, http, desk, database, book, clock, async change =>
        {
            LocalDate first = BookEndpoints.Date(from, "from");
            Rota before = change.Setup.Parts.Rotas.FirstOrDefault(rota => rota.PractitionerId == id && rota.From == first) ?? throw Refused.NotFound("rota");
            await change.Writer.RemoveRotaAsync(id, first);
            await change.RecordAsync("practitioner", id, "Rota taken out", RotaDocument.Of(before), null);
        });

    private static Task<Ok<WorkAnswer>> CopyRotaAsync(Guid id, string from, CopyRotaRequest request, HttpContext http, SetupDesk desk, Database database, BookReader book, IClock clock) =>
        ChangeAsync(id, http, desk, database, book, clock, async change =>
        {
            if (!http.User.IsInRole("Owner") && !http.User.IsInRole("Manager")) throw NotAllowed();
            LocalDate first = BookEndpoints.Date(from, "from");
            Rota rota = change.Setup.Parts.Rotas.FirstOrDefault(one => one.PractitionerId == id && one.From == first) ?? throw Refused.NotFound("rota");
            if (request.To is not { Count: > 0 }) throw Refused.Invalid("to", "Choose who gets this rota.");
            foreach ((int i, Guid other) in request.To.Index())
            {
                if (change.Setup.Practitioners.All(one => one.Id != other)) throw Refused.Invalid($"to[{i}]", "There is no such practitioner.");
                Rota? before = change.Setup.Parts.Rotas.FirstOrDefault(own => own.PractitionerId == other && own.From == first);
                await change.Writer.SaveAsync(rota with { PractitionerId = other });
                await change.RecordAsync("practitioner", other, "Rota", before is null ? null : RotaDocument.Of(before), RotaDocument.Of(rota));
            }
        });

    private static Task<Ok<WorkAnswer>> SaveChangeAsync(
        Guid id, string date, ShiftChangeDocument request, HttpContext http, SetupDesk desk, Database database, BookReader book, IClock clock) =>
        ChangeAsync(id, http, desk, database, book, clock, async change =>
        {
            LocalDate on = BookEndpoints.Date(date, "date");
            List<Shift> shifts = [.. (request.Shifts ?? []).Select(one => one.Shift)];
            Checks checks = new();
            checks.Require(shifts.Count <= 6, "shifts", "A day has 6 shifts at the most.");
            checks.Require((request.Reason?.Length ?? 0) <= 200, "reason", "200 characters at the most.");
            foreach ((int i, Shift shift) in shifts.Index()) checks.Require(change.Setup.HouseOf(shift.LocationId) is not null, $"shifts[{i}].locationId", "There is no such location.");
            checks.Add(ShiftCheck.Of(shifts, at => $"shifts[{at}]."));
            checks.Done();
            ShiftChange made = new(id, on, shifts, request.WorksDuringClosure, string.IsNullOrWhiteSpace(request.Reason) ? null : request.Reason.Trim());
            await change.Writer.SaveAsync(made);
            ShiftChange? before = change.Setup.Dated.ChangeOn(id, on);
            await change.RecordAsync("practitioner", id, "Shift change", before is null ? null : ShiftChangeDocument.Of(before), ShiftChangeDocument.Of(made));
        });

    private static Task<Ok<WorkAnswer>> RemoveChangeAsync(Guid id, string date, HttpContext http, SetupDesk desk, Database database, BookReader book, IClock clock) =>
        ChangeAsync(id, http, desk, database, book, clock, async change =>
        {
            LocalDate on = BookEndpoints.Date(date, "date");
            ShiftChange before = change.Setup.Dated.ChangeOn(id, on) ?? throw Refused.NotFound("shift change");
            await change.Writer.RemoveChangeAsync(id, on);
            await change.RecordAsync("practitioner", id, "Shift change taken back", ShiftChangeDocument.Of(before), null);
        });

    private static async Task<Ok<BlockDocument[]>> BlocksAsync(Guid resourceId, HttpContext http, Database database, BookReader book, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        await AllowAsync(http, connection, resourceId, reading: true);
        Setup setup = await book.SetupAsync(connection);
        return TypedResults.Ok(Blocks(setup, resourceId, clock.GetCurrentInstant() - Duration.FromDays(2)).ToArray());
    }

    private static Task<Created<MadeAnswer>> AddBlockAsync(BlockDocument request, HttpContext http, SetupDesk desk) => desk.CreateAsync(
        http,
        async change =>
        {
            await AllowAsync(http, change.Connection, request.ResourceId);
            Guid made = Guid.CreateVersion7();
            await WriteAsync(change, made, request);
            await change.RecordAsync("block", made, "Added", null, request);
            return made;
        },
        (_, id) => ($"/api/v1/setup/blocks/{id}", new MadeAnswer(id)));

    private static async Task<NoContent> SaveBlockAsync(Guid id, BlockDocument request, HttpContext http, SetupDesk desk)
    {
        await desk.ChangeAsync(http, async change =>
        {
            BlockDocument before = FindBlock(change.Setup, id);
            await AllowAsync(http, change.Connection, before.ResourceId);
            await AllowAsync(http, change.Connection, request.ResourceId);
            // Once may become repeating and back; the identity stays.
            await change.Writer.RemoveBlockAsync(id);
            await WriteAsync(change, id, request);
            await change.RecordAsync("block", id, "Changed", before, request);
            return true;
        });
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> RemoveBlockAsync(Guid id, HttpContext http, SetupDesk desk)
    {
        await desk.ChangeAsync(http, async change =>
        {
            BlockDocument before = FindBlock(change.Setup, id);
            await AllowAsync(http, change.Connection, before.ResourceId);
            await change.Writer.RemoveBlockAsync(id);
            await change.RecordAsync("block", id, "Removed", before, null);
            return true;
        });
        return TypedResults.NoContent();
    }

    private static BlockDocument FindBlock(Setup setup, Guid id)
    {
        Guid? resource = setup.Dated.Blocks.Repeating.FirstOrDefault(one => one.Id == id)?.ResourceId ?? setup.Dated.Blocks.Once.FirstOrDefault(one => one.BlockId == id)?.ResourceId;
        return resource is null ? throw Refused.NotFound("blocked time") : Blocks(setup, resource.Value, Instant.MinValue).First(one => one.Id == id);
    }

    private static async Task WriteAsync(SetupChange change, Guid id, BlockDocument request)
    {
        Checks checks = new();
        bool known = change.Setup.Practitioners.Any(one => one.Id == request.ResourceId) || change.Setup.Parts.Rooms.Any(one => one.Room.Id == request.ResourceId)
            || change.Setup.Parts.Pools.Any(one => one.Pool.Id == request.ResourceId);
        checks.Require(known, "resourceId", "There is no such practitioner, room or equipment.");
        House? house = checks.Take(change.Setup.HouseOf(request.LocationId ?? HomeOf(change.Setup, request.ResourceId).Location.Id), "locationId", "There is no such location.");
        string? reason = checks.Name(request.Reason, "reason", "Say what it is for.");
        checks.Require((request.Repeat is null) == (request.Start is not null && request.End is not null), "start", "Say from when until when, or how it repeats.");
        if (request.Repeat is { } repeat)
        {
            Repeat? rule = checks.Take(Repeat.Parse(repeat.Rule, repeat.First), "repeat.rule", "That is no rule for dates. Write one like FREQ=WEEKLY;BYDAY=MO.");
            Stretch during = new(repeat.From, repeat.Until);
            checks.Require(during.IsValid, "repeat.until", "It ends after it begins, both on whole 5 minutes.");
            checks.Require(repeat.First.Year is >= 2000 and <= 2100, "repeat.first", "Choose a date between the years 2000 and 2100.");
            foreach ((int i, ChangedDateDocument one) in (repeat.Changed ?? []).Index())
            {
                checks.Require((one.From is null) == (one.Until is null) && (one.From is null || new Stretch(one.From.Value, one.Until!.Value).IsValid), $"repeat.changed[{i}].until", "It ends after it begins, both on whole 5 minutes.");
                checks.Require(rule?.Holds(one.Date) != false, $"repeat.changed[{i}].date", "The rule does not name that date.");
            }

            checks.Done();
            await change.Writer.SaveAsync(new RepeatingBlock(id, request.ResourceId, rule!, during, reason!)
            {
                Changed = (repeat.Changed ?? []).DistinctBy(one => one.Date).ToDictionary(one => one.Date, one => one.From is { } from ? new Stretch(from, one.Until!.Value) : (Stretch?)null),
            });
            return;
        }

        checks.Require(request.End is null || request.Start is null || request.End > request.Start, "end", "It ends after it begins.");
        checks.Require(request.Start is not { } from1 || from1.Year is >= 2000 and <= 2100, "start", "Choose a date between the years 2000 and 2100.");
        checks.Require(request.End is not { } until1 || request.Start is not { } from2 || until1.Year <= 2100 && Period.DaysBetween(from2.Date, until1.Date) <= 800, "end", "Two years at the most.");
        checks.Done();
        BookDay On(LocalDateTime at) => new(at.Date, house!.Location.Zone);
        Instant begins = On(request.Start!.Value).Of(request.Start.Value.TimeOfDay), ends = On(request.End!.Value).Of(request.End.Value.TimeOfDay);
        // What lies in the hour that the clocks skip is no time at all.
        if (begins >= ends) throw Refused.Invalid("end", "The clocks go forward that night, and nothing is left of this time. Choose another.");
        Interval interval = new(begins, ends);
        await change.Writer.SaveBlockAsync(id, new BlockedTime(request.ResourceId, interval, reason!) { Kind = request.Kind });
    }

    /// <summary>The location in whose time somebody's or something's blocks are told: where it stands, or first works.</summary>
    private static ListedLocation HomeOf(Setup setup, Guid resourceId)
    {
        Guid? at = setup.Parts.Rooms.FirstOrDefault(one => one.Room.Id == resourceId)?.LocationId ?? setup.Parts.Pools.FirstOrDefault(one => one.Pool.Id == resourceId)?.LocationId
            ?? setup.Parts.Rotas.Where(one => one.PractitionerId == resourceId).SelectMany(one => one.Shifts).FirstOrDefault()?.Shift.LocationId;
        return setup.Locations.FirstOrDefault(one => one.Location.Id == at) ?? (setup.Locations.Count > 0 ? setup.Locations[0] : throw Refused.NotFound("location"));
    }

    private static async Task<Ok<WorkAnswer>> ChangeAsync(Guid id, HttpContext http, SetupDesk desk, Database database, BookReader book, IClock clock, Func<SetupChange, Task> write) =>
        await BusinessEndpoints.SavedAsync(desk, http, database, book, async change =>
        {
            await AllowAsync(http, change.Connection, id);
            TeamEndpoints.Find(change.Setup, id);
            await write(change);
        }, setup => Work(setup, id, clock.GetCurrentInstant()));

    /// <summary>Owner and manager may change anybody's; a practitioner their own, if that was allowed.</summary>
    private static async Task AllowAsync(HttpContext http, NpgsqlConnection connection, Guid resourceId, bool reading = false)
    {
        if (!http.User.IsInRole("Practitioner")) return;
        StaffRow? staff = await StaffStore.FindAsync(connection, Guid.Parse(http.User.FindFirstValue(ClaimTypes.NameIdentifier)!));
        if (staff?.PractitionerId != resourceId || !(reading || staff.EditsOwnShifts)) throw NotAllowed();
    }

    private static Refused NotAllowed() => new(StatusCodes.Status403Forbidden, "not-allowed", "Your role does not allow this.");
}
