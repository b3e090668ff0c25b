using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using Kingcup.Core.Availability;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Storage;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <summary>
/// Booking over something knowingly: outside a shift and over blocked time whoever keeps the book may after being told, over
/// another visit only who has the right to (rules, sections 2 and 3). The answer that tells carries a token; sent back, it says
/// that these very things were read.
/// </summary>
/// <param name="AllowedAsync">What this person may book over; asked for only when nothing else fits.</param>
/// <param name="Told">The token of what was read, or empty.</param>
public sealed record SeenWarnings(Func<NpgsqlConnection, Task<Waivers>> AllowedAsync, string Told)
{
    /// <summary>The header with which a booking is sent again once its warnings were read.</summary>
    public const string AcceptHeader = "X-Accept-Over";

    /// <summary>What the person signed in may do, and has read.</summary>
    internal static SeenWarnings Of(HttpContext http) =>
        new(connection => AllowedToAsync(http.User, connection), http.Request.Headers[AcceptHeader].ToString());

    /// <summary>Owners and managers may overbook; somebody at the desk where the account says so.</summary>
    internal static async Task<Waivers> AllowedToAsync(ClaimsPrincipal who, NpgsqlConnection connection)
    {
        const Waivers told = Waivers.OutsideShift | Waivers.OverBlocked | Waivers.UnsuitedRoom;
        StaffRow? staff = Guid.TryParse(who.FindFirstValue(ClaimTypes.NameIdentifier), out Guid id)
            ? await StaffStore.FindAsync(connection, id)
            : null;
        return staff?.OverbooksByRole == true || staff?.MayOverbook == true ? told | Waivers.Overbook : told;
    }

    /// <summary>Refuses a plan until its warnings were read.</summary>
    /// <exception cref="Refused">They were not, or are others by now.</exception>
    internal void Require(KnowingPlan plan, House house)
    {
        string token = TokenOf(plan);
        if (plan.Warnings.Count == 0 || Told == token)
            return;
        Refused refused = new(
            StatusCodes.Status409Conflict,
            "would-go-over",
            "That time fits only over something else. Read what, then book it all the same or choose another time.",
            "start"
        );
        refused.More["reasons"] = ReasonWords.Of(plan.Warnings, house);
        refused.More["accept"] = token;
        throw refused;
    }

    /// <summary>What the screen sends back once its reader has seen these very warnings.</summary>
    internal static string TokenOf(KnowingPlan plan) =>
        Convert.ToHexString(
            SHA256.HashData(
                Encoding.UTF8.GetBytes(
                    string.Join(
                        '\n',
                        plan.Warnings.Select(reason =>
                                $"{reason.Code} {reason.SubjectId} {reason.From} {reason.Until} {reason.AppointmentId}"
                            )
                            .Order(StringComparer.Ordinal)
                            .Prepend(plan.Plan.Start.ToString())
                    )
                )
            )
        );
}

/// <summary>How a start that does not fit may be booked all the same.</summary>
public sealed record AnywayAnswer
{
    /// <summary>When the visit would end.</summary>
    public required NodaTime.Instant End { get; init; }

    /// <summary>Who would do the first line.</summary>
    public required Guid PractitionerId { get; init; }

    /// <summary>Their name, and those of the others.</summary>
    public required string Practitioner { get; init; }

    /// <summary>Rooms that would be used.</summary>
    public required IReadOnlyList<string> Rooms { get; init; }

    /// <summary>What it would cost.</summary>
    public required MoneyAnswer Price { get; init; }

    /// <summary>What it would go over, to be read before.</summary>
    public required IReadOnlyList<ReasonText> Warnings { get; init; }

    /// <summary>Whether it goes over another visit.</summary>
    public required bool Overbooks { get; init; }

    /// <summary>To be sent as X-Accept-Over with the booking.</summary>
    public required string Accept { get; init; }
}
