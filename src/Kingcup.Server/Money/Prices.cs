using Kingcup.Core.Availability;
using Kingcup.Core.Money;
using Kingcup.Core.Services;
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
    internal static LineToPrice Line(Setup setup, Service service, IReadOnlyList<Guid> leads, IEnumerable<LineAddOn> addOns) =>
        new(service, leads)
        {
            AddOns =
            [
                .. addOns.Select(added => (setup.Parts.AddOns.First(listed => listed.AddOn.Id == added.AddOnId).AddOn, (int)added.Count)),
            ],
            TaxBasisPoints = setup.TaxOf(service.Id),
        };

    /// <summary>What a plan costs.</summary>
    internal static VisitPrice Of(Setup setup, VisitPlan plan, IReadOnlyList<IReadOnlyList<LineAddOn>> addOns) =>
        VisitPrice.Of(plan.Lines.Select((line, i) => Line(setup, setup.ServiceOf(line.ServiceId)!, [line.Practitioners[0]], addOns[i])));

    /// <summary>What a visit costs after a move: a price once agreed stays, unless another practitioner takes the line.</summary>
    internal static VisitPrice AfterMove(Setup setup, StoredVisit visit, VisitPlan plan) => visit.Price.After(
        Of(setup, plan, visit.AddOnsByLine),
        [.. plan.Lines.Select((line, i) => line.Practitioners[0] != visit.LeadOf(visit.Lines[i]))]);
}
