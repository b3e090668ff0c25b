using NodaTime;

namespace Kingcup.Core.Plans;

/// <summary>A credit somebody may pay with.</summary>
/// <param name="Id">Identity.</param>
/// <param name="For">What it pays for.</param>
/// <param name="SoldAt">When it was bought.</param>
/// <param name="LastDay">The last date of a visit it pays for, or null for any.</param>
public sealed record Credit(Guid Id, CreditScope For, Instant SoldAt, LocalDate? LastDay = null);

/// <summary>Which credits pay for a visit (rules, section 10).</summary>
public static class Credits
{
    /// <summary>
    /// The credits that pay for the lines of a visit: for as many lines as can be, and of the ways to do that the one that gives each
    /// line in order the credit that runs out first, then the most specific, then the oldest.
    /// </summary>
    /// <param name="credits">What is left to whoever pays.</param>
    /// <param name="lines">What each line has to pay for; null where it is paid otherwise.</param>
    /// <param name="on">The date of the visit.</param>
    /// <returns>The credit of each line, or null where none is left for it.</returns>
    public static IReadOnlyList<Credit?> Best(IEnumerable<Credit> credits, IReadOnlyList<ServiceToPay?> lines, LocalDate on)
    {
        ArgumentNullException.ThrowIfNull(credits);
        ArgumentNullException.ThrowIfNull(lines);
        List<Credit> left =
        [
            .. credits
                .Where(credit => !(credit.LastDay < on))
                .OrderBy(credit => credit.LastDay ?? LocalDate.MaxIsoValue)
                .ThenBy(credit => credit.For.Breadth)
                .ThenBy(credit => credit.SoldAt)
                .ThenBy(credit => credit.Id),
        ];
        List<ServiceToPay?> open = [.. lines];
        Credit?[] paid = new Credit?[lines.Count];
        for (int i = 0; i < lines.Count; i++)
        {
            int most = Pays(left, open);
            if (open[i] is { } service)
            {
                open[i] = null;
                // A credit is taken only where the lines after it can be paid as well as without it.
                paid[i] = left.FirstOrDefault(credit => credit.For.Covers(service) && 1 + Pays(Without(left, credit), open) == most);
                if (paid[i] is { } taken) left.Remove(taken);
            }
        }

        return paid;
    }

    private static List<Credit> Without(List<Credit> credits, Credit taken) =>
        [.. credits.Where(credit => !ReferenceEquals(credit, taken))];

    /// <summary>How many lines can be paid at once: each credit pays for one (by augmenting paths).</summary>
    private static int Pays(List<Credit> credits, List<ServiceToPay?> lines)
    {
        int[] lineOf = [.. credits.Select(_ => -1)];
        bool Place(int line, HashSet<int> tried)
        {
            for (int k = 0; k < credits.Count; k++)
                if (credits[k].For.Covers(lines[line]!) && tried.Add(k) && (lineOf[k] < 0 || Place(lineOf[k], tried)))
                {
                    lineOf[k] = line;
                    return true;
                }

            return false;
        }

        return Enumerable.Range(0, lines.Count).Count(line => lines[line] is not null && Place(line, []));
    }
}
