using Kingcup.Core.Availability;
using Kingcup.Core.Money;
using Kingcup.Core.Services;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Server.Booking;
using Kingcup.Storage;
using NodaTime;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Availability;

/// <summary>A line of a visit somebody asks about.</summary>
/// <param name="ServiceId">The service.</param>
/// <param name="PractitionerId">Who is to do it, or null for no preference.</param>
/// <param name="AddOns">What is added to it.</param>
/// <param name="Person">Who of those who come it is for, 0 or nothing for the client. Lines of one person follow each other, those of
/// others may lie beside them.</param>
/// <param name="OffsetMinutes">For the first line of a person: minutes after the start of the visit at which it begins.</param>
public record LineRequest(
    Guid ServiceId,
    Guid? PractitionerId = null,
    IReadOnlyList<AddOnRequest>? AddOns = null,
    int? Person = null,
    int? OffsetMinutes = null
);

/// <summary>A line as the desk asks about it, where more can be chosen by hand.</summary>
/// <param name="ServiceId">The service.</param>
/// <param name="PractitionerId">Who is to do it, or null for no preference.</param>
/// <param name="AddOns">What is added to it.</param>
/// <param name="Person">Who of those who come it is for, 0 or nothing for the client.</param>
/// <param name="OffsetMinutes">For the first line of a person: minutes after the start of the visit at which it begins.</param>
public sealed record DeskLineRequest(
    Guid ServiceId,
    Guid? PractitionerId = null,
    IReadOnlyList<AddOnRequest>? AddOns = null,
    int? Person = null,
    int? OffsetMinutes = null
) : LineRequest(ServiceId, PractitionerId, AddOns, Person, OffsetMinutes)
{
    /// <summary>The room it is to be in, or null for whichever fits.</summary>
    public Guid? RoomId { get; init; }

    /// <summary>Its length as it is set by hand, add-ons included, or null for what service, practitioner and add-ons say.</summary>
    public int? Minutes { get; init; }

    /// <summary>Whether the client has asked for the practitioner; where nothing is said, they have when one is named.</summary>
    public bool? Asked { get; init; }

    /// <summary>For a line of a visit that stands: which it is. One without is new.</summary>
    public Guid? Id { get; init; }

    /// <summary>What somebody else asks, who chooses neither room nor length.</summary>
    internal static IReadOnlyList<DeskLineRequest>? Of(IReadOnlyList<LineRequest>? lines) =>
        lines is null
            ? null
            :
            [
                .. lines.Select(line => new DeskLineRequest(
                    line.ServiceId,
                    line.PractitionerId,
                    line.AddOns,
                    line.Person,
                    line.OffsetMinutes
                )),
            ];
}

/// <summary>An add-on of a line.</summary>
/// <param name="AddOnId">The add-on.</param>
/// <param name="Count">How many; 1 when missing.</param>
public sealed record AddOnRequest(Guid AddOnId, int Count = 1);

/// <summary>A visit as somebody wants it, checked against the setup.</summary>
/// <param name="Wish">What the engine is asked.</param>
/// <param name="AddOns">For each line what is added to it.</param>
public sealed record WantedVisit(VisitWish Wish, IReadOnlyList<IReadOnlyList<LineAddOn>> AddOns)
{
    /// <summary>For each line what was chosen by hand.</summary>
    internal IReadOnlyList<LineChosen> Chosen =>
        [
            .. Wish.Lines.Select(
                (line, i) =>
                    new LineChosen(
                        line.PractitionerId is not null && Asked.ElementAtOrDefault(i) != false,
                        line.RoomId is not null,
                        line.SetMinutes
                    )
            ),
        ];

    /// <summary>For each line whether the client has asked for its practitioner, where that was said.</summary>
    internal IReadOnlyList<bool?> Asked { get; init; } = [];


