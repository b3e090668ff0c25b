using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.SignIn;

/// <summary>A session that ends, a server that goes away and comes back: a sentence and a way on.</summary>
public sealed class WhenThingsFail : IAsyncLifetime
{
    private const string Owner = "owner@harrowmere.test";
    private TestDatabase? _database;
    private ServerProcess? _server;

    public async ValueTask InitializeAsync()
    {
        _database = await TestDatabase.DemoAsync();
        _server = await ServerProcess.StartAsync(_database);
    }

    public async ValueTask DisposeAsync()
    {
        await _server!.DisposeAsync();
        await _database!.DisposeAsync();
    }

    [Fact]
    public async Task A_sign_in_that_ended_leads_back_to_where_one_was()
    {
        using Browser owner = new(_server!);
        owner.SignIn(Owner);
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Rooms']");
        owner.Find("//h1[normalize-space()='Rooms']");
        using (ApiClient elsewhere = await ApiClient.SignedInAsync(_server!, Owner))
            (await elsewhere.SendAsync(HttpMethod.Delete, "/api/v1/session/others", null)).Status.ShouldBe(
                System.Net.HttpStatusCode.NoContent);
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Team']");
        owner.Fill("E-mail address", Owner);
        owner.Fill("Password", Kingcup.Demo.DemoLoader.Password);
        owner.Button("Sign in");
        owner.Find("//h1[normalize-space()='Team']");
        owner.Url.ShouldEndWith("/team");
    }

    [Fact]
    public async Task A_server_that_goes_away_under_an_open_screen_is_said_and_forgotten_when_it_is_back()
    {
        using Browser owner = new(_server!);
        owner.SignIn(Owner);
        owner.Find("//main[@aria-label='Book']");
        _server!.Kill();
        owner.Says("The connection is down.");
        // A part that was never opened cannot be fetched now; nothing is white.
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Services']");
        owner.Says("This part of Kingcup could not be fetched");
        ServerProcess gone = _server;
        _server = await gone.AgainAsync(_database!);
        await gone.DisposeAsync();
        owner.Until(() => !owner.Text.Contains("The connection is down.", StringComparison.Ordinal), "the connection to be back");
        owner.Button("Load the page anew");
        owner.Find("//h1[normalize-space()='Services']");
    }
}
