using System.ComponentModel.DataAnnotations;
using Kingcup.Core.Rooms;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Server.Team;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Kingcup.Server.Rooms;

/// <summary>A room.</summary>
public sealed record RoomDocument
{
    /// <summary>Identity; given by the server.</summary>
    public required Guid? Id { get; init; }

    /// <summary>Name on the door.</summary>
    [MaxLength(Checks.LongestName)]
    public required string? Name { get; init; }

    /// <summary>Where it is.</summary>
    public required Guid LocationId { get; init; }

    /// <summary>How many units can be held at once.</summary>
    [Range(1, RoomChecks.Most)]
    public required int Capacity { get; init; }

    /// <summary>Cleaning minutes after each visit.</summary>
    public required int TurnaroundMinutes { get; init; }

    /// <summary>What it has; a new one joins the list of features.</summary>
    public required IReadOnlyList<string>? Features { get; init; }

    /// <summary>First local date on which it is no longer used, or null.</summary>
    public LocalDate? Retired { get; init; }

    /// <summary>To be sent as If-Match with a change.</summary>
    public long Version { get; init; }

    internal static RoomDocument Of(ListedRoom room) =>
        new()
        {
            Id = room.Room.Id,
            Name = room.Room.Name,
            LocationId = room.LocationId,
            Capacity = room.Room.Capacity,
            TurnaroundMinutes = room.Room.TurnaroundMinutes,
            Features = [.. room.Room.Features.Order()],
            Retired = room.Room.Retired,
            Version = room.Version,
        };

    internal ListedRoom Check(Checks checks, Setup setup, Guid id, int position)
    {
        string? name = checks.Name(Name, "name", "Enter the name on the door.");
        checks.Limits(this);
        RoomChecks.Check(checks, setup, LocationId, TurnaroundMinutes, Retired);
        List<string> features = [.. (Features ?? []).Select(text => text.Trim()).Where(text => text.Length > 0).Distinct()];
        checks.Require(
            features.Count <= 30 && features.All(feature => feature.Length <= 60 && !feature.Any(char.IsControl)),
            "features",
            "30 features at the most, 60 characters each."
        );
        return new ListedRoom(
            new Room
            {
                Id = id,
                Name = name ?? "",
                Order = position,
                Capacity = Capacity,
                TurnaroundMinutes = TurnaroundMinutes,
                Features = features.ToHashSet(),
                Retired = Retired,
            },
            LocationId
        );
    }
}

/// <summary>A pool of interchangeable items.</summary>
/// <param name="Id">Identity; given by the server.</param>
/// <param name="Name">What the items are.</param>
/// <param name="LocationId">Where they are.</param>
/// <param name="Quantity">How many.</param>
/// <param name="TurnaroundMinutes">Cleaning minutes after each use.</param>
/// <param name="Retired">First local date on which they are no longer used, or null.</param>
/// <param name="Version">To be sent as If-Match with a change.</param>
public sealed record EquipmentDocument(
    Guid? Id,
    [property: MaxLength(Checks.LongestName)] string? Name,
    Guid LocationId,
    [property: Range(1, RoomChecks.Most)] int Quantity,
    int TurnaroundMinutes,
    LocalDate? Retired = null,
    long Version = 0
)
{
    internal static EquipmentDocument Of(ListedPool pool) =>
        new(
            pool.Pool.Id,
            pool.Pool.Name,
            pool.LocationId,
            pool.Pool.Quantity,
            pool.Pool.TurnaroundMinutes,
            pool.Pool.Retired,
            pool.Version
        );

    internal ListedPool Check(Checks checks, Setup setup, Guid id, int position)
    {
        string? name = checks.Name(Name, "name", "Enter what the items are.");
        checks.Limits(this);
        RoomChecks.Check(checks, setup, LocationId, TurnaroundMinutes, Retired);
        return new ListedPool(
            new EquipmentPool
            {
                Id = id,
                Name = name ?? "",
                Order = position,
                Quantity = Quantity,
                TurnaroundMinutes = TurnaroundMinutes,
                Retired = Retired,
            },
            LocationId
        );
    }
}

/// <summary>What rooms and equipment have in common.</summary>
internal static class RoomChecks
{
    /// <summary>Most places of a room, and most units of one equipment.</summary>
    internal const int Most = 200;

    internal static void Check(Checks checks, Setup setup, Guid locationId, int turnaround, LocalDate? retired)
    {
        checks.Require(setup.HouseOf(locationId) is not null, "locationId", "There is no such location.");
        checks.Require(
            turnaround is >= 0 and <= 480 && Grain.IsWhole(turnaround),
            "turnaroundMinutes",
            "A multiple of 5 minutes, 8 hours at the most."
        );
        if (retired is { } date)
            checks.Require(date.Year is >= 2000 and <= 2100, "retired", "Choose a date between the years 2000 and 2100.");
    }
}

