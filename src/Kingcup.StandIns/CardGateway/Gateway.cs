using System.Text.Json;

namespace Kingcup.StandIns.CardGateway;

/// <summary>A card as the gateway tells of it; its number is nowhere.</summary>
/// <param name="Token">Names it.</param>
/// <param name="Last">The last four digits.</param>
/// <param name="Expires">Month and year, "04/29".</param>
internal sealed record Card(string Token, string Last, string Expires);

/// <summary>A page somebody enters a card on, and what has come of it.</summary>
internal sealed record Session
{
    /// <summary>Identity, 128 random bits.</summary>
    public required string Id { get; init; }

    /// <summary>What whoever began it calls it.</summary>
    public required string Reference { get; init; }

    /// <summary>Who is paid.</summary>
    public required string Payee { get; init; }

    /// <summary>Minor units; 0 where a card is only kept.</summary>
    public required long Amount { get; init; }

    /// <summary>ISO 4217.</summary>
    public required string Currency { get; init; }

    /// <summary>Where the browser is led then.</summary>
    public required string ReturnAddress { get; init; }

    /// <summary>Whether the card is held to the terminal at the desk.</summary>
    public bool AtTerminal { get; init; }

    /// <summary>How many sessions were begun before it.</summary>
    public int Place { get; init; }

    /// <summary>"open", "authorised", "captured", "refunded", "ended" or "declined".</summary>
    public string State { get; init; } = "open";

    /// <summary>The card, once one was taken.</summary>
    public Card? Card { get; init; }

    /// <summary>What has been refunded, in minor units.</summary>
    public long Refunded { get; init; }

    /// <summary>Whether the answer to the first capture was lost already.</summary>
    public bool WasLost { get; init; }
}

/// <summary>A charge without the holder of the card.</summary>
/// <param name="Id">Identity.</param>
/// <param name="State">"captured" or "declined".</param>
/// <param name="Amount">Minor units.</param>
internal sealed record Charge(string Id, string State, long Amount);

/// <summary>What the gateway remembers: kept in a file, so that a restart loses no card.</summary>
internal sealed class Gateway
{
    private readonly Lock _lock = new();
    private readonly string? _file;
    private readonly Kept _kept;

    private sealed class Kept
    {
        public Dictionary<string, Session> Sessions { get; init; } = [];
        public Dictionary<string, string> Behaviours { get; init; } = [];
        public Dictionary<string, Charge> Charges { get; init; } = [];

        // What was answered to a key.
        public Dictionary<string, string> Answered { get; init; } = [];
    }

    public Gateway(IConfiguration settings)
    {
        _file = settings["Data"];
        _kept = _file is not null && File.Exists(_file)
            ? JsonSerializer.Deserialize<Kept>(File.ReadAllText(_file), JsonSerializerOptions.Web)!
            : new Kept();
    }

    internal Session? Find(string id)
    {
        lock (_lock) return _kept.Sessions.GetValueOrDefault(id);
    }

    /// <summary>What the terminal waits for: whoever asked first; null where nobody does.</summary>
    internal Session? AtTerminal()
    {
        lock (_lock)
            return _kept.Sessions.Values.Where(session => session is { AtTerminal: true, State: "open" }).MinBy(session => session.Place);
    }

    /// <summary>The session of a key: the first that was begun with it.</summary>
    internal Session Begin(string key, Func<Session> make)
    {
        lock (_lock)
        {
            if (_kept.Answered.TryGetValue(key, out string? before)) return _kept.Sessions[before];
            Session session = make() with { Place = _kept.Sessions.Count };
            _kept.Sessions[session.Id] = session;
            _kept.Answered[key] = session.Id;
            Save();
            return session;
        }
    }

    /// <summary>Changes a session; null where there is none.</summary>
    internal Session? Change(string id, Func<Session, Session> change)
    {
        lock (_lock)
        {
            if (!_kept.Sessions.TryGetValue(id, out Session? session)) return null;
            Session changed = change(session);
            if (changed == session) return session;
            _kept.Sessions[id] = changed;
            Save();
            return changed;
        }
    }

    internal void Remember(string token, Behaviour behaviour)
    {
        lock (_lock)
        {
            _kept.Behaviours[token] = behaviour.ToString();
            Save();
        }
    }

    internal Behaviour? BehaviourOf(string token)
    {
        lock (_lock) return _kept.Behaviours.TryGetValue(token, out string? name) ? Enum.Parse<Behaviour>(name) : null;
    }

    /// <summary>The charge of a key: made once.</summary>
    internal Charge ChargeOnce(string key, Func<Charge> make)
    {
        lock (_lock)
        {
            if (_kept.Charges.TryGetValue(key, out Charge? before)) return before;
            Charge charge = make();
            _kept.Charges[key] = charge;
            Save();
            return charge;
        }
    }

    /// <summary>Whether a key is used for the first time.</summary>
    internal bool Take(string key)
    {
        lock (_lock)
        {
            if (!_kept.Answered.TryAdd(key, "")) return false;
            Save();
            return true;
        }
    }

    /// <summary>Everything it has taken and given back, for whoever checks the books.</summary>
    internal (long Taken, long Refunded) Totals()
    {
        lock (_lock)
            return (
                _kept.Sessions.Values.Where(session => session.State is "captured" or "refunded").Sum(session => session.Amount)
                    + _kept.Charges.Values.Where(charge => charge.State == "captured").Sum(charge => charge.Amount),
                _kept.Sessions.Values.Sum(session => session.Refunded)
            );
    }

    private void Save()
    {
        if (_file is null) return;
        string next = _file + ".next";
        File.WriteAllText(next, JsonSerializer.Serialize(_kept, JsonSerializerOptions.Web));
        File.Move(next, _file, overwrite: true);
    }
}
