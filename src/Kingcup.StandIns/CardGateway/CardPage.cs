using System.Globalization;
using System.Net;
using System.Security.Cryptography;

namespace Kingcup.StandIns.CardGateway;

/// <summary>The page on which somebody enters a card, as a bank would show it.</summary>
internal static class CardPage
{
    internal static void Map(WebApplication app)
    {
        app.MapGet("/pay/{id}", (string id, Gateway gateway) => Shown(gateway.Find(id), null));
        app.MapPost("/pay/{id}", EnterAsync).DisableAntiforgery();
    }

    private static async Task<IResult> EnterAsync(string id, HttpContext http, Gateway gateway, News news)
    {
        IFormCollection form = await http.Request.ReadFormAsync();
        Session? session = gateway.Find(id);
        if (session is not { State: "open" or "declined" }) return Back(session);
        if (form["what"] == "leave") return Back(gateway.Change(id, found => found with { State = "ended" }));
        string number = NumberOf(form);
        if (TestCard.Of(number) is not { } behaviour)
            return Shown(session, "This number is no card of ours. Look at the list of test cards.");
        string expires = form["expires"].ToString().Trim();
        if (!IsAhead(expires) || behaviour == Behaviour.RunOut) return Shown(session, "The card has run out. Take another one.");
        if (behaviour == Behaviour.Declined) return Shown(session, "The bank declines this card. Take another one.");
        if (behaviour == Behaviour.AsksForCode && form["code"] != TestCard.Code)
            return Shown(session, form.ContainsKey("code") ? "That is not the code." : null, number, expires);
        return Back(Authorise(session, number, expires, behaviour, gateway, news));
    }

    internal static string NumberOf(IFormCollection form) => new([.. form["number"].ToString().Where(char.IsAsciiDigit)]);

    /// <summary>The bank agrees to a card.</summary>
    internal static Session Authorise(Session session, string number, string expires, Behaviour behaviour, Gateway gateway, News news)
    {
        Card card = new(Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16)), number[^4..], expires);
        gateway.Remember(card.Token, behaviour);
        Session authorised = gateway.Change(
            session.Id,
            found => found.State is "open" or "declined" ? found with { State = "authorised", Card = card } : found
        )!;
        news.Tell(authorised, behaviour);
        return authorised;
    }

    private static bool IsAhead(string expires) =>
        DateTime.TryParseExact(expires, ["MM/yy", "MM / yy"], CultureInfo.InvariantCulture, DateTimeStyles.None, out DateTime month)
        && month.Year >= 2026;

    private static IResult Back(Session? session) => session is null ? Results.NotFound() : Results.Redirect(session.ReturnAddress);

    /// <summary>The page; with a number that was given, the one that asks for the bank's code.</summary>
    private static IResult Shown(Session? session, string? fault, string? number = null, string? expires = null)
    {
        if (session is null) return Results.NotFound();
        if (session.State is not ("open" or "declined")) return Back(session);
        string sum = session.Amount == 0
            ? "Nothing is taken now; your card is kept."
            : $"{session.Amount / 100m:0.00} {session.Currency}";
        string press = session.Amount == 0 ? "Keep the card" : "Pay";
        string alert = fault is null ? "" : $"<p role=\"alert\">{WebUtility.HtmlEncode(fault)}</p>";
        string fields = number is null
            ? """
                <label for="number">Card number</label>
                <input id="number" name="number" inputmode="numeric" autocomplete="cc-number" required autofocus>
                <label for="expires">Expires (MM/YY)</label>
                <input id="expires" name="expires" autocomplete="cc-exp" required>
                <label for="check">Security code</label>
                <input id="check" name="check" inputmode="numeric" autocomplete="cc-csc" required>
                """
            : $"""
                <p>Your bank wants to be sure that it is you: it has sent you a code.</p>
                <input type="hidden" name="number" value="{number}">
                <input type="hidden" name="expires" value="{WebUtility.HtmlEncode(expires)}">
                <label for="code">Code of your bank</label>
                <input id="code" name="code" inputmode="numeric" required autofocus>
                """;
        return Page(
            "Card payment",
            $$"""
            <p>A stand-in for a payment service: no money moves.</p>
            <p>To {{WebUtility.HtmlEncode(session.Payee)}}: <strong>{{sum}}</strong></p>{{alert}}
            <form method="post">{{fields}}<button name="what" value="pay">{{press}}</button></form>
            <form method="post"><button name="what" value="leave">Leave without paying</button></form>
            """
        );
    }

    /// <summary>A page of the bank's.</summary>
    internal static IResult Page(string title, string body, string head = "") =>
        Results.Content(
            $$"""
            <!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
            {{head}}<title>{{title}} (stand-in)</title><style>
            body { font: 16px/1.5 sans-serif; margin: 0; background: #f2f2f2; color: #222; }
            main { max-width: 24rem; margin: 1rem auto; padding: 1rem; background: #fff; }
            label, input, button { display: block; width: 100%; box-sizing: border-box; font: inherit; }
            label { margin-top: .75rem; } input, button { min-height: 2.75rem; padding: .25rem .5rem; }
            button { margin-top: 1rem; } [role=alert] { color: #a11; }
            </style></head><body><main><h1>{{title}}</h1>{{body}}</main></body></html>
            """,
            "text/html; charset=utf-8"
        );
}
