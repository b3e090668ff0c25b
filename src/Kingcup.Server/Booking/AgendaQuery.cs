using Kingcup.Core.Booking;
using Kingcup.Server.Api;
using Kingcup.Storage;
using Microsoft.AspNetCore.Mvc;
using NodaTime;

namespace Kingcup.Server.Booking;

/// <summary>Which visits an agenda is to hold. What is missing does not matter.</summary>
public sealed record AgendaQuery
{
    /// <summary>Longest stretch of days.</summary>
    internal const int MostDays = 62;

    /// <summary>The first day (YYYY-MM-DD).</summary>
    [FromQuery(Name = "from")]
    public string From { get; init; } = "";

    /// <summary>The last day (YYYY-MM-DD), 61 days later at the most.</summary>
    [FromQuery(Name = "until")]
    public string Until { get; init; } = "";

    /// <summary>Where.</summary>
    [FromQuery(Name = "locationId")]
    public Guid? LocationId { get; init; }

    /// <summary>With one of these people, in one of these rooms or with one of these pools.</summary>
    [FromQuery(Name = "resourceId")]
    public Guid[] ResourceId { get; init; } = [];

    /// <summary>With a service of one of these categories.</summary>
    [FromQuery(Name = "categoryId")]
    public Guid[] CategoryId { get; init; } = [];

    /// <summary>Standing so, named as in a visit: confirmed, arrived, …; without any all but the cancelled ones.</summary>
    [FromQuery(Name = "state")]
    public string[] State { get; init; } = [];

    /// <summary>Booked at the desk or online: Desk or Online.</summary>
    [FromQuery(Name = "source")]
    public string? Source { get; init; }

    internal AgendaFilter Check()
    {
        LocalDate from = BookEndpoints.Date(From, "from"),
            until = BookEndpoints.Date(Until, "until");
        Checks checks = new();
        checks.Require(until >= from, "until", "The last day lies before the first.");
        checks.Require(until <= from.PlusDays(MostDays - 1), "until", $"Ask for {MostDays} days at the most.");
        checks.Require(Source is null or "Desk" or "Online", "source", "Desk or Online.");
        VisitState?[] states = [.. State.Select(StateOf)];
        checks.Require(!states.Contains(null), "state", "There is no such state.");
        checks.Require(ResourceId.Length <= 200 && CategoryId.Length <= 200, "resourceId", "200 at the most.");
        checks.Done();
        return new AgendaFilter(from, until)
        {
            LocationId = LocationId,
            ResourceIds = ResourceId,
            CategoryIds = CategoryId,
            States = [.. states.Select(state => state.ToString()!).Distinct()],
            Source = Source,
        };
    }

    // An address names a state as a visit does. Numbers are no names.
    private static VisitState? StateOf(string text) =>
        text.All(char.IsLetter) && Enum.TryParse(text, ignoreCase: true, out VisitState state) ? state : null;
}
