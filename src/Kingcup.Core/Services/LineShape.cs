using Kingcup.Core.Time;

namespace Kingcup.Core.Services;

/// <summary>A stretch, in grains from the start of the line.</summary>
/// <param name="From">Beginning.</param>
/// <param name="Until">End, not included.</param>
public readonly record struct GrainSpan(int From, int Until);

/// <summary>Equipment held by a line: consecutive phases with the same need hold the same units in one go.</summary>
/// <param name="PoolId">Which pool.</param>
/// <param name="Units">How many units.</param>
/// <param name="Span">Use, without turnaround.</param>
public sealed record EquipmentSpan(Guid PoolId, int Units, GrainSpan Span);

/// <summary>A service laid out in grains for one length: where each role, the room and the equipment are held.</summary>
public sealed class LineShape
{
    /// <summary>Lays out a service.</summary>
    /// <param name="service">The service.</param>
    /// <param name="minutes">Length to reach; the difference to the usual falls on the longest attended phase.</param>
    /// <exception cref="ArgumentException">The length leaves the longest attended phase without a grain.</exception>
    public LineShape(Service service, int minutes)
    {
        ArgumentNullException.ThrowIfNull(service);
        int[] lengths = [.. service.Phases.Select(phase => Grain.Count(phase.Minutes))];
        int longest = LongestAttended(service);
        lengths[longest] += Grain.Count(minutes) - lengths.Sum();
        if (lengths[longest] < 1) throw new ArgumentException($"{minutes} minutes are too short for '{service.Name}'.", nameof(minutes));

        Grains = lengths.Sum();
        PhaseSpans = Spans(lengths);
        RoleSpans = [.. service.Roles.Select((_, role) => (IReadOnlyList<GrainSpan>)[.. Merge(service, PhaseSpans, phase => phase.AttendedBy.Contains(role))])];
        Equipment = [.. EquipmentOf(service, PhaseSpans)];
        int first = IndexOf(service, phase => phase.AttendedBy.Count > 0, last: false);
        int final = IndexOf(service, phase => phase.AttendedBy.Count > 0, last: true);
        FirstAttended = first < 0 ? [] : service.Phases[first].AttendedBy;
        LastAttended = final < 0 ? [] : service.Phases[final].AttendedBy;
        FirstAttendedFrom = first < 0 ? 0 : PhaseSpans[first].From;
        LastAttendedUntil = final < 0 ? 0 : PhaseSpans[final].Until;
        BufferBefore = Grain.Count(service.BufferBeforeMinutes);
        BufferAfter = Grain.Count(service.BufferAfterMinutes);
    }

    /// <summary>Length of the line.</summary>
    public int Grains { get; }

    /// <summary>Each phase.</summary>
    public IReadOnlyList<GrainSpan> PhaseSpans { get; }

    /// <summary>For each role, the stretches it attends, without buffers; neighbouring phases are one stretch.</summary>
    public IReadOnlyList<IReadOnlyList<GrainSpan>> RoleSpans { get; }

    /// <summary>Equipment in use.</summary>
    public IReadOnlyList<EquipmentSpan> Equipment { get; }

    /// <summary>Roles of the first attended phase: the buffer before holds them.</summary>
    public IReadOnlyList<int> FirstAttended { get; }

    /// <summary>Roles of the last attended phase: the buffer after holds them.</summary>
    public IReadOnlyList<int> LastAttended { get; }

    /// <summary>Where the first attended phase begins.</summary>
    public int FirstAttendedFrom { get; }

    /// <summary>Where the last attended phase ends.</summary>
    public int LastAttendedUntil { get; }

    /// <summary>Grains of the buffer before.</summary>
    public int BufferBefore { get; }

    /// <summary>Grains of the buffer after.</summary>
    public int BufferAfter { get; }

    /// <summary>From when until when a role is held, buffers included; an empty stretch when it attends no phase.</summary>
    internal GrainSpan HeldBy(int role)
    {
        IReadOnlyList<GrainSpan> spans = RoleSpans[role];
        if (spans.Count == 0) return new GrainSpan(0, 0);
        bool first = FirstAttended.Contains(role) && spans[0].From == FirstAttendedFrom, last = LastAttended.Contains(role) && spans[^1].Until == LastAttendedUntil;
        return new GrainSpan(spans[0].From - (first ? BufferBefore : 0), spans[^1].Until + (last ? BufferAfter : 0));
    }

    private static int LongestAttended(Service service)
    {
        int best = 0, most = -1;
        for (int i = 0; i < service.Phases.Count; i++)
        {
            Phase phase = service.Phases[i];
            // A service nobody attends still has to put a difference somewhere: its longest phase.
            int weight = phase.AttendedBy.Count > 0 ? phase.Minutes + 100_000 : phase.Minutes;
            if (weight > most) (best, most) = (i, weight);
        }

        return best;
    }

    private static List<GrainSpan> Spans(int[] lengths)
    {
        List<GrainSpan> spans = [];
        int at = 0;
        foreach (int length in lengths)
        {
            spans.Add(new GrainSpan(at, at + length));
            at += length;
        }

        return spans;
    }

    private static IEnumerable<GrainSpan> Merge(Service service, IReadOnlyList<GrainSpan> spans, Func<Phase, bool> holds)
    {
        for (int i = 0; i < spans.Count; i++)
        {
            if (!holds(service.Phases[i])) continue;
            int from = spans[i].From;
            while (i + 1 < spans.Count && holds(service.Phases[i + 1])) i++;
            yield return new GrainSpan(from, spans[i].Until);
        }
    }

    private static IEnumerable<EquipmentSpan> EquipmentOf(Service service, IReadOnlyList<GrainSpan> spans) =>
        from need in service.Phases.SelectMany(phase => phase.Equipment).Distinct()
        from span in Merge(service, spans, phase => phase.Equipment.Contains(need))
        select new EquipmentSpan(need.PoolId, need.Units, span);

    private static int IndexOf(Service service, Func<Phase, bool> holds, bool last)
    {
        int found = -1;
        for (int i = 0; i < service.Phases.Count; i++)
        {
            if (!holds(service.Phases[i])) continue;
            found = i;
            if (!last) break;
        }

        return found;
    }
}
