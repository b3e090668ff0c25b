using Kingcup.Core.Messages;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Messages;

/// <summary>
/// Sends what is due. All servers share the work: each takes some messages for a while, and what one dies with the others take again,
/// under the same identity.
/// </summary>
internal sealed class MessageSender(
    Database database,
    BookReader book,
    IEnumerable<ICarrier> carriers,
    MessageWriter writer,
    VisitTokens tokens,
    IClock clock
)
{
    private const int MostAtOnce = 20;

    private const int MostOfAnAnswer = 300;

    // Longer than any carrier takes for all that are taken at once.
    private static readonly Duration _lease = Duration.FromMinutes(10);

    private readonly Dictionary<Channel, ICarrier> _carriers = carriers
        .Where(carrier => carrier.IsThere)
        .ToDictionary(carrier => carrier.Channel);

    /// <summary>Which channels somebody has said where they are.</summary>
    internal IReadOnlyCollection<Channel> Channels => _carriers.Keys;

    /// <summary>Sends some of what is due by one channel.</summary>
    /// <returns>Whether there may be more.</returns>
    internal async Task<bool> SendAsync(Channel channel, CancellationToken stopping)
    {
        await using NpgsqlConnection connection = await database.OpenAsync(stopping);
        string business = (await book.SetupAsync(connection)).Business.Name;
        VisitTokens.Seal seal = await tokens.SealAsync(database);
        IReadOnlyList<MessageRow> taken = await MessageStore.TakeAsync(
            connection,
            [channel],
            clock.GetCurrentInstant(),
            _lease,
            MostAtOnce
        );
        foreach (MessageRow message in taken)
        {
            // What is not sent before the server stops is taken by another once the lease is over.
            if (stopping.IsCancellationRequested) break;
            await SendAsync(connection, message, business, seal);
        }

        return taken.Count == MostAtOnce;
    }

    private async Task SendAsync(NpgsqlConnection connection, MessageRow message, string business, VisitTokens.Seal seal)
    {
        if (!await MessageStore.StillStandsAsync(connection, message, clock.GetCurrentInstant()))
        {
            await MessageStore.DropAsync(connection, message, clock.GetCurrentInstant());
            return;
        }

        try
        {
            await _carriers[Enum.Parse<Channel>(message.Channel)].CarryAsync(await WholeAsync(connection, message, seal), business);
            await MessageStore.SettleAsync(connection, message, MessageState.Sent, clock.GetCurrentInstant());
        }
        catch (Exception exception) when (exception is not (NpgsqlException or OperationCanceledException))
        {
            // Whatever is wrong with one message, an address no mail server can read or a carrier that fails, stops no other.
            string because = exception.Message.Length > MostOfAnAnswer ? exception.Message[..MostOfAnAnswer] : exception.Message;
            Instant now = clock.GetCurrentInstant();
            Duration? pause = MessageRetries.PauseAfter(message.Tries);
            await MessageStore.SettleAsync(
                connection,
                message,
                pause is null ? MessageState.Failed : MessageState.Waiting,
                now,
                now + pause,
                because
            );
        }
    }

    /// <summary>The message as it goes, with what is kept nowhere: the link to one's own bookings, or a code.</summary>
    private async Task<MessageRow> WholeAsync(NpgsqlConnection connection, MessageRow message, VisitTokens.Seal seal)
    {
        string body = message.Body;
        if (message.ClientId is { } client && body.Contains(MessageVariables.LinkMark, StringComparison.Ordinal))
        {
            string link = $"{writer.Address}/book/mine#{seal.TokenOfClient(client, message.Address!)}";
            body = body.Replace(MessageVariables.LinkMark, link, StringComparison.Ordinal);
        }

        if (message.Trigger == nameof(MessageTrigger.Code))
        {
            string code = seal.CodeOf(message.Id);
            await OwnStore.KeepCodeAsync(connection, message.Id, seal.HashOfCode(message.Address!, code));
            body = body.Replace(MessageVariables.CodeMark, code, StringComparison.Ordinal);
        }

        return message with { Body = body };
    }
}
