namespace Kingcup.Core.Clients;

/// <summary>What a visit was, as far as somebody would want the same again: its lines, each with whoever led it.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="Lines">Its lines in order.</param>
public sealed record VisitHad(Guid VisitId, IReadOnlyList<LineHad> Lines);

/// <summary>A line of an earlier visit.</summary>
/// <param name="ServiceId">The service.</param>
/// <param name="PractitionerId">Who led it, or null for nobody.</param>
public readonly record struct LineHad(Guid ServiceId, Guid? PractitionerId);

/// <summary>What a client is offered to have again.</summary>
/// <param name="Usual">The latest of the kind they have most often, or null where none stands out.</param>
/// <param name="Times">How often they had it among their last visits.</param>
/// <param name="Looked">How many of their last visits were looked at.</param>
/// <param name="Last">The latest of each of the last kinds, the latest first, the usual one not among them.</param>
public sealed record SameAgain(VisitHad? Usual, int Times, int Looked, IReadOnlyList<VisitHad> Last)
{
    /// <summary>How many visits are looked at, at the most.</summary>
    public const int Among = 12;

    /// <summary>How many kinds are offered altogether.</summary>
    public const int MostKinds = 3;

    /// <summary>Had less often than this, nothing is usual; nor is what was had less than every third time.</summary>
    public const int FewestForUsual = 2;

    /// <summary>
    /// Finds what can be offered: two visits are of one kind where the same people do the same services in the same order. Of kinds
    /// that were had equally often, the one had last is the usual one.
    /// </summary>
    /// <param name="visits">The client's visits, the latest first; those that were cancelled are not among them.</param>
    public static SameAgain Of(IEnumerable<VisitHad> visits)
    {
        List<(VisitHad Latest, int Times)> kinds =
        [
            .. visits.Take(Among).GroupBy(visit => string.Join(' ', visit.Lines)).Select(kind => (kind.First(), kind.Count())),
        ];
        int looked = kinds.Sum(kind => kind.Times);
        (VisitHad? usual, int times) = kinds
            .Where(kind => kind.Times >= FewestForUsual && 3 * kind.Times >= looked)
            .OrderByDescending(kind => kind.Times)
            .FirstOrDefault();
        int others = MostKinds - (usual is null ? 0 : 1);
        return new SameAgain(usual, times, looked, [.. kinds.Select(kind => kind.Latest).Where(visit => visit != usual).Take(others)]);
    }
}
