using Dapper;
using Kingcup.Core.Clients;
using Kingcup.Server.Api;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.SignIn;

/// <summary>A session of the person signed in.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Device">What device it is on.</param>
/// <param name="Since">When it began.</param>
/// <param name="Seen">When it was last used, to within a few minutes.</param>
/// <param name="IsThis">Whether it is the one that asks.</param>
public sealed record OwnSession(Guid Id, string Device, Instant Since, Instant Seen, bool IsThis);

/// <summary>A new password for oneself.</summary>
/// <param name="Present">The present password.</param>
/// <param name="Password">The new one, 10 characters or more.</param>
public sealed record NewPasswordRequest(string? Present, string? Password);

/// <summary>The secret of a second factor, shown once.</summary>
/// <param name="Secret">To be typed into an application for codes.</param>
/// <param name="Picture">The same as a picture to point at (SVG).</param>
public sealed record SecondFactorAnswer(string Secret, string Picture);

/// <summary>A code of the second factor.</summary>
/// <param name="Code">The six digits shown now.</param>
public sealed record CodeRequest(string? Code);

/// <summary>The present password, to confirm.</summary>
/// <param name="Password">The password.</param>
public sealed record PresentPasswordRequest(string? Password);

/// <summary>Whether the person signed in has a second factor.</summary>
/// <param name="IsOn">Whether codes are asked for.</param>
public sealed record SecondFactorState(bool IsOn);

/// <summary>The first owner of a business that has no account yet.</summary>
/// <param name="Name">Name.</param>
/// <param name="Email">E-mail address.</param>
/// <param name="Password">The password, 10 characters or more.</param>
public sealed record FirstOwnerRequest(string? Name, string? Email, string? Password);

/// <summary>Whether a business has no account yet.</summary>
/// <param name="IsOpen">Whether its first owner may be made.</param>
public sealed record FirstOwnerState(bool IsOpen);

/// <summary>What somebody does with their own account: password, second factor, sessions; and the first account of all.</summary>
internal static class OwnAccountEndpoints
{
    // Any number that no other lock of this database uses.
    private const long FirstOwnerLock = 7_201_907;

    internal static void Map(RouteGroupBuilder session)
    {
        RouteGroupBuilder group = session.MapGroup("").WithTags("Sign-in").ProducesProblem(400).ProducesProblem(401);
        group
            .MapGet("/session/first", FirstAsync)
            .AllowAnonymous()
            .Limit(Limits.SignIn)
            .WithSummary("Whether the business has no account yet.");
        group
            .MapPost("/session/first", MakeFirstAsync)
            .AllowAnonymous()
            .Limit(Limits.SignIn)
            .ProducesProblem(409)
            .WithSummary("Makes the first owner of a business that has no account yet, and signs in.");
        group.MapGet("/session/all", AllAsync).WithSummary("Where the person signed in is signed in.");
        group.MapDelete("/session/others", EndOthersAsync).WithSummary("Ends all other sessions of the person signed in.");
        group.MapPut("/session/password", ChangeAsync).Limit(Limits.SignIn).WithSummary("Changes one's own password; other sessions end.");
        group.MapGet("/session/second-factor", StateAsync).WithSummary("Whether the person signed in has a second factor.");
        group
            .MapPost("/session/second-factor", BeginAsync)
            .ProducesProblem(409)
            .WithSummary("Makes a second factor; it is asked for once a code has shown that it works.");
        group
            .MapPut("/session/second-factor", ConfirmAsync)
            .Limit(Limits.SignIn)
            .WithSummary("Shows with a code that the second factor works; from then on it is asked for.");
        group
            .MapPost("/session/second-factor/off", EndAsync)
            .Limit(Limits.SignIn)
            .WithSummary("Takes the second factor off again; needs the password.");
    }

    private static async Task<Ok<FirstOwnerState>> FirstAsync(Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok(new FirstOwnerState(!await StaffStore.AnyAsync(connection)));
    }

