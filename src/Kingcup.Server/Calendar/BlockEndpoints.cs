using Kingcup.Core.Availability;
using Kingcup.Core.Calendar;
using Kingcup.Core.Time;
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

/// <summary>Blocked time and time off.</summary>
internal static class BlockEndpoints
{
    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/setup/blocks").RequireAuthorization(Rights.KeepDays).WithTags("Shifts").Problems();
        group.MapGet("", ListAsync).WithSummary("Blocked time of a practitioner, room or pool, from the day before yesterday on.");
        group.MapPost("", AddAsync).Hits().WithSummary("Takes time out of a practitioner, room or pool, once or repeating.");
        group
            .MapPut("/{id:guid}", SaveAsync)
            .Changes()
            .WithSummary("Changes blocked time; single dates of a repeating one can be left out or moved. Needs If-Match.");
        group.MapDelete("/{id:guid}", RemoveAsync).Changes().WithSummary("Gives blocked time back. Needs If-Match.");
    }

    /// <summary>The blocked time of a resource: what repeats, and what happens once in a window.</summary>
    internal static List<BlockDocument> Of(Setup setup, Guid resourceId, CalendarWindow window) =>
        [
            .. setup.Parts.RepeatingBlocks.Where(block => block.Value.ResourceId == resourceId).Select(block => Of(setup, block)),
            .. window.Blocks.Where(block => block.Value.ResourceId == resourceId).Select(block => Of(setup, block)),
        ];

    private static BlockDocument Of(Setup setup, Versioned<RepeatingBlock> listed)
    {
        RepeatingBlock block = listed.Value;
        return new BlockDocument
        {
            Id = block.Id,
            ResourceId = block.ResourceId,
            LocationId = OwnCalendar.HomeOf(setup, block.ResourceId).Location.Id,
            Kind = BlockKind.Block,
            Reason = block.Reason,
            Repeat = new RepeatDocument(
                block.Repeat.First,
                block.Repeat.Rule,
                block.During.From,
                block.During.Until,
                [
                    .. block
                        .Changed.OrderBy(date => date.Key)
                        .Select(date => new ChangedDateDocument(date.Key, date.Value?.From, date.Value?.Until)),
                ]
            ),

            Version = listed.Version,
        };
    }

    private static BlockDocument Of(Setup setup, Versioned<BlockedTime> listed)
    {
        BlockedTime block = listed.Value;
        Core.Business.Location home = OwnCalendar.HomeOf(setup, block.ResourceId).Location;
        return new BlockDocument
        {
            Id = block.BlockId,
            ResourceId = block.ResourceId,
            LocationId = home.Id,
            Kind = block.Kind,
            Reason = block.Reason,
            Start = block.During.Start.InZone(home.Zone).LocalDateTime,
            End = block.During.End.InZone(home.Zone).LocalDateTime,

            Version = listed.Version,
        };
    }

    private static async Task<Ok<BlockDocument[]>> ListAsync(
        Guid resourceId,
        HttpContext http,
        Database database,
        BookReader book,
        IClock clock
    )
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        await OwnCalendar.AllowAsync(http, connection, resourceId, reading: true);
        Setup setup = await book.SetupAsync(connection);
        return TypedResults.Ok(
            Of(setup, resourceId, await CalendarReader.WindowAsync(connection, OwnCalendar.Since(clock), null, resourceId)).ToArray()
        );
    }

    private static async Task<Created<MadeAnswer>> AddAsync(BlockDocument request, HttpContext http, CalendarDesk desk)
    {
        MadeAnswer made = new(Guid.CreateVersion7());
        string location = $"/api/v1/setup/blocks/{made.Id}";
        await desk.ChangeAsync(
            http,
            async (setup, connection) =>
            {
                await OwnCalendar.AllowAsync(http, connection, request.ResourceId);
                WantedBlock wanted = WantedBlock.Of(setup, made.Id, request);
                return Plan(
                    setup,
                    null,
                    wanted,
                    async change =>
                    {
                        await wanted.SaveAsync(change.Writer);
                        await change.RecordAsync("block", made.Id, "Added", null, request);
                    }
                );
            },
            new Answered(location, made)
        );
        return TypedResults.Created(location, made);
    }

    private static async Task<NoContent> SaveAsync(Guid id, BlockDocument request, HttpContext http, CalendarDesk desk)
    {
        await desk.ChangeAsync(
            http,
            async (setup, connection) =>
            {
                BlockDocument seen = await FindAsync(setup, connection, id);
                await OwnCalendar.AllowAsync(http, connection, seen.ResourceId);
                await OwnCalendar.AllowAsync(http, connection, request.ResourceId);
                WantedBlock wanted = WantedBlock.Of(setup, id, request);
                return Plan(
                    setup,
                    seen,
                    wanted,
                    async change =>
                    {
                        BlockDocument before = await FindAsync(change.Setup, change.Connection, id);
                        OwnCalendar.Match(http, before.Version);
                        // Once may become repeating and back; the identity stays.
                        if (before.Repeat is null && wanted.Repeating is not null)
                            await change.Writer.RemoveBlockAsync(id);
                        if (before.Repeat is not null && wanted.Repeating is null)
                            await change.Writer.RemoveRepeatAsync(id);
                        await wanted.SaveAsync(change.Writer);
                        await change.RecordAsync("block", id, "Changed", before, request);
                    }
                );
            }
        );
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> RemoveAsync(Guid id, HttpContext http, CalendarDesk desk)
    {
        await desk.ChangeAsync(
            http,
            async (setup, connection) =>
            {
                BlockDocument seen = await FindAsync(setup, connection, id);
                await OwnCalendar.AllowAsync(http, connection, seen.ResourceId);
                return Plan(
                    setup,
                    seen,
                    null,
                    async change =>
                    {
                        BlockDocument before = await FindAsync(change.Setup, change.Connection, id);
                        OwnCalendar.Match(http, before.Version);
                        if (before.Repeat is null)
                            await change.Writer.RemoveBlockAsync(id);
                        else
                            await change.Writer.RemoveRepeatAsync(id);
                        await change.RecordAsync("block", id, "Removed", before, null);
                    }
                );
            }
        );
        return TypedResults.NoContent();
    }

    private static async Task<BlockDocument> FindAsync(Setup setup, NpgsqlConnection connection, Guid id) =>
        setup.Parts.RepeatingBlocks.FirstOrDefault(block => block.Value.Id == id) is { } repeating ? Of(setup, repeating)
        : await CalendarReader.BlockAsync(connection, id) is { } once ? Of(setup, once)
        : throw Refused.NotFound("There is no such blocked time.");

    /// <summary>The days a block lies on before and after, and whom it may meet.</summary>
    private static CalendarPlan Plan(Setup setup, BlockDocument? before, WantedBlock? after, Func<CalendarChange, Task> write)
    {
        Interval? left = before is { Repeat: null } ? WantedBlock.Of(setup, before.Id!.Value, before).Once!.During : null;
        Interval? taken = after?.Once?.During;
        return new CalendarPlan
        {
            Days = [.. new[] { left, taken }.OfType<Interval>().SelectMany(during => CalendarDesk.DatesOf(setup, during)).Distinct()],
            // Where only online booking stops, nobody who has a visit is met.
            Meets = taken is { } met && after!.Once!.Kind != BlockKind.Online
                ? [new StretchOfTime(after!.Once!.ResourceId, null, met)] : [],
            IsStanding = before is { Repeat: not null } || after is { Repeating: not null },
            WriteAsync = write,
        };
    }

    /// <summary>Blocked time as somebody wants it, checked: once or repeating.</summary>
    private sealed record WantedBlock(Guid Id, BlockedTime? Once, RepeatingBlock? Repeating)
    {
        internal Task SaveAsync(CalendarWriter writer) =>
            Repeating is not null ? writer.SaveAsync(Repeating) : writer.SaveBlockAsync(Id, Once!);

        internal static WantedBlock Of(Setup setup, Guid id, BlockDocument request)
        {
            Checks checks = new();
            bool known =
                setup.Practitioners.Any(practitioner => practitioner.Id == request.ResourceId)
                || setup.Parts.Rooms.Any(room => room.Room.Id == request.ResourceId)
                || setup.Parts.Pools.Any(pool => pool.Pool.Id == request.ResourceId);
            checks.Require(known, "resourceId", "There is no such practitioner, room or equipment.");
            House? house = checks.Take(
                setup.HouseOf(request.LocationId ?? OwnCalendar.HomeOf(setup, request.ResourceId).Location.Id),
                "locationId",
                "There is no such location."
            );
            string? reason = checks.Name(request.Reason, "reason", "Say what it is for.");
            checks.Require(
                (request.Repeat is null) == (request.Start is not null && request.End is not null),
                "start",
                "Say from when until when, or how it repeats."
            );
            checks.Require(
                request.Repeat is null || request.Kind != BlockKind.Online,
                "kind",
                "Only blocked time repeats. Say from when until when."
            );
            return request.Repeat is { } repeat
                ? new WantedBlock(id, null, RepeatingOf(checks, id, request.ResourceId, reason, repeat))
                : new WantedBlock(id, OnceOf(checks, id, request, reason, house), null);
        }

        private static RepeatingBlock RepeatingOf(Checks checks, Guid id, Guid resourceId, string? reason, RepeatDocument repeat)
        {
            Repeat? rule = checks.Take(
                Repeat.Parse(repeat.Rule, repeat.First),
                "repeat.rule",
                "That is no rule for dates. Write one like FREQ=WEEKLY;BYDAY=MO."
            );
            Stretch during = new(repeat.From, repeat.Until);
            checks.Require(during.IsValid, "repeat.until", "It ends after it begins, both on whole 5 minutes.");
            checks.Require(repeat.First.Year is >= 2000 and <= 2100, "repeat.first", "Choose a date between the years 2000 and 2100.");
            foreach ((int i, ChangedDateDocument date) in (repeat.Changed ?? []).Index())
            {
                bool isWhole =
                    (date.From is null) == (date.Until is null)
                    && (date.From is null || new Stretch(date.From.Value, date.Until!.Value).IsValid);
                checks.Require(isWhole, $"repeat.changed[{i}].until", "It ends after it begins, both on whole 5 minutes.");
                checks.Require(rule?.Holds(date.Date) != false, $"repeat.changed[{i}].date", "The rule does not name that date.");
            }

            checks.Done();
            return new RepeatingBlock(id, resourceId, rule!, during, reason!)
            {
                Changed = (repeat.Changed ?? [])
                    .DistinctBy(date => date.Date)
                    .ToDictionary(date => date.Date, date => date.From is { } from ? new Stretch(from, date.Until!.Value) : (Stretch?)null),
            };
        }

        private static BlockedTime OnceOf(Checks checks, Guid id, BlockDocument request, string? reason, House? house)
        {
            checks.Require(request.End is null || request.Start is null || request.End > request.Start, "end", "It ends after it begins.");
            checks.Require(
                request.Start is not { } begin || begin.Year is >= 2000 and <= 2100,
                "start",
                "Choose a date between the years 2000 and 2100."
            );
            checks.Require(
                request.End is not { } end
                    || request.Start is not { } start
                    || (end.Year <= 2100 && Period.DaysBetween(start.Date, end.Date) <= 800),
                "end",
                "Two years at the most."
            );
            checks.Done();
            Instant At(LocalDateTime at) => new BookDay(at.Date, house!.Location.Zone).Of(at.TimeOfDay);
            Instant begins = At(request.Start!.Value),
                ends = At(request.End!.Value);
            // What lies in the hour that the clocks skip is no time at all.
            if (begins >= ends)
                throw Refused.Invalid("end", "The clocks go forward that night, and nothing is left of this time. Choose another.");
            return new BlockedTime(request.ResourceId, new Interval(begins, ends), reason!) { BlockId = id, Kind = request.Kind };
        }
    }
}
