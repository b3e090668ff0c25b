using Kingcup.Server.Api;
using Kingcup.Storage;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.SignIn;

/// <summary>What a person signs in with.</summary>
/// <param name="Email">E-mail address.</param>
/// <param name="Password">Password.</param>
/// <param name="Code">The six digits of the second factor, where the account has one.</param>
public sealed record SignInRequest(string? Email, string? Password, string? Code = null);

/// <summary>Who is signed in.</summary>
/// <param name="Name">Name.</param>
/// <param name="Role">Role.</param>
/// <param name="Rights">What this role may do.</param>
/// <param name="PractitionerId">The practitioner this person is, or null.</param>
/// <param name="EditsOwnShifts">Whether this person may change when they work themselves.</param>
/// <param name="Token">To be sent as X-Kingcup-Token with every request that changes something.</param>
/// <param name="NeedsCode">Whether nothing else is open until a second factor was set up: the owner wants one from owners.</param>
public sealed record SessionAnswer(
    string Name,
    string Role,
    IReadOnlyList<string> Rights,
    Guid? PractitionerId,
    bool EditsOwnShifts,
    string Token,
    bool NeedsCode = false
)
{
    /// <summary>Their account: what others hear of their screens comes with it.</summary>
    public required Guid StaffId { get; init; }

    /// <summary>Whether this person says of the visits that come to them where they stand.</summary>
    public required bool KeepsOwnVisits { get; init; }
}

/// <summary>Signing in and out.</summary>
internal static class SignInEndpoints
{
    /// <summary>Tries to sign in to one account from one address range after which that range rests for the account.</summary>
    internal const int MostTries = 5;

    private static readonly Duration _rest = Duration.FromMinutes(15);

    internal static void Map(RouteGroupBuilder api)
    {
        api.MapPost("/session", SignInAsync)
            .AllowAnonymous()
            .Limit(Limits.SignIn)
            .WithTags("Sign-in")
            .WithName("SignIn")
            .WithSummary("Signs in; the cookie of the answer is the session.")
            .ProducesProblem(400)
            .ProducesProblem(401)
            .ProducesProblem(503);
        api.MapGet("/session", SessionAsync)
            .WithTags("Sign-in")
            .WithName("ReadSession")
            .WithSummary("Who is signed in.")
            .ProducesProblem(401);
        api.MapDelete("/session", SignOutAsync)
            .WithTags("Sign-in")
            .WithName("SignOut")
            .WithSummary("Signs out: the session is over on every server.")
            .ProducesProblem(401);
    }

    private static async Task<Ok<SessionAnswer>> SignInAsync(
        SignInRequest request, HttpContext http, Database database, Addresses addresses, IAntiforgery antiforgery)
    {
        string email = (request.Email ?? "").Trim().ToLowerInvariant();
        Checks checks = new();
        checks.Require(email.Length is > 0 and <= 254, "email", "Enter your e-mail address.");
        checks.Require(request.Password is { Length: > 0 and <= Passwords.Most }, "password", "Enter your password.");
        checks.Done();

        StaffRow? staff;
        byte[] account, range;
        int tries;
        await using (NpgsqlConnection connection = await database.OpenAsync())
        {
            (account, range) = (await addresses.AccountAsync(email, connection), await addresses.RangeAsync(http, connection));
            // Counted before the password is looked at; the machine's clock, since that of a demo may be moved.
            tries = await LimitStore.CountSignInAsync(connection, account, range, NodaTime.SystemClock.Instance.GetCurrentInstant(), _rest);
            staff = tries > MostTries ? null : await StaffStore.FindByEmailAsync(connection, email);
        }

        // No connection and no lock is held while the hash is worked out.
        bool isRight = tries <= MostTries && await Passwords.AreAsync(staff, request.Password!) && staff is { SignedOff: false };
        if (!isRight || staff is null) throw Wrong();
        await using (NpgsqlConnection connection = await database.OpenAsync())
        {
            if (staff.TotpConfirmed)
            {
                // Counted too: whoever has the password must not win new tries at the code by leaving it out now and then.
                if (string.IsNullOrWhiteSpace(request.Code))
                    throw new Refused(
                        StatusCodes.Status401Unauthorized,
                        "code-needed",
                        "Enter the six digits your application for codes shows.",
                        "code"
                    );

                if (!await SecondFactor.UseAsync(connection, staff, request.Code, NodaTime.SystemClock.Instance.GetCurrentInstant()))
                    throw new Refused(
                        StatusCodes.Status401Unauthorized,
                        "code-wrong",
                        "That code is not good, or no longer. Enter the one shown now.",
                        "code"
                    );
            }

            await LimitStore.ForgetSignInAsync(connection, account, range);
            await Sessions.BeginAsync(http, connection, staff);
        }

        return TypedResults.Ok(await AnswerAsync(http, antiforgery, staff, database));
    }

    // One sentence for all reasons, so that nobody learns which addresses exist.
    private static Refused Wrong() =>
        new(
            StatusCodes.Status401Unauthorized,
            "sign-in",
            $"E-mail address and password do not go together. After {MostTries} tries, wait {(int)_rest.TotalMinutes} minutes."
        );

    private static async Task<Ok<SessionAnswer>> SessionAsync(HttpContext http, IAntiforgery antiforgery, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        StaffRow staff = await StaffStore.FindAsync(connection, http.StaffId()) ?? throw Refused.NotFound("There is no such account.");
        return TypedResults.Ok(await AnswerAsync(http, antiforgery, staff, database));
    }

    private static async Task<NoContent> SignOutAsync(HttpContext http, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        if (Sessions.IdOf(http.User) is { } id) await SessionStore.EndAsync(connection, id, Sessions.Now);
        await http.SignOutAsync();
        return TypedResults.NoContent();
    }

    private static async Task<SessionAnswer> AnswerAsync(HttpContext http, IAntiforgery antiforgery, StaffRow staff, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        bool needsCode = await Sessions.NeedsCodeAsync(connection, staff);
        return new SessionAnswer(
            staff.Name,
            staff.Role,
            needsCode ? [] : Rights.Of(staff.Role),
            staff.PractitionerId,
            staff.PractitionerId is not null
                && Rights.Of(staff.Role).Contains(Rights.EditShifts)
                && (staff.Role != "Practitioner" || staff.EditsOwnShifts),
            antiforgery.GetAndStoreTokens(http).RequestToken!,
            needsCode)
        {
            StaffId = staff.Id,
            KeepsOwnVisits =
                staff.PractitionerId is not null && (Rights.Of(staff.Role).Contains(Rights.KeepBook) || staff.KeepsOwnVisits),
        };
    }
}
