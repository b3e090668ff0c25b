using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Server.Rooms;
using Kingcup.Server.Services;
using Kingcup.Server.Team;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Kingcup.Server.Business;

/// <summary>Begins a business, or tries it.</summary>
internal sealed class Beginner(SetupDesk desk, BookReader book, IClock clock)
{
    private const int DaysTried = 14,
        Most = 60;

    internal async Task<Ok<BegunAnswer>> RunAsync(BeginRequest request, HttpContext http, bool keep) =>
        TypedResults.Ok(
            await desk.ChangeAsync(
                new Change(http.Actor().Name, clock.GetCurrentInstant()),
                null,
                async change =>
                {
                    Guid place = await MakeAsync(change, request, keep);
                    return await FoundAsync(change, place);
                },
                _ => keep
            )
        );

    private async Task<Guid> MakeAsync(SetupChange change, BeginRequest request, bool keep)
    {
        if (change.Setup.Locations.Count > 0 || change.Setup.Parts.Practitioners.Any() || change.Setup.Parts.Services.Any())
            throw new Refused(
                StatusCodes.Status409Conflict,
                "begun",
                "This business has begun already. Go on in its setup, on the same screens."
            );
        Bounds(request);
        Setup setup = await BusinessAsync(change, request, keep);
        Guid place = await PlaceAsync(change, request);
        setup = await SetupReader.ReadAsync(change.Connection);
        await RoomsAsync(change, setup, request, place);
        Dictionary<string, Guid> qualifications = await QualificationsAsync(change, request);
        await PeopleAsync(change, setup, request, qualifications, place);
        Dictionary<string, Guid> categories = await CategoriesAsync(change, request);
        setup = await SetupReader.ReadAsync(change.Connection);
        await ServicesAsync(change, setup, request, categories, qualifications);
        if (keep) await change.RecordAsync("business", Guid.Empty, "Begun", null, request);
        return place;
    }

    /// <summary>Nothing that is too long is even looked at; names that are referred to have to be there.</summary>
    private static void Bounds(BeginRequest request)
    {
        Checks checks = new();
        checks.Require(request.People is { Count: > 0 and <= Most }, "people", $"Name 1 to {Most} people who work here.");
        checks.Require(request.Services is { Count: > 0 and <= Most }, "services", $"Name 1 to {Most} services.");
        checks.Require(request.Opening is { Count: > 0 and <= 42 }, "opening", "Say when you are open, on one day at least.");
        checks.Require((request.Rooms?.Count ?? 0) <= Most, "rooms", $"{Most} rooms at the most.");
        checks.Require((request.Qualifications?.Count ?? 0) <= Most, "qualifications", $"{Most} qualifications at the most.");
        checks.Require(
            request.TaxBasisPoints is null or (>= 0 and <= 10000),
            "taxBasisPoints",
            "A tax rate lies between 0 and 100 percent."
        );
        HashSet<string> known = [.. Names(request.Qualifications)];
        checks.Require(
            known.Count == (request.Qualifications?.Count ?? 0),
            "qualifications",
            "Every qualification has a name of its own."
        );
        foreach ((int i, BeginPerson person) in (request.People ?? []).Index())
            checks.Require(
                Names(person.Holds).All(known.Contains),
                $"people[{i}].holds",
                "They can only hold qualifications that are named."
            );
        foreach ((int i, BeginService service) in (request.Services ?? []).Index())
        {
            checks.Require(
                service.Qualification is null || known.Contains(service.Qualification.Trim()),
                $"services[{i}].qualification",
                "Choose one of the qualifications that are named."
            );
            checks.Name(service.Category, $"services[{i}].category", "Enter the category.");
        }

        checks.Done();
    }

    private static async Task<Setup> BusinessAsync(SetupChange change, BeginRequest request, bool keep)
    {
        Checks checks = new();
        BusinessDocument wanted = BusinessDocument.Of(change.Setup) with
        {
            Name = request.Name,
            Currency = request.Currency,
            Locale = request.Locale,
            Region = request.Region,
            GuideFinished = keep,
        };
        BusinessRow row = wanted.Check(checks, change.Setup.Business.IsDemo);
        checks.Done();
        await change.Writer.SaveAsync(row);
        if (request.TaxBasisPoints is { } rate)
            await change.Writer.SaveAsync(new TaxRate(Guid.CreateVersion7(), "Standard", rate, 1));
        return await SetupReader.ReadAsync(change.Connection);
    }

