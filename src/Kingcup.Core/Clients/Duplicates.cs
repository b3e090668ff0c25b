using System.Text;
using F23.StringSimilarity;

namespace Kingcup.Core.Clients;

/// <summary>Something that speaks for, or against, two records being of one person.</summary>
public enum LikenessReason
{
    /// <summary>The same name, whatever its accents, hyphens and capitals.</summary>
    SameName,

    /// <summary>Given and family name the other way round.</summary>
    NamesSwapped,

    /// <summary>Names that differ by a letter or two.</summary>
    NearName,

    /// <summary>The same family name, and a given name that is short for the other.</summary>
    ShortName,

    /// <summary>The same given name with another family name.</summary>
    OtherFamilyName,

    /// <summary>The same e-mail address.</summary>
    SameEmail,

    /// <summary>The same telephone number.</summary>
    SamePhone,

    /// <summary>Born on the same day.</summary>
    SameBirthday,

    /// <summary>Born on different days.</summary>
    OtherBirthday,
}

/// <summary>How likely two records are of one person.</summary>
/// <param name="Score">0 to 100.</param>
/// <param name="Reasons">What it follows from.</param>
public sealed record Likeness(int Score, IReadOnlyList<LikenessReason> Reasons)
{
    /// <summary>Whether somebody should look at the two.</summary>
    public bool IsLikely => Score >= Duplicates.Likely;
}

/// <summary>A client as far as likeness is looked for.</summary>
/// <param name="Id">Which.</param>
/// <param name="Facts">What their record says.</param>
public sealed record SharingClient(Guid Id, ClientFacts Facts);

/// <summary>Two clients who are likely one person.</summary>
/// <param name="OneId">The one.</param>
/// <param name="OtherId">The other.</param>
/// <param name="Likeness">How likely, and why.</param>
public sealed record LikelyPair(Guid OneId, Guid OtherId, Likeness Likeness);

/// <summary>
/// Whether two records are likely of one person. A name alone never says so, for there are two of many a name; nor does an address or
/// a number alone, for a household shares them. Two that share neither address, number nor birthday are never likely.
/// </summary>
public static class Duplicates
{
    /// <summary>The score from which two records are worth a look.</summary>
    public const int Likely = 60;

    /// <summary>What more clients than this share says nothing of any two: the number of a hotel, a birthday nobody knew.</summary>
    public const int MostSharing = 50;

    private static readonly Damerau _distance = new();

    /// <summary>Compares two records. Which of them comes first does not matter.</summary>
    public static Likeness Of(ClientFacts one, ClientFacts other)
    {
        ArgumentNullException.ThrowIfNull(one);
        ArgumentNullException.ThrowIfNull(other);
        if (Name(one, other) is not { } name) return new Likeness(0, []);
        List<LikenessReason> reasons = [name];
        if (one.Email is not null && one.Email == other.Email) reasons.Add(LikenessReason.SameEmail);
        if (one.Phone is not null && one.Phone == other.Phone) reasons.Add(LikenessReason.SamePhone);
        if (one.Born is { } born && other.Born is { } otherBorn)
            reasons.Add(born == otherBorn ? LikenessReason.SameBirthday : LikenessReason.OtherBirthday);
        return new Likeness(Math.Clamp(reasons.Sum(Weight), 0, 100), reasons);
    }

