using System.Security.Cryptography;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Storage;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Business;

/// <summary>
/// Visits booked ahead whose place a change takes. The change is refused with their list until somebody has seen it and accepts; they
/// are never moved or removed, but go among those that need a place.
/// </summary>
internal static class Hits
{
    /// <summary>The header with which a change is sent again once its consequences were seen.</summary>
    internal const string AcceptHeader = "X-Accept-Hits";

    /// <summary>Refuses a change until somebody has seen whom it hits.</summary>
    /// <param name="after">The setup as it would be.</param>
    /// <param name="before">Visits that had lost their place before the change.</param>
    /// <param name="lost">Visits that have lost it with the change.</param>
    /// <param name="accept">What says that somebody has seen these very visits, or null.</param>
    /// <exception cref="Refused">Nobody has.</exception>
    internal static void Require(Setup after, IEnumerable<LostVisit> before, IEnumerable<LostVisit> lost, string? accept)
    {
        HashSet<Guid> already = [.. before.Select(visit => visit.Visit.Visit.Id)];
        List<LostVisit> hits = [.. lost.Where(visit => !already.Contains(visit.Visit.Visit.Id))];
        string token = TokenOf(hits);
        if (hits.Count == 0 || accept == token)
            return;
        Refused refused = new(
            StatusCodes.Status409Conflict,
            "hits-appointments",
            hits.Count == 1
                ? Say(
                    "One visit booked ahead would lose its place. It stays in the book and waits for a place; look at it before you save."
                )
                : Say(
                    $"{hits.Count} visits booked ahead would lose their place. They stay in the book and wait for a place; look at "
                        + $"them before you save."
                )
        );
        refused.More["visits"] = hits.Select(visit => NeedsPlace.Answer(after, visit)).ToArray();
        refused.More["accept"] = token;
        throw refused;
    }

    /// <summary>What the screen sends back once its reader has seen these very visits.</summary>
    private static string TokenOf(IEnumerable<LostVisit> hits) =>
        Convert.ToHexString(SHA256.HashData([.. hits.Select(visit => visit.Visit.Visit.Id).Order().SelectMany(id => id.ToByteArray())]));
}
