using Kingcup.Core.Availability;
using Kingcup.Core.Money;
using Kingcup.Core.Services;
using Kingcup.Server.Availability;
using Kingcup.Server.Plans;
using Kingcup.Storage;

namespace Kingcup.Server.Money;

/// <summary>Asks the core for prices of what is stored.</summary>
internal static class Prices
{
    /// <summary>A line to be priced.</summary>
    /// <param name="setup">The setup.</param>
    /// <param name="service">The service.</param>
    /// <param name="leads">Who may take it.</param>
    /// <param name="addOns">What is added to it.</param>
    /// <param name="setMinutes">The length that was set by hand, add-ons included, or null.</param>
    internal static LineToPrice Line(
        Setup setup,
        Service service,
        IReadOnlyList<Guid> leads,
        IReadOnlyList<LineAddOn> addOns,
        int? setMinutes = null
    ) =>
        new(service, leads)
        {
            SetMinutes = setMinutes is { } minutes ? Math.Max(0, minutes - addOns.Sum(added => added.Minutes)) : null,
            AddOns =
            [
                .. addOns.Select(added => (setup.Parts.AddOns.First(listed => listed.AddOn.Id == added.AddOnId).AddOn, (int)added.Count)),
            ],
            TaxBasisPoints = setup.TaxOf(service.Id),
        };

    /// <summary>What a plan costs.</summary>
    internal static VisitPrice Of(Setup setup, VisitPlan plan, WantedVisit wanted) =>
        VisitPrice.Of(
            plan.Lines.Select(
                (line, i) =>
                    Line(
                        setup,
                        setup.ServiceOf(line.ServiceId)!,
                        [line.Practitioners[0]],
                        wanted.AddOns[i],
                        wanted.Wish.Lines[i].SetMinutes
                    )
            )
        );

    /// <summary>What is wanted costs, with the least of those who may do it where that is open.</summary>
    internal static VisitPrice Usual(Setup setup, WantedVisit wanted) =>
        VisitPrice.Of(
            wanted.Wish.Lines.Select(
                (line, i) =>
                {
                    Service service = setup.ServiceOf(line.ServiceId)!;
                    IReadOnlyList<Guid> leads = line.PractitionerId is { } only
                        ? [only]
                        :
                        [
                            .. setup
                                .Practitioners.Where(who => service.Roles[0].EverAllows(who, NodaTime.LocalDate.MinIsoValue))
                                .Select(who => who.Id),
                        ];
                    return Line(setup, service, leads, wanted.AddOns[i], line.SetMinutes);
                }
            )
        );

    /// <summary>What a visit costs once it is laid anew: a price once agreed stays, unless another practitioner takes the line, or its
    /// service or length is changed.</summary>
    /// <param name="setup">The setup.</param>
    /// <param name="visit">The visit as it stands.</param>
    /// <param name="plan">Where it goes.</param>
    /// <param name="wanted">What is wanted.</param>
    /// <param name="lineIds">For each line which of those that stand it is, or null.</param>
    internal static VisitPrice Laid(
        Setup setup,
        StoredVisit visit,
        VisitPlan plan,
        WantedVisit wanted,
        IReadOnlyList<Guid?> lineIds
    )
    {
        (PricedLine, bool ServiceStays, IReadOnlySet<Guid> AddOnsStay)?[] goesOn =
        [
            .. plan.Lines.Select((line, i) => Agreed(visit, line, wanted, i, lineIds[i])),
        ];
        return Promos.Again(
            setup,
            visit.Price,
            VisitPrice.Laid(Of(setup, plan, wanted), goesOn),
            [.. plan.Lines.Select(line => line.ServiceId)],
            (line, addOnId) => goesOn[line] is { } on && (addOnId is { } id ? on.AddOnsStay.Contains(id) : on.ServiceStays)
        );
    }

    private static (PricedLine, bool, IReadOnlySet<Guid>)? Agreed(StoredVisit visit, PlannedLine line, WantedVisit wanted, int i, Guid? id)
    {
        int place = id is null ? -1 : visit.Lines.ToList().FindIndex(own => own.Id == id);
        if (place < 0) return null;
        AppointmentRow stands = visit.Lines[place];
        bool stays =
            stands.ServiceId == line.ServiceId
            && visit.LeadOf(stands) == line.Practitioners[0]
            && stands.SetMinutes == wanted.Wish.Lines[i].SetMinutes;
        HashSet<Guid> same =
        [
            .. visit
                .AddOnsByLine[place]
                .Where(own => wanted.AddOns[i].Any(added => added.AddOnId == own.AddOnId && added.Count == own.Count))
                .Select(own => own.AddOnId),
        ];
        return (visit.Price.Lines[place], stays, same);
    }
}
