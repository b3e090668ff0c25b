using Kingcup.Core.Business;
using Kingcup.Core.Clients;
using Kingcup.Core.Money;
using Kingcup.Storage;
using NodaTime;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Messages;

/// <summary>A variable of messages.</summary>
/// <param name="Name">How a template names it.</param>
/// <param name="Means">What stands there.</param>
/// <param name="Sample">What it may look like.</param>
internal sealed record MessageVariable(string Name, Sentence Means, string Sample);

/// <summary>What is said of money in a message; null where there is nothing to say.</summary>
internal sealed record MessageMoney
{
    /// <summary>What is held as a deposit, in minor units.</summary>
    public long Deposit { get; init; }

    /// <summary>What cancelling or not coming costs.</summary>
    public long Fee { get; init; }

    /// <summary>What of it is kept from the deposit.</summary>
    public long Kept { get; init; }

    /// <summary>What of it was taken from a card.</summary>
    public long Charged { get; init; }

    /// <summary>What of it is left to pay.</summary>
    public long Owed { get; init; }

    /// <summary>What goes back to a card.</summary>
    public long Refund { get; init; }

    /// <summary>What is to be given back in cash.</summary>
    public long CashBack { get; init; }

    /// <summary>What the client is asked for as a deposit.</summary>
    public long Asked { get; init; }
}

/// <summary>What a message is about, besides the visit as it stands.</summary>
internal sealed record MessageAbout
{
    /// <summary>What is said of money.</summary>
    public MessageMoney Money { get; init; } = new();

    /// <summary>When the visit began before it was moved, or null.</summary>
    public Instant? OldStart { get; init; }

    /// <summary>What is proposed instead of what was asked for.</summary>
    public IReadOnlyList<StoredProposal> Proposed { get; init; } = [];

    /// <summary>Until when a deposit that is asked for can be paid by the link, or null.</summary>
    public Instant? AskedUntil { get; init; }

    /// <summary>When the other visits of the same row begin.</summary>
    public IReadOnlyList<Instant> Others { get; init; } = [];

    /// <summary>Where the pages for clients are, or null where the server does not know.</summary>
    public string? Address { get; init; }

    /// <summary>Whether whoever is written to may follow the link to their own bookings.</summary>
    public bool HasLink { get; init; }
}

/// <summary>The variables of messages: dates, times and money as the language of whoever is written to writes them.</summary>
internal static class MessageVariables
{
    /// <summary>Stands for the link to one's own bookings until the message goes, so that it is kept nowhere.</summary>
    internal const string LinkMark = "\uE000";

    /// <summary>Stands for a code until the message goes.</summary>
    internal const string CodeMark = "\uE001";

    /// <summary>All of them, in the order in which they are listed.</summary>
    internal static IReadOnlyList<MessageVariable> Known { get; } =
    [
        new("client", "The given name of the client who reads it", "Maeve"),
        new("client_name", "The whole name of the client who comes", "Maeve Corrigan"),
        new("business", "The name of the business", "Harrowmere House"),
        new("location", "Where the visit is", "Mill Street"),
        new("address", "The address there", "12 Mill Street, Harrowmere"),
        new("phone", "The number to call", "+353 1 555 0100"),
        new("services", "What was booked, with add-ons, and for whom where somebody else reads it", "Deep tissue massage and Hot stones"),
        new("practitioners", "Who does it", "Ines Duarte"),
        new("date", "The day of the visit", "Thursday 4 March 2027"),
        new("time", "When it begins", "14:00"),
        new("end", "When it ends", "15:15"),
        new(
            "others",
            "The other days, where a row of visits was booked or cancelled at once",
            "Thursday 18 March 2027 and Thursday 1 April 2027"
        ),
        new("old_date", "The day it was moved from", "Tuesday 2 March 2027"),
        new("old_time", "The time it was moved from", "09:30"),
        new("reference", "What to say on the telephone", "K7M-3QP"),
        new("price", "What the visit costs", "€84.00"),
        new("asked", "What is asked for as a deposit", "€25.00"),
        new("deposit", "What was paid already", "€25.00"),
        new("rest", "What is left to pay on the day", "€59.00"),
        new("fee", "What cancelling late or not coming costs", "€42.00"),
        new("kept", "What of the fee is kept from the deposit", "€25.00"),
        new("charged", "What of the fee was taken from a card", "€17.00"),
        new("owed", "What of the fee is left to pay", "€17.00"),
        new("refund", "What goes back to the card", "€25.00"),
        new("cash_back", "What is given back in cash, at the desk", "€15.00"),
        new(
            "times",
            "The times proposed instead of what was asked for",
            "Thursday 4 March 2027, 16:00 with Ines Duarte\nFriday 5 March 2027, 09:30 with Tobias Lindqvist"
        ),
        new("until", "Until when these are kept, or a deposit can be paid", "Tuesday 2 March 2027, 14:00"),
        new("words", "What was written with an answer", "Ines is away that day."),
        new("page", "The address of the booking page", "https://booking.harrowmere.test/book"),
        new("link", "The address of the client's own bookings", "https://booking.harrowmere.test/book/mine"),
    ];

