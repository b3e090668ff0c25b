using Kingcup.Core.Time;

namespace Kingcup.Core.Services;

/// <summary>A stretch, in grains from the start of the line.</summary>
/// <param name="From">Beginning.</param>
/// <param name="Until">End, not included.</param>
public readonly record struct GrainSpan(int From, int Until);

/// <summary>Equipment held by a line: neighbouring phases hold the units they share in one go.</summary>
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
        RoleSpans =
        [
            .. service.Roles.Select(
                (_, role) => (IReadOnlyList<GrainSpan>)[.. Merge(service, PhaseSpans, phase => phase.AttendedBy.Contains(role))]
            ),
        ];
        Equipment = [.. EquipmentOf(service, PhaseSpans)];
        int first = IndexOf(service, phase => phase.AttendedBy.Count > 0, last: false);
        int final = IndexOf(service, phase => phase.AttendedBy.Count > 0, last: true);
        FirstAttended = first < 0 ? [] : service.Phases[first].AttendedBy;
        LastAttended = final < 0 ? [] : service.Phases[final].AttendedBy;
        FirstAttendedFrom = first < 0 ? 0 : PhaseSpans[first].From;
        LastAttendedUntil = final < 0 ? 0 : PhaseSpans[final].Until;
        // Buffers belong to whoever attends; where nobody does, there are none.
        BufferBefore = first < 0 ? 0 : Grain.Count(service.BufferBeforeMinutes);
        BufferAfter = first < 0 ? 0 : Grain.Count(service.BufferAfterMinutes);
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
    internal GrainSpan HeldBy(int role, bool before = true, bool after = true)
    {
        IReadOnlyList<GrainSpan> spans = RoleSpans[role];
        return spans.Count == 0
            ? new GrainSpan(0, 0)
            : new GrainSpan(
                spans[0].From - (before && Begins(role) ? BufferBefore : 0),
                spans[^1].Until + (after && Ends(role) ? BufferAfter : 0));
    }

    /// <summary>Whether a role is of those in the first attended phase, which the buffer before holds.</summary>
    internal bool Begins(int role) => FirstAttended.Contains(role);

    /// <summary>Whether a role is of those in the last attended phase, which the buffer after holds.</summary>
    internal bool Ends(int role) => LastAttended.Contains(role);

    /// <summary>The phase that gets longer by add-ons and by somebody's own length: the longest attended one (rules, section 4).</summary>
    /// <param name="service">The service; with one phase at least.</param>
    public static int LongestAttended(Service service)
    {
        ArgumentNullException.ThrowIfNull(service);
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

    /// <summary>
    /// Unit by unit, as if they lay upon each other: the first unit is used wherever any is needed, the second wherever two are.
    /// Neighbouring phases so share as many as they can (rules, section 4).
    /// </summary>
    private static IEnumerable<EquipmentSpan> EquipmentOf(Service service, IReadOnlyList<GrainSpan> spans)
    {
        foreach (Guid pool in service.Phases.SelectMany(phase => phase.Equipment).Select(need => need.PoolId).Distinct())
        {
            int UnitsIn(Phase phase) => phase.Equipment.Where(need => need.PoolId == pool).Sum(need => need.Units);
            IEnumerable<GrainSpan> uses = Enumerable
                .Range(1, service.Phases.Max(UnitsIn))
                .SelectMany(unit => Merge(service, spans, phase => UnitsIn(phase) >= unit));
            foreach (IGrouping<GrainSpan, GrainSpan> use in uses.GroupBy(span => span))
                yield return new EquipmentSpan(pool, use.Count(), use.Key);
        }
    }

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
