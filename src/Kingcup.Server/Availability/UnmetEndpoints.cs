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
/// <param name="LocationId">Where.</param>
/// <param name="ServiceId">What.</param>
/// <param name="PractitionerId">With whom, or null for anybody.</param>
/// <param name="Gate">What they failed for.</param>
/// <param name="Part">The part of the day, or null for any.</param>
/// <param name="Count">How many: each device counts once a day.</param>
/// <param name="Last">The day of the latest.</param>
public sealed record UnmetAnswer(
    Guid LocationId,
    Guid ServiceId,
    Guid? PractitionerId,
    Gate Gate,
    DayPart? Part,
    int Count,
    LocalDate Last
);

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
                        Lines = search.Lines.Select(line => new { line.ServiceId, line.PractitionerId }),
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

    private static async Task<Ok<UnmetAnswer[]>> FiguresAsync(Database database, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        LocalDate since = clock.GetCurrentInstant().InUtc().Date.PlusDays(-Days);
        return TypedResults.Ok(
            (await UnmetStore.FiguresAsync(connection, since, MostFigures))
                .Select(figure => new UnmetAnswer(
                    figure.LocationId,
                    figure.ServiceId,
                    figure.PractitionerId,
                    Enum.Parse<Gate>(figure.Gate),
                    figure.Part is { } part ? Enum.Parse<DayPart>(part) : null,
                    figure.Count,
                    figure.Last
                ))
                .ToArray()
        );
    }
}
