using System.Buffers.Text;
using System.Security.Cryptography;
using Kingcup.Core.Business;
using Kingcup.Core.Clients;
using Kingcup.Core.Messages;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Server.Messages;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Clients;

/// <summary>
/// How clients come to their own bookings: by the link that was sent to them, or by a code. Nothing here tells whether somebody is a
/// client.
/// </summary>
internal static class OwnDoor
{
    internal const string Cookie = "kingcup-mine";
    private const string Path = "/api/public/v1";
    private const int MostCodes = 3,
        CodeLength = 6,
        TokenBytes = 32;
    private static readonly Duration _stays = Duration.FromHours(12),
        _codeGood = Duration.FromMinutes(10),
        _codesCounted = Duration.FromMinutes(15);

    internal static void Map(RouteGroupBuilder group)
    {
        group
            .MapPost("/mine/open", OpenAsync)
            .Limit(Limits.SignIn)
            .WithSummary("Opens one's own bookings by the link that was sent.")
            .ProducesProblem(401);
        group
            .MapPost("/mine/code", SendCodeAsync)
            .Limit(Limits.SignIn)
            .WithSummary("Sends a code to whoever is a client under an address; the answer is the same for everybody.");
        group
            .MapPost("/mine/enter", EnterAsync)
            .Limit(Limits.SignIn)
            .WithSummary("Opens one's own bookings by a code.")
            .ProducesProblem(401);
        group.MapPost("/mine/leave", LeaveAsync).Limit(Limits.PublicRead).WithSummary("Closes one's own bookings on this device.");
    }

    /// <summary>Whoever asks, and the clients they are.</summary>
    /// <exception cref="Refused">They have not shown who they are, or are nobody's client any more.</exception>
    internal static async Task<(OwnSession Session, IReadOnlyList<Guid> Clients)> WhoAsync(
        HttpContext http,
        NpgsqlConnection connection,
        Instant now
    ) => await FindAsync(http, connection, now) ?? throw SignedOut();

    /// <summary>Whoever asks, and the clients they are; null where they have not shown who they are.</summary>
    internal static async Task<(OwnSession Session, IReadOnlyList<Guid> Clients)?> FindAsync(
        HttpContext http,
        NpgsqlConnection connection,
        Instant now
    ) => await ShownAsync(http, connection, now) is { Clients.Count: > 0 } shown ? shown : null;

    /// <summary>The address whoever asks has shown to be theirs, and the clients they are, who may be nobody yet; null where they have
    /// shown nothing.</summary>
    internal static async Task<(OwnSession Session, IReadOnlyList<Guid> Clients)?> ShownAsync(
        HttpContext http,
        NpgsqlConnection connection,
        Instant now
    ) =>
        HashOf(http.Request.Cookies[Cookie]) is { } hash && await OwnStore.FindAsync(connection, hash, now) is { } session
            ? (session, await OwnStore.ClientsAsync(connection, session))
            : null;

    /// <summary>The answer to whoever has not shown who they are.</summary>
    internal static Refused SignedOut() =>
        new(
            StatusCodes.Status401Unauthorized,
            "signed-out",
            "Show who you are first: follow the link we sent, or have a code sent."
        );