    private static async Task<NoContent> MakeFirstAsync(FirstOwnerRequest request, HttpContext http, Database database, IClock clock)
    {
        Checks checks = new();
        string? name = checks.Name(request.Name, "name", "Enter your name.");
        string? email = checks.Take(ContactRules.Email(request.Email), "email", "Enter an e-mail address like name@example.com.");
        Passwords.Check(checks, request.Password, "password");
        checks.Done();
        string hash = await Passwords.HashAsync(request.Password!);
        StaffRow owner = new() { Id = Guid.CreateVersion7(), Name = name!, Email = email!, Role = "Owner", PasswordHash = hash };
        Instant now = clock.GetCurrentInstant();
        await using NpgsqlConnection connection = await database.OpenAsync();
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        await connection.ExecuteAsync("SELECT pg_advisory_xact_lock(@FirstOwnerLock)", new { FirstOwnerLock });
        if (await StaffStore.AnyAsync(connection))
            throw new Refused(
                StatusCodes.Status409Conflict,
                "not-first",
                "This business has an owner already. Sign in, or ask them for a link."
            );
        await StaffStore.AddAsync(connection, owner);
        await History.RecordAsync(
            connection,
            new Subject("account", owner.Id),
            "Added",
            null,
            new
            {
                owner.Name,
                owner.Email,
                owner.Role,
            },
            new Change(owner.Name, now)
        );
        await Sessions.BeginAsync(http, connection, owner);
        await transaction.CommitAsync();
        return TypedResults.NoContent();
    }

    private static async Task<Ok<OwnSession[]>> AllAsync(HttpContext http, Database database)
    {
        Instant now = Sessions.Now;
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok(
            (await SessionStore.OfAsync(connection, http.StaffId(), now, now - Sessions.Idle))
                .Select(session => new OwnSession(
                    session.Id,
                    session.Device,
                    session.CreatedAt,
                    session.SeenAt,
                    session.Id == Sessions.IdOf(http.User)
                ))
                .ToArray()
        );
    }

    private static async Task<NoContent> EndOthersAsync(HttpContext http, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        await SessionStore.EndAllAsync(connection, http.StaffId(), Sessions.IdOf(http.User), Sessions.Now);
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> ChangeAsync(NewPasswordRequest request, HttpContext http, Database database)
    {
        Checks checks = new();
        Passwords.Check(checks, request.Password, "password");
        checks.Done();
        await RequireAsync(http, database, request.Present, "present");
        string hash = await Passwords.HashAsync(request.Password!);
        await using NpgsqlConnection connection = await database.OpenAsync();
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        await StaffStore.SetPasswordAsync(connection, http.StaffId(), hash);
        await SessionStore.EndAllAsync(connection, http.StaffId(), Sessions.IdOf(http.User), Sessions.Now);
        await transaction.CommitAsync();
        return TypedResults.NoContent();
    }

    private static async Task<Ok<SecondFactorState>> StateAsync(HttpContext http, Database database) =>
        TypedResults.Ok(new SecondFactorState((await FindAsync(http, database)).TotpConfirmed));

    private static async Task<Ok<SecondFactorAnswer>> BeginAsync(HttpContext http, Database database)
    {
        StaffRow staff = await FindAsync(http, database);
        if (staff.TotpConfirmed)
            throw new Refused(StatusCodes.Status409Conflict, "code-on", "There is a second factor already. Take it off first.");
        byte[] secret = SecondFactor.NewSecret();
        await using NpgsqlConnection connection = await database.OpenAsync();
        await StaffStore.SetTotpAsync(connection, staff.Id, secret);
        string business = await connection.ExecuteScalarAsync<string>("SELECT name FROM business") ?? "Kingcup";
        return TypedResults.Ok(
            new SecondFactorAnswer(
                SecondFactor.TextOf(secret),
                SecondFactor.PictureOf(SecondFactor.AddressOf(secret, business, staff.Email))
            )
        );
    }

    private static async Task<NoContent> ConfirmAsync(CodeRequest request, HttpContext http, Database database)
    {
        StaffRow staff = await FindAsync(http, database);
        await using NpgsqlConnection connection = await database.OpenAsync();
        if (!await SecondFactor.UseAsync(connection, staff, request.Code, SystemClock.Instance.GetCurrentInstant()))
            throw Refused.Invalid("code", "That code is not good. Enter the one your application shows now.");
        await StaffStore.ConfirmTotpAsync(connection, staff.Id);
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> EndAsync(PresentPasswordRequest request, HttpContext http, Database database)
    {
        await RequireAsync(http, database, request.Password, "password");
        await using NpgsqlConnection connection = await database.OpenAsync();
        await StaffStore.SetTotpAsync(connection, http.StaffId(), null);
        return TypedResults.NoContent();
    }

    private static async Task<StaffRow> FindAsync(HttpContext http, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return await StaffStore.FindAsync(connection, http.StaffId()) ?? throw Refused.NotFound("There is no such account.");
    }

    private static async Task RequireAsync(HttpContext http, Database database, string? password, string field)
    {
        StaffRow staff = await FindAsync(http, database);
        if (password is not { Length: > 0 and <= Passwords.Most } || !await Passwords.AreAsync(staff, password))
            throw Refused.Invalid(field, "That is not your present password.");
    }
}
