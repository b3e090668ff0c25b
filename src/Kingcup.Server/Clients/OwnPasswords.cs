using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;
using Passwords = Kingcup.Server.SignIn.Passwords;

namespace Kingcup.Server.Clients;

/// <summary>A client's own password: it opens what is theirs alone, as long as they are reached at its address.</summary>
internal static class OwnPasswords
{
    private const int MostTries = 5,
        RestMinutes = 15,
        MostPeople = 3;
    private static readonly Duration _rest = Duration.FromMinutes(RestMinutes);

    internal static void Map(RouteGroupBuilder group)
    {
        group
            .MapPost("/mine/sign-in", SignInAsync)
            .Limit(Limits.SignIn)
            .WithSummary("Opens one's own bookings by a password.")
            .ProducesProblem(401)
            .ProducesProblem(503);
        group
            .MapPut("/mine/password", SetPasswordAsync)
            .Limit(Limits.SignIn)
            .WithSummary("Sets one's own password, or takes it away; other devices have to show anew who it is.")
            .ProducesProblem(401)
            .ProducesProblem(503);
    }

    private static async Task<NoContent> SignInAsync(
        OwnSignInRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        Addresses addresses,
        IClock clock
    )
    {
        Checks checks = new();
        checks.Require(request.Password is { Length: > 0 and <= Passwords.Most }, "password", "Enter your password.");
        checks.Done();
        string address;
        byte[] account, range;
        IReadOnlyList<OwnPassword> kept = [];
        int tries;
        await using (NpgsqlConnection connection = await database.OpenAsync())
        {
            address = OwnDoor.AddressOf(request.Address, await book.SetupAsync(connection));
            // A client's account is another than that of somebody of the team who has the same address.
            account = await addresses.AccountAsync($"client {address}", connection);
            range = await addresses.RangeAsync(http, connection);
            tries = await LimitStore.CountSignInAsync(connection, account, range, SystemClock.Instance.GetCurrentInstant(), _rest);
            if (tries <= MostTries) kept = await OwnStore.PasswordsAsync(connection, address);
        }

        // No connection is held while the hash is worked out; where there is nobody, it takes as long.
        Guid? who = null;
        foreach (OwnPassword? one in kept.Take(MostPeople).Cast<OwnPassword?>().DefaultIfEmpty())
            if (await Passwords.AreAsync(one?.Hash, request.Password!)) who ??= one!.ClientId;
        if (who is not { } id || tries > MostTries)
            throw new Refused(
                StatusCodes.Status401Unauthorized,
                "sign-in",
                $"Address and password do not go together. After {MostTries} tries, wait {RestMinutes} minutes or have a code sent.",
                "password"
            );
        await using (NpgsqlConnection connection = await database.OpenAsync())
        {
            await LimitStore.ForgetSignInAsync(connection, account, range);
            await OwnDoor.BeginAsync(http, connection, new OwnSession(id, address), clock.GetCurrentInstant());
        }

        return TypedResults.NoContent();
    }

    private static async Task<NoContent> SetPasswordAsync(OwnPasswordRequest request, HttpContext http, Database database, IClock clock)
    {
        Checks checks = new();
        if (request.Password is not null) Passwords.Check(checks, request.Password, "password");
        checks.Done();
        Instant now = clock.GetCurrentInstant();
        OwnSession session;
        await using (NpgsqlConnection connection = await database.OpenAsync())
        {
            (session, IReadOnlyList<Guid> clients) = await OwnDoor.WhoAsync(http, connection, now);
            if (!clients.Contains(request.PersonId)) throw OwnDoor.SignedOut();
        }

        string? hash = request.Password is null ? null : await Passwords.HashAsync(request.Password);
        await using (NpgsqlConnection connection = await database.OpenAsync())
        await using (NpgsqlTransaction transaction = await connection.BeginTransactionAsync())
        {
            await OwnStore.SetPasswordAsync(connection, request.PersonId, session.Address, hash, now);
            byte[] here = OwnDoor.HashOf(http.Request.Cookies[OwnDoor.Cookie])!;
            await OwnStore.EndOthersAsync(connection, request.PersonId, session.Address, here);
            await transaction.CommitAsync();
        }

        return TypedResults.NoContent();
    }
}
