namespace Kingcup.StandIns.Trays;

/// <summary>Something that has arrived.</summary>
/// <param name="Key">What whoever sent it knows it by: the same one twice arrives once.</param>
/// <param name="Kind">"mail" or "text".</param>
/// <param name="To">Address or number.</param>
/// <param name="From">Who it says that it is from.</param>
/// <param name="Subject">The subject of an e-mail.</param>
/// <param name="Text">What it says.</param>
/// <param name="At">When it arrived.</param>
internal sealed record Arrived(string Key, string Kind, string To, string From, string Subject, string Text, DateTimeOffset At)
{
    /// <summary>The names of what is attached.</summary>
    public IReadOnlyList<string> Attached { get; init; } = [];

    /// <summary>An entry for a calendar that is attached, or null.</summary>
    public string? Calendar { get; init; }
}

/// <summary>Everybody's letter box and telephone, for as long as the stand-in runs.</summary>
internal sealed class Tray
{
    private const int MostKept = 5_000;
    private readonly Lock _lock = new();
    private readonly LinkedList<Arrived> _arrived = [];
    private readonly HashSet<string> _keys = [];

    /// <summary>Takes something in, unless it has arrived before.</summary>
    internal void Take(Arrived arrived)
    {
        lock (_lock)
        {
            if (!_keys.Add($"{arrived.Kind} {arrived.Key}")) return;
            _arrived.AddFirst(arrived);
            if (_arrived.Count > MostKept) _arrived.RemoveLast();
        }
    }

    /// <summary>What has arrived for an address, or for all; the latest first.</summary>
    internal IReadOnlyList<Arrived> For(string? to)
    {
        lock (_lock)
            return [.. _arrived.Where(arrived => to is null or "" || string.Equals(arrived.To, to, StringComparison.OrdinalIgnoreCase))];
    }
}
