using Kingcup.Core.Availability;
using Kingcup.Core.Money;
using NodaTime;

namespace Kingcup.Storage;

/// <summary>What a visit is made of, as rows: lines, prices, claims.</summary>
public static partial class BookStore
{
    private static void AddOccupations(BookTransaction transaction, StoredVisit visit, IReadOnlyList<AppointmentRow> lines)
    {
        if (lines.Count == 0) return;
        transaction.Write(
            "INSERT INTO occupation (id, kind, location_id) SELECT id, 'Line', @LocationId FROM unnest(@Ids) AS id",
            new { visit.Visit.LocationId, Ids = lines.Select(line => line.Id).ToArray() });
    }

    private static void AddLines(BookTransaction transaction, StoredVisit visit, IReadOnlyList<AppointmentRow> lines)
    {
        if (lines.Count == 0) return;
        transaction.Write(
            """
            INSERT INTO appointment (id, visit_id, line, service_id, starts_at, ends_at, price, practitioner_asked, person, offset_minutes,
                room_id, tax_basis_points, set_minutes, room_asked)
            SELECT a.id, @VisitId, a.line, a.service, a.starts, a.ends, a.price, a.asked, a.person, a.apart, a.room, a.tax, a.minutes,
                a.room_asked
            FROM unnest(@Ids, @Lines, @Services, @Starts, @Ends, @Prices, @Asked, @People, @Offsets, @Rooms, @Taxes, @SetMinutes,
                @RoomAsked)
                AS a(id, line, service, starts, ends, price, asked, person, apart, room, tax, minutes, room_asked)
            """,
            Values(visit.Visit.Id, lines));
    }

    /// <summary>What lies in lines that stand besides what they hold: add-ons, parts of the price.</summary>
    private static void AddContents(BookTransaction transaction, StoredVisit visit)
    {
        if (visit.AddOns.Count > 0)
        {
            transaction.Write(
                "INSERT INTO appointment_add_on (appointment_id, add_on_id, count, minutes, price) SELECT * FROM unnest(@Lines, "
                    + "@AddOns, @Counts, @Minutes, @Prices)",
                new
                {
                    Lines = visit.AddOns.Select(added => added.AppointmentId).ToArray(),
                    AddOns = visit.AddOns.Select(added => added.AddOnId).ToArray(),
                    Counts = visit.AddOns.Select(added => added.Count).ToArray(),
                    Minutes = visit.AddOns.Select(added => added.Minutes).ToArray(),
                    Prices = visit.AddOns.Select(added => added.Price).ToArray(),
                });
        }

        AddPriceParts(transaction, visit);
    }

    private static object Values(Guid visitId, IReadOnlyList<AppointmentRow> lines) =>
        new
        {
            VisitId = visitId,
            Ids = lines.Select(line => line.Id).ToArray(),
            Lines = lines.Select(line => line.Line).ToArray(),
            Services = lines.Select(line => line.ServiceId).ToArray(),
            Starts = lines.Select(line => line.StartsAt).ToArray(),
            Ends = lines.Select(line => line.EndsAt).ToArray(),
            Prices = lines.Select(line => line.Price).ToArray(),
            Asked = lines.Select(line => line.PractitionerAsked).ToArray(),
            People = lines.Select(line => line.Person).ToArray(),
            Offsets = lines.Select(line => line.OffsetMinutes).ToArray(),
            Rooms = lines.Select(line => line.RoomId).ToArray(),
            Taxes = lines.Select(line => line.TaxBasisPoints).ToArray(),
            SetMinutes = lines.Select(line => line.SetMinutes).ToArray(),
            RoomAsked = lines.Select(line => line.RoomAsked).ToArray(),
        };

    private static void AddPriceParts(BookTransaction transaction, StoredVisit visit) =>
        transaction.Write(
            "INSERT INTO price_part (appointment_id, place, kind, amount, add_on_id, promo_id) SELECT * FROM unnest(@Lines, @Places, "
                + "@Kinds, @Amounts, @AddOns, @Promos)",
            new
            {
                Lines = visit.PriceParts.Select(part => part.AppointmentId).ToArray(),
                Places = visit.PriceParts.Select(part => part.Place).ToArray(),
                Kinds = visit.PriceParts.Select(part => part.Kind).ToArray(),
                Amounts = visit.PriceParts.Select(part => part.Amount).ToArray(),
                AddOns = visit.PriceParts.Select(part => part.AddOnId).ToArray(),
                Promos = visit.PriceParts.Select(part => part.PromoId).ToArray(),
            }
        );

