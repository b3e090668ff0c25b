namespace Kingcup.Core.Clients;

/// <summary>What one client may do for another. It holds one way; two links make it mutual.</summary>
/// <param name="From">Who acts.</param>
/// <param name="To">For whom.</param>
/// <param name="Relation">What they are to each other, in a word: household, mother, carer.</param>
public sealed record ClientLink(Guid From, Guid To, string Relation)
{
    /// <summary>Whether they may book, move and cancel for the other.</summary>
    public bool MayBook { get; init; }

    /// <summary>Whether visits of the other may be charged to them.</summary>
    public bool MayPay { get; init; }

    /// <summary>Whether they may see what the other has booked.</summary>
    public bool MaySee { get; init; }
}
