using System.Buffers.Binary;
using System.ComponentModel.DataAnnotations;
using System.Security.Cryptography;
using System.Text;
using Kingcup.Core.Availability;
using Kingcup.Core.Money;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Clients;
using Kingcup.Server.Plans;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Kingcup.Server.Booking;

/// <summary>A time that is to be kept for somebody who is choosing.</summary>
public sealed record PublicHoldRequest
{
    /// <summary>Where.</summary>
    public required Guid LocationId { get; init; }

    /// <summary>When.</summary>
    public required Instant Start { get; init; }

    /// <summary>What.</summary>
    public required IReadOnlyList<LineRequest>? Lines { get; init; }

    /// <summary>The client says to have been here before.</summary>
    public bool? Returning { get; init; }

    /// <summary>The direct link the client came with.</summary>
    public string? Link { get; init; }

    /// <summary>The token of a visit just booked that has to come first.</summary>
    public string? After { get; init; }

    /// <summary>The promo code they have named; nothing for none.</summary>
    [MaxLength(Promos.LongestTyped)]
    public string? Promo { get; init; }

    /// <summary>As which client they ask, who has shown who they are; null for anybody else.</summary>
    public Guid? As { get; init; }
}

/// <summary>A time that is kept for somebody.</summary>
public sealed record PublicHold
{
    /// <summary>To be sent with the booking as "hold", and to give it back.</summary>
    public required string Token { get; init; }

    /// <summary>Until when it is kept.</summary>
    public required Instant Until { get; init; }

    /// <summary>For how many seconds more, whatever the client's clock says.</summary>
    public required int Seconds { get; init; }

    /// <summary>When the visit begins.</summary>
    public required Instant Start { get; init; }

    /// <summary>When it ends.</summary>
    public required Instant End { get; init; }

    /// <summary>What and with whom.</summary>
    public required IReadOnlyList<string> Lines { get; init; }

    /// <summary>What it costs, to be sent with the booking as "priceSeen".</summary>
    public required MoneyAnswer Price { get; init; }

    /// <summary>What is due before it is booked, to be sent with the booking as "dueSeen".</summary>
    public required MoneyAnswer Due { get; init; }

    /// <summary>What became of the promo code; null where none was named. What it takes off is in the price.</summary>
    public required PublicPromo? Promo { get; init; }

    /// <summary>What is left to pay at the visit then.</summary>
    public required MoneyAnswer Rest { get; init; }

    /// <summary>Whether a card has to be on file before it is booked.</summary>
    public required bool NeedsCard { get; init; }

    /// <summary>Within how many hours the business answers, where it would only be asked for; null where it is booked at once.</summary>
    public required int? AnswerHours { get; init; }

    /// <summary>What cancelling, moving and not coming costs, in words; empty where it never costs anything.</summary>
    public required IReadOnlyList<string> Policy { get; init; }

    /// <summary>Which policy that is, 0 for none; to be sent with the booking as "policySeen".</summary>
    public required long PolicyId { get; init; }
}

/// <summary>A time that is given back.</summary>
/// <param name="Token">What named it.</param>
public sealed record PublicGiveBackRequest(string? Token);

/// <summary>Times kept for a few minutes for whoever chooses online (rules, section 7).</summary>
internal static class PublicHolds
{
    internal static void Map(RouteGroupBuilder group)
    {
        group
            .MapPost("/holds", HoldAsync)
            .Limit(Limits.PublicHold)
            .WithSummary("Keeps a time for ten minutes, in the place of the one kept before.")
            .ProducesProblem(409)
            .ProducesProblem(422);
        // A page that is left can only post.
        group.MapPost("/holds/back", GiveBackAsync).Limit(Limits.PublicHold).WithSummary("Gives a time back.");
    }

