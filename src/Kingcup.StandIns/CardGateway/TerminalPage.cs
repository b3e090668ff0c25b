using System.Net;

namespace Kingcup.StandIns.CardGateway;

/// <summary>The card terminal at the desk, as somebody holds a card to it.</summary>
internal static class TerminalPage
{
    // What a terminal knows of a card without being told.
    private const string Expires = "12/29";

    internal static void Map(WebApplication app)
    {
        app.MapGet("/terminal", (Gateway gateway) => Shown(gateway.AtTerminal(), null));
        app.MapPost("/terminal/{id}", HoldAsync).DisableAntiforgery();
    }

    private static async Task<IResult> HoldAsync(string id, HttpContext http, Gateway gateway, News news)
    {
        IFormCollection form = await http.Request.ReadFormAsync();
        // Whoever asked has stopped meanwhile, or another card was quicker.
        if (gateway.Find(id) is not { AtTerminal: true, State: "open" } session) return Results.Redirect("/terminal");
        if (form["what"] == "leave")
        {
            news.Tell(gateway.Change(id, found => found.State == "open" ? found with { State = "ended" } : found)!, Behaviour.Good);
            return Results.Redirect("/terminal");
        }

        string number = CardPage.NumberOf(form);
        if (TestCard.Of(number) is not { } behaviour) return Shown(session, "This is no card of ours. Look at the list of test cards.");
        if (behaviour is Behaviour.Declined or Behaviour.RunOut) return Shown(session, "Declined. Take another card.");
        CardPage.Authorise(session, number, Expires, behaviour, gateway, news);
        return Results.Redirect("/terminal");
    }

    private static IResult Shown(Session? session, string? fault)
    {
        string alert = fault is null ? "" : $"<p role=\"alert\">{WebUtility.HtmlEncode(fault)}</p>";
        return session is null
            // A terminal looks by itself whether it is asked for something.
            ? CardPage.Page(
                "Card terminal",
                "<p>A stand-in for a card terminal: no money moves.</p><p role=\"status\">Ready. Nobody asks for a card.</p>",
                "<meta http-equiv=\"refresh\" content=\"2\">"
            )
            : CardPage.Page(
                "Card terminal",
                $"""
                <p>A stand-in for a card terminal: no money moves.</p>
                <p>To {WebUtility.HtmlEncode(session.Payee)}: <strong>{session.Amount / 100m:0.00} {session.Currency}</strong></p>{alert}
                <form method="post" action="/terminal/{session.Id}">
                <label for="number">Number of the card that is held to it</label>
                <input id="number" name="number" inputmode="numeric" required autofocus>
                <button name="what" value="pay">Hold the card to it</button></form>
                <form method="post" action="/terminal/{session.Id}"><button name="what" value="leave">Press the red key</button></form>
                """
            );
    }
}
