namespace Kingcup.Core.Business;

/// <summary>Who books online, in any mix the owner chooses.</summary>
/// <param name="Guests">Anybody, by saying who they are.</param>
/// <param name="NewPeople">People who are new, once they have shown that an address is theirs.</param>
/// <param name="KnownPeople">Clients, once they have shown who they are.</param>
public sealed record BookingAccess(bool Guests, bool NewPeople, bool KnownPeople)
{
    /// <summary>Anybody, and clients by their record.</summary>
    public static BookingAccess Usual { get; } = new(Guests: true, NewPeople: false, KnownPeople: true);

    /// <summary>Whether somebody may book at all, and whoever signed up once may come back.</summary>
    public bool IsWhole => (Guests || KnownPeople) && (KnownPeople || !NewPeople);

    /// <summary>Whether somebody may book.</summary>
    /// <param name="isKnown">Whether they book as a client they have shown to be.</param>
    /// <param name="isProven">Whether they have shown that the address they give is theirs.</param>
    public bool Lets(bool isKnown, bool isProven) => isKnown ? KnownPeople : Guests || (NewPeople && isProven);

    /// <summary>Whether an address nobody is known by is sent a code, to be shown as somebody's.</summary>
    public bool ProvesStrangers => NewPeople;
}
