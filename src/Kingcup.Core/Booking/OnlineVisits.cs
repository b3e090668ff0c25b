using Kingcup.Core.Services;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Core.Booking;

/// <summary>What one visit that is booked online may hold: a few services, for as many people as the owner lets come together.</summary>
/// <param name="MostPeople">Most people who come, the client counted; 1 to <see cref="MostAllowed"/>.</param>
public sealed record OnlineVisits(int MostPeople)
{
    /// <summary>Most services of one visit, over all who come.</summary>
    public const int MostLines = 4;

    /// <summary>Most people an owner can allow: each of them has at least one service.</summary>
    public const int MostAllowed = MostLines;

    /// <summary>Where the owner has said nothing a client books for one.</summary>
    public static OnlineVisits Usual { get; } = new(1);

    /// <summary>
    /// What is wrong with what somebody wants, and at which field; null where nothing is. The client is person 0, those who
    /// come along are numbered from 1 in the order in which they are first named, and all of them begin together.
    /// </summary>
    /// <param name="lines">What is wanted, in order.</param>
    public Fault? FaultOf(IReadOnlyList<LineWish> lines)
    {
        if (lines.Count is 0 or > MostLines) return new Fault("lines", Say($"Choose one to {MostLines} services."));
        int come = 0;
        foreach ((int i, LineWish line) in lines.Index())
        {
            if (line.OffsetMinutes != 0)
                return new Fault($"lines[{i}].offsetMinutes", Say("Online all who come begin together; call us for another way."));
            if (line.Person < 0 || line.Person > come)
                return new Fault($"lines[{i}].person", Say("Name the people who come in order, the client first."));
            if (line.Person == come) come++;
            if (come <= MostPeople) continue;
            return new Fault(
                $"lines[{i}].person",
                MostPeople == 1
                    ? Say("Online a client books for one person; call us for several.")
                    : Say($"Online up to {MostPeople} people come together; call us for more.")
            );
        }

        return null;
    }

    /// <summary>How many come: the client, and whoever else has a service.</summary>
    /// <param name="people">For each line whom it is for, without fault.</param>
    public static int ComingTo(IEnumerable<int> people) => people.DefaultIfEmpty().Max() + 1;

    /// <summary>How long a visit takes whose people begin together: as long as the one who stays longest.</summary>
    /// <param name="lines">For each line whom it is for, and its minutes.</param>
    public static int MinutesOf(IEnumerable<(int Person, int Minutes)> lines) =>
        lines.GroupBy(line => line.Person, line => line.Minutes).Select(own => own.Sum()).DefaultIfEmpty().Max();
}