    private static async Task<Guid> PlaceAsync(SetupChange change, BeginRequest request)
    {
        Checks checks = new();
        ListedLocation place = new LocationDocument
        {
            Id = null,
            Name = string.IsNullOrWhiteSpace(request.Place) ? request.Name : request.Place,
            Zone = request.Zone,
            Address = request.Address,
            Phone = null,
            Opening = request.Opening,
            BookableOnline = true,
            AcceptsNewClients = true,
            LongestWaitMinutes = 0,
            NoShowLimit = null,
            Online = request.Online,
        }.Check(checks, Guid.CreateVersion7(), 0);
        checks.Done();
        await change.Writer.SaveAsync(place);
        return place.Location.Id;
    }

    private static async Task RoomsAsync(SetupChange change, Setup setup, BeginRequest request, Guid place)
    {
        Gathered checks = new();
        foreach ((int i, BeginRoom room) in (request.Rooms ?? []).Index())
        {
            ListedRoom made = checks.At(
                $"rooms[{i}].",
                found =>
                    new RoomDocument
                    {
                        Id = null,
                        Name = room.Name,
                        LocationId = place,
                        Capacity = 1,
                        TurnaroundMinutes = 0,
                        Features = room.Features,
                        Retired = null,
                    }.Check(found, setup, Guid.CreateVersion7(), i + 1)
            );
            if (checks.AreFine) await change.Writer.SaveAsync(made);
        }

        checks.Done();
    }

    private static async Task<Dictionary<string, Guid>> QualificationsAsync(SetupChange change, BeginRequest request)
    {
        Dictionary<string, Guid> made = [];
        foreach (string name in Names(request.Qualifications))
        {
            Checks checks = new();
            checks.Name(name, "qualifications", "Enter the name of the qualification.");
            checks.Done();
            made[name] = Guid.CreateVersion7();
            await change.Writer.SaveAsync(new Qualification(made[name], name, 30));
        }

        return made;
    }

    /// <summary>Everybody, with what they hold and a rota that follows the opening hours from today on.</summary>
    private async Task PeopleAsync(
        SetupChange change,
        Setup setup,
        BeginRequest request,
        Dictionary<string, Guid> qualifications,
        Guid place
    )
    {
        LocalDate today = clock.GetCurrentInstant().InZone(setup.HouseOf(place)!.Location.Zone).Date;
        Gathered checks = new();
        foreach ((int i, BeginPerson person) in request.People!.Index())
        {
            Guid id = Guid.CreateVersion7();
            ListedPractitioner made = checks.At($"people[{i}].", found => Person(person, i).Check(found, setup, id, i + 1, null));
            IReadOnlyList<Weekday> days = person.Weekdays ?? [];
            IEnumerable<HoursDocument> hours = request.Opening!.Where(open => days.Count == 0 || days.Contains(open.Weekday));
            Rota rota = checks.At(
                $"people[{i}].",
                found =>
                    new RotaDocument(
                        today,
                        1,
                        [
                            .. hours.Select(open => new RotaShiftDocument(
                                0,
                                open.Weekday,
                                new ShiftDocument(place, open.From, open.Until)
                            )),
                        ]
                    ).Check(found, setup, id)
            );
            if (!checks.AreFine) continue;
            HeldQualification[] held =
            [
                .. Names(person.Holds).Select(name => new HeldQualification(qualifications[name], today, null)),
            ];
            await change.Writer.SaveAsync(made with { Practitioner = made.Practitioner with { Qualifications = held } });
            await change.Writer.SaveAsync(rota);
        }

        checks.Done();
    }

    private static PractitionerDocument Person(BeginPerson person, int place) =>
        new()
        {
            Id = null,
            Name = person.Name,
            Bio = "",
            Phone = null,
            Email = null,
            Languages = [],
            Tint = place % 12,
            PhotoId = null,
            BookableOnline = true,
            AcceptsNewClients = true,
            MostAppointments = null,
            MostMinutes = null,
            MostPerCategory = [],
            Retired = null,
        };

    private static async Task<Dictionary<string, Guid>> CategoriesAsync(SetupChange change, BeginRequest request)
    {
        Dictionary<string, Guid> made = [];
        foreach (string name in Names(request.Services!.Select(service => service.Category ?? "")))
        {
            made[name] = Guid.CreateVersion7();
            await change.Writer.SaveAsync(new CategoryDocument(null, name).Check(new Checks(), made[name], made.Count));
        }

        return made;
    }

