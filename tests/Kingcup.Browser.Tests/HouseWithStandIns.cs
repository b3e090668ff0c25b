using Kingcup.Testing;

namespace Kingcup.Browser.Tests;

/// <summary>The demo house with what stands in for the world outside: a card gateway, a mail server, text messages.</summary>
public abstract class HouseWithStandIns : DemoHouse
{
    protected StandInProcess Outside { get; } = new();

    protected override string[] Settings => Outside.Settings;

    public override async ValueTask InitializeAsync()
    {
        await base.InitializeAsync();
        await Outside.StartAsync(Server);
    }

    public override async ValueTask DisposeAsync()
    {
        await base.DisposeAsync();
        await Outside.DisposeAsync();
        GC.SuppressFinalize(this);
    }
}
