using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using Kingcup.Core.Calendar;
using Kingcup.Core.Rooms;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Tests.Reference;

/// <summary>
/// A world from which what a reason names is taken away, as its owner would: the setting changed, the block lifted, the visit moved
/// elsewhere. Nothing else is touched.
/// </summary>
public sealed class TakenAway(World world)
{
    private static readonly Stretch _allDay = new(LocalTime.Midnight, LocalTime.Midnight);
    private readonly List<Practitioner> _people = [.. world.House.Practitioners];
    private readonly List<Room> _rooms = [.. world.House.Rooms];
    private readonly List<EquipmentPool> _pools = [.. world.House.Pools];
    private readonly List<Service> _services = [.. world.House.Services.Values];
    private readonly List<TakenTime> _taken = [.. world.Taken];
    private readonly List<BlockedTime> _once = [.. world.Dated.Blocks.Once];
    private readonly List<RepeatingBlock> _repeating = [.. world.Dated.Blocks.Repeating];
    private readonly List<Closure> _closures = [.. world.Dated.Closures];
    private readonly List<OnlineStop> _stops = [.. world.Dated.Stops];
    private readonly List<ShiftChange> _changes = [.. world.Dated.Changes];
    private readonly HashSet<Guid> _always = [];
    private Location _location = world.House.Location;
    private OnlineRules _category = world.CategoryRules;
    private Audience _audience = world.Audience;
    private bool _business = world.House.BusinessIsOnline;

    /// <summary>The world as it is then.</summary>
    public World World =>
        new(
            new House(
                _location,
                _people,
                _rooms,
                _pools,
                _services,
                Rotas(),
                Worlds.Travel,
                [
                    new Category
                    {
                        Id = Worlds.Id(50),
                        Name = "C0",
                        Online = _category,
                    },
                ]
            )
            {
                BusinessIsOnline = _business,
            },
            world.Date,
            new DatedCalendar(_changes, _closures, _stops, new BlockCalendar(_once, _repeating)),
            _taken,
            world.Wish,
            _audience
        )
        {
            CategoryRules = _category,
        };

    /// <summary>Takes away what a reason names. False for what nobody can take away.</summary>
    public bool Take(Reason reason)
    {
        switch (reason.Code)
        {
            case ReasonCode.BusinessNotOnline:
                _business = true;
                break;
            case ReasonCode.LocationNotOnline:
                _location = _location with { BookableOnline = true };
                break;
            case ReasonCode.LocationNoNewClients:
                _location = _location with { AcceptsNewClients = true };
                break;
            case ReasonCode.ClientNotOnline:
                _audience = _audience with { MayBookOnline = true };
                break;
            case ReasonCode.TooManyNoShows:
                _location = _location with { NoShowLimit = null };
                break;
            case ReasonCode.PractitionerNotOnline:
                Person(reason, person => person with { BookableOnline = true });
                break;
            case ReasonCode.NoNewClients:
                Person(reason, person => person with { AcceptsNewClients = true });
                Services(service => service with { Terms = TermsOf(service, reason, terms => terms with { AcceptsNewClients = true }) });
                break;
            case ReasonCode.ServiceNotOnline:
                Service(reason, service => service with { Visibility = Visibility.Everyone });
                break;
            case ReasonCode.ServiceArchived:
                Service(reason, service => service with { IsArchived = false });
                break;
            case ReasonCode.ServiceForGroups:
                Service(reason, service => service with { Kind = ServiceKind.OneToOne });
                break;
            case ReasonCode.OnlyNewClients or ReasonCode.OnlyReturningClients:
                Service(reason, service => service with { For = ClientKind.Everyone });
                break;
            case ReasonCode.ServiceNotHere:
                Service(reason, service => service with { Locations = new HashSet<Guid>() });
                break;
            case ReasonCode.PrerequisiteMissing:
                Service(reason, service => service with { Prerequisite = null });
                break;
            case ReasonCode.TooSoon:
                Rule(reason, own => own with { LeadMinutes = 0, NewLeadMinutes = 0 });
                break;
            case ReasonCode.TooFarAhead:
                Rule(reason, own => own with { HorizonDays = 30, NewHorizonDays = 30 });
                break;
            case ReasonCode.OffGrid:
                // A grid taken away leaves every minute; whatever other places say of the minutes of theirs rested until now.
                Rule(reason, own => own with { Grid = StartGrid.EveryMinutes });
                _location = _location with { Online = _location.Online with { EveryMinutes = 5 } };
                _category = _category with { EveryMinutes = null };
                Services(service => service with { Online = service.Online with { EveryMinutes = null } });
                break;
            case ReasonCode.LeavesGap:
                Rule(reason, own => own with { Gap = GapRule.Off });
                break;
            case ReasonCode.NotThatWeekday:
                Service(reason, service => service with { Weekdays = new HashSet<IsoDayOfWeek>() });
                break;
            case ReasonCode.OutOfSeason:
                Service(reason, service => service with { Season = null });
                break;
            case ReasonCode.StoppedOnline:
                _stops.Clear();
                break;
            case ReasonCode.LocationClosed:
                _closures.Clear();
                break;
            case ReasonCode.OutsideOpeningHours:
                _location = _location with
                {
                    Opening = [.. Enumerable.Range(1, 7).Select(day => new OpeningHours((IsoDayOfWeek)day, _allDay))],
                };
                break;
            case ReasonCode.NotQualified or ReasonCode.QualificationEnded:
                Person(
                    reason,
                    person => person with { Qualifications = [new HeldQualification(Worlds.Id(3), world.Date.PlusDays(-9), null)] }
                );
                break;
            case ReasonCode.NotChosenForService:
                Services(service => service with { Roles = [.. service.Roles.Select(rule => With(rule, reason))] });
                break;
            case ReasonCode.OwnLength:
                Services(service => service with { Terms = TermsOf(service, reason, terms => terms with { Minutes = null }) });
                break;
            case ReasonCode.OffShift or ReasonCode.ShiftKept or ReasonCode.PractitionerElsewhere or ReasonCode.OnBreak:
                _always.Add(reason.SubjectId!.Value);
                _changes.RemoveAll(change => change.PractitionerId == reason.SubjectId);
                break;
            case ReasonCode.PractitionerRetired:
                Person(reason, person => person with { Retired = null });
                break;
            case ReasonCode.DailyLimit:
                Person(reason, person => person with { Limits = new DailyLimits() });
                break;
            case ReasonCode.PractitionerAway or ReasonCode.PractitionerBlocked or ReasonCode.RoomBlocked:
                Unblock(reason);
                break;
            case ReasonCode.PractitionerTaken or ReasonCode.TravelTooShort or ReasonCode.RoomTaken or ReasonCode.EquipmentTaken:
                if (reason.From is null)
                    return false;
                Unblock(reason);
                _taken.RemoveAll(taken =>
                    taken.ResourceId == reason.SubjectId && taken.During.Start == reason.From && taken.During.End == reason.Until
                );
                break;
            case ReasonCode.NoSuchRoom:
                Service(reason, service => service with { Room = null });
                break;
            case ReasonCode.RoomRetired:
                Change(_rooms, room => room.Id == reason.SubjectId, room => room with { Retired = null });
                break;
            case ReasonCode.EquipmentRetired:
                Change(
                    _pools,
                    pool => pool.Id == reason.SubjectId,
                    pool => pool with { Retired = null, Quantity = Math.Max(9, pool.Quantity) }
                );
                break;
            // Where nobody may do it there is nobody whose time could be named; and what has no combination has nothing to take.
            default:
                return false;
        }

        return true;
    }

