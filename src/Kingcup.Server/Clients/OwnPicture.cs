using Kingcup.Core.Booking;
using Kingcup.Core.Business;
using Kingcup.Core.Clients;
using Kingcup.Core.Money;
using Kingcup.Core.Services;
using Kingcup.Server.Booking;
using Kingcup.Server.Money;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Clients;

/// <summary>What clients read of their own: nothing that staff wrote, nothing of others.</summary>
internal static class OwnPicture
{
    private const int MostVisits = 100;

    internal static async Task<OwnAnswer> OfAsync(
        NpgsqlConnection connection,
        Setup setup,
        OwnSession session,
        IReadOnlyList<Guid> clients,
        Instant now
    )
    {
        OwnReach reach = await OwnReach.OfAsync(connection, clients);
        Dictionary<Guid, ClientRow> rows = [];
        foreach (Guid id in reach.Sees) rows[id] = (await ClientStore.FindAsync(connection, id))!;
        List<OwnVisit> ahead = [],
            past = [];
        IReadOnlyList<StoredVisit> visits = await OwnStore.VisitsAsync(connection, reach.Sees, MostVisits);
        Guid[] ids = [.. visits.Select(visit => visit.Visit.Id)];
        IReadOnlyDictionary<Guid, long> deposits = await CardWorkStore.DepositsAsync(connection, ids);
        IReadOnlyDictionary<Guid, PaymentRow> links = await PaymentStore.LinksAsync(connection, ids, now);
        ILookup<Guid?, StoredProposal> proposed = (
            await BookStore.ProposedAsync(
                connection,
                [.. visits.Where(visit => visit.Visit.VisitState == VisitState.Answered).Select(visit => visit.Visit.Id)]
            )
        ).ToLookup(proposal => proposal.VisitId);
        foreach (StoredVisit visit in visits)
        {
            bool isAhead = IsAhead(visit, now);
            OwnVisit told = await VisitAsync(
                connection,
                setup,
                visit,
                rows[visit.Visit.ClientId],
                deposits.GetValueOrDefault(visit.Visit.Id),
                now
            );
            // Whoever may only see it changes nothing.
            if (!reach.Books.Contains(visit.Visit.ClientId))
            {
                (isAhead ? ahead : past).Add(told with { Cancelling = null, Moving = null, MovableUntil = null });
                continue;
            }

            if (Deposits.MayTake(visit.Visit.VisitState) && links.GetValueOrDefault(visit.Visit.Id) is { } link)
                told = told with { Asked = new OwnAsked(new MoneyAnswer(link.Amount, link.Currency), link.ExpiresAt) };
            if (VisitStates.IsAsked(visit.Visit.VisitState))
            {
                told = told with
                {
                    Times = RequestEndpoints.TimesOf(setup, proposed[visit.Visit.Id], now),
                    Words = visit.Visit.AnswerWords,
                };
            }

            (isAhead ? ahead : past).Add(told);
        }

        ahead.Reverse();
        return new OwnAnswer
        {
            Business = setup.Business.Name,
            Phone = setup.Business.Phone is { } phone ? ContactRules.Readable(phone) : null,
            Locale = setup.Business.Locale,
            Address = session.Address,
            People = await PeopleAsync(connection, session, clients, clients.Select(id => rows[id])),
            Details = [.. clients.Select(id => OwnContact.Of(rows[id], session.Address))],
            Ahead = ahead,
            Past = past,
            Cards = [.. (await OwnStore.CardsAsync(connection, clients)).Select(card => new OwnCardAnswer(card.Digits, card.Expires))],
            Consents = await ConsentsOfAsync(connection, clients[0]),
        };
    }

