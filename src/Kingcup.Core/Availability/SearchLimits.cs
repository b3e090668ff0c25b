using Kingcup.Core.Time;

namespace Kingcup.Core.Availability;

/// <summary>What a search takes into account.</summary>
internal sealed class SearchLimits
{
    /// <summary>Whether practitioners have to be free.</summary>
    internal bool Practitioners { get; set; } = true;

    /// <summary>Whether a room has to be free.</summary>
    internal bool Rooms { get; set; } = true;

    /// <summary>Whether equipment has to be free.</summary>
    internal bool Equipment { get; set; } = true;

    /// <summary>The time a visit, without buffers, has to lie in; null for no bound.</summary>
    internal DaySet? Within { get; set; }

    /// <summary>Whether daily limits count.</summary>
    internal bool Daily { get; set; }

    /// <summary>Where nobody may be left with a gap that is of no use; null when gaps do not matter.</summary>
    internal GapSets? Gaps { get; set; }

    /// <summary>The order in which a plan takes people; null for house order.</summary>
    internal StaffOrder? Order { get; set; }

    /// <summary>Starts allowed to each lead practitioner of the first line (index -1: nobody in particular); null for any.</summary>
    internal Func<int, DaySet>? ByLead { get; set; }

    /// <summary>Starts allowed to the lead of the first line by what the visit holds of them, from where until where after the start; null
    /// for any.</summary>
    internal Func<int, Services.GrainSpan, DaySet>? ByHold { get; set; }
}