    private static async Task<Created<PublicHold>> HoldAsync(
        PublicHoldRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        BookingDesk desk,
        Addresses addresses,
        VisitTokens tokens,
        IClock clock
    )
    {
        PublicEndpoints.CheckLines(request.Lines);
        Checks.Within(request);
        IReadOnlyList<EarlierVisit> before = request.After is null
            ? []
            : await PublicEndpoints.VisitAsync(database, tokens, request.After);
        Setup setup;
        ShownClient? shown;
        Instant asked = clock.GetCurrentInstant();
        await using (Npgsql.NpgsqlConnection connection = await database.OpenAsync())
        {
            setup = await book.SetupAsync(connection);
            shown = await ShownClient.FindAsync(http, connection, request.As, asked);
        }

        WantedVisit wanted = WantedVisit.Of(setup, request.Lines);
        PublicEndpoints.CheckLines(setup, wanted.Wish.Lines);
        PublicBooking.CheckChoice(setup.HouseOf(request.LocationId), request.Lines!);
        string token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(32));
        KeptTime kept = await desk.HoldAsync(
            new HoldOrder
            {
                LocationId = request.LocationId,
                Start = request.Start,
                Wanted = wanted,
                Audience = ShownClient.AudienceOf(
                    shown,
                    request.Returning,
                    PublicEndpoints.LinksOf(setup, request.Link),
                    before,
                    asked
                ),
                IsShown = shown is not null,
                Promo = request.Promo,
                Asked = AskedHash(request.LocationId, request.Start, request.Lines!),
                Device = await addresses.DeviceAsync(http),
                Range = await addresses.RangeAsync(http),
            },
            HashOf(token)!,
            setup
        );
        (StoredProposal held, setup) = (kept.Held, kept.Setup);
        Instant now = clock.GetCurrentInstant();
        VisitAnswer visit = DayPicture.Of(setup, held.Visit, now);
        Guarantee due = kept.Due;
        return TypedResults.Created((string?)null, new PublicHold
        {
            Due = new MoneyAnswer(due.Deposit, setup.Business.Currency),
            Rest = new MoneyAnswer(visit.Price.Amount - due.Deposit, setup.Business.Currency),
            NeedsCard = due.NeedsCard,
            AnswerHours = kept.NeedsApproval ? setup.Parts.BookingPage.Requests.AnswerHours : null,
            Policy = PolicyOf(setup, request.LocationId, held.Visit),
            PolicyId = setup.PolicyOf(request.LocationId)?.Id ?? 0,
            Token = token,
            Until = held.ExpiresAt,
            Seconds = (int)(held.ExpiresAt - now).TotalSeconds,
            Start = visit.Start,
            End = visit.End,
            Lines = PublicBooking.LinesOf(visit),
            Price = visit.Price,
            Promo = kept.Promo,
        });
    }

    private static string[] PolicyOf(Setup setup, Guid locationId, StoredVisit visit) =>
        setup.PolicyOf(locationId) is not { } policy
            ? []
            :
            [
                .. PolicyWords
                    .Of(
                        policy.Policy,
                        visit.Visit.StartsAt,
                        setup.HouseOf(locationId)!.Location.Zone,
                        [.. visit.Price.Lines.Select(line => line.Total)],
                        setup.Business.Currency
                    )
                    .Select(sentence => (string)sentence),
            ];

    private static async Task<NoContent> GiveBackAsync(PublicGiveBackRequest request, BookingDesk desk)
    {
        if (HashOf(request.Token) is { } hash)
            await desk.GiveBackAsync(hash);
        return TypedResults.NoContent();
    }

    /// <summary>Hash of a token; null for anything that is none.</summary>
    internal static byte[]? HashOf(string? token) =>
        token is { Length: 64 } && token.All(char.IsAsciiHexDigitLower) ? SHA256.HashData(Encoding.ASCII.GetBytes(token)) : null;

    /// <summary>Hash of what a client asks for: the same visit at the same time has the same, whichever way it is written.</summary>
    internal static byte[] AskedHash(Guid locationId, Instant start, IReadOnlyList<LineRequest> lines)
    {
        using IncrementalHash hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        void Add(Guid? id) => hash.AppendData((id ?? Guid.Empty).ToByteArray());
        void AddNumber(long number)
        {
            Span<byte> bytes = stackalloc byte[8];
            BinaryPrimitives.WriteInt64BigEndian(bytes, number);
            hash.AppendData(bytes);
        }

        Add(locationId);
        AddNumber(start.ToUnixTimeTicks());
        foreach (LineRequest line in lines)
        {
            Add(line.ServiceId);
            Add(line.PractitionerId);
            AddNumber(line.Person ?? 0);
            AddOnRequest[] extras = [.. (line.AddOns ?? []).OrderBy(extra => extra.AddOnId)];
            AddNumber(extras.Length);
            foreach (AddOnRequest extra in extras)
            {
                Add(extra.AddOnId);
                AddNumber(extra.Count);
            }
        }

        return hash.GetHashAndReset();
    }
}
