using System.Buffers;
using MimeKit;
using SmtpServer;
using SmtpServer.Protocol;
using SmtpServer.Storage;

namespace Kingcup.StandIns.Trays;

/// <summary>A mail server on this machine that puts every e-mail into the tray.</summary>
internal sealed class MailTray(Tray tray, IConfiguration settings) : BackgroundService
{
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        if (settings.GetValue<int?>("Smtp") is not { } port) return;
        ISmtpServerOptions options = new SmtpServerOptionsBuilder()
            .ServerName("kingcup-stand-in")
            .Endpoint(endpoint => endpoint.Endpoint(new System.Net.IPEndPoint(System.Net.IPAddress.Loopback, port)))
            .Build();
        SmtpServer.ComponentModel.ServiceProvider services = new();
        services.Add(new Store(tray));
        SmtpServer.SmtpServer server = new(options, services);
        await server.StartAsync(stoppingToken);
    }

    private sealed class Store(Tray tray) : MessageStore
    {
        public override async Task<SmtpResponse> SaveAsync(
            ISessionContext context,
            IMessageTransaction transaction,
            ReadOnlySequence<byte> buffer,
            CancellationToken cancellationToken
        )
        {
            string? fault = Faults.Next("mail");
            if (fault == "error") return new SmtpResponse(SmtpReplyCode.ServiceUnavailable, "Not now.");
            if (fault == "slow") await Task.Delay(TimeSpan.FromSeconds(4), cancellationToken);
            using MemoryStream bytes = new(buffer.ToArray());
            using MimeMessage mail = await MimeMessage.LoadAsync(bytes, cancellationToken);
            string? calendar = mail
                .Attachments.OfType<TextPart>()
                .FirstOrDefault(part => part.ContentType.MimeType == "text/calendar")
                ?.Text;
            foreach (MailboxAddress to in mail.To.Mailboxes)
            {
                tray.Take(
                    new Arrived(
                        $"{mail.MessageId} {to.Address}",
                        "mail",
                        to.Address,
                        mail.From.ToString(),
                        mail.Subject ?? "",
                        mail.TextBody ?? "",
                        DateTimeOffset.UtcNow
                    )
                    {
                        Attached = [.. mail.Attachments.Select(part => part.ContentDisposition?.FileName ?? "")],
                        Calendar = calendar,
                    }
                );
            }

            // It has arrived, and whoever sent it does not hear of it.
            return fault == "lost" ? new SmtpResponse(SmtpReplyCode.ServiceUnavailable, "Lost.") : SmtpResponse.Ok;
        }
    }
}
