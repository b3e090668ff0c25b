using System.ComponentModel.DataAnnotations;
using System.Security.Cryptography;
using Kingcup.Core.Clients;
using Kingcup.Server.Api;
using Kingcup.Server.Business;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.SignIn;

/// <summary>Somebody who may sign in.</summary>
public sealed record AccountDocument
{
    /// <summary>Identity; given by the server.</summary>
    public required Guid? Id { get; init; }

    /// <summary>E-mail address.</summary>
    public required string? Email { get; init; }

    /// <summary>Name.</summary>
    [MaxLength(Checks.LongestName)]
    public required string? Name { get; init; }

    /// <summary>Owner, Manager, Desk, Practitioner or Bookkeeper.</summary>
    public required string? Role { get; init; }

    /// <summary>The practitioner this person is, or null.</summary>
    public required Guid? PractitionerId { get; init; }

    /// <summary>Whether a practitioner may change their own shifts and blocked time.</summary>
    public bool EditsOwnShifts { get; init; }

    /// <summary>Whether a practitioner says of their own visits where they stand: arrived, in treatment, done, did not come.</summary>
    public bool KeepsOwnVisits { get; init; }

    /// <summary>Whether the account was closed.</summary>
    public bool SignedOff { get; init; }

    /// <summary>To be sent as If-Match with a change.</summary>
    public long Version { get; init; }

    /// <summary>Whether somebody at the desk may book over another visit; owners and managers always may.</summary>
    public bool MayOverbook { get; init; }

    /// <summary>Whether a practitioner reads numbers and addresses of clients who come to colleagues; everybody else does.</summary>
    public bool SeesContacts { get; init; }

    /// <summary>Whether a second factor is asked for; only told.</summary>
    public bool HasCode { get; init; }

    internal static AccountDocument Of(StaffRow row) =>
        new()
        {
            Id = row.Id,
            Email = row.Email,
            Name = row.Name,
            Role = row.Role,
            PractitionerId = row.PractitionerId,
            EditsOwnShifts = row.EditsOwnShifts,
            KeepsOwnVisits = row.KeepsOwnVisits,
            SignedOff = row.SignedOff,
            Version = row.Version,
            MayOverbook = row.MayOverbook,
            SeesContacts = row.SeesContacts,
            HasCode = row.TotpConfirmed,
        };
}

/// <summary>A link with which somebody chooses a password, once.</summary>
/// <param name="Path">The address on this server. It is shown once and kept nowhere.</param>
/// <param name="ExpiresAt">Until when it is good.</param>
public sealed record SignInLink(string Path, Instant ExpiresAt);

/// <summary>A password chosen with a sign-in link.</summary>
/// <param name="Token">The end of the link.</param>
/// <param name="Password">The password, 10 characters or more.</param>
public sealed record PasswordRequest(string? Token, string? Password);

