using Kingcup.Core.Services;
using Kingcup.Core.Team;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>A wish worked out against a house once, before any day is looked at.</summary>
internal sealed class VisitFrame
{
    /// <summary>Most lines a visit may have; bounds the exact search.</summary>
    internal const int MostLines = 6;

    internal VisitFrame(House house, VisitWish wish)
    {
        if (wish.Lines.Count is 0 or > MostLines)
            throw new ArgumentException($"A visit has 1 to {MostLines} lines.", nameof(wish));
        House = house;
        Wish = wish;
        Services = [.. wish.Lines.Select(line => house.Services[line.ServiceId])];
        Shapes = [.. wish.Lines.Select((line, i) => ShapesOf(house, line, Services[i]))];
        UsualShapes = [.. wish.Lines.Select((line, i) => house.Shape(Services[i], Services[i].Minutes + line.ExtraMinutes))];
        Rooms = [.. Services.Select(service => RoomsOf(house, service))];
        RoomChoices = [.. Services.Select((service, line) => ChoicesOf(house, service, Rooms[line]))];
    }

    internal House House { get; }

    internal VisitWish Wish { get; }

    internal Service[] Services { get; }

    /// <summary>For each line and practitioner (by place in the house order) the layout with that one as lead.</summary>
    internal LineShape[][] Shapes { get; }

    /// <summary>For each line the layout of the usual length.</summary>
    internal LineShape[] UsualShapes { get; }

    /// <summary>For each line the rooms that could ever serve, those with the fewest spare features first.</summary>
    internal int[][] Rooms { get; }

    /// <summary>For each line the rooms with every way to take the units needed.</summary>
    internal (int Room, int[] Units)[][] RoomChoices { get; }

    /// <summary>Whether some service of the wish is not done at this location.</summary>
    internal bool IsElsewhere => Services.Any(service => service.Locations.Count > 0 && !service.Locations.Contains(House.Location.Id));

    internal LineShape ShapeOf(int line, int lead) => lead < 0 ? UsualShapes[line] : Shapes[line][lead];

    /// <summary>Who may take a role of a line on a date; the wish's own choice binds the lead role.</summary>
    internal int[] CandidatesOn(int line, int role, LocalDate date)
    {
        Guid? chosen = role == 0 ? Wish.Lines[line].PractitionerId : null;
        StaffRule rule = Services[line].Roles[role];
        List<int> found = [];
        for (int i = 0; i < House.Practitioners.Count; i++)
        {
            Practitioner practitioner = House.Practitioners[i];
            if ((chosen is null || chosen.GetValueOrDefault() == practitioner.Id) && rule.Allows(practitioner, date)) found.Add(i);
        }

        return [.. found];
    }

    private static LineShape[] ShapesOf(House house, LineWish line, Service service) =>
        [.. house.Practitioners.Select(one => house.Shape(service, service.MinutesBy(one.Id) + line.ExtraMinutes))];

    private static (int Room, int[] Units)[] ChoicesOf(House house, Service service, int[] rooms) =>
        [.. from room in rooms
            from units in VisitSearch.Combinations(house.Rooms[room].Capacity, service.Room!.Units)
            select (room, units)];

    private static int[] RoomsOf(House house, Service service) =>
        service.Room is not { } rule
            ? []
            : [.. Enumerable.Range(0, house.Rooms.Count)
                .Where(i => rule.Accepts(house.Rooms[i]))
                .OrderBy(i => house.Rooms[i].Features.Count).ThenBy(i => i)];
}
