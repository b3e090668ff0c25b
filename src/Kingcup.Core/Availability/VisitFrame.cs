using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>A wish worked out against a house once, before any day is looked at.</summary>
internal sealed class VisitFrame
{
    /// <summary>Most lines a visit may have; bounds the exact search.</summary>
    internal const int MostLines = 6;

    private readonly RoleCandidates[][] _candidates;

    internal VisitFrame(House house, VisitWish wish)
    {
        if (wish.Lines.Count is 0 or > MostLines)
            throw new ArgumentException($"A visit has 1 to {MostLines} lines.", nameof(wish));
        House = house;
        Wish = wish;
        Services = [.. wish.Lines.Select(line => house.Services[line.ServiceId])];
        Shapes = [.. wish.Lines.Select((line, i) => ShapesOf(house, line, Services[i]))];
        UsualShapes =
        [
            .. wish.Lines.Select((line, i) => house.Shape(Services[i], line.SetMinutes ?? Services[i].Minutes + line.ExtraMinutes)),
        ];
        Rooms = [.. wish.Lines.Select((line, i) => RoomsOf(house, Services[i], line, wish.WithoutRooms))];
        Before = [.. wish.Lines.Select((line, i) => wish.Lines.Take(i).ToList().FindLastIndex(other => other.Person == line.Person))];
        After = [.. wish.Lines.Select((_, i) => Array.IndexOf(Before, i))];
        Offsets = [.. wish.Lines.Select((line, i) => Before[i] < 0 ? Grain.Count(line.OffsetMinutes) : 0)];
        LongestWait = Grain.Count(house.Location.LongestWaitMinutes);
        IsForOne = Before.Count(line => line < 0) == 1;
        IsElsewhere = Services.Any(service => service.Locations.Count > 0 && !service.Locations.Contains(house.Location.Id));
        _candidates =
        [
            .. Services.Select(
                (service, line) =>
                    service
                        .Roles.Select((rule, role) => new RoleCandidates(house, rule, role == 0 ? wish.Lines[line].PractitionerId : null))
                        .ToArray()
            ),
        ];
    }

    internal House House { get; }

    internal VisitWish Wish { get; }

    internal Service[] Services { get; }

    /// <summary>How many lines.</summary>
    internal int Lines => Services.Length;

    /// <summary>For each line the one before it of the same person, or -1.</summary>
    internal int[] Before { get; }

    /// <summary>For each line the next of the same person, or -1.</summary>
    internal int[] After { get; }

    /// <summary>For the first line of each person, grains after the start of the visit; 0 for all others.</summary>
    internal int[] Offsets { get; }

    /// <summary>Most grains between two lines of a person.</summary>
    internal int LongestWait { get; }

    /// <summary>Whether all lines are for one person.</summary>
    internal bool IsForOne { get; }

    /// <summary>For each line and practitioner (by place in the house order) the layout with that one as lead.</summary>
    internal LineShape[][] Shapes { get; }

    /// <summary>For each line the layout of the usual length.</summary>
    internal LineShape[] UsualShapes { get; }

    /// <summary>For each line the rooms that could ever serve, those with the fewest spare features first.</summary>
    internal int[][] Rooms { get; }

    /// <summary>Whether some service of the wish is not done at this location.</summary>
    internal bool IsElsewhere { get; }

    internal LineShape ShapeOf(int line, int lead) => lead < 0 ? UsualShapes[line] : Shapes[line][lead];

    /// <summary>Who may take a role of a line on a date; the wish's own choice binds the lead role.</summary>
    internal int[] CandidatesOn(int line, int role, LocalDate date) => _candidates[line][role].On(date);

    private static LineShape[] ShapesOf(House house, LineWish line, Service service) =>
        [
            .. house.Practitioners.Select(practitioner =>
                house.Shape(service, line.SetMinutes ?? service.MinutesBy(practitioner.Id) + line.ExtraMinutes)
            ),
        ];

    private static int[] RoomsOf(House house, Service service, LineWish line, IReadOnlySet<Guid> without) =>
        service.Room is not { } rule
            ? []
            : [.. Enumerable.Range(0, house.Rooms.Count)
                .Where(i => rule.Accepts(house.Rooms[i]) || (line.TakesUnsuitedRoom && line.RoomId == house.Rooms[i].Id))
                .Where(i => line.RoomId is { } only ? house.Rooms[i].Id == only : !without.Contains(house.Rooms[i].Id))
                .OrderBy(i => house.Rooms[i].Features.Count).ThenBy(i => i)];

    /// <summary>Who may take a role, remembered for as long as nobody's standing changes.</summary>
    private sealed class RoleCandidates(House house, StaffRule rule, Guid? chosen)
    {
        private volatile Known? _known;

        private sealed record Known(LocalDate From, LocalDate Until, int[] Who);

        internal int[] On(LocalDate date)
        {
            Known? known = _known;
            if (known is not null && known.From <= date && date <= known.Until) return known.Who;
            List<int> found = [];
            (LocalDate from, LocalDate until) = (LocalDate.MinIsoValue, LocalDate.MaxIsoValue);
            for (int i = 0; i < house.Practitioners.Count; i++)
            {
                Practitioner practitioner = house.Practitioners[i];
                if (chosen is { } only && only != practitioner.Id) continue;
                if (rule.Allows(practitioner, date)) found.Add(i);
                // Dates on which somebody's standing may change.
                foreach (
                    LocalDate turn in practitioner
                        .Qualifications.SelectMany(held =>
                            new[]
                            {
                                held.From,
                                held.Until is { } last && last != LocalDate.MaxIsoValue ? last.PlusDays(1) : LocalDate.MaxIsoValue,
                            }
                        )
                        .Append(practitioner.Retired ?? LocalDate.MaxIsoValue)
                )
                {
                    if (turn <= date) from = LocalDate.Max(from, turn);
                    else until = LocalDate.Min(until, turn.PlusDays(-1));
                }
            }

            int[] who = [.. found];
            _known = new Known(from, until, who);
            return who;
        }
    }
}
