using System.Net;
using System.Text.RegularExpressions;

namespace Kingcup.StandIns.Trays;

/// <summary>A text message.</summary>
internal sealed record TextRequest(string To, string From, string Text);

/// <summary>Text messages, what programs read of the tray, and the page on which people look into it.</summary>
internal static partial class TextEndpoints
{
    internal static void Map(RouteGroupBuilder group)
    {
        group.MapPost("/texts", SendAsync);
        group.MapGet("/tray", (string? to, Tray tray) => tray.For(to));
    }

    internal static void MapPage(WebApplication app) =>
        app.MapGet("/trays", (string? to, Tray tray) => Results.Content(Page(to, tray.For(to)), "text/html; charset=utf-8"));

    private static async Task<IResult> SendAsync(TextRequest request, HttpContext http, Tray tray)
    {
        string key = http.Request.Headers["Idempotency-Key"].ToString();
        if (key.Length < 8 || !Number().IsMatch(request.To) || request.Text.Length is 0 or > 1600)
            return Results.Problem("A number, a text and an Idempotency-Key are needed.", statusCode: 400);
        string? fault = Faults.Next("texts");
        if (fault == "error") return Results.Problem("Not now.", statusCode: 503);
        if (fault == "slow") await Task.Delay(TimeSpan.FromSeconds(4));
        tray.Take(new Arrived(key, "text", request.To, request.From, "", request.Text, DateTimeOffset.UtcNow));
        if (fault != "lost") return Results.Ok(new { id = key });
        http.Abort();
        return Results.Empty;
    }

    private static string Page(string? to, IReadOnlyList<Arrived> arrived)
    {
        string items = arrived.Count == 0
            ? "<p>Nothing has arrived yet.</p>"
            : string.Concat(arrived.Select(Item));
        return $$"""
            <!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
            <title>Letter boxes and telephones (stand-in)</title><style>
            body { font: 16px/1.5 sans-serif; margin: 0; background: #f2f2f2; color: #222; }
            main { max-width: 44rem; margin: 1rem auto; padding: 0 1rem; }
            article { background: #fff; padding: 1rem; margin-bottom: 1rem; overflow-wrap: anywhere; }
            article p { white-space: pre-wrap; margin: .5rem 0 0; } h2 { font-size: 1.1rem; margin: 0; }
            form { display: flex; gap: .5rem; align-items: end; margin-bottom: 1rem; } input, button { font: inherit; min-height: 2.75rem; }
            small { color: #555; } label { display: block; }
            </style></head><body><main><h1>Letter boxes and telephones</h1>
            <p>What Kingcup has sent, as it arrived. It stands in for a mail server and for a service of text messages.</p>
            <form method="get"><div><label for="to">Of this address or number only</label>
            <input id="to" name="to" value="{{WebUtility.HtmlEncode(to)}}"></div><button>Look</button></form>
            {{items}}
            </main></body></html>
            """;
    }

    private static string Item(Arrived arrived)
    {
        string text = Link().Replace(WebUtility.HtmlEncode(arrived.Text), link => $"<a href=\"{link.Value}\">{link.Value}</a>");
        string heading = arrived.Kind == "mail" ? WebUtility.HtmlEncode(arrived.Subject) : "Text message";
        string attached = arrived.Attached.Count == 0
            ? ""
            : $"<p><small>Attached: {WebUtility.HtmlEncode(string.Join(", ", arrived.Attached))}</small></p>";
        return $"<article><h2>{heading}</h2><small>{WebUtility.HtmlEncode(arrived.From)} to {WebUtility.HtmlEncode(arrived.To)}, "
            + $"{arrived.At:yyyy-MM-dd HH:mm:ss}</small><p>{text}</p>{attached}</article>";
    }

    [GeneratedRegex(@"^\+[1-9][0-9]{6,14}$")]
    private static partial Regex Number();

    [GeneratedRegex(@"https?://[^\s<>""]*[^\s<>"".,;:!?)]")]
    private static partial Regex Link();
}
