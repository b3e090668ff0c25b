using Kingcup.Core.Services;
using Kingcup.Core.Team;
using NodaTime;

namespace Kingcup.Core.Business;

/// <summary>What may be booked online and with whom (rules, section 5): asked by the gates, the booking page and the setup alike.</summary>
public static class WhoMayBook
{
    /// <summary>Whether a service is one that clients book themselves, at least with its link.</summary>
    public static bool IsBookedOnline(Service service)
    {
        ArgumentNullException.ThrowIfNull(service);
        return service.Visibility is Visibility.Everyone or Visibility.WithLink
            && service.Kind == ServiceKind.OneToOne
            && !service.IsArchived;
    }

    /// <summary>Whether a client may book a service who came with these links.</summary>
    public static bool IsOpenTo(Service service, IReadOnlySet<Guid> links)
    {
        ArgumentNullException.ThrowIfNull(service);
        ArgumentNullException.ThrowIfNull(links);
        return service.Visibility == Visibility.Everyone || (service.Visibility == Visibility.WithLink && links.Contains(service.Id));
    }

    /// <summary>The practitioners with whom a service may be booked online, today or later.</summary>
    /// <param name="service">The service.</param>
    /// <param name="practitioners">Everyone.</param>
    /// <param name="today">What has ended before counts no more.</param>
    public static IEnumerable<Practitioner> Of(Service service, IEnumerable<Practitioner> practitioners, LocalDate today)
    {
        ArgumentNullException.ThrowIfNull(service);
        return practitioners.Where(practitioner => practitioner.BookableOnline && service.Roles[0].EverAllows(practitioner, today));
    }

    /// <summary>Whether a client may have chosen a practitioner, or left it open.</summary>
    /// <param name="choice">Who chooses.</param>
    /// <param name="isChosen">Whether the client has.</param>
    public static bool MayChoose(PractitionerChoice choice, bool isChosen) => choice switch
    {
        PractitionerChoice.House => !isChosen,
        PractitionerChoice.ClientMust => isChosen,
        _ => true,
    };
}
