using System.Globalization;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using Kingcup.Core.Business;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.Extensions.FileProviders;
using Microsoft.Extensions.Options;
using NodaTime;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Business;

/// <summary>
/// The two pages as they are sent: the built files, with the business's language and name in them from the first line on, and on
/// the booking page the business itself, so that its first picture waits for no second answer.
/// </summary>
internal sealed class Pages(
    IWebHostEnvironment environment,
    Database database,
    BookReader book,
    RequestLimits limits,
    IClock clock,
    IOptions<JsonOptions> json,
    ILogger<Pages> logger
)
{
    private const string Desk = "index.html",
        Booking = "book.html";

    // Writes <, > and & as escapes, so that no text of the business can end the element it stands in.
    private readonly JsonSerializerOptions _inPage = new(json.Value.SerializerOptions) { Encoder = JavaScriptEncoder.Default };

    private static readonly Action<ILogger, Exception?> _unwritten = LoggerMessage.Define(
        LogLevel.Warning,
        new EventId(1, "PageUnwritten"),
        "A page was sent without the business in it, since the database did not answer."
    );

    internal static void Map(IEndpointRouteBuilder app)
    {
        app.MapGet("/", (HttpContext http, Pages pages) => pages.DeskAsync(http)).ExcludeFromDescription();
        app.MapGet(
                "/book/{**rest}",
                (string? with, string? what, string? where, HttpContext http, Pages pages) =>
                    pages.BookingAsync(with, what, where, http)
            )
            .ExcludeFromDescription();
        // Every address of a sheet is the desk's page; what belongs to programs stays a plain 404 or 415.
        app.MapGet(
                "{*path:nonfile:regex(^(?!(api|openapi|health|live)(/|$)).*$)}",
                (HttpContext http, Pages pages) => pages.DeskAsync(http)
            )
            .WithOrder(int.MaxValue)
            .ExcludeFromDescription();
    }

    private async Task<IResult> DeskAsync(HttpContext http)
    {
        if (await ReadAsync(Desk) is not { } page) return Results.NotFound();
        if (await limits.AllowsAsync(http, Limits.Page) && await SettingsAsync() is { } setup)
            page = WithLanguage(page, setup.Business.Locale);
        return Html(page);
    }

    private async Task<IResult> BookingAsync(string? link, string? what, string? where, HttpContext http)
    {
        if (await ReadAsync(Booking) is not { } page) return Results.NotFound();
        // Whoever asks too often gets the page alone; it asks for the business itself then, and says what is the matter.
        if (await limits.AllowsAsync(http, Limits.Page) && await BusinessAsync(link) is { } known)
        {
            page = Written(page, known.Business, what, where, http);
            LetFrame(http, known.Sites);
        }

        return Html(page);
    }

    /// <summary>Lets the owner's own sites show the page in a frame; one's own bookings never.</summary>
    private static void LetFrame(HttpContext http, IReadOnlyList<string> sites)
    {
        if (sites.Count == 0 || http.Request.Path.StartsWithSegments("/book/mine")) return;
        http.Response.Headers.ContentSecurityPolicy = KingcupServer.PolicyOf(string.Join(' ', sites));
    }

    private string Written(string page, PublicBusiness business, string? what, string? where, HttpContext http)
    {
        // A link to one service is known by its name, its text and its picture, also to programs that only read.
        PublicService? service = Guid.TryParse(what, out Guid id)
            ? business.Categories.SelectMany(category => category.Services).FirstOrDefault(shown => shown.Id == id)
            : null;
        // One to a location is known by where that is.
        PublicLocation? location = Guid.TryParse(where, out Guid at) && business.Locations.Count > 1
            ? business.Locations.FirstOrDefault(shown => shown.Id == at)
            : null;
        string title = (service, location) switch
        {
            ({ } one, _) => Say($"{one.Name} at {business.Name}"),
            (null, { } there) => Say($"Book at {business.Name}, {there.Name}"),
            _ => Say($"Book at {business.Name}"),
        };
        string about = string.IsNullOrWhiteSpace(business.About) ? Say($"Book a visit at {business.Name} online.") : business.About;
        string words = service is { Description: { Length: > 0 } description } ? description
            : location is { Address: { Length: > 0 } address } ? $"{address}. {about}"
            : about;
        string written = JsonSerializer.Serialize(business, _inPage);
        Guid? picture = service?.PictureId ?? (business.Pictures is [PublicPicture first, ..] ? first.Id : business.LogoId);
        return WithLanguage(page, business.Locale)
            .Replace("<title>Book a visit</title>", $"<title>{Safe(title)}</title>", StringComparison.Ordinal)
            .Replace(
                "</head>",
                $"""
                <meta name="description" content="{Safe(words)}" />
                <meta property="og:type" content="website" />
                <meta property="og:title" content="{Safe(title)}" />
                <meta property="og:description" content="{Safe(words)}" />
                <meta property="og:site_name" content="{Safe(business.Name)}" />{Picture(picture, http)}
                <script id="business" type="application/json">{written}</script></head>
                """,
                StringComparison.Ordinal
            )
            // What the business is and does stands on the screen before the program that draws the rest has been fetched.
            .Replace("<div id=\"root\"></div>", $"<div id=\"root\">{Plain(business, about)}</div>", StringComparison.Ordinal);
    }

    private static string Picture(Guid? id, HttpContext http) =>
        id is null
            ? ""
            : $"""
                <meta property="og:image" content="{Safe($"{http.Request.Scheme}://{http.Request.Host}/api/public/v1/pictures/{id}")}" />
                """;

    /// <summary>The business as plain text: whoever has no scripts reads it, and may call.</summary>
    private static string Plain(PublicBusiness business, string about)
    {
        StringBuilder plain = new();
        plain.Append(CultureInfo.InvariantCulture, $"<div class=\"before\">{Safe(business.Name)}</div><div class=\"plain\">");
        plain.Append(CultureInfo.InvariantCulture, $"<p>{Safe(about)}</p>");
        if (business is { IsPhoneAlwaysShown: true, Phone: { } phone })
            plain.Append(CultureInfo.InvariantCulture, $"<p>{Safe(phone)}</p>");
        foreach (PublicLocation location in business.Locations)
        {
            plain.Append(CultureInfo.InvariantCulture, $"<h2>{Safe(location.Name)}</h2><p>{Safe(location.Address)}</p><ul>");
            foreach (PublicHours hours in location.Hours)
                plain.Append(CultureInfo.InvariantCulture, $"<li>{Safe(hours.Days)} {Safe(hours.Open)}</li>");
            foreach (PublicClosed closed in location.Closed)
                plain.Append(CultureInfo.InvariantCulture, $"<li>{Safe(closed.Days)} {Safe(closed.Words ?? Sentence.Say("closed"))}</li>");
            plain.Append("</ul>");
        }

        foreach (PublicCategory category in business.Categories)
        {
            plain.Append(CultureInfo.InvariantCulture, $"<h2>{Safe(category.Name)}</h2><ul>");
            foreach (PublicService service in category.Services)
                plain.Append(CultureInfo.InvariantCulture, $"<li>{Safe(service.Name)}</li>");
            plain.Append("</ul>");
        }

        return plain.Append("</div>").ToString();
    }

    // The words of another language come before the program, which asks for the first of them as it begins.
    private string WithLanguage(string page, string locale)
    {
        string written = page.Replace("<html lang=\"en\">", $"<html lang=\"{Safe(locale)}\">", StringComparison.Ordinal);
        string words = $"/words/{locale.Split('-')[0]}.js";
        return environment.WebRootFileProvider.GetFileInfo(words).Exists
            ? written.Replace("<head>", $"<head><script src=\"{Safe(words)}\"></script>", StringComparison.Ordinal)
            : written;
    }

    private static string Safe(string text) => HtmlEncoder.Default.Encode(text);

    private static IResult Html(string page) => Results.Content(page, "text/html; charset=utf-8");

    private async Task<Setup?> SettingsAsync()
    {
        try
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            return await book.SetupAsync(connection);
        }
        catch (NpgsqlException failure)
        {
            _unwritten(logger, failure);
            return null;
        }
    }

    private async Task<(PublicBusiness Business, IReadOnlyList<string> Sites)?> BusinessAsync(string? link)
    {
        try
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            Setup setup = await book.SetupAsync(connection);
            return (await BusinessShown.OfAsync(link, connection, setup, clock), setup.Parts.BookingPage.FrameSites);
        }
        catch (NpgsqlException failure)
        {
            _unwritten(logger, failure);
            return null;
        }
    }

    private async Task<string?> ReadAsync(string name)
    {
        IFileInfo file = environment.WebRootFileProvider.GetFileInfo(name);
        if (!file.Exists) return null;
        using StreamReader reader = new(file.CreateReadStream());
        return await reader.ReadToEndAsync();
    }
}
