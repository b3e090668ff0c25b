using Kingcup.Core.Business;
using Kingcup.Core.Services;
using Kingcup.Storage;
using NodaTime;

namespace Kingcup.Demo;

/// <summary>The services of the demo business.</summary>
internal sealed class DemoServices(DemoBusiness business)
{
    internal static readonly string[] Categories = ["Massage", "Physiotherapy", "Skin", "Laser", "Feet", "Baths & groups", "Mind & food"];

    private readonly List<ListedService> _all = [];

    internal IReadOnlyList<ListedService> All()
    {
        Massage();
        Physiotherapy();
        Skin();
        Laser();
        Feet();
        Baths();
        MindAndFood();
        return _all;
    }

    /// <summary>Extras, and what they go with.</summary>
    internal static IEnumerable<ListedAddOn> AddOns()
    {
        Dictionary<Guid, bool> With(params string[] names) =>
            names.ToDictionary(name => DemoBusiness.Id("service " + name), name => name == names[0]);
        AddOn Extra(string name, int minutes, long price, int order, int limit, Dictionary<Guid, bool> with) =>
            new()
            {
                Id = DemoBusiness.Id("add-on " + name),
                Name = name,
                Minutes = minutes,
                Price = price,
                Order = order,
                Limit = limit,
                Services = with,
            };
        yield return new ListedAddOn(
            Extra("Hot oil", 0, 950, 0, 1, With("Deep tissue 60", "Deep tissue 90", "Back and shoulders 30", "Prenatal 60"))
        )
        {
            Words = "Warmed before you come. Hands go deeper and hurt less.",
        };
        yield return new ListedAddOn(Extra("Scalp massage", 10, 1200, 1, 1, With("Deep tissue 60", "Deep tissue 90", "Facial 50")));
        yield return new ListedAddOn(Extra("Eye mask", 5, 600, 2, 1, With("Facial 50", "Express facial 30", "Marsh clay facial 75")))
        {
            Words = "Five cool minutes in the dark, for eyes that look at screens.",
        };
        yield return new ListedAddOn(Extra("Needle set to take home", 0, 400, 3, 3, With("Acupuncture 45")));
    }

    private void Massage()
    {
        Dictionary<Guid, PractitionerTerms> Ines(long price) => new() { [DemoBusiness.Person("Ines")] = new(Price: price) };
        Add(
            0,
            "Deep tissue 60",
            8400,
            "Firm and slow, for backs that have carried too much.",
            [Attended(60)],
            ["Massage"],
            "couch",
            15,
            service => service with { Terms = Ines(9200) }
        );
        Add(
            0,
            "Deep tissue 90",
            11800,
            "The same with time for everything.",
            [Attended(90)],
            ["Massage"],
            "couch",
            15,
            service => service with { Terms = Ines(12800) }
        );
        Add(0, "Back and shoulders 30", 4800, "Half an hour for the desk-bound.", [Attended(30)], ["Massage"], "couch", 10);
        Add(
            0,
            "Hot stones 75",
            10200,
            "Warm basalt, long strokes.",
            [new Phase(75, [0], [Need("Stone heater")])],
            ["Massage", "Hot stones"],
            "couch",
            15
        );
        Add(0, "Prenatal 60", 8600, "From the fourth month.", [Attended(60)], ["Massage", "Prenatal massage"], "couch", 15);
        Add(0, "Lymph drainage 50", 7600, "Light, rhythmic, after operations too.", [Attended(50)], ["Lymph drainage"], "couch", 10);
        Add(
            0,
            "Duo massage 60",
            16500,
            "Two couches, two therapists, one hour.",
            [new Phase(60, [0, 1], [])],
            ["Massage"],
            "duo",
            15,
            service =>
                service with
                {
                    Room = new RoomRule(new HashSet<string> { "couch", "duo" }, 2),
                    Roles = [Role("First therapist", "Massage"), Role("Second therapist", "Massage")],
                }
        );
    }

    private void Physiotherapy()
    {
        Add(
            1,
            "Physio first visit 60",
            9500,
            "Findings, plan, first treatment.",
            [Attended(60)],
            ["Registered physiotherapist"],
            "couch",
            10
        );
        Add(1, "Physio follow-up 30", 5800, "The next step of your plan.", [Attended(30)], ["Registered physiotherapist"], "couch", 10);
        Add(
            1,
            "Shockwave 20",
            6500,
            "For stubborn tendons.",
            [new Phase(20, [0], [Need("Shockwave unit")])],
            ["Registered physiotherapist"],
            "couch",
            5
        );
    }

    private void Skin()
    {
        Add(2, "Express facial 30", 5200, "Cleanse, mask, moisture.", [Attended(30)], ["Skin care"], "couch", 5);
        Add(2, "Facial 50", 7400, "The classic.", [Attended(50)], ["Skin care"], "couch", 5);
        Add(
            2,
            "Marsh clay facial 75",
            9800,
            "Clay from the lake shore, under the steam hood.",
            [Attended(20), new Phase(20, [], [Need("Steam hood")]), Attended(35)],
            ["Skin care"],
            "couch",
            10
        );
        Add(
            2,
            "Peel with lamp",
            8900,
            "Fruit acid, then light; you rest while it works.",
            [Attended(20), new Phase(25, [], []), Attended(15)],
            ["Skin care", "Peels"],
            "couch",
            5
        );
        Add(2, "Brow shape 15", 1800, "", [Attended(15)], ["Skin care"], "couch", 5);
    }

