using System.Net;
using System.Net.Sockets;
using System.Text;
using System.Text.RegularExpressions;
using Kingcup.Storage;
using MailKit;
using MailKit.Net.Smtp;
using MailKit.Security;
using MimeKit;

namespace Kingcup.Server.Messages;

/// <summary>A message did not get through; it is tried again.</summary>
internal sealed class NotCarriedException(string message, Exception? inner = null) : Exception(message, inner);

/// <summary>Carries messages of one channel.</summary>
internal interface ICarrier
{
    /// <summary>Which channel it carries.</summary>
    public Core.Messages.Channel Channel { get; }

    /// <summary>Whether somebody has said where it is.</summary>
    public bool IsThere { get; }

    /// <summary>Hands a message over; the same one twice is delivered once where the other side keeps to its identity.</summary>
    /// <param name="message">The message, complete.</param>
    /// <param name="from">The name of the business.</param>
    /// <exception cref="NotCarriedException">It was not taken.</exception>
    public Task CarryAsync(MessageRow message, string from);
}

/// <summary>E-mail by SMTP: settings Mail:Server, Mail:Port, Mail:From, Mail:User, Mail:Password, Mail:Security.</summary>
internal sealed partial class SmtpCarrier(IConfiguration settings) : ICarrier
{
    private const int UsualPort = 587,
        MostSeconds = 20;

    private readonly string? _server = settings["Mail:Server"];
    private readonly string _from = settings["Mail:From"] is { Length: > 0 } from ? from : "bookings@localhost";

    public Core.Messages.Channel Channel => Core.Messages.Channel.Email;

    public bool IsThere => !string.IsNullOrEmpty(_server);

    public async Task CarryAsync(MessageRow message, string from)
    {
        using MimeMessage mail = MimeOf(message, from, _from);
        try
        {
            using SmtpClient client = new() { Timeout = MostSeconds * 1000 };
            using CancellationTokenSource within = new(TimeSpan.FromSeconds(MostSeconds));
            int port = settings.GetValue("Mail:Port", UsualPort);
            await client.ConnectAsync(_server!, port, SecurityOf(settings["Mail:Security"]), within.Token);
            if (settings["Mail:User"] is { Length: > 0 } user)
                await client.AuthenticateAsync(user, settings["Mail:Password"] ?? "", within.Token);
            await client.SendAsync(mail, within.Token);
            await client.DisconnectAsync(true, within.Token);
        }
        catch (Exception exception)
            when (exception
                    is CommandException
                        or ProtocolException
                        or AuthenticationException
                        or SslHandshakeException
                        or IOException
                        or SocketException
                        or OperationCanceledException
            )
        {
            throw new NotCarriedException(exception.Message, exception);
        }
    }

    /// <summary>A message as MIME: its text, the same as a page, and the entry for a calendar.</summary>
    internal static MimeMessage MimeOf(MessageRow message, string fromName, string fromAddress)
    {
        MimeMessage mail = new() { MessageId = $"{message.Id}@{fromAddress.Split('@')[^1]}", Subject = message.Subject };
        mail.From.Add(new MailboxAddress(fromName, fromAddress));
        mail.To.Add(new MailboxAddress(message.Name, message.Address!));
        // Nobody's holiday note is to answer it.
        mail.Headers.Add("Auto-Submitted", "auto-generated");
        mail.Headers.Add(HeaderId.ContentLanguage, message.Language);
        BodyBuilder body = new() { TextBody = message.Body, HtmlBody = HtmlOf(message) };
        if (message.Calendar is { } calendar)
        {
            ContentType type = new("text", "calendar") { Charset = "utf-8" };
            type.Parameters.Add("method", calendar.Contains("METHOD:CANCEL", StringComparison.Ordinal) ? "CANCEL" : "PUBLISH");
            body.Attachments.Add("booking.ics", Encoding.UTF8.GetBytes(calendar), type);
        }

        mail.Body = body.ToMessageBody();
        return mail;
    }

    /// <summary>The text as a page: what people wrote stays text, addresses can be followed.</summary>
    internal static string HtmlOf(MessageRow message)
    {
        IEnumerable<string> paragraphs = message
            .Body.Split("\n\n")
            .Select(paragraph => Link()
                .Replace(WebUtility.HtmlEncode(paragraph), link => $"<a href=\"{link.Value}\">{link.Value}</a>")
                .Replace("\n", "<br>", StringComparison.Ordinal));
        return $"<!doctype html><html lang=\"{WebUtility.HtmlEncode(message.Language)}\"><head><meta charset=\"utf-8\"><title>"
            + $"{WebUtility.HtmlEncode(message.Subject)}</title></head>"
            + "<body style=\"font-family:sans-serif;font-size:16px;line-height:1.5;max-width:36em\">"
            + string.Concat(paragraphs.Select(paragraph => $"<p>{paragraph}</p>"))
            + "</body></html>";
    }

    private static SecureSocketOptions SecurityOf(string? name) => name?.ToLowerInvariant() switch
    {
        "none" => SecureSocketOptions.None,
        "tls" => SecureSocketOptions.SslOnConnect,
        // Never without encryption by accident.
        _ => SecureSocketOptions.StartTls,
    };

    // In text that was encoded for a page: the closing dot of a sentence is not part of an address.
    [GeneratedRegex(@"https?://[^\s<>""]*[^\s<>"".,;:!?)]")]
    private static partial Regex Link();
}

/// <summary>Text messages over HTTP: settings Texts:Address and Texts:Key.</summary>
internal sealed class TextCarrier(IHttpClientFactory clients, IConfiguration settings) : ICarrier
{
    internal const string Client = "texts";

    private readonly string? _address = settings["Texts:Address"];

    public Core.Messages.Channel Channel => Core.Messages.Channel.Text;

    public bool IsThere => !string.IsNullOrEmpty(_address);

    public async Task CarryAsync(MessageRow message, string from)
    {
        try
        {
            using HttpClient client = clients.CreateClient(Client);
            using HttpRequestMessage request = new(HttpMethod.Post, new Uri(_address!.TrimEnd('/') + "/v1/texts"));
            request.Headers.Authorization = new System.Net.Http.Headers.AuthenticationHeaderValue("Bearer", settings["Texts:Key"]);
            request.Headers.Add("Idempotency-Key", message.Id.ToString());
            request.Content = JsonContent.Create(new { to = message.Address, from, text = message.Body });
            using HttpResponseMessage response = await client.SendAsync(request);
            if (!response.IsSuccessStatusCode) throw new NotCarriedException($"It was answered with {(int)response.StatusCode}.");
        }
        catch (Exception exception) when (exception is HttpRequestException or TaskCanceledException)
        {
            throw new NotCarriedException("There was no answer.", exception);
        }
    }
}