    /// <summary>Those who are reached at an address, and others they act for.</summary>
    internal static async Task<OwnPerson[]> PeopleAsync(
        NpgsqlConnection connection,
        OwnSession session,
        IReadOnlyList<Guid> own,
        IEnumerable<ClientRow> rows
    )
    {
        HashSet<Guid> have = [.. (await OwnStore.PasswordsAsync(connection, session.Address)).Select(kept => kept.ClientId)];
        return
        [
            .. rows.Select(row => new OwnPerson(
                row.Id,
                $"{row.GivenName} {row.FamilyName}".Trim(),
                own.Contains(row.Id) && have.Contains(row.Id),
                !own.Contains(row.Id)
            )),
        ];
    }

    // What was proposed instead lies ahead, wherever what was asked for lies.
    private static bool IsAhead(StoredVisit visit, Instant now) =>
        visit.Visit.VisitState switch
        {
            VisitState.Cancelled or VisitState.NoShow => false,
            VisitState.Answered => visit.Visit.LapsesAt > now,
            _ => visit.Visit.EndsAt > now,
        };

    private static async Task<OwnVisit> VisitAsync(
        NpgsqlConnection connection,
        Setup setup,
        StoredVisit visit,
        ClientRow client,
        long paid,
        Instant now
    )
    {
        VisitAnswer answer = DayPicture.Of(setup, visit, now);
        ListedLocation location = setup.Locations.First(listed => listed.Location.Id == visit.Visit.LocationId);
        VisitState state = visit.Visit.VisitState;
        string currency = setup.Business.Currency;
        bool mayCancel =
            state == VisitState.Answered
            || (state is VisitState.Confirmed or VisitState.Requested && now < visit.Visit.StartsAt);
        Instant last = BookingDesk.LastToMove(setup, visit, client);
        bool mayMove = state == VisitState.Confirmed && now <= last;
        Service[] again =
        [
            .. visit
                .Lines.Where(line => line.Person == 0)
                .Select(line => setup.ServiceOf(line.ServiceId))
                .OfType<Service>()
                .Where(service => service is { IsArchived: false, Visibility: Visibility.Everyone } && WhoMayBook.IsBookedOnline(service)),
        ];
        return new OwnVisit
        {
            Id = visit.Visit.Id,
            Version = visit.Visit.Version,
            Reference = visit.Visit.Reference,
            Name = $"{client.GivenName} {client.FamilyName}".Trim(),
            State = state switch
            {
                VisitState.Requested => "requested",
                VisitState.Answered => "answered",
                VisitState.Cancelled => "cancelled",
                VisitState.NoShow => "missed",
                VisitState.Done => "done",
                _ => "booked",
            },
            Start = visit.Visit.StartsAt,
            End = visit.Visit.EndsAt,
            Zone = answer.Zone,
            Location = location.Location.Name,
            Address = location.Address,
            Lines = PublicBooking.LinesOf(answer),
            Price = answer.Price,
            Paid = new MoneyAnswer(paid, currency),
            Rest = new MoneyAnswer(Math.Max(0, answer.Price.Amount - paid), currency),
            Cancelling = mayCancel
                ? FeeAnswer.Of(await BookingDesk.FeeOfAsync(connection, visit, false, CancelledBy.Client, now), currency)
                : null,
            Moving = mayMove ? FeeAnswer.Of(await BookingDesk.MoveFeeOfAsync(connection, visit, now), currency) : null,
            MovableUntil = mayMove ? last : null,
            Times = [],
            Words = "",
            Wrote = visit.Visit.ClientNote,
            AgainServiceIds = [.. again.Take(OnlineVisits.MostLines).Select(service => service.Id)],
        };
    }

    internal static async Task<OwnConsents> ConsentsOfAsync(NpgsqlConnection connection, Guid clientId)
    {
        IReadOnlyList<ClientConsent> all = await ClientRecordStore.ConsentsAsync(connection, clientId);
        bool Given(ConsentKind kind) => all.FirstOrDefault(consent => consent.Kind == kind.ToString())?.Given ?? false;
        return new OwnConsents(Given(ConsentKind.Texts), Given(ConsentKind.News));
    }
}
