using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using NodaTime;

namespace Kingcup.Server.Booking;

/// <summary>A week of one practitioner, room or pool.</summary>
/// <param name="ResourceId">Whose or what's.</param>
/// <param name="Name">Their name.</param>
/// <param name="Days">Its seven days from Monday on, each with the one lane and what lies in it.</param>
public sealed record WeekAnswer(Guid ResourceId, string Name, IReadOnlyList<DayAnswer> Days);

/// <summary>How full a part of a day is.</summary>
/// <param name="Part">Which part.</param>
/// <param name="Fullness">0 to 100.</param>
/// <param name="FreeMinutes">Minutes that are free, those of several people added up.</param>
public sealed record MonthPart(DayPart Part, int Fullness, int FreeMinutes);

/// <summary>A day as a month shows it.</summary>
/// <param name="Date">The day.</param>
/// <param name="Closed">Why the location is closed, or null.</param>
/// <param name="FreeMinutes">Minutes that are free, those of several people added up.</param>
/// <param name="Parts">The parts in which anybody works.</param>
public sealed record MonthDay(LocalDate Date, string? Closed, int FreeMinutes, IReadOnlyList<MonthPart> Parts);

/// <summary>Six weeks as a map of fullness.</summary>
/// <param name="Today">The date there now.</param>
/// <param name="Days">42 days from a Monday on.</param>
public sealed record MonthAnswer(LocalDate Today, IReadOnlyList<MonthDay> Days);

/// <summary>A visit in the agenda.</summary>
public sealed record AgendaRow
{
    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>What people call it.</summary>
    public required string Reference { get; init; }

    /// <summary>To be sent as If-Match with a change.</summary>
    public required long Version { get; init; }

    /// <summary>Where.</summary>
    public required Guid LocationId { get; init; }

    /// <summary>The day.</summary>
    public required LocalDate Date { get; init; }

    /// <summary>The time zone of the place (IANA).</summary>
    public required string Zone { get; init; }

    /// <summary>When it begins.</summary>
    public required Instant Start { get; init; }

    /// <summary>When it ends.</summary>
    public required Instant End { get; init; }

    /// <summary>Where it stands.</summary>
    public required VisitState State { get; init; }

    /// <summary>The states it may be given by now.</summary>
    public required IReadOnlyList<VisitState> Next { get; init; }

    /// <summary>Where it was booked: Desk or Online.</summary>
    public required string Source { get; init; }

    /// <summary>Whether it is the client's first.</summary>
    public required bool IsFirst { get; init; }

    /// <summary>Who comes.</summary>
    public required VisitClientAnswer Client { get; init; }

    /// <summary>The services in order.</summary>
    public required IReadOnlyList<string> Services { get; init; }

    /// <summary>Who treats, in order, each once.</summary>
    public required IReadOnlyList<NamedAnswer> Practitioners { get; init; }

    /// <summary>The rooms in order, each once.</summary>
    public required IReadOnlyList<string> Rooms { get; init; }

    /// <summary>The price.</summary>
    public required MoneyAnswer Price { get; init; }

    /// <summary>The note.</summary>
    public required string Note { get; init; }

    /// <summary>Why it was cancelled, or null.</summary>
    public required string? CancelReason { get; init; }

    internal static AgendaRow Of(VisitAnswer visit) =>
        new()
        {
            Id = visit.Id,
            Reference = visit.Reference,
            Version = visit.Version,
            LocationId = visit.LocationId,
            Date = visit.Date,
            Zone = visit.Zone,
            Start = visit.Start,
            End = visit.End,
            State = visit.State,
            Next = visit.Next,
            Source = visit.Source,
            IsFirst = visit.IsFirst,
            Client = visit.Client,
            Services = [.. visit.Lines.Select(line => line.Service)],
            Practitioners = [.. visit.Lines.SelectMany(line => line.Practitioners).DistinctBy(who => who.Id)],
            Rooms = [.. visit.Lines.SelectMany(line => line.Rooms).Distinct()],
            Price = visit.Price,
            Note = visit.Note,
            CancelReason = visit.CancelReason,
        };
}

/// <summary>Visits, one after another.</summary>
/// <param name="Visits">By time.</param>
/// <param name="IsCut">Whether there are more than are given.</param>
public sealed record AgendaAnswer(IReadOnlyList<AgendaRow> Visits, bool IsCut);

/// <summary>A visit of which a version was seen.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Version">The version.</param>
public sealed record SeenVisit(Guid Id, long Version);

/// <summary>Visits that are to stand somewhere.</summary>
/// <param name="Visits">Which, 200 at the most.</param>
/// <param name="State">The new state; cancelling has an address of its own.</param>
public sealed record StatesRequest(IReadOnlyList<SeenVisit> Visits, VisitState State);

/// <summary>What became of one of several visits.</summary>
/// <param name="Id">Which.</param>
/// <param name="IsDone">Whether it stands as it was to.</param>
/// <param name="Why">Why not, or null.</param>
public sealed record StatedAnswer(Guid Id, bool IsDone, string? Why);