/// <summary>A feature rooms may have.</summary>
/// <param name="Name">Its name.</param>
public sealed record FeatureRequest(string? Name);

/// <summary>Rooms, equipment and features.</summary>
internal static class RoomEndpoints
{
    private static readonly SetupList<RoomDocument, ListedRoom> _rooms = new()
    {
        Kind = "room",
        NotThere = "There is no such room.",
        All = setup => setup.Parts.Rooms,
        IdOf = room => room.Room.Id,
        VersionOf = room => room.Version,
        Tell = (_, room) => RoomDocument.Of(room),
        Check = (request, checks, change, id, before) =>
            Task.FromResult(request.Check(checks, change.Setup, id, before?.Room.Order ?? change.Setup.Parts.Rooms.Count + 1)),
        Save = (change, room) => change.Writer.SaveAsync(room),
    };

    private static readonly SetupList<EquipmentDocument, ListedPool> _pools = new()
    {
        Kind = "equipment",
        NotThere = "There is no such equipment.",
        All = setup => setup.Parts.Pools,
        IdOf = pool => pool.Pool.Id,
        VersionOf = pool => pool.Version,
        Tell = (_, pool) => EquipmentDocument.Of(pool),
        Check = (request, checks, change, id, before) =>
            Task.FromResult(request.Check(checks, change.Setup, id, before?.Pool.Order ?? change.Setup.Parts.Pools.Count + 1)),
        Save = (change, pool) => change.Writer.SaveAsync(pool),
    };

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/setup").RequireAuthorization(Rights.EditSetup).WithTags("Rooms").Problems();
        _rooms.Map(
            group,
            "/rooms",
            "All rooms, retired ones too.",
            "Adds a room.",
            "Changes a room; a date as 'retired' takes it out of use without losing history."
        );
        group
            .MapPut(
                "/rooms/order",
                (OrderRequest request, HttpContext http, SetupDesk desk) => TeamEndpoints.OrderAsync(request, "room", http, desk)
            )
            .WithSummary("Sets the house order.");
        _pools.Map(group, "/equipment", "All equipment, retired too.", "Adds equipment.", "Changes equipment.");
        group
            .MapPut(
                "/equipment/order",
                (OrderRequest request, HttpContext http, SetupDesk desk) => TeamEndpoints.OrderAsync(request, "equipment", http, desk)
            )
            .WithSummary("Sets the house order.");
        group
            .MapGet("/features", (Database database, BookReader book) => book.ReadAsync(database, setup => setup.Parts.Features))
            .WithSummary("Features rooms may have.");
        group.MapPost("/features", AddFeatureAsync).WithSummary("Adds a feature to the list.");
        group
            .MapDelete("/features/{name}", RemoveFeatureAsync)
            .Hits()
            .WithSummary("Takes a feature off the list; refused while a room has it or a service needs it.");
    }

    private static async Task<NoContent> AddFeatureAsync(FeatureRequest request, HttpContext http, SetupDesk desk)
    {
        Checks checks = new();
        string? name = checks.Name(request.Name, "name", "Enter the feature, like couch or wet.");
        checks.Done();
        await desk.ChangeAsync(
            http,
            async change =>
            {
                await change.Writer.AddFeatureAsync(name!);
                await change.RecordAsync("room", Guid.Empty, "Feature added", null, new { name });
                return true;
            }
        );
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> RemoveFeatureAsync(string name, HttpContext http, SetupDesk desk)
    {
        await desk.ChangeAsync(
            http,
            async change =>
            {
                if (change.Setup.Parts.Rooms.FirstOrDefault(listed => listed.Room.Features.Contains(name)) is { } room)
                    throw new Refused(
                        StatusCodes.Status409Conflict,
                        "in-use",
                        $"{room.Room.Name} has this feature. Take it from the room first.",
                        "name"
                    );
                if (change.Setup.Services.FirstOrDefault(listed => listed.Service.Room?.Features.Contains(name) == true) is { } service)
                    throw new Refused(
                        StatusCodes.Status409Conflict,
                        "in-use",
                        $"{service.Service.Name} needs this feature. Change the service first.",
                        "name"
                    );
                if (await change.Writer.RemoveFeatureAsync(name) == 0)
                    throw Refused.NotFound("There is no such feature.");
                await change.RecordAsync("room", Guid.Empty, "Feature removed", new { name }, null);
                return true;
            }
        );
        return TypedResults.NoContent();
    }
}