    /// <summary>What a session is kept under, or null where nothing names one.</summary>
    internal static byte[]? HashOf(string? token) =>
        token is null || token.Length > 100 ? null : SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(token));

    private static async Task<NoContent> OpenAsync(
        OwnOpenRequest request,
        HttpContext http,
        Database database,
        VisitTokens tokens,
        IClock clock
    )
    {
        VisitTokens.Seal seal = await tokens.SealAsync(database);
        await using NpgsqlConnection connection = await database.OpenAsync();
        ClientRow? client = VisitTokens.Seal.ClientNamedIn(request.Token) is { } id ? await ClientStore.FindAsync(connection, id) : null;
        string? address = new[] { client?.Email, client?.Phone }.FirstOrDefault(reached =>
            reached is not null && seal.IsOfClient(request.Token!, reached)
        );
        if (client is null || address is null)
            throw new Refused(
                StatusCodes.Status401Unauthorized,
                "no-link",
                "This link is not good any more. Have a code sent instead."
            );
        await BeginAsync(http, connection, new OwnSession(client.Id, address), clock.GetCurrentInstant());
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> SendCodeAsync(OwnCodeRequest request, Database database, BookReader book, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        string address = AddressOf(request.Address, setup);
        Instant now = clock.GetCurrentInstant();
        // Whoever is no client waits in vain, like whoever has had too many: neither the answer nor how long it takes says so.
        bool isSent =
            (
                (await OwnStore.ClientsAsync(connection, new OwnSession(null, address))).Count > 0
                | (request.ToBook && setup.Parts.BookingPage.Access.ProvesStrangers)
            ) & await OwnStore.CodesSinceAsync(connection, address, now - _codesCounted) < MostCodes;
        Channel channel = address.Contains('@', StringComparison.Ordinal) ? Channel.Email : Channel.Text;
        Sentence says = Say(
            $"Your code is {MessageVariables.CodeMark}. It is good for {Count((int)_codeGood.TotalMinutes, "minute", "minutes")}."
        );
        MessageRow message = new()
        {
            Id = Guid.CreateVersion7(),
            Trigger = nameof(MessageTrigger.Code),
            Channel = channel.ToString(),
            Recipient = nameof(Recipient.Client),
            Address = address,
            Name = address,
            Language = setup.Business.Language,
            Subject = channel == Channel.Email ? Say($"Your code for {setup.Business.Name}") : "",
            Body = channel == Channel.Email
                ? $"{(string)says}\n\n{(string)Say("If you have not asked for it, there is nothing to do.")}"
                : $"{setup.Business.Name}: {(string)says}",
            State = nameof(MessageState.Waiting),
            CreatedAt = now,
            DueAt = now,
        };
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        await MessageStore.AddAsync(connection, [message]);
        await OwnStore.AddCodeAsync(connection, address, message.Id, now, now + _codeGood);
        if (isSent) await transaction.CommitAsync();
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> EnterAsync(
        OwnEnterRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        VisitTokens tokens,
        IClock clock
    )
    {
        VisitTokens.Seal seal = await tokens.SealAsync(database);
        await using NpgsqlConnection connection = await database.OpenAsync();
        string address = AddressOf(request.Address, await book.SetupAsync(connection)),
            code = new([.. (request.Code ?? "").Where(char.IsAsciiDigit)]);
        Instant now = clock.GetCurrentInstant();
        if (code.Length != CodeLength || !await OwnStore.TryCodeAsync(connection, address, seal.HashOfCode(address, code), now))
            throw new Refused(
                StatusCodes.Status401Unauthorized,
                "code",
                "That is not the code, or it is too old. Look again, or have another one sent.",
                "code"
            );
        await BeginAsync(http, connection, new OwnSession(null, address), now);
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> LeaveAsync(HttpContext http, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        if (HashOf(http.Request.Cookies[Cookie]) is { } hash) await OwnStore.EndAsync(connection, hash);
        http.Response.Cookies.Delete(Cookie, OptionsOf(http));
        return TypedResults.NoContent();
    }

    /// <summary>Opens one's own bookings on this device for some hours.</summary>
    internal static async Task BeginAsync(HttpContext http, NpgsqlConnection connection, OwnSession session, Instant now)
    {
        string token = Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(TokenBytes));
        await OwnStore.BeginAsync(connection, HashOf(token)!, session, now, now + _stays);
        CookieOptions options = OptionsOf(http);
        options.MaxAge = _stays.ToTimeSpan();
        http.Response.Cookies.Append(Cookie, token, options);
    }

    private static CookieOptions OptionsOf(HttpContext http) =>
        new()
        {
            HttpOnly = true,
            IsEssential = true,
            Path = Path,
            SameSite = SameSiteMode.Strict,
            Secure = http.Request.IsHttps,
        };

    /// <summary>The address somebody typed, as it is kept.</summary>
    /// <exception cref="Refused">It is none.</exception>
    internal static string AddressOf(string? typed, Setup setup)
    {
        string text = (typed ?? "").Trim();
        return ContactRules.Email(text)
            ?? ContactRules.Phone(text, setup.Business.Region)
            ?? throw Refused.Invalid("address", "Enter the e-mail address or the telephone number you booked with.");
    }
}