    private void Laser()
    {
        Prerequisite patch = new(DemoBusiness.Id("service Laser patch test 15"), 48, 180);
        Phase Shot(int minutes, params int[] roles) => new(minutes, roles, [Need("Laser handpiece")]);
        Add(
            3,
            "Laser patch test 15",
            0,
            "Needed two days before your first laser visit.",
            [Shot(15, 0)],
            ["Laser safety"],
            "laser-safe",
            5
        );
        Add(
            3,
            "Laser small area 20",
            7500,
            "",
            [Shot(20, 0)],
            ["Laser safety"],
            "laser-safe",
            5,
            service => service with { Prerequisite = patch }
        );
        Add(
            3,
            "Laser legs 60",
            18900,
            "",
            [Shot(60, 0)],
            ["Laser safety"],
            "laser-safe",
            10,
            service => service with { Prerequisite = patch }
        );
        Add(
            3,
            "Laser small area 30 with trainee",
            5200,
            "By our trainee, with their supervisor beside them.",
            [Shot(30, 0, 1)],
            ["Laser trainee"],
            "laser-safe",
            5,
            service => service with { Prerequisite = patch, Roles = [Role("Trainee", "Laser trainee"), Role("Supervisor", "Laser safety")] }
        );
    }

    private void Feet()
    {
        Add(
            4,
            "Podiatry 40",
            6200,
            "Nails, skin, pressure.",
            [new Phase(40, [0], [Need("Podiatry drill")])],
            ["Podiatry"],
            "podiatry chair",
            5
        );
        Add(
            4,
            "Nail surgery 60",
            24000,
            "Under local anaesthetic.",
            [Attended(60)],
            ["Podiatry", "Nail surgery"],
            "podiatry chair",
            10,
            service =>
                service with
                {
                    Terms = new Dictionary<Guid, PractitionerTerms> { [DemoBusiness.Person("Rafe")] = new(AcceptsNewClients: false) },
                }
        );
        Add(4, "Foot care 30", 4600, "", [Attended(30)], ["Podiatry"], "podiatry chair", 5);
    }

    private void Baths()
    {
        Add(
            5,
            "Steam cabin 30",
            2600,
            "We show you in; the rest is yours.",
            [Attended(5), new Phase(25, [], [])],
            ["Pool safety"],
            "wet",
            0
        );
        Add(5, "Float 60", 6800, "Warm, salty, silent.", [Attended(5), new Phase(50, [], []), Attended(5)], ["Pool safety"], "wet", 0);
        Add(
            5,
            "Pool hour",
            9000,
            "The whole pool for a group of six.",
            [Attended(60)],
            ["Pool safety"],
            "wet",
            0,
            service => service with { Room = new RoomRule(new HashSet<string> { "wet" }, 6), Visibility = Visibility.ByPhone }
        );
        Add(
            5,
            "Breathing circle",
            12000,
            "An hour of quiet for a group of up to twelve.",
            [Attended(60)],
            ["Group leading"],
            "group",
            0,
            service =>
                service with
                {
                    Room = new RoomRule(new HashSet<string> { "group" }, 12),
                    Visibility = Visibility.ByPhone,
                    Online = new OnlineRules { Grid = StartGrid.SetTimes },
                    SetTimes =
                    [
                        .. Enumerable.Range(1, 5).Select(day => new SetTime(null, (IsoDayOfWeek)day, new LocalTime(18, 0))),
                        new SetTime(null, IsoDayOfWeek.Saturday, new LocalTime(11, 0)),
                    ],
                }
        );
    }

    private void MindAndFood()
    {
        Add(
            6,
            "Acupuncture 45",
            6400,
            "At Mill Street and at the Boathouse.",
            [Attended(10), new Phase(25, [], []), Attended(10)],
            ["Acupuncture"],
            "couch",
            5,
            service => service with { Locations = new HashSet<Guid>() }
        );
        Add(6, "Nutrition first 60", 8800, "By video.", [Attended(60)], ["Nutrition"], null, 10);
        Add(6, "Nutrition review 30", 4800, "By video.", [Attended(30)], ["Nutrition"], null, 5);
        Add(6, "Breathing one-to-one 40", 5400, "", [Attended(40)], ["Group leading"], "group", 5);
    }

    private void Add(
        int category,
        string name,
        long price,
        string text,
        Phase[] phases,
        string[] qualifications,
        string? feature,
        int bufferAfter,
        Func<Service, Service>? change = null
    )
    {
        Service service = new()
        {
            Id = DemoBusiness.Id("service " + name),
            Name = name,
            CategoryId = DemoBusiness.Id("category " + Categories[category]),
            Phases = phases,
            Roles = [Role("Practitioner", qualifications)],
            Room = feature is null ? null : new RoomRule(new HashSet<string> { feature }),
            BufferAfterMinutes = bufferAfter,
            Price = price,
            Locations = new HashSet<Guid> { business.MillStreet },
        };
        _all.Add(new ListedService(change?.Invoke(service) ?? service, text, _all.Count));
    }

    private static StaffRule Role(string name, params string[] qualifications) =>
        new()
        {
            Name = name,
            Qualifications = [.. qualifications.Select(qualification => DemoBusiness.Id("qualification " + qualification))],
        };

    private static Phase Attended(int minutes) => new(minutes, [0], []);

    private static EquipmentNeed Need(string pool) => new(DemoBusiness.Id("pool " + pool));
}