    /// <summary>Checks the add-ons of a request and adds up their minutes.</summary>
    /// <exception cref="Refused">An add-on is unknown, does not go with the service, or is wanted too often.</exception>
    internal static WantedVisit Of(Setup setup, IReadOnlyList<LineRequest>? lines)
    {
        Checks checks = new();
        List<IReadOnlyList<LineAddOn>> all = [];
        foreach ((int i, LineRequest line) in (lines ?? []).Index())
        {
            List<(AddOn AddOn, int Count)> own = [];
            foreach ((int j, AddOnRequest wanted) in (line.AddOns ?? []).Index())
            {
                string field = $"lines[{i}].addOns[{j}]";
                AddOn? addOn = setup.AddOnOf(wanted.AddOnId);
                if (!checks.Require(addOn is not null, field + ".addOnId", "There is no such add-on."))
                    continue;
                checks.Require(
                    addOn!.Services.ContainsKey(line.ServiceId),
                    field + ".addOnId",
                    $"{addOn.Name} does not go with this service."
                );
                checks.Require(
                    wanted.Count >= 1 && wanted.Count <= addOn.Limit,
                    field + ".count",
                    $"{addOn.Name} can be added {Count(addOn.Limit, "time", "times")} at the most."
                );
                checks.Require(
                    own.All(other => other.AddOn.Id != wanted.AddOnId),
                    field + ".addOnId",
                    $"{addOn.Name} is there twice. Say how many instead."
                );
                own.Add((addOn, Math.Clamp(wanted.Count, 1, addOn.Limit)));
            }

            all.Add([
                .. own.Select(added => new LineAddOn
                {
                    AddOnId = added.AddOn.Id,
                    Count = (short)added.Count,
                    Minutes = added.AddOn.Minutes * added.Count,
                    Price = VisitPrice.PartOf(added.AddOn, added.Count).Amount,
                }),
            ]);
        }

        checks.Done();
        return new WantedVisit(
            new VisitWish([
                .. (lines ?? []).Select(
                    (line, i) =>
                        new LineWish(line.ServiceId, line.PractitionerId, all[i].Sum(added => added.Minutes))
                        {
                            Person = line.Person ?? 0,
                            OffsetMinutes = line.OffsetMinutes ?? 0,
                            RoomId = (line as DeskLineRequest)?.RoomId,
                            SetMinutes = (line as DeskLineRequest)?.Minutes,
                        }
                ),
            ]),
            all
        )
        {
            Asked = [.. (lines ?? []).Select(line => (line as DeskLineRequest)?.Asked)],
        };
    }
}

/// <summary>What narrows a search down for somebody who looks.</summary>
/// <param name="Part">Only starts in this part of the day: morning, afternoon or evening; any when missing.</param>
/// <param name="WithoutRooms">Rooms that are not to be used, 200 at the most.</param>
public sealed record NarrowRequest(string? Part = null, IReadOnlyList<Guid>? WithoutRooms = null)
{
    private static readonly NarrowRequest _nothing = new();

    /// <summary>What was asked for, checked; nothing where nothing was.</summary>
    internal static NarrowRequest Check(NarrowRequest? request)
    {
        Checks checks = new();
        checks.Require(request?.Part is null || request.PartOfDay is not null, "narrow.part", "Morning, afternoon or evening.");
        checks.Require(!(request?.WithoutRooms?.Count > 200), "narrow.withoutRooms", "200 at the most.");
        checks.Done();
        return request ?? _nothing;
    }

    internal VisitWish Of(VisitWish wish) => wish with { WithoutRooms = (WithoutRooms ?? []).ToHashSet() };

    internal DaySet Of(BookDay day) => PartOfDay is { } part ? FullnessMap.Of(day, part) : DaySet.Full;

    private DayPart? PartOfDay =>
        Enum.TryParse(Part, ignoreCase: true, out DayPart part) && Enum.IsDefined(part) && !int.TryParse(Part, out _) ? part : null;
}

/// <summary>A question for starts.</summary>
/// <param name="LocationId">Where.</param>
/// <param name="Lines">What is wanted, in order.</param>
/// <param name="From">The first local date; today when missing.</param>
/// <param name="Days">How many days, 1 to 62; 1 when missing.</param>
/// <param name="VisitId">A visit that would be moved: its own time counts as free.</param>
/// <param name="Narrow">What narrows it down.</param>
public sealed record StartsRequest(
    Guid LocationId,
    IReadOnlyList<DeskLineRequest>? Lines,
    LocalDate? From = null,
    int? Days = null,
    Guid? VisitId = null,
    NarrowRequest? Narrow = null
);

/// <summary>A question for what glows while something is carried.</summary>
/// <param name="LocationId">Where.</param>
/// <param name="Lines">What is carried, in order.</param>
/// <param name="From">The first local date; today when missing.</param>
/// <param name="Days">How many days, 1 to 62; 1 when missing.</param>
/// <param name="VisitId">A visit that would be moved: its own time counts as free.</param>
/// <param name="Narrow">What narrows it down.</param>
/// <param name="AnyLead">Whether others may take its first line in their lanes, although it names who leads it.</param>
public sealed record LightsRequest(
    Guid LocationId,
    IReadOnlyList<DeskLineRequest>? Lines,
    LocalDate? From = null,
    int? Days = null,
    Guid? VisitId = null,
    NarrowRequest? Narrow = null,
    bool? AnyLead = null
);

/// <summary>What glows.</summary>
/// <param name="Days">Day by day.</param>
/// <param name="Minutes">How long what is carried usually takes, waits left out.</param>
/// <param name="Price">What it costs at the least.</param>
/// <param name="IsFrom">Whether it may cost more, depending on who does it.</param>
public sealed record LightsAnswer(IReadOnlyList<DayLights> Days, int Minutes, MoneyAnswer Price, bool IsFrom);

/// <summary>What glows on a day.</summary>
/// <param name="Date">The local date.</param>
/// <param name="Lanes">Practitioners and rooms in whose lanes something fits.</param>
public sealed record DayLights(LocalDate Date, IReadOnlyList<LaneLights> Lanes);