    private static async Task ServicesAsync(
        SetupChange change,
        Setup setup,
        BeginRequest request,
        Dictionary<string, Guid> categories,
        Dictionary<string, Guid> qualifications
    )
    {
        Gathered checks = new();
        Guid? rate = setup.Parts.TaxRates is [{ } first, ..] ? first.Id : null;
        Guid[] everybody = [.. setup.Practitioners.Select(practitioner => practitioner.Id)];
        foreach ((int i, BeginService service) in request.Services!.Index())
        {
            ServiceDocument document = Document(service, categories[service.Category!.Trim()], qualifications, everybody, rate);
            ListedService made = checks.At(
                $"services[{i}].",
                found => document.Check(found, setup, Guid.CreateVersion7(), i + 1, null)
            );
            if (checks.AreFine) await change.Writer.SaveAsync(made, change.Change.At);
        }

        checks.Done();
    }

    private static ServiceDocument Document(
        BeginService service,
        Guid category,
        Dictionary<string, Guid> qualifications,
        IReadOnlyList<Guid> everybody,
        Guid? rate
    ) =>
        new()
        {
            Id = null,
            Name = service.Name,
            CategoryId = category,
            Kind = ServiceKind.OneToOne,
            Seats = 1,
            Phases = [new PhaseDocument(service.Minutes, [0])],
            Roles =
            [
                new RoleDocument(
                    "Practitioner",
                    service.Qualification is { } held ? [qualifications[held.Trim()]] : [],
                    // Nobody needs to hold anything for it, so everybody does it.
                    service.Qualification is null ? everybody : [],
                    []
                ),
            ],
            Room = new RoomRuleDocument(string.IsNullOrWhiteSpace(service.Feature) ? [] : [service.Feature.Trim()]),
            BufferBeforeMinutes = 0,
            BufferAfterMinutes = service.BufferMinutes,
            BufferAlways = false,
            PriceForm = PriceForm.Fixed,
            Price = service.Price,
            TaxRateId = rate,
            Terms = [],
            Visibility = Visibility.Everyone,
            For = ClientKind.Everyone,
            Online = null,
            SetTimes = [],
            Prerequisite = null,
            Weekdays = [],
            Season = null,
            LocationIds = [],
            Description = "",
            OnlineName = null,
            OnlineMinutes = null,
            PictureId = null,
            ReturnDays = null,
        };

    /// <summary>What a new client would find in the next days.</summary>
    private async Task<BegunAnswer> FoundAsync(SetupChange change, Guid place)
    {
        Setup setup = await SetupReader.ReadAsync(change.Connection);
        House house = setup.HouseOf(place)!;
        Instant now = clock.GetCurrentInstant();
        LocalDate today = now.InZone(house.Location.Zone).Date;
        IReadOnlyList<DayBook> days = await book.DaysAsync(change.Connection, setup, house, today, DaysTried);
        Audience stranger = new() { IsNew = true };
        List<BegunService> found = [];
        foreach (ListedService listed in setup.Parts.Services)
        {
            Service service = listed.Service;
            StartFinder finder = new(house, VisitWish.Of(service.Id));
            (DayBook Day, int Start)? first = null;
            foreach (DayBook day in days)
            {
                DaySet starts = finder.Offered(day, stranger, now);
                if (starts.IsEmpty) continue;
                first = (day, starts.First());
                break;
            }

            found.Add(
                new BegunService(
                    service.Name,
                    new MoneyAnswer(service.Price, setup.Business.Currency),
                    first?.Day.Day.Date,
                    first is { } at ? ClockText.Of(at.Day, at.Start) : null,
                    first is null ? ReasonWords.Of(Readiness.Closest(finder, days, now, _ => stranger), house) : []
                )
            );
        }

        return new BegunAnswer(today, found);
    }

    private static IEnumerable<string> Names(IEnumerable<string>? names) =>
        (names ?? []).Select(name => name.Trim()).Where(name => name.Length > 0).Distinct();

    /// <summary>Gathers what is wrong with the parts of a request, each under its own address.</summary>
    private sealed class Gathered
    {
        private readonly Checks _all = new();

        internal bool AreFine => _all.Found.Count == 0;

        internal T At<T>(string address, Func<Checks, T> check)
        {
            Checks found = new();
            T made = check(found);
            foreach ((string field, Sentence message) in found.Found) _all.Require(false, address + field, message);
            return made;
        }

        internal void Done() => _all.Done();
    }
}
