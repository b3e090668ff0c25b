using Kingcup.Core.Availability;
using Kingcup.Core.Clients;
using Kingcup.Server.Api;
using Kingcup.Server.Booking;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Clients;

/// <summary>A client who has shown who they are, by a link or a code: the rules look at them as they are, and not at a stranger.</summary>
/// <param name="Client">Who they are.</param>
/// <param name="Visits">Their visits.</param>
internal sealed record ShownClient(ClientRow Client, IReadOnlyList<ClientVisit> Visits)
{
    /// <summary>Who pays, where it is whoever books for them; null where they pay themselves.</summary>
    internal Guid? PayerId { get; private init; }

    /// <summary>The client somebody books as, where they say so.</summary>
    /// <param name="http">The request, with what shows who they are.</param>
    /// <param name="connection">An open connection.</param>
    /// <param name="asked">As whom they book; null for whoever has not said it.</param>
    /// <param name="now">The present.</param>
    /// <exception cref="Refused">They have not shown that they are this client, or may book for them.</exception>
    internal static async Task<ShownClient?> FindAsync(HttpContext http, NpgsqlConnection connection, Guid? asked, Instant now)
    {
        if (asked is not { } id) return null;
        (_, IReadOnlyList<Guid> clients) = await OwnDoor.WhoAsync(http, connection, now);
        OwnReach reach = await OwnReach.OfAsync(connection, clients);
        if (!reach.Books.Contains(id) || await ClientStore.FindAsync(connection, id) is not { } client) throw OwnDoor.SignedOut();
        return new ShownClient(client, await BookStore.OfClientAsync(connection, id, null))
        {
            PayerId = reach.Pays.TryGetValue(id, out Guid payer) ? payer : null,
        };
    }

    /// <summary>What the gates look at: of whoever has shown who they are all that is known, of anybody else what they say.</summary>
    /// <param name="shown">Who they are, or null.</param>
    /// <param name="returning">Whether they say to have been here before.</param>
    /// <param name="links">Services whose direct link they came with.</param>
    /// <param name="before">What they have just booked that has to come first.</param>
    /// <param name="now">The present.</param>
    internal static Audience AudienceOf(
        ShownClient? shown,
        bool? returning,
        IReadOnlySet<Guid> links,
        IReadOnlyList<EarlierVisit> before,
        Instant now
    )
    {
        if (shown is null)
            return new Audience
            {
                IsNew = returning != true,
                Links = links,
                Visits = before,
            };
        Audience own = BookingChecks.AudienceOf(shown.Client, shown.Visits, links, now);
        return own with { Visits = [.. own.Visits, .. before] };
    }
}
