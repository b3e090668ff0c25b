using Kingcup.Core.Services;

namespace Kingcup.Core.Availability;

/// <summary>A line as a search has placed it: grains of the day, people and rooms by place in the house order.</summary>
internal sealed class PlacedLine(LineShape shape, int at, int[] practitioners)
{
    /// <summary>Its layout.</summary>
    internal LineShape Shape { get; } = shape;

    /// <summary>The grain at which it begins.</summary>
    internal int At { get; } = at;

    /// <summary>Who takes each role; -1 for nobody in particular.</summary>
    internal int[] Practitioners { get; } = practitioners;

    /// <summary>The room, or -1.</summary>
    internal int Room { get; set; } = -1;

    /// <summary>The grain at which it ends.</summary>
    internal int Until => At + Shape.Grains;

    /// <summary>Whether somebody is in its first attended phase.</summary>
    internal bool HasFirst(int practitioner) => Holds(Shape.FirstAttended, practitioner);

    /// <summary>Whether somebody is in its last attended phase.</summary>
    internal bool HasLast(int practitioner) => Holds(Shape.LastAttended, practitioner);

    private bool Holds(IReadOnlyList<int> roles, int practitioner)
    {
        for (int i = 0; i < roles.Count; i++)
            if (practitioner >= 0 && Practitioners[roles[i]] == practitioner) return true;
        return false;
    }
}