    /// <summary>All of them as they may look.</summary>
    internal static Dictionary<string, string> Sample() => Known.ToDictionary(known => known.Name, known => known.Sample);

    /// <summary>The variables of a visit.</summary>
    /// <param name="setup">The setup.</param>
    /// <param name="visit">The visit.</param>
    /// <param name="reader">The client who reads it, or null where it is somebody of the team.</param>
    /// <param name="language">In which language.</param>
    /// <param name="about">What else is said.</param>
    internal static Dictionary<string, string> Of(
        Setup setup,
        StoredVisit visit,
        AddressedClient? reader,
        Language language,
        MessageAbout about
    )
    {
        ListedLocation location = setup.Locations.First(listed => listed.Location.Id == visit.Visit.LocationId);
        DateTimeZone zone = location.Location.Zone;
        LocalDateTime start = visit.Visit.StartsAt.InZone(zone).LocalDateTime;
        string Money(long amount) => amount == 0 ? "" : language.Write(new Sum(amount, setup.Business.Currency));
        Dictionary<string, string> values = About(setup, location, language, about, start);
        string comes = $"{visit.Visit.GivenName} {visit.Visit.FamilyName}".Trim();
        values["client"] = reader?.GivenName ?? visit.Visit.GivenName;
        values["client_name"] = comes;
        Sentence services = List([.. visit.Lines.SelectMany(line => ServicesOf(setup, visit, line)).Distinct()]);
        // Whoever reads it for a child, or because they pay, reads whose visit it is.
        bool isTheirs = reader is null || reader.Id == visit.Visit.ClientId;
        values["services"] = language.Write(isTheirs ? services : Say($"{services} for {comes}"));
        values["practitioners"] = language.Write(List(PractitionersOf(setup, visit)));
        values["end"] = language.Write(visit.Visit.EndsAt.InZone(zone).TimeOfDay);
        values["others"] = about.Others.Count == 0
            ? ""
            : language.Write(List([.. about.Others.Order().Select(other => language.LongDateOf(other.InZone(zone).Date))]));
        LocalDateTime? old = about.OldStart?.InZone(zone).LocalDateTime;
        values["old_date"] = old is { } from ? language.LongDateOf(from.Date) : "";
        values["old_time"] = old is { } at ? language.Write(at.TimeOfDay) : "";
        values["reference"] = visit.Visit.Reference;
        values["price"] = Money(visit.Price.Total);
        values["asked"] = Money(about.Money.Asked);
        values["deposit"] = Money(about.Money.Deposit);
        values["rest"] = about.Money.Deposit > 0 ? Money(Math.Max(0, visit.Price.Total - about.Money.Deposit)) : "";
        values["fee"] = Money(about.Money.Fee);
        values["kept"] = Money(about.Money.Kept);
        values["charged"] = Money(about.Money.Charged);
        values["owed"] = Money(about.Money.Owed);
        values["refund"] = Money(about.Money.Refund);
        values["cash_back"] = Money(about.Money.CashBack);
        string At(Instant instant)
        {
            LocalDateTime there = instant.InZone(zone).LocalDateTime;
            return $"{language.LongDateOf(there.Date)}, {language.Write(there.TimeOfDay)}";
        }

        // A line for each, as they are said.
        values["times"] = string.Join(
            "\n",
            about.Proposed.Select(proposal =>
                language.Write(Say($"{At(proposal.Visit.Visit.StartsAt)} with {List(PractitionersOf(setup, proposal.Visit))}"))
            )
        );
        Instant? until = about.Proposed.Count == 0 ? about.AskedUntil : about.Proposed.Min(proposal => proposal.ExpiresAt);
        values["until"] = until is { } last ? At(last) : "";
        values["words"] = visit.Visit.AnswerWords;
        return values;
    }

