using System.Collections;
using System.Numerics;
using System.Runtime.CompilerServices;
using System.Runtime.Intrinsics;

namespace Kingcup.Core.Time;

/// <summary>
/// A set of grains around one book day, as 1024 bits. Grain 0 is local midnight; the set reaches from <see cref="First"/>, before
/// the midnight of the day before, to <see cref="Last"/>, behind the end of the day after, so that visits and free runs may cross
/// midnight on either side. Grains outside that window are never members.
/// </summary>
public readonly struct DaySet : IEquatable<DaySet>, IEnumerable<int>
{
    private const int Words = 16;

    /// <summary>The first grain a set can hold, relative to local midnight.</summary>
    public const int First = -300;

    /// <summary>The last grain a set can hold, relative to local midnight.</summary>
    public const int Last = First + (Words * 64) - 1;

    [InlineArray(Words)]
    private struct Bits
    {
        private ulong _first;
    }

    private readonly Bits _bits;

    private DaySet(in Bits bits) => _bits = bits;

    /// <summary>The set with nothing in it.</summary>
    public static DaySet Empty => default;

    /// <summary>Every grain of the window.</summary>
    public static DaySet Full { get; } = Range(First, Last + 1);

    /// <summary>The half-open run of grains [<paramref name="from"/>, <paramref name="until"/>), clipped to the window.</summary>
    public static DaySet Range(int from, int until)
    {
        int low = Math.Max(from, First) - First;
        int high = Math.Min(until, Last + 1) - First;
        Bits bits = default;
        for (int word = 0; word < Words; word++)
        {
            int a = Math.Clamp(low - (word * 64), 0, 64);
            int b = Math.Clamp(high - (word * 64), 0, 64);
            if (b > a) bits[word] = (b == 64 ? ulong.MaxValue : (1UL << b) - 1) & ~(a == 0 ? 0UL : (1UL << a) - 1);
        }

        return new DaySet(bits);
    }

    /// <summary>The set of one grain; empty when it lies outside the window.</summary>
    public static DaySet Of(int grain) => Range(grain, grain + 1);

    /// <summary>Whether the grain is a member.</summary>
    public bool Contains(int grain)
    {
        int at = grain - First;
        return (uint)at < Words * 64 && (_bits[at >> 6] >> (at & 63) & 1) != 0;
    }

    /// <summary>True when nothing is in the set.</summary>
    public bool IsEmpty => (Low(this) | High(this)) == Vector512<ulong>.Zero;

    /// <summary>How many grains are in the set.</summary>
    public int Count
    {
        get
        {
            int count = 0;
            for (int i = 0; i < Words; i++) count += BitOperations.PopCount(_bits[i]);
            return count;
        }
    }

    /// <summary>Grains in both sets.</summary>
    public static DaySet operator &(in DaySet a, in DaySet b) => Of(Low(a) & Low(b), High(a) & High(b));

    /// <summary>Grains in either set.</summary>
    public static DaySet operator |(in DaySet a, in DaySet b) => Of(Low(a) | Low(b), High(a) | High(b));

    /// <summary>Grains of the first set that are not in the second.</summary>
    public DaySet Except(in DaySet other) => Of(Vector512.AndNot(Low(this), Low(other)), Vector512.AndNot(High(this), High(other)));

    // The words as two vectors; where the machine has none so wide, .NET works on halves of them.
    private static Vector512<ulong> Low(in DaySet set) => Unsafe.As<DaySet, Vector512<ulong>>(ref Unsafe.AsRef(in set));

    private static Vector512<ulong> High(in DaySet set) => Unsafe.Add(ref Unsafe.As<DaySet, Vector512<ulong>>(ref Unsafe.AsRef(in set)), 1);

    private static DaySet Of(Vector512<ulong> low, Vector512<ulong> high)
    {
        Unsafe.SkipInit(out DaySet set);
        ref Vector512<ulong> words = ref Unsafe.As<DaySet, Vector512<ulong>>(ref set);
        words = low;
        Unsafe.Add(ref words, 1) = high;
        return set;
    }

    /// <summary>The grains <c>s</c> for which <c>s + grains</c> is a member; <paramref name="grains"/> may be negative.</summary>
    public DaySet Earlier(int grains)
    {
        if (grains == 0) return this;
        if (grains < 0) return Later(-grains);
        int words = grains >> 6, shift = grains & 63;
        Bits bits = default;
        for (int i = 0; i + words < Words; i++)
        {
            ulong value = _bits[i + words] >> shift;
            if (shift != 0 && i + words + 1 < Words) value |= _bits[i + words + 1] << (64 - shift);
            bits[i] = value;
        }

        return new DaySet(bits);
    }

    private DaySet Later(int grains)
    {
        int words = grains >> 6, shift = grains & 63;
        Bits bits = default;
        for (int i = Words - 1; i - words >= 0; i--)
        {
            ulong value = _bits[i - words] << shift;
            if (shift != 0 && i - words - 1 >= 0) value |= _bits[i - words - 1] >> (64 - shift);
            bits[i] = value;
        }

        return new DaySet(bits);
    }

    /// <summary>
    /// The grains <c>s</c> for which the whole stretch [s + <paramref name="from"/>, s + <paramref name="until"/>) is in this set.
    /// With this set the free time of something, that is every start at which it could be held for that stretch.
    /// </summary>
    public DaySet StartsHolding(int from, int until)
    {
        int length = until - from;
        if (length <= 0) return Full;
        DaySet runs = this;
        // Doubling: after each step a member means that many grains from it on are all members.
        for (int have = 1; have < length;)
        {
            int step = Math.Min(have, length - have);
            runs &= runs.Earlier(step);
            have += step;
        }

        return runs.Earlier(from);
    }

    /// <summary>The first member at or after <paramref name="grain"/>, or null.</summary>
    public int? NextMember(int grain) => Next(grain, invert: 0);

    /// <summary>The first grain at or after <paramref name="grain"/> that is not a member; <see cref="Last"/> + 1 when all are.</summary>
    public int NextGap(int grain) => Next(grain, invert: ulong.MaxValue) ?? Last + 1;

    private int? Next(int grain, ulong invert)
    {
        int at = Math.Max(grain, First) - First;
        for (int word = at >> 6; word < Words; word++)
        {
            ulong value = _bits[word] ^ invert;
            if (word == at >> 6) value &= ulong.MaxValue << (at & 63);
            if (value != 0) return (word * 64) + BitOperations.TrailingZeroCount(value) + First;
        }

        return null;
    }

    /// <summary>Whether every grain of the half-open stretch is a member; true for an empty one.</summary>
    public bool Covers(int from, int until) => until <= from || (from >= First && NextGap(from) >= until);

    /// <summary>The grains that are in at least <paramref name="wanted"/> of the sets: so many of them, whichever.</summary>
    public static DaySet AtLeast(ReadOnlySpan<DaySet> sets, int wanted)
    {
        if (wanted <= 0) return Full;
        if (wanted > sets.Length) return Empty;
        DaySet all = Empty;
        if (wanted == 1)
        {
            foreach (ref readonly DaySet set in sets) all |= set;
            return all;
        }

        if (wanted == sets.Length)
        {
            all = sets[0];
            foreach (ref readonly DaySet set in sets[1..]) all &= set;
            return all;
        }

        // Counters of several bits, one for each grain: digit by digit, as one adds on paper, beginning at 2^n - wanted, so that the
        // last carry says that so many have come.
        int digits = BitOperations.Log2((uint)wanted - 1) + 1;
        int start = (1 << digits) - wanted;
        Span<DaySet> counter = stackalloc DaySet[digits];
        for (int digit = 0; digit < digits; digit++) counter[digit] = (start >> digit & 1) == 1 ? Full : Empty;
        foreach (ref readonly DaySet set in sets)
        {
            DaySet carry = set;
            for (int digit = 0; digit < digits; digit++)
            {
                DaySet both = counter[digit] & carry;
                counter[digit] = (counter[digit] | carry).Except(both);
                carry = both;
            }

            all |= carry;
        }

        return all;
    }

    /// <summary>The maximal runs of members, as half-open grain stretches in order.</summary>
    public IEnumerable<(int From, int Until)> Runs()
    {
        int at = First;
        while (NextMember(at) is { } from)
        {
            int until = NextGap(from);
            yield return (from, until);
            at = until;
        }
    }

    /// <summary>The run of members around <paramref name="grain"/>; an empty run when it is not a member.</summary>
    public (int From, int Until) RunAround(int grain)
    {
        if (!Contains(grain)) return (grain, grain);
        int at = grain - First, word = at >> 6;
        // The last word before it that is not full of members up to it, and the gap in that.
        ulong gaps = ~_bits[word] & ((at & 63) == 63 ? ulong.MaxValue : (1UL << ((at & 63) + 1)) - 1);
        while (gaps == 0 && word > 0) gaps = ~_bits[--word];
        int from = gaps == 0 ? First : (word * 64) + 64 - BitOperations.LeadingZeroCount(gaps) + First;
        return (from, NextGap(grain));
    }

    /// <inheritdoc/>
    public IEnumerator<int> GetEnumerator()
    {
        int at = First;
        while (NextMember(at) is { } grain)
        {
            yield return grain;
            at = grain + 1;
        }
    }

    IEnumerator IEnumerable.GetEnumerator() => GetEnumerator();

    /// <inheritdoc/>
    public bool Equals(DaySet other)
    {
        for (int i = 0; i < Words; i++)
            if (_bits[i] != other._bits[i]) return false;
        return true;
    }

    /// <inheritdoc/>
    public override bool Equals(object? obj) => obj is DaySet other && Equals(other);

    /// <inheritdoc/>
    public override int GetHashCode()
    {
        HashCode hash = default;
        for (int i = 0; i < Words; i++) hash.Add(_bits[i]);
        return hash.ToHashCode();
    }

    /// <summary>Same members.</summary>
    public static bool operator ==(in DaySet a, in DaySet b) => a.Equals(b);

    /// <summary>Different members.</summary>
    public static bool operator !=(in DaySet a, in DaySet b) => !a.Equals(b);

    /// <summary>The runs of the set, for messages of failing tests.</summary>
    public override string ToString() => string.Join(' ', Runs().Select(run => $"[{run.From},{run.Until})"));
}
