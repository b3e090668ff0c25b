using System.Net;
using System.Text;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Booking;

/// <summary>A plain page of the owner's own, with the booking page in a frame.</summary>
public sealed class FrameOfAnotherSite : DemoHouse
{
    /// <summary>Serves one plain page for as long as the test runs.</summary>
    private static (HttpListener Listener, Uri Address) Plain(string html)
    {
        Uri address = new($"http://127.0.0.1:{ServerProcess.FreePort()}/");
        HttpListener listener = new();
        listener.Prefixes.Add(address.ToString());
        listener.Start();
        _ = ServeAsync(listener, Encoding.UTF8.GetBytes(html));
        return (listener, address);
    }

    private static async Task ServeAsync(HttpListener listener, byte[] page)
    {
        try
        {
            while (true)
            {
                HttpListenerContext asked = await listener.GetContextAsync();
                asked.Response.ContentType = "text/html; charset=utf-8";
                await asked.Response.OutputStream.WriteAsync(page);
                asked.Response.Close();
            }
        }
        catch (Exception over) when (over is HttpListenerException or ObjectDisposedException)
        {
            // The test is over.
        }
    }

    [Fact]
    public void It_is_shown_where_the_owner_allows_it_and_takes_the_window_once_a_time_is_chosen()
    {
        string frame = $"<iframe src=\"{new Uri(Server.Address, "/book")}\" title=\"Book a visit\" style=\"width:100%;height:780px\">";
        string html = $"<!doctype html><html lang=\"en\"><title>Our house</title><body><h1>Our house</h1>{frame}</iframe></body></html>";
        (HttpListener own, Uri ownSite) = Plain(html);
        (HttpListener other, Uri otherSite) = Plain(html);
        using (own)
        using (other)
        {
            using Browser owner = new(Server);
            owner.SignIn(Owner);
            owner.Find("//nav[@aria-label='Kingcup']");
            owner.Go("/setup/booking-page");
            owner.Fill("Sites that may show the frame", "http://example.org");
            owner.Button("Save");
            owner.Says("Enter the address of a site that begins with https://.");
            owner.Press("//button[contains(@aria-label, 'http://example.org')]");
            owner.Fill("Sites that may show the frame", ownSite.ToString());
            owner.Button("Save");
            owner.Says("✓ Saved.");
            owner.AxeFindsNothing();

            using Browser client = new(Server);
            client.GoOut(otherSite);
            client.InFrame(true);
            client.Count("//button[contains(., 'Nutrition first 60')]").ShouldBe(0);
            client.GoOut(ownSite);
            client.InFrame(true);
            client.Press("//button[contains(., 'Nutrition first 60')]");
            client.Time("Thursday 4 March", "10:00");
            client.InFrame(false);
            client.Says("kept for you for");
            client.Address.ShouldStartWith(new Uri(Server.Address, "/book?").ToString());
            client.Says("Nutrition first 60 with Celia Voss");
            // Back leads to the page they came from.
            client.Script("history.back()");
            client.Says("Our house");
        }
    }
}
