using System.Security.Claims;
using Kingcup.Server.Api;
using Kingcup.Storage;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.SignIn;

/// <summary>What a person signs in with.</summary>
/// <param name="Email">E-mail address.</param>
/// <param name="Password">Password.</param>
public sealed record SignInRequest(string? Email, string? Password);

/// <summary>Who is signed in.</summary>
/// <param name="Name">Name.</param>
/// <param name="Role">Role.</param>
/// <param name="Rights">What this role may do.</param>
/// <param name="PractitionerId">The practitioner this person is, or null.</param>
/// <param name="EditsOwnShifts">Whether this person may change when she works herself.</param>
/// <param name="Token">To be sent as X-Kingcup-Token with every request that changes something.</param>
public sealed record SessionAnswer(string Name, string Role, IReadOnlyList<string> Rights, Guid? PractitionerId, bool EditsOwnShifts, string Token);

/// <summary>Signing in and out.</summary>
public static class SignInEndpoints
{
    /// <summary>Failed sign-ins in a row after which the account rests.</summary>
    public const int MostFailures = 5;

    private static readonly Duration _rest = Duration.FromMinutes(15);
    private static readonly PasswordHasher<StaffRow> _hasher = new();

    // Checked when nobody has that address, so that the answer takes as long as for somebody who has.
    private static readonly string _nobodysHash = _hasher.HashPassword(new StaffRow(), Guid.NewGuid().ToString());

    /// <summary>Hashes a password as it is kept.</summary>
    public static string Hash(string password) => _hasher.HashPassword(new StaffRow(), password);

    internal static void Map(RouteGroupBuilder api)
    {
        api.MapPost("/session", SignInAsync).AllowAnonymous().RequireRateLimiting(Limits.SignIn).WithTags("Sign-in")
            .WithSummary("Signs in; the cookie of the answer is the session.").ProducesProblem(400).ProducesProblem(401).ProducesProblem(429);
        api.MapGet("/session", SessionAsync).RequireAuthorization(Rights.Staff).WithTags("Sign-in").WithSummary("Who is signed in.").ProducesProblem(401);
        api.MapDelete("/session", (Delegate)SignOutAsync).RequireAuthorization(Rights.Staff).WithTags("Sign-in").WithSummary("Signs out.").ProducesProblem(401);
    }

    private static async Task<Ok<SessionAnswer>> SignInAsync(SignInRequest request, HttpContext http, Database database, IClock clock, IAntiforgery antiforgery)
    {
        string email = (request.Email ?? "").Trim().ToLowerInvariant();
        Checks checks = new();
        checks.Require(email.Length is > 0 and <= 254, "email", "Enter your e-mail address.");
        checks.Require(request.Password is { Length: > 0 and <= 200 }, "password", "Enter your password.");
        checks.Done();

        await using NpgsqlConnection connection = await database.OpenAsync();
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        StaffRow? staff = await StaffStore.FindForSignInAsync(connection, email);
        Instant now = clock.GetCurrentInstant();
        bool resting = staff?.LockedUntil > now || staff?.SignedOff == true;
        bool right = _hasher.VerifyHashedPassword(staff ?? new StaffRow(), staff?.PasswordHash ?? _nobodysHash, request.Password!) != PasswordVerificationResult.Failed;
        if (staff is null || resting || !right)
        {
            if (staff is not null && !resting)
            {
                int failures = staff.Failures + 1;
                bool rests = failures >= MostFailures;
                await StaffStore.SetFailuresAsync(connection, staff.Id, rests ? 0 : failures, rests ? now + _rest : null);
                await transaction.CommitAsync();
            }

            // One sentence for all three, so that nobody learns which addresses exist.
            throw new Refused(StatusCodes.Status401Unauthorized, "sign-in",
                $"E-mail address and password do not go together. After {MostFailures} failures an account rests for {_rest.TotalMinutes} minutes.");
        }

        await StaffStore.SetFailuresAsync(connection, staff.Id, 0, null);
        await transaction.CommitAsync();
        ClaimsIdentity identity = new(
            [
                new Claim(ClaimTypes.NameIdentifier, staff.Id.ToString()),
                new Claim(ClaimTypes.Name, staff.Name),
                new Claim(ClaimTypes.Role, staff.Role),
                new Claim(Stamp, staff.Stamp.ToString()),
                .. staff.PractitionerId is { } practitioner ? [new Claim(PractitionerClaim, practitioner.ToString())] : Array.Empty<Claim>(),
            ],
            CookieAuthenticationDefaults.AuthenticationScheme);
        http.User = new ClaimsPrincipal(identity);
        await http.SignInAsync(http.User);
        return TypedResults.Ok(Answer(http, antiforgery, staff));
    }

    private static async Task<Ok<SessionAnswer>> SessionAsync(HttpContext http, IAntiforgery antiforgery, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok(Answer(http, antiforgery, await StaffStore.FindAsync(connection, Guid.Parse(http.User.FindFirstValue(ClaimTypes.NameIdentifier)!))));
    }

    private static async Task<NoContent> SignOutAsync(HttpContext http)
    {
        await http.SignOutAsync();
        return TypedResults.NoContent();
    }

    private const string Stamp = "stamp";
    private const string PractitionerClaim = "practitioner";

    private static SessionAnswer Answer(HttpContext http, IAntiforgery antiforgery, StaffRow? staff)
    {
        string role = http.User.FindFirstValue(ClaimTypes.Role)!;
        return new SessionAnswer(
            http.User.Identity!.Name!,
            role,
            Rights.Of(role),
            Guid.TryParse(http.User.FindFirstValue(PractitionerClaim), out Guid practitioner) ? practitioner : null,
            staff is { PractitionerId: not null } && Rights.Of(role).Contains(Rights.EditShifts) && (role != "Practitioner" || staff.EditsOwnShifts),
            antiforgery.GetAndStoreTokens(http).RequestToken!);
    }

    /// <summary>A cookie is good only while the account has the stamp and role it was made with.</summary>
    internal static async Task ValidateAsync(CookieValidatePrincipalContext context)
    {
        Database database = context.HttpContext.RequestServices.GetRequiredService<Database>();
        ClaimsPrincipal? who = context.Principal;
        StaffRow? staff = null;
        if (Guid.TryParse(who?.FindFirstValue(ClaimTypes.NameIdentifier), out Guid id))
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            staff = await StaffStore.FindAsync(connection, id);
        }

        if (staff is { SignedOff: false } && who is not null && staff.Stamp.ToString() == who.FindFirstValue(Stamp) && staff.Role == who.FindFirstValue(ClaimTypes.Role)) return;
        context.RejectPrincipal();
        await context.HttpContext.SignOutAsync();
    }
}