    /// <summary>The pairs among some clients that are likely of one person, the likeliest first.</summary>
    /// <param name="clients">The clients, each once.</param>
    /// <param name="apart">Pairs of which somebody has said that they are two people.</param>
    /// <remarks>Only those are compared that share an address, a number or a birthday; no others could be likely.</remarks>
    public static IReadOnlyList<LikelyPair> Among(IReadOnlyCollection<SharingClient> clients, IEnumerable<(Guid, Guid)> apart)
    {
        ArgumentNullException.ThrowIfNull(clients);
        ArgumentNullException.ThrowIfNull(apart);
        HashSet<(Guid, Guid)> done = [.. apart.Select(pair => InOrder(pair.Item1, pair.Item2))];
        List<LikelyPair> likely = [];
        foreach (SharingClient[] group in Sharing(clients))
            for (int i = 0; i < group.Length; i++)
                for (int j = i + 1; j < group.Length; j++)
                {
                    if (!done.Add(InOrder(group[i].Id, group[j].Id))) continue;
                    Likeness likeness = Of(group[i].Facts, group[j].Facts);
                    if (likeness.IsLikely) likely.Add(new LikelyPair(group[i].Id, group[j].Id, likeness));
                }

        return [.. likely.OrderByDescending(pair => pair.Likeness.Score).ThenBy(pair => pair.OneId).ThenBy(pair => pair.OtherId)];
    }

    private static IEnumerable<SharingClient[]> Sharing(IReadOnlyCollection<SharingClient> clients)
    {
        Func<ClientFacts, object?>[] shared = [facts => facts.Email, facts => facts.Phone, facts => facts.Born];
        return shared.SelectMany(value =>
            clients
                .Where(client => value(client.Facts) is not null)
                .GroupBy(client => value(client.Facts))
                .Select(group => group.ToArray())
                .Where(group => group.Length is > 1 and <= MostSharing)
        );
    }

    private static (Guid, Guid) InOrder(Guid one, Guid other) => one.CompareTo(other) < 0 ? (one, other) : (other, one);

    private static int Weight(LikenessReason reason) => reason switch
    {
        LikenessReason.SameName => 50,
        LikenessReason.NamesSwapped => 45,
        LikenessReason.NearName => 35,
        LikenessReason.ShortName => 30,
        LikenessReason.OtherFamilyName => 15,
        LikenessReason.SameEmail => 35,
        LikenessReason.SamePhone => 35,
        LikenessReason.SameBirthday => 25,
        LikenessReason.OtherBirthday => -60,
        _ => throw new ArgumentOutOfRangeException(nameof(reason), reason, null),
    };

    private static LikenessReason? Name(ClientFacts one, ClientFacts other)
    {
        (string given, string family) = (Folded(one.GivenName), Folded(one.FamilyName));
        (string otherGiven, string otherFamily) = (Folded(other.GivenName), Folded(other.FamilyName));
        if (given == otherGiven && family == otherFamily) return LikenessReason.SameName;
        if (given == otherFamily && family == otherGiven) return LikenessReason.NamesSwapped;
        if (family == otherFamily && (IsShortFor(given, otherGiven) || IsShortFor(otherGiven, given))) return LikenessReason.ShortName;
        if (IsNear(given, otherGiven) && IsNear(family, otherFamily)) return LikenessReason.NearName;
        return given == otherGiven ? LikenessReason.OtherFamilyName : null;
    }

    // A letter in a short name makes another name of it (Jan, Jon); in a long one it is a slip.
    private static bool IsNear(string one, string other) =>
        one == other || _distance.Distance(one, other) <= Math.Min(one.Length, other.Length) switch { < 4 => 0, < 8 => 1, _ => 2 };

    // An initial, or a name cut short: Alex for Alexandra.
    private static bool IsShortFor(string brief, string name) =>
        brief.Length is 1 or >= 3 && brief.Length < name.Length && name.StartsWith(brief, StringComparison.Ordinal);

    /// <summary>A name as it is compared: small letters without accents, blanks, hyphens and apostrophes.</summary>
    public static string Folded(string name)
    {
        ArgumentNullException.ThrowIfNull(name);
        return new string(
            [
                .. name.Replace("ß", "ss", StringComparison.OrdinalIgnoreCase)
                    .Replace("ø", "o", StringComparison.OrdinalIgnoreCase)
                    .Replace("ł", "l", StringComparison.OrdinalIgnoreCase)
                    .Normalize(NormalizationForm.FormD)
                    // An accent stands apart by now, and is no letter.
                    .Where(char.IsLetterOrDigit)
                    .Select(char.ToLowerInvariant),
            ]
        );
    }
}
