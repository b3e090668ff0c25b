using Microsoft.AspNetCore.Authorization;

namespace Kingcup.Server.SignIn;

/// <summary>What somebody may do; each endpoint names one of these.</summary>
public static class Rights
{
    /// <summary>See the book and who comes.</summary>
    public const string SeeBook = "see-book";

    /// <summary>Book, move, cancel; enter clients.</summary>
    public const string KeepBook = "keep-book";

    /// <summary>Describe the business: people, rooms, services, rules.</summary>
    public const string EditSetup = "edit-setup";

    /// <summary>Change shifts and blocked time; a practitioner their own, if they were allowed to.</summary>
    public const string EditShifts = "edit-shifts";

    /// <summary>Change single days: somebody's hours on a date, blocked time; a practitioner their own, if they were allowed to.</summary>
    public const string KeepDays = "keep-days";

    /// <summary>Take back where a visit stands when that is no longer fresh, and take out what was entered by mistake.</summary>
    public const string TakeBack = "take-back";

    /// <summary>Let a client off what cancelling late or not coming costs.</summary>
    public const string WaiveFees = "waive-fees";

    /// <summary>Read telephone numbers and addresses of clients who come to colleagues; a practitioner only where the owner allows
    /// it.</summary>
    public const string SeeContacts = "see-contacts";

    /// <summary>The role of somebody who still has to set up a second factor.</summary>
    internal const string NoRole = "none";

    /// <summary>Be signed in, with whatever role.</summary>
    internal const string SignedIn = "signed-in";

    /// <summary>Be signed in at all.</summary>
    public const string Staff = "staff";

    private static readonly Dictionary<string, string[]> _roles = new()
    {
        [SeeBook] = ["Owner", "Manager", "Desk", "Practitioner"],
        [KeepBook] = ["Owner", "Manager", "Desk"],
        [EditSetup] = ["Owner", "Manager"],
        [TakeBack] = ["Owner", "Manager"],
        [WaiveFees] = ["Owner", "Manager"],
        [EditShifts] = ["Owner", "Manager", "Practitioner"],
        [KeepDays] = ["Owner", "Manager", "Desk", "Practitioner"],
        [Staff] = ["Owner", "Manager", "Desk", "Practitioner", "Bookkeeper"],
    };

    /// <summary>The rights of a role.</summary>
    public static IReadOnlyList<string> Of(string role) =>
        [.. _roles.Where(right => right.Value.Contains(role)).Select(right => right.Key).Order()];

    internal static bool SeesContacts(System.Security.Claims.ClaimsPrincipal who) => who.HasClaim(SeeContacts, "true");

    internal static bool KeepsBook(System.Security.Claims.ClaimsPrincipal who) => _roles[KeepBook].Any(who.IsInRole);

    internal static bool EditsSetup(System.Security.Claims.ClaimsPrincipal who) => _roles[EditSetup].Any(who.IsInRole);

    internal static bool TakesBackLater(System.Security.Claims.ClaimsPrincipal who) => _roles[TakeBack].Any(who.IsInRole);

    internal static bool WaivesFees(System.Security.Claims.ClaimsPrincipal who) => _roles[WaiveFees].Any(who.IsInRole);

    /// <summary>The practitioner somebody is, or null.</summary>
    internal static Guid? PractitionerOf(System.Security.Claims.ClaimsPrincipal who) =>
        Guid.TryParse(who.FindFirst(PractitionerClaim)?.Value, out Guid id) ? id : null;

    internal const string PractitionerClaim = "practitioner";

    internal static void Add(AuthorizationOptions options)
    {
        options.AddPolicy(SignedIn, policy => policy.RequireAuthenticatedUser());
        foreach ((string right, string[] roles) in _roles)
            options.AddPolicy(right, policy => policy.RequireAuthenticatedUser().RequireRole(roles));
    }
}
