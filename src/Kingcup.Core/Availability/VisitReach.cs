using Kingcup.Core.Services;
using Kingcup.Core.Time;

namespace Kingcup.Core.Availability;

/// <summary>The bound that keeps the exact search of long visits short.</summary>
internal static class VisitReach
{
    /// <summary>
    /// For each line the grains at which it could begin if all lines stood alone and had no buffers, with room for the lines
    /// behind it: a generous bound that ends hopeless branches of long visits early.
    /// </summary>
    internal static DaySet[] Of(VisitFrame frame, DayBook day, int[][][] candidates, SearchLimits limits)
    {
        int lines = frame.Services.Length;
        int longestWait = Grain.Count(frame.House.Location.LongestWaitMinutes);
        DaySet[] reach = new DaySet[lines];
        for (int line = lines - 1; line >= 0; line--)
        {
            foreach (int lead in candidates[line][0])
            {
                LineShape shape = frame.ShapeOf(line, lead);
                DaySet alone = DaySet.Full;
                if (limits.Practitioners && lead >= 0)
                    foreach (GrainSpan span in shape.RoleSpans[0]) alone &= day.Free(lead).StartsHolding(span.From, span.Until);
                if (limits.Rooms && frame.Services[line].Room is not null)
                {
                    DaySet anyRoom = DaySet.Empty;
                    foreach (int room in frame.Rooms[line])
                    {
                        int first = frame.House.RoomUnits[room];
                        for (int unit = 0; unit < frame.House.Rooms[room].Capacity; unit++)
                            anyRoom |= day.Free(first + unit).StartsHolding(0, shape.Grains);
                    }

                    alone &= anyRoom;
                }

                if (line + 1 < lines)
                {
                    DaySet behind = DaySet.Empty;
                    for (int wait = 0; wait <= longestWait; wait++) behind |= reach[line + 1].Earlier(shape.Grains + wait);
                    alone &= behind;
                }

                reach[line] |= alone;
            }
        }

        return reach;
    }
}
