using Kingcup.Core.Money;
using Kingcup.Core.Services;
using Kingcup.Storage;

namespace Kingcup.Server.Money;

/// <summary>Asks the core what is given for a visit.</summary>
internal static class Guarantees
{
    /// <summary>What the rules that are set ask for.</summary>
    /// <param name="setup">The setup.</param>
    /// <param name="locationId">Where the visit is.</param>
    /// <param name="services">The service of each line.</param>
    /// <param name="price">What its lines cost.</param>
    /// <param name="question">Who books it, and when it begins.</param>
    internal static Guarantee Of(
        Setup setup,
        Guid locationId,
        IReadOnlyList<Service> services,
        VisitPrice price,
        GuaranteeQuestion question
    ) => Guarantee.Of(question, services.Select((service, i) => (setup.GuaranteesOf(locationId, service), price.Lines[i].Total)));
}