/// <summary>What glows in a lane.</summary>
/// <param name="ResourceId">The practitioner or room.</param>
/// <param name="Ranges">The ranges in which it may begin, by time.</param>
public sealed record LaneLights(Guid ResourceId, IReadOnlyList<LightRangeAnswer> Ranges);

/// <summary>Starts, 5 minutes apart, at which the visit would lie the same way.</summary>
public sealed record LightRangeAnswer
{
    /// <summary>The first of them.</summary>
    public required Instant First { get; init; }

    /// <summary>The last.</summary>
    public required Instant Last { get; init; }

    /// <summary>How long the visit takes, in minutes.</summary>
    public required int Minutes { get; init; }

    /// <summary>Who would do the first line.</summary>
    public required Guid PractitionerId { get; init; }

    /// <summary>Their name, and those of the others.</summary>
    public required string Practitioner { get; init; }

    /// <summary>Rooms that would be used.</summary>
    public required IReadOnlyList<string> Rooms { get; init; }

    /// <summary>What it would cost.</summary>
    public required MoneyAnswer Price { get; init; }

    /// <summary>What it would hold.</summary>
    public required IReadOnlyList<LightClaim> Claims { get; init; }
}

/// <summary>What a carried visit would hold of something; all times in minutes from its start.</summary>
/// <param name="Line">Index of the line.</param>
/// <param name="ResourceId">The lane.</param>
/// <param name="Unit">The unit within it.</param>
/// <param name="From">Beginning, buffer included.</param>
/// <param name="Until">End, buffer or turnaround included.</param>
/// <param name="CoreFrom">Beginning without buffer.</param>
/// <param name="CoreUntil">End without buffer and turnaround.</param>
public sealed record LightClaim(int Line, Guid ResourceId, int Unit, int From, int Until, int CoreFrom, int CoreUntil);

/// <summary>A start that fits.</summary>
public sealed record StartAnswer
{
    /// <summary>The instant.</summary>
    public required Instant Start { get; init; }

    /// <summary>When the visit would end.</summary>
    public required Instant End { get; init; }

    /// <summary>Local time of the start, HH:mm.</summary>
    public required string Clock { get; init; }

    /// <summary>Who would do the first line.</summary>
    public required Guid PractitionerId { get; init; }

    /// <summary>Their name.</summary>
    public required string Practitioner { get; init; }

    /// <summary>Rooms that would be used.</summary>
    public required IReadOnlyList<string> Rooms { get; init; }

    /// <summary>What it would cost.</summary>
    public required MoneyAnswer Price { get; init; }

    /// <summary>Whether it lies on the start grid clients are offered.</summary>
    public required bool OnGrid { get; init; }

    /// <summary>Whether it lies outside the opening hours.</summary>
    public required bool OutsideOpening { get; init; }
}

/// <summary>The starts of a day.</summary>
/// <param name="Date">The local date.</param>
/// <param name="Starts">Those that fit, by time.</param>
public sealed record StartDay(LocalDate Date, IReadOnlyList<StartAnswer> Starts);

/// <summary>The starts a client is offered on each of some days.</summary>
/// <param name="House">The location.</param>
/// <param name="Audience">Who asked.</param>
/// <param name="Now">When.</param>
/// <param name="Days">The days.</param>
/// <param name="Starts">What is offered on each of them.</param>
/// <param name="Finder">What is looked for.</param>
public sealed record OfferedDays(
    House House,
    Audience Audience,
    Instant Now,
    IReadOnlyList<DayBook> Days,
    IReadOnlyList<OfferedStarts> Starts,
    StartFinder Finder
)
{
    /// <summary>The same for another client, from the same days.</summary>
    internal OfferedStarts[] To(Audience other) => Finder.OfferedInOrder(Days, other, Now);
}

/// <summary>A question why a start does not fit.</summary>
/// <param name="LocationId">Where.</param>
/// <param name="Lines">What is wanted.</param>
/// <param name="Start">The start.</param>
/// <param name="VisitId">A visit that would be moved.</param>
/// <param name="AsClient">Whether to ask as a client would book online; otherwise as staff.</param>
/// <param name="ClientId">Whom it is for, so that staff are told of what this client lacks; null when that is open.</param>
public sealed record WhyNotRequest(
    Guid LocationId,
    IReadOnlyList<DeskLineRequest>? Lines,
    Instant Start,
    Guid? VisitId = null,
    bool AsClient = false,
    Guid? ClientId = null
);

/// <summary>Why a start does not fit.</summary>
/// <param name="Fits">Whether it does after all.</param>
/// <param name="Reasons">Every reason, in the order of the gates.</param>
/// <param name="Anyway">How whoever asks may book it all the same, or null.</param>
public sealed record WhyNotAnswer(bool Fits, IReadOnlyList<ReasonText> Reasons, AnywayAnswer? Anyway = null);