    private RotaCalendar Rotas() =>
        new(
            world.House.Practitioners.SelectMany(person =>
                _always.Contains(person.Id)
                    ?
                    [
                        new Rota(
                            person.Id,
                            world.Date.PlusDays(-30),
                            1,
                            [
                                .. Enumerable
                                    .Range(1, 7)
                                    .Select(day => new RotaShift(0, (IsoDayOfWeek)day, new Shift(_location.Id, _allDay, []))),
                            ]
                        ),
                    ]
                    : world.House.Rotas.Of(person.Id)
            )
        );

    private static void Change<T>(List<T> list, Func<T, bool> which, Func<T, T> change)
    {
        for (int i = 0; i < list.Count; i++)
            if (which(list[i]))
                list[i] = change(list[i]);
    }

    private void Person(Reason reason, Func<Practitioner, Practitioner> change) =>
        Change(_people, person => person.Id == reason.SubjectId, change);

    private void Service(Reason reason, Func<Service, Service> change) =>
        Change(_services, service => service.Id == reason.SubjectId, change);

    private void Services(Func<Service, Service> change) => Change(_services, _ => true, change);

    /// <summary>Changes the rules of the place a reason names.</summary>
    private void Rule(Reason reason, Func<OnlineRules, OnlineRules> change)
    {
        switch (reason.OwnerKind)
        {
            case OwnerKind.Service:
                Change(_services, service => service.Id == reason.OwnerId, service => service with { Online = change(service.Online) });
                break;
            case OwnerKind.Category:
                _category = change(_category);
                break;
            case OwnerKind.Client:
                _audience = _audience with { Own = change(_audience.Own ?? new OnlineRules()) };
                break;
            default:
                _location = _location with { Online = change(_location.Online) };
                break;
        }
    }

    private void Unblock(Reason reason)
    {
        _once.RemoveAll(block =>
            block.ResourceId == reason.SubjectId && block.During.Start == reason.From && block.During.End == reason.Until
        );
        _repeating.RemoveAll(block => block.ResourceId == reason.SubjectId && block.Reason == reason.Value);
    }

    private static StaffRule With(StaffRule rule, Reason reason) =>
        rule with
        {
            Added = rule.Added.Append(reason.SubjectId!.Value).ToHashSet(),
            Excluded = rule.Excluded.Where(id => id != reason.SubjectId).ToHashSet(),
        };

    private static Dictionary<Guid, PractitionerTerms> TermsOf(
        Service service,
        Reason reason,
        Func<PractitionerTerms, PractitionerTerms> change
    ) => service.Terms.ToDictionary(pair => pair.Key, pair => pair.Key == reason.SubjectId ? change(pair.Value) : pair.Value);
}