/// <summary>Accounts of those who sign in.</summary>
internal static class AccountEndpoints
{
    private static readonly string[] _roles = ["Owner", "Manager", "Desk", "Practitioner", "Bookkeeper"];
    private static readonly Duration _linkLasts = Duration.FromDays(7);

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/setup/accounts").RequireAuthorization(Rights.EditSetup).WithTags("Accounts").Problems();
        group.MapGet("", AllAsync).WithSummary("Everyone who may sign in.");
        group.MapPost("", AddAsync).WithSummary("Adds an account; it has no password until somebody uses its link.");
        group
            .MapPut("/{id:guid}", SaveAsync)
            .Changes()
            .WithSummary("Changes an account; signs its sessions out when role or state change. Needs If-Match.");
        group
            .MapPost("/{id:guid}/link", LinkAsync)
            .WithSummary(
                "Makes a link with which the person chooses a password, good once and for seven days. Links made before are void."
            );
        group
            .MapDelete("/{id:guid}/second-factor", ForgetCodeAsync)
            .WithSummary("Takes the second factor off an account whose owner has lost it.");
        api.MapPost("/session/password", ChooseAsync)
            .AllowAnonymous()
            .Limit(Limits.SignIn)
            .WithTags("Sign-in")
            .WithSummary("Chooses a password with a sign-in link.")
            .ProducesProblem(400)
            .ProducesProblem(410);
    }

    private static async Task<Ok<AccountDocument[]>> AllAsync(Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok((await StaffStore.AllAsync(connection)).Select(AccountDocument.Of).ToArray());
    }

    private static async Task<Created<AccountDocument>> AddAsync(AccountDocument request, HttpContext http, SetupDesk desk)
    {
        // Nobody knows it: a link has to be used first.
        string hash = await Passwords.HashAsync(Convert.ToHexString(RandomNumberGenerator.GetBytes(32)));
        AccountDocument? made = null;
        return await desk.CreateAsync(
            http,
            async change =>
            {
                StaffRow row = await CheckAsync(request, http, change, new StaffRow { Id = Guid.CreateVersion7(), PasswordHash = hash });
                await StaffStore.AddAsync(change.Connection, row);
                await change.RecordAsync("account", row.Id, "Added", null, request);
                made = AccountDocument.Of((await StaffStore.FindAsync(change.Connection, row.Id))!);
                return row.Id;
            },
            (_, id) => ($"/api/v1/setup/accounts/{id}", made!)
        );
    }

    private static async Task<Ok<AccountDocument>> SaveAsync(Guid id, AccountDocument request, HttpContext http, SetupDesk desk)
    {
        AccountDocument saved = await desk.ChangeAsync(
            http,
            async change =>
            {
                StaffRow before = await StaffStore.FindAsync(change.Connection, id) ?? throw Refused.NotFound("There is no such account.");
                SetupChange.Match(http, before.Version);
                Guard(http, before.Role);
                StaffRow after = await CheckAsync(request, http, change, before);
                bool lastOwner =
                    before is { Role: "Owner", SignedOff: false }
                    && (after.Role != "Owner" || after.SignedOff)
                    && (await StaffStore.AllAsync(change.Connection)).Count(staff => staff is { Role: "Owner", SignedOff: false }) == 1;
                if (lastOwner)
                    throw Refused.Invalid("role", "This is the last owner. Make somebody else an owner first.");
                await StaffStore.SaveAsync(change.Connection, after);
                if (after.Role != before.Role || after.SignedOff)
                    await SessionStore.EndAllAsync(change.Connection, id, null, Sessions.Now);
                await change.RecordAsync("account", id, "Changed", AccountDocument.Of(before), request);
                return AccountDocument.Of((await StaffStore.FindAsync(change.Connection, id))!);
            }
        );
        return TypedResults.Ok(saved);
    }

    private static async Task<Ok<SignInLink>> LinkAsync(Guid id, HttpContext http, SetupDesk desk)
    {
        string token = Convert.ToHexString(RandomNumberGenerator.GetBytes(32)).ToLowerInvariant();
        SignInLink link = await desk.ChangeAsync(
            http,
            async change =>
            {
                StaffRow staff = await StaffStore.FindAsync(change.Connection, id) ?? throw Refused.NotFound("There is no such account.");
                Guard(http, staff.Role);
                Instant until = Sessions.Now + _linkLasts;
                await StaffStore.AddLinkAsync(change.Connection, id, HashOf(token), until);
                await change.RecordAsync("account", id, "Sign-in link made", null, new { staff.Email });
                return new SignInLink($"/welcome/{token}", until);
            }
        );
        return TypedResults.Ok(link);
    }

    private static async Task<NoContent> ChooseAsync(PasswordRequest request, Database database)
    {
        Checks checks = new();
        Passwords.Check(checks, request.Password, "password");
        checks.Done();
        string hash = await Passwords.HashAsync(request.Password!);
        await using NpgsqlConnection connection = await database.OpenAsync();
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        Guid id =
            await StaffStore.UseLinkAsync(connection, HashOf(request.Token ?? ""), Sessions.Now)
            ?? throw new Refused(StatusCodes.Status410Gone, "link-gone", "This link was used already, or is too old. Ask for a new one.");
        await StaffStore.SetPasswordAsync(connection, id, hash);
        await SessionStore.EndAllAsync(connection, id, null, Sessions.Now);
        await transaction.CommitAsync();
        return TypedResults.NoContent();
    }

    /// <summary>Takes a second factor off an account whose owner has lost it; whoever does it stands in the history.</summary>
    private static async Task<NoContent> ForgetCodeAsync(Guid id, HttpContext http, SetupDesk desk)
    {
        await desk.ChangeAsync(
            http,
            async change =>
            {
                StaffRow staff = await StaffStore.FindAsync(change.Connection, id) ?? throw Refused.NotFound("There is no such account.");
                Guard(http, staff.Role);
                await StaffStore.SetTotpAsync(change.Connection, id, null);
                await SessionStore.EndAllAsync(change.Connection, id, null, Sessions.Now);
                await change.RecordAsync("account", id, "Second factor taken off", null, new { staff.Email });
                return true;
            }
        );
        return TypedResults.NoContent();
    }

    /// <summary>
    /// Lets the operator of the machine rescue somebody who cannot sign in any more, such as a sole owner: a new link, no second
    /// factor, an open account, no waiting.
    /// </summary>
    /// <returns>The path of the link, or null when there is no such account.</returns>
    internal static async Task<string?> RescueAsync(NpgsqlConnection connection, Addresses addresses, string email, Instant now)
    {
        email = email.Trim().ToLowerInvariant();
        if (await StaffStore.FindByEmailAsync(connection, email) is not { } staff)
            return null;
        string token = Convert.ToHexString(RandomNumberGenerator.GetBytes(32)).ToLowerInvariant();
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        await StaffStore.AddLinkAsync(connection, staff.Id, HashOf(token), now + _linkLasts);
        await StaffStore.SetTotpAsync(connection, staff.Id, null);
        await StaffStore.OpenAsync(connection, staff.Id);
        await LimitStore.ForgetSignInAsync(connection, await addresses.AccountAsync(email, connection), null);
        await History.RecordAsync(
            connection,
            new Subject("account", staff.Id),
            "Rescued",
            null,
            new { staff.Email },
            new Change("Operator", now)
        );
        await transaction.CommitAsync();
        return $"/welcome/{token}";
    }

    private static byte[] HashOf(string token) => SHA256.HashData(System.Text.Encoding.ASCII.GetBytes(token));

    /// <summary>Only an owner touches owners.</summary>
    private static void Guard(HttpContext http, string? role)
    {
        if (role == "Owner" && !http.User.IsInRole("Owner"))
            throw new Refused(StatusCodes.Status403Forbidden, "not-allowed", "Only an owner changes the account of an owner.");
    }

    private static async Task<StaffRow> CheckAsync(AccountDocument request, HttpContext http, SetupChange change, StaffRow before)
    {
        Checks checks = new();
        string? name = checks.Name(request.Name, "name", "Enter the name.");
        string? email = checks.Take(ContactRules.Email(request.Email), "email", "Enter an e-mail address like name@example.com.");
        checks.Require(_roles.Contains(request.Role), "role", "Choose a role.");
        checks.Require(
            request.PractitionerId is null || change.Setup.Practitioners.Any(practitioner => practitioner.Id == request.PractitionerId),
            "practitionerId",
            "There is no such practitioner."
        );
        if (email is not null)
            checks.Require(
                !(await StaffStore.AllAsync(change.Connection)).Any(staff => staff.Email == email && staff.Id != before.Id),
                "email",
                "There is an account with this address already."
            );
        checks.Done();
        Guard(http, request.Role);
        return new StaffRow
        {
            Id = before.Id,
            Email = email!,
            Name = name!,
            Role = request.Role!,
            PractitionerId = request.PractitionerId,
            PasswordHash = before.PasswordHash,
            EditsOwnShifts = request.EditsOwnShifts,
            KeepsOwnVisits = request.KeepsOwnVisits,
            MayOverbook = request.MayOverbook,
            SeesContacts = request.SeesContacts,
            SignedOff = request.SignedOff,
        };
    }
}