    private static void AddClaims(BookTransaction transaction, StoredVisit visit)
    {
        Guid[] resources = [.. visit.Claims.Select(claim => claim.ResourceId)];
        Instant[] starts = [.. visit.Claims.Select(claim => claim.During.Start)],
            ends = [.. visit.Claims.Select(claim => claim.During.End)];
        // A constraint cannot read the clock: what has run out there is taken out of the way first.
        if (transaction.MayMeetRunOut(visit.Claims.Select(claim => claim.During)))
        {
            transaction.Write(
                """
                UPDATE claim k SET live = false FROM occupation o, unnest(@resources, @starts, @ends) AS wanted(resource, starts, ends)
                WHERE o.expires_at <= @At AND k.occupation_id = o.id AND k.live AND k.resource_id = wanted.resource
                    AND k.during && tstzrange(wanted.starts, wanted.ends)
                """,
                new { transaction.Change.At, resources, starts, ends });
        }

        Dictionary<Guid, Guid> services = visit.Lines.ToDictionary(line => line.Id, line => line.ServiceId);
        transaction.Write(
            """
            INSERT INTO claim (id, occupation_id, location_id, service_id, resource_id, unit, role, during, core, overbooked,
                outside_shift, unsuited, over_blocks)
            SELECT k.id, k.occupation, @LocationId, k.service, k.resource, k.unit, k.role, tstzrange(k.starts, k.ends),
                tstzrange(k.core_starts, k.core_ends),
                k.overbooked, k.outside_shift, k.unsuited, CAST(string_to_array(k.over_blocks, ',') AS uuid[])
            FROM unnest(@Ids, @Occupations, @Services, @resources, @Units, @Roles, @starts, @ends, @CoreStarts, @CoreEnds, @Overbooked,
                @OutsideShift, @Unsuited, @OverBlocks)
                AS k(id, occupation, service, resource, unit, role, starts, ends, core_starts, core_ends, overbooked, outside_shift,
                    unsuited, over_blocks)
            """,
            new
            {
                visit.Visit.LocationId,
                resources,
                starts,
                ends,
                Ids = visit.Claims.Select(_ => Guid.CreateVersion7()).ToArray(),
                Occupations = visit.Claims.Select(claim => claim.OccupationId).ToArray(),
                Services = visit.Claims.Select(claim => services[claim.OccupationId]).ToArray(),
                Units = visit.Claims.Select(claim => claim.Unit).ToArray(),
                Roles = visit.Claims.Select(claim => claim.Role).ToArray(),
                CoreStarts = visit.Claims.Select(claim => claim.Core.Start).ToArray(),
                CoreEnds = visit.Claims.Select(claim => claim.Core.End).ToArray(),
                Overbooked = visit.Claims.Select(claim => claim.Overbooked).ToArray(),
                OutsideShift = visit.Claims.Select(claim => claim.OutsideShift).ToArray(),
                Unsuited = visit.Claims.Select(claim => claim.Unsuited).ToArray(),
                // An array of arrays has to be a rectangle; so one text each.
                OverBlocks = visit.Claims.Select(claim => string.Join(',', claim.OverBlocks)).ToArray(),
            });
    }