    /// <summary>The variables of a booking that was begun and not finished.</summary>
    internal static Dictionary<string, string> Of(Setup setup, Unfinished unfinished, Language language, string? address)
    {
        ListedLocation? location = setup.Locations.FirstOrDefault(listed => listed.Location.Id == unfinished.LocationId);
        if (location is null) return [];
        Dictionary<string, string> values = About(
            setup,
            location,
            language,
            new MessageAbout { Address = address },
            unfinished.Start.InZone(location.Location.Zone).LocalDateTime
        );
        values["client"] = unfinished.GivenName;
        values["client_name"] = unfinished.GivenName;
        values["services"] = language.Write(List([.. unfinished.ServiceIds.Select(id => NameOf(setup, id))]));
        return values;
    }

    private static Dictionary<string, string> About(
        Setup setup,
        ListedLocation location,
        Language language,
        MessageAbout about,
        LocalDateTime start
    ) =>
        new()
        {
            ["business"] = setup.Business.Name,
            ["location"] = location.Location.Name,
            ["address"] = location.Address,
            ["phone"] = ContactRules.Readable(location.Phone.Length > 0 ? location.Phone : setup.Business.Phone ?? ""),
            ["date"] = language.LongDateOf(start.Date),
            ["time"] = language.Write(start.TimeOfDay),
            ["page"] = about.Address is { } at ? $"{at}/book" : "",
            ["link"] = about is { Address: not null, HasLink: true } ? LinkMark : "",
        };

    private static IEnumerable<string> ServicesOf(Setup setup, StoredVisit visit, AppointmentRow line) =>
        visit
            .AddOns.Where(added => added.AppointmentId == line.Id)
            .Select(added => setup.Parts.AddOns.First(listed => listed.AddOn.Id == added.AddOnId).AddOn.Name)
            .Prepend(NameOf(setup, line.ServiceId));

    private static string NameOf(Setup setup, Guid serviceId) =>
        setup.Services.FirstOrDefault(listed => listed.Service.Id == serviceId) is { } listed
            ? listed.OnlineName ?? listed.Service.Name
            : "";

    /// <summary>Those who do a visit, each once, in the order in which they begin.</summary>
    internal static IReadOnlyList<ListedPractitioner> WhoDoes(Setup setup, StoredVisit visit) =>
        [
            .. visit
                .Claims.Where(claim => claim.Role is not null)
                .OrderBy(claim => claim.During.Start)
                .Select(claim => claim.ResourceId)
                .Distinct()
                .Select(id => setup.Parts.Practitioners.FirstOrDefault(listed => listed.Practitioner.Id == id))
                .OfType<ListedPractitioner>(),
        ];

    private static IReadOnlyList<string> PractitionersOf(Setup setup, StoredVisit visit) =>
        [.. WhoDoes(setup, visit).Select(listed => listed.Practitioner.Name)];
}
