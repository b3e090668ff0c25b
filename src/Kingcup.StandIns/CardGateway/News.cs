using System.Security.Cryptography;
using System.Text;
using System.Text.Json;

namespace Kingcup.StandIns.CardGateway;

/// <summary>Tells whoever began a session what has become of it: signed, and told again where nobody takes it.</summary>
internal sealed class News(IHttpClientFactory clients, IConfiguration settings)
{
    private readonly string? _address = settings["News"];
    private readonly byte[] _key = Encoding.UTF8.GetBytes(settings["NewsKey"] ?? "");

    /// <summary>Tells of a session, in disorder where its card behaves so.</summary>
    internal void Tell(Session session, Behaviour behaviour)
    {
        if (_address is null) return;
        _ = behaviour == Behaviour.NewsInDisorder ? InDisorderAsync(session) : SendAsync(session, session.State);
    }

    private async Task InDisorderAsync(Session session)
    {
        await SendAsync(session, session.State);
        await Task.Delay(TimeSpan.FromSeconds(1));
        await SendAsync(session, session.State);
        await SendAsync(session, "authorised");
    }

    private async Task SendAsync(Session session, string state)
    {
        string body = JsonSerializer.Serialize(new { session.Id, session.Reference, state }, JsonSerializerOptions.Web);
        string signature = Convert.ToHexStringLower(HMACSHA256.HashData(_key, Encoding.UTF8.GetBytes(body)));
        for (int tried = 0; tried < 3; tried++)
        {
            try
            {
                using HttpClient client = clients.CreateClient();
                client.Timeout = TimeSpan.FromSeconds(10);
                using StringContent content = new(body, Encoding.UTF8, "application/json");
                content.Headers.Add("X-Signature", signature);
                using HttpResponseMessage answer = await client.PostAsync(new Uri(_address!), content);
                if (answer.IsSuccessStatusCode) return;
            }
            catch (Exception exception) when (exception is HttpRequestException or TaskCanceledException)
            {
                // Told again below; whoever hears nothing asks.
            }

            await Task.Delay(TimeSpan.FromSeconds(1 << tried));
        }
    }
}
