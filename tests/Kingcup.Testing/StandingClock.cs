using NodaTime;

namespace Kingcup.Testing;

/// <summary>A clock that stands until somebody moves it.</summary>
public sealed class StandingClock(Instant now) : IClock
{
    private Instant _now = now;

    public Instant GetCurrentInstant() => _now;

    public void Advance(Duration by) => _now += by;
}
