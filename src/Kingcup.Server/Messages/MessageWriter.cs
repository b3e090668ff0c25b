using Fluid;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using Kingcup.Core.Business;
using Kingcup.Core.Messages;
using Kingcup.Server.Business;
using Kingcup.Storage;
using NodaTime;

namespace Kingcup.Server.Messages;

/// <summary>Somebody who may be written to.</summary>
/// <param name="Name">How they are called.</param>
/// <param name="Email">E-mail address, or null.</param>
/// <param name="Phone">Telephone number, or null.</param>
/// <param name="Language">In which language (ISO 639).</param>
internal sealed record Addressee(string Name, string? Email, string? Phone, string Language)
{
    /// <summary>The client, or null.</summary>
    public AddressedClient? Client { get; init; }

    /// <summary>The practitioner, or null.</summary>
    public Guid? PractitionerId { get; init; }

    /// <summary>Whoever has a sign-in, or null.</summary>
    public Guid? StaffId { get; init; }

    /// <summary>Whether text messages may go to them.</summary>
    public bool AgreesToTexts { get; init; }

    /// <summary>Where they are reached, or null.</summary>
    internal string? AddressBy(Channel channel) => channel == Channel.Email ? Email : Phone;
}

/// <summary>Writes messages out: who gets one, in which language, and what it says.</summary>
internal sealed class MessageWriter(Languages languages, IConfiguration settings)
{
    /// <summary>Where the pages for clients are, without a slash at the end; null where nobody has said.</summary>
    internal string? Address { get; } = settings["Address"]?.TrimEnd('/') is { Length: > 0 } address ? address : null;

    /// <summary>The language of somebody, with dates and money as the country of the business writes them.</summary>
    internal Language LanguageOf(Setup setup, string language) =>
        languages.Of(language == setup.Business.Language ? setup.Business.Locale : $"{language}-{setup.Business.Region}");

    /// <summary>A message by a rule.</summary>
    /// <param name="listed">The rule with what it says.</param>
    /// <param name="to">Who gets it.</param>
    /// <param name="setup">The setup.</param>
    /// <param name="values">The variables in their language.</param>
    /// <param name="now">The present moment.</param>
    internal static MessageRow Write(
        ListedMessage listed,
        Addressee to,
        Setup setup,
        IReadOnlyDictionary<string, string> values,
        Instant now
    )
    {
        MessageRule rule = listed.Rule;
        string? address = to.AddressBy(rule.Channel);
        // Somebody without an address is left out, and whoever has not agreed gets no texts.
        string? because = string.IsNullOrEmpty(address) ? "no-address"
            : rule.Channel == Channel.Text && !to.AgreesToTexts ? "no-consent"
            : null;
        MessageText text = listed.TextIn(to.Language, setup.Business.Language);
        (string Subject, string Body) said = ("", "");
        try
        {
            said = (
                rule.Channel == Channel.Email ? MessageTemplates.Fill(text.Subject, values).ReplaceLineEndings(" ") : "",
                MessageTemplates.Fill(text.Body, values)
            );
        }
        catch (Exception exception) when (exception is InvalidOperationException or FluidException or FormatException)
        {
            // Every template was tried when it was saved. Should one fail all the same, it stops no other.
            because = "template";
        }

        return new MessageRow
        {
            Id = Guid.CreateVersion7(),
            RuleId = rule.Id,
            Trigger = rule.Trigger.ToString(),
            Channel = rule.Channel.ToString(),
            Recipient = rule.Recipient.ToString(),
            ClientId = to.Client?.Id,
            PractitionerId = to.PractitionerId,
            StaffId = to.StaffId,
            Address = because is null ? address : null,
            Name = to.Name,
            Language = to.Language,
            Subject = said.Subject,
            Body = said.Body,
            State = because is null ? "Waiting" : "LeftOut",
            CreatedAt = now,
            DueAt = now,
            SettledAt = because is null ? null : now,
            Because = because,
        };
    }

    /// <summary>Who a rule is for, of a visit.</summary>
    internal static IEnumerable<Addressee> WhoGets(
        ListedMessage listed,
        Setup setup,
        StoredVisit visit,
        IReadOnlyDictionary<Guid, AddressedClient> clients,
        IReadOnlyDictionary<Guid, Addressee> staff
    )
    {
        switch (listed.Rule.Recipient)
        {
            case Recipient.Client:
                return clients.TryGetValue(visit.Visit.ClientId, out AddressedClient? client) ? [Of(client, setup)] : [];
            case Recipient.Payer:
                return clients.TryGetValue(visit.Visit.PayerId, out AddressedClient? payer) ? [Of(payer, setup)] : [];
            case Recipient.Practitioner:
                return MessageVariables.WhoDoes(setup, visit).Select(done => new Addressee(
                    done.Practitioner.Name,
                    done.Email,
                    done.Phone,
                    setup.Business.Language
                )
                {
                    PractitionerId = done.Practitioner.Id,
                    AgreesToTexts = true,
                });
            default:
                return listed.StaffIds.Where(staff.ContainsKey).Select(id => staff[id]);
        }
    }

    private static Addressee Of(AddressedClient client, Setup setup) =>
        new($"{client.GivenName} {client.FamilyName}".Trim(), client.Email, client.Phone, client.Language ?? setup.Business.Language)
        {
            Client = client,
            AgreesToTexts = client.AgreesToTexts,
        };

    /// <summary>The entry for a calendar that goes with what is told of a visit, or null.</summary>
    internal static string? CalendarOf(MessageRule rule, Setup setup, StoredVisit visit, IReadOnlyDictionary<string, string> values)
    {
        bool goesWith =
            rule is { Channel: Channel.Email, Recipient: Recipient.Client }
            && rule.Trigger
                is MessageTrigger.Booked
                    or MessageTrigger.Approved
                    or MessageTrigger.Moved
                    or MessageTrigger.Cancelled;
        if (!goesWith) return null;
        bool isGone = rule.Trigger == MessageTrigger.Cancelled;
        return CalendarOf(setup, visit, values["services"], isGone);
    }

    /// <summary>A visit as an entry for a calendar (RFC 5545).</summary>
    /// <param name="setup">The setup.</param>
    /// <param name="visit">The visit.</param>
    /// <param name="services">What was booked, in words.</param>
    /// <param name="isGone">Whether it is taken out of the calendar.</param>
    internal static string CalendarOf(Setup setup, StoredVisit visit, string services, bool isGone)
    {
        ListedLocation location = setup.Locations.First(listed => listed.Location.Id == visit.Visit.LocationId);
        CalDateTime At(Instant at) => new(at.ToDateTimeUtc(), "UTC");
        Ical.Net.Calendar calendar = new() { Method = isGone ? "CANCEL" : "PUBLISH", ProductId = "-//Kingcup//Bookings//EN" };
        calendar.Events.Add(new CalendarEvent
        {
            Uid = $"{visit.Visit.Id}@kingcup",
            DtStamp = At(visit.Visit.StateSince),
            Start = At(visit.Visit.StartsAt),
            End = At(visit.Visit.EndsAt),
            Summary = $"{services}, {setup.Business.Name}",
            Location = location.Address.Length > 0 ? $"{location.Location.Name}, {location.Address}" : location.Location.Name,
            Description = visit.Visit.Reference,
            Sequence = (int)Math.Min(int.MaxValue, visit.Visit.Version),
            Status = isGone ? "CANCELLED" : "CONFIRMED",
        });
        return new CalendarSerializer().SerializeToString(calendar)!;
    }
}
