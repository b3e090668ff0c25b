using Kingcup.Storage;
using Npgsql;

namespace Kingcup.Server.Clients;

/// <summary>Whom somebody acts for who has shown who they are: themselves, and those who are linked to them.</summary>
/// <param name="Own">The clients they are.</param>
/// <param name="Books">For whom they book, move and cancel: their own, and those a link lets them book for.</param>
/// <param name="Sees">Whose bookings they see: their own, and those a link lets them see.</param>
/// <param name="Pays">For whom they pay when they book, and which of them does.</param>
internal sealed record OwnReach(
    IReadOnlyList<Guid> Own,
    IReadOnlyList<Guid> Books,
    IReadOnlyList<Guid> Sees,
    IReadOnlyDictionary<Guid, Guid> Pays
)
{
    /// <summary>Reads it as it stands now; a link that is taken away counts no more from then on.</summary>
    internal static async Task<OwnReach> OfAsync(NpgsqlConnection connection, IReadOnlyList<Guid> clients)
    {
        IReadOnlyList<ReachedClient> linked = await LinkStore.ReachedAsync(connection, clients);
        return new OwnReach(
            clients,
            [.. clients.Union(linked.Where(one => one.MayBook).Select(one => one.Id))],
            [.. clients.Union(linked.Where(one => one.MaySee).Select(one => one.Id))],
            linked.Where(one => one.PayerId is not null).ToDictionary(one => one.Id, one => one.PayerId!.Value)
        );
    }
}
