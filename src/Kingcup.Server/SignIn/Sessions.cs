using System.Security.Claims;
using Dapper;
using Kingcup.Storage;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using NodaTime;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.SignIn;

/// <summary>
/// Sessions. The cookie says which one it is; whether it is still good, whose it is and what they may do is asked of the database each
/// time, so that ending it or changing a right holds at once on every server.
/// </summary>
internal static class Sessions
{
    /// <summary>How long a session lasts that nobody uses.</summary>
    internal static readonly Duration Idle = Duration.FromHours(12);

    /// <summary>How long a session lasts however much it is used.</summary>
    internal static readonly Duration Longest = Duration.FromDays(14);

    /// <summary>The present by which sessions last: the true one, since the clock of a demo that is moved on signs nobody out.</summary>
    internal static Instant Now => NodaTime.SystemClock.Instance.GetCurrentInstant();

    private static readonly Duration _seenEvery = Duration.FromMinutes(5);

    private const string SessionClaim = "session";

    /// <summary>Begins a session for somebody and gives the cookie of it.</summary>
    internal static async Task BeginAsync(HttpContext http, NpgsqlConnection connection, StaffRow staff)
    {
        Instant now = Now;
        SessionRow session = new()
        {
            Id = Guid.NewGuid(),
            StaffId = staff.Id,
            CreatedAt = now,
            SeenAt = now,
            ExpiresAt = now + Longest,
            Device = DeviceOf(http),
        };
        await SessionStore.AddAsync(connection, session);
        http.User = PrincipalOf(staff, session.Id);
        await http.SignInAsync(
            http.User,
            new AuthenticationProperties { IsPersistent = false, ExpiresUtc = DateTimeOffset.UtcNow + Longest.ToTimeSpan() }
        );
    }

    /// <summary>Whether the session of a cookie is still good; who it is of is read anew.</summary>
    internal static async Task ValidateAsync(CookieValidatePrincipalContext context)
    {
        IServiceProvider services = context.HttpContext.RequestServices;
        Instant now = Now;
        if (IdOf(context.Principal) is { } id)
        {
            await using NpgsqlConnection connection = await services.GetRequiredService<Database>().OpenAsync();
            if (await SessionStore.FindAsync(connection, id, now, now - Idle) is { } found)
            {
                if (found.SeenAt + _seenEvery < now) await SessionStore.SeeAsync(connection, id, now);
                context.ReplacePrincipal(PrincipalOf(found.Staff, id, found.NeedsCode));
                return;
            }
        }

        context.RejectPrincipal();
        await context.HttpContext.SignOutAsync();
    }

    /// <summary>The session of somebody, or null.</summary>
    internal static Guid? IdOf(ClaimsPrincipal? who) => Guid.TryParse(who?.FindFirstValue(SessionClaim), out Guid id) ? id : null;

    /// <summary>Whether somebody is an owner without a second factor where the business asks owners for one.</summary>
    internal static async Task<bool> NeedsCodeAsync(NpgsqlConnection connection, StaffRow staff) =>
        staff is { Role: "Owner", TotpConfirmed: false }
        && await connection.ExecuteScalarAsync<bool?>("SELECT owners_need_code FROM business") == true;

    // Somebody who still has to set up a second factor has no role meanwhile, and so no right but to do that.
    private static ClaimsPrincipal PrincipalOf(StaffRow staff, Guid session, bool withoutRole = false) =>
        new(
            new ClaimsIdentity(
                [
                    new Claim(ClaimTypes.NameIdentifier, staff.Id.ToString()),
                    new Claim(ClaimTypes.Name, staff.Name),
                    new Claim(ClaimTypes.Role, withoutRole ? Rights.NoRole : staff.Role),
                    new Claim(SessionClaim, session.ToString()),
                    .. staff.PractitionerId is { } practitioner
                        ? [new Claim(Rights.PractitionerClaim, practitioner.ToString())]
                        : Array.Empty<Claim>(),
                    .. staff.SeesContacts || staff.Role != "Practitioner" ? [new Claim(Rights.SeeContacts, "true")] : Array.Empty<Claim>(),
                ],
                CookieAuthenticationDefaults.AuthenticationScheme
            )
        );

    private static string DeviceOf(HttpContext http)
    {
        string agent = http.Request.Headers.UserAgent.ToString();
        string system =
            new[] { "Android", "iPhone", "iPad", "Windows", "Macintosh", "Linux" }.FirstOrDefault(agent.Contains) ?? Say("another device");
        string browser = new[] { "Firefox", "Edg", "Chrome", "Safari" }.FirstOrDefault(agent.Contains) switch
        {
            "Edg" => "Edge",
            { } name => name,
            _ => Say("a program"),
        };
        return Say($"{browser} on {system}");
    }
}
