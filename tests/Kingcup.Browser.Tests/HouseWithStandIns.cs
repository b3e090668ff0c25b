using System.Text.RegularExpressions;
using Kingcup.Testing;

namespace Kingcup.Browser.Tests;

/// <summary>The demo house with what stands in for the world outside: a card gateway, a mail server, text messages.</summary>
public abstract partial class HouseWithStandIns : DemoHouse
{
    protected StandInProcess Outside { get; } = new();

    protected override string[] Settings => Outside.Settings;

    public override async ValueTask InitializeAsync()
    {
        await base.InitializeAsync();
        await Outside.StartAsync(Server);
    }

    /// <summary>The code that was sent to somebody.</summary>
    protected async Task<string> CodeAsync(string email) =>
        Code().Match((string)(await Outside.ArrivesAsync(email, "Your code is"))["text"]!).Groups[1].Value;

    public override async ValueTask DisposeAsync()
    {
        await base.DisposeAsync();
        await Outside.DisposeAsync();
        GC.SuppressFinalize(this);
    }

    [GeneratedRegex("code is ([0-9]{6})")]
    private static partial Regex Code();
}
