using System.Security.Cryptography;
using System.Text.Json;
using Kingcup.Core.Availability;
using Kingcup.Server.Api;
using Kingcup.Server.Booking;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Availability;

/// <summary>What somebody looked for and did not find.</summary>
/// <param name="Search">What they looked for, as they asked for the starts.</param>
/// <param name="Part">The part of the day they kept to, or null.</param>
/// <param name="Week">The days of the week they kept to.</param>
public sealed record UnmetRequest(PublicStartsRequest? Search, DayPart? Part, DaysOfWeek Week);

/// <summary>Searches that failed for the same, as the owner reads of them.</summary>
public sealed record UnmetAnswer
{
    /// <summary>Where.</summary>
    public required Guid LocationId { get; init; }

    /// <summary>What.</summary>
    public required Guid ServiceId { get; init; }

    /// <summary>With whom, or null for anybody.</summary>
    public required Guid? PractitionerId { get; init; }

    /// <summary>What they failed for.</summary>
    public required Gate Gate { get; init; }

    /// <summary>The part of the day, or null for any.</summary>
    public required DayPart? Part { get; init; }

    /// <summary>The days of the week.</summary>
    public required DaysOfWeek Week { get; init; }

    /// <summary>How many: each device counts once a day.</summary>
    public required int Count { get; init; }

    /// <summary>The day of the latest.</summary>
    public required LocalDate Last { get; init; }
}

/// <summary>What people looked for online and did not find.</summary>
/// <param name="Days">Of how many days.</param>
/// <param name="Searches">The most frequent first.</param>
public sealed record UnmetFigures(int Days, IReadOnlyList<UnmetAnswer> Searches);

/// <summary>Searches that found nothing: noted without saying who looked, for the owner's figures.</summary>
internal static class UnmetEndpoints
{
    private const int Days = 90,
        MostFigures = 100;

    internal static void MapPublic(RouteGroupBuilder group) =>
        group
            .MapPost("/unmet", NoteAsync)
            .Limit(Limits.PublicHold)
            .WithSummary("Notes a search that found nothing; one that finds something is passed over.");

    internal static void Map(RouteGroupBuilder api) =>
        api.MapGroup("/setup")
            .RequireAuthorization(Rights.EditSetup)
            .WithTags("Setup")
            .Problems()
            .MapGet("/unmet", FiguresAsync)
            .WithSummary($"What people looked for online in the last {Days} days and did not find, the most frequent first.");

    private static async Task<NoContent> NoteAsync(
        UnmetRequest request,
        HttpContext http,
        StartQueries queries,
        Database database,
        VisitTokens tokens,
        Addresses addresses,
        IClock clock
    )
    {
        PublicStartsRequest search = request.Search ?? throw Refused.Invalid("search", "Say what was looked for.");
        // Whoever has looked further found nothing in these either.
        search = search with { Days = Math.Min(search.Days ?? 1, StartQueries.MostDays) };
        OfferedDays offered = await PublicEndpoints.OfferedAsync(search, http, queries, database, tokens, clock);
        WantedTimes wanted = new(request.Part, request.Week);
        if (UnmetSearch.TakenBy(offered.Finder, offered.Days, wanted, offered.Audience, offered.Now) is not { } gate)
            return TypedResults.NoContent();
        LineRequest first = search.Lines![0];
        (LocalDate from, LocalDate to) = (offered.Days[0].Day.Date, offered.Days[^1].Day.Date);
        UnmetRow row = new()
        {
            At = offered.Now,
            Date = offered.Now.InZone(offered.House.Location.Zone).Date,
            Device = await addresses.DeviceAsync(http),
            Search = SHA256.HashData(
                JsonSerializer.SerializeToUtf8Bytes(
                    new
                    {
                        search.LocationId,
                        Lines = search.Lines.Select(line => new { line.ServiceId, line.PractitionerId, line.Person }),
                        request.Part,
                        request.Week,
                    }
                )
            ),
            LocationId = search.LocationId,
            ServiceId = first.ServiceId,
            PractitionerId = first.PractitionerId,
            From = from,
            To = to,
            Wanted = wanted,
            Gate = gate,
        };
        await using NpgsqlConnection connection = await database.OpenAsync();
        await UnmetStore.AddAsync(connection, row);
        return TypedResults.NoContent();
    }

    private static async Task<Ok<UnmetFigures>> FiguresAsync(Database database, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        LocalDate since = clock.GetCurrentInstant().InUtc().Date.PlusDays(-Days);
        IReadOnlyList<UnmetFigure> figures = await UnmetStore.FiguresAsync(connection, since, MostFigures);
        return TypedResults.Ok(
            new UnmetFigures(
                Days,
                [
                    .. figures.Select(figure => new UnmetAnswer
                    {
                        LocationId = figure.LocationId,
                        ServiceId = figure.ServiceId,
                        PractitionerId = figure.PractitionerId,
                        Gate = Enum.Parse<Gate>(figure.Gate),
                        Part = figure.Part is { } part ? Enum.Parse<DayPart>(part) : null,
                        Week = Enum.Parse<DaysOfWeek>(figure.Days),
                        Count = figure.Count,
                        Last = figure.Last,
                    }),
                ]
            )
        );
    }
}