    /// <summary>A visit where a plan puts it, its lines being those of <paramref name="ids"/>.</summary>
    private static StoredVisit Placed(
        VisitRow visit,
        Guid[] ids,
        VisitPlan plan,
        VisitPrice price,
        IReadOnlyList<LineChosen> chosen,
        IReadOnlyList<LineAddOn> addOns
    ) =>
        new(
            visit,
            [
                .. plan.Lines.Select(
                    (line, i) =>
                        new AppointmentRow
                        {
                            Id = ids[i],
                            VisitId = visit.Id,
                            Line = (short)i,
                            ServiceId = line.ServiceId,
                            StartsAt = line.Start,
                            EndsAt = line.End,
                            Price = price.Lines[i].OfService,
                            PractitionerAsked = chosen[i].Practitioner,
                            Person = (short)line.Person,
                            OffsetMinutes = (int)(line.Start - plan.Start).TotalMinutes,
                            RoomId = line.RoomId,
                            TaxBasisPoints = price.Lines[i].TaxBasisPoints,
                            SetMinutes = chosen[i].Minutes,
                            RoomAsked = chosen[i].Room && line.RoomId is not null,
                        }
                ),
            ],
            [
                .. plan
                    .Claims.OrderBy(claim => claim.Line)
                    .ThenBy(claim => claim.Role ?? int.MaxValue)
                    .ThenBy(claim => claim.During.Start)
                    .ThenBy(claim => claim.Unit)
                    .Select(claim => new ClaimRow
                    {
                        OccupationId = ids[claim.Line],
                        ResourceId = claim.ResourceId,
                        Unit = (short)claim.Unit,
                        Role = (short?)claim.Role,
                        During = claim.During,
                        Core = claim.Core,
                        Overbooked = claim.Overbooked,
                        OutsideShift = claim.OutsideShift,
                        Unsuited = claim.Unsuited,
                        OverBlocks = [.. claim.OverBlocks],
                    }),
            ],
            [.. addOns.Select(added => added with { Price = price.Lines[Array.IndexOf(ids, added.AppointmentId)].OfAddOn(added.AddOnId) })]
        )
        {
            PriceParts =
            [
                .. price.Lines.SelectMany(
                    (line, i) =>
                        line.Parts.Select(
                            (part, place) =>
                                new PricePartRow
                                {
                                    AppointmentId = ids[i],
                                    Place = (short)place,
                                    Kind = part.Kind.ToString(),
                                    Amount = part.Amount,
                                    AddOnId = part.AddOnId,
                                    PromoId = part.PromoId,
                                }
                        )
                ),
            ],
        };

    private static VisitRow Row(NewVisit visit, Instant start, Instant end, Instant now) =>
        new()
        {
            Id = visit.Id,
            Reference = visit.Reference,
            LocationId = visit.LocationId,
            ClientId = visit.Client.Id,
            PayerId = visit.PayerId ?? visit.Client.Id,
            GivenName = visit.Client.GivenName,
            FamilyName = visit.Client.FamilyName,
            Phone = visit.Client.Phone,
            Email = visit.Client.Email,
            Alert = visit.Client.Alert,
            ClientCancelNoticeHours = visit.Client.CancelNoticeHours,
            Date = visit.Date,
            StartsAt = start,
            EndsAt = end,
            State = visit.State.ToString(),
            Source = visit.Source,
            IsFirst = visit.IsFirst,
            Note = visit.Note,
            ClientNote = visit.ClientNote,
            CreatedAt = now,
            StateSince = now,
            SeriesId = visit.SeriesId,
            PolicyId = visit.PolicyId,
            LapsesAt = visit.LapsesAt,
            Version = 1,
        };

    private static object DescribeState(StoredVisit visit) =>
        new
        {
            state = visit.Visit.State,
            reason = visit.Visit.CancelReason,
            by = visit.Visit.CancelledBy,
            late = visit.Visit.CancelledLate,
        };

    private static IEnumerable<ClaimRow> Of(AppointmentRow line, IEnumerable<ClaimRow> claims) =>
        claims.Where(claim => claim.OccupationId == line.Id);

    /// <summary>A visit as the history keeps it: the same parts before and after a change.</summary>
    private static object Describe(StoredVisit visit, IReadOnlyList<string>? over = null) => new
    {
        state = visit.Visit.State,
        over = over is { Count: > 0 } ? over : null,
        start = visit.Visit.StartsAt,
        end = visit.Visit.EndsAt,
        payer = visit.Visit.PayerId,
        people = visit.People.Select(person => person.Name),
        price = visit.Price.Total,
        lines = visit.Lines.Select((line, i) => new
        {
            id = line.Id,
            service = line.ServiceId,
            person = line.Person,
            start = line.StartsAt,
            end = line.EndsAt,
            price = line.Price,
            parts = visit.Price.Lines[i].Parts,
            room = line.RoomId,
            setMinutes = line.SetMinutes,
            practitioners = Of(line, visit.Claims).Where(claim => claim.Role is not null).OrderBy(claim => claim.Role)
                .Select(claim => claim.ResourceId).Distinct(),
            held = Of(line, visit.Claims).Where(claim => claim.Role is null)
                .Select(claim => new { resource = claim.ResourceId, unit = claim.Unit }).Distinct(),
            addOns = visit.AddOnsByLine[i].Select(added => new { addOn = added.AddOnId, count = added.Count, price = added.Price }),
        }),
    };
}
