using Kingcup.Core.Business;
using Kingcup.Core.Money;
using Kingcup.Core.Rooms;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Tests.Reference;
using Kingcup.Core.Time;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Services;

/// <summary>Prices, seasons, colours, and what is refused in a description.</summary>
public sealed class ServiceRules
{
    private static readonly Guid _ana = Worlds.Id(10);

    private static Service Fifty(PriceForm form, long price) => new()
    {
        Id = Worlds.Id(40),
        Name = "Fifty",
        Phases = [new Phase(50, [0], [])],
        Roles = [new StaffRule { Added = new HashSet<Guid> { _ana } }],
        PriceForm = form,
        Price = price,
        Terms = new Dictionary<Guid, PractitionerTerms> { [_ana] = new(Minutes: 70) },
    };

    [Theory]
    [InlineData(PriceForm.Fixed, 8400, 8400, 8400)]
    [InlineData(PriceForm.From, 8400, 8400, 8400)]
    // 50 minutes of 61.01 an hour are 50.8416…, and 70 are 71.1783…
    [InlineData(PriceForm.Hourly, 6101, 5084, 7118)]
    // 50 minutes of 0.03 are 0.025, which rounds half up.
    [InlineData(PriceForm.Hourly, 3, 3, 4)]
    [InlineData(PriceForm.Free, 8400, 0, 0)]
    [InlineData(PriceForm.OnRequest, 8400, 0, 0)]
    public void A_line_costs_what_its_form_says(PriceForm form, long price, long usual, long withAna)
    {
        VisitPrice.Of(new LineToPrice(Fifty(form, price), [])).Total.ShouldBe(usual);
        VisitPrice.Of(new LineToPrice(Fifty(form, price), [_ana])).Total.ShouldBe(withAna);
    }

    [Theory]
    [InlineData(5, 1, 9, 30, 5, 1, true)]
    [InlineData(5, 1, 9, 30, 9, 30, true)]
    [InlineData(5, 1, 9, 30, 10, 1, false)]
    [InlineData(11, 15, 2, 10, 12, 31, true)]
    [InlineData(11, 15, 2, 10, 2, 10, true)]
    [InlineData(11, 15, 2, 10, 2, 11, false)]
    [InlineData(2, 29, 3, 1, 2, 28, false)]
    public void A_season_includes_both_ends_and_may_reach_over_the_new_year(
        int fromMonth,
        int fromDay,
        int untilMonth,
        int untilDay,
        int month,
        int day,
        bool inside
    ) =>
        new Season(new AnnualDate(fromMonth, fromDay), new AnnualDate(untilMonth, untilDay))
            .Contains(new LocalDate(2027, month, day))
            .ShouldBe(inside);

    [Theory]
    [InlineData("#000000", "#FFFFFF", 21.0)]
    [InlineData("#17594A", "#FFFFFF", 8.2)]
    [InlineData("#777777", "#FFFFFF", 4.48)]
    public void Contrast_is_that_of_wcag(string text, string other, double contrast) =>
        Colour.Parse(text)!.Value.ContrastWith(Colour.Parse(other)!.Value).ShouldBe(contrast, 0.06);

    [Theory]
    [InlineData("17594A")]
    [InlineData("#17594")]
    [InlineData("#17594G")]
    [InlineData(null)]
    public void What_is_no_colour_is_refused(string? text) => Colour.Parse(text).ShouldBeNull();

    private static string[] FaultsOf(Service service, params Service[] others) =>
        [
            .. ServiceCheck
                .Of(
                    service,
                    [service, .. others],
                    [new Practitioner { Id = _ana, Name = "Ana" }],
                    [
                        new EquipmentPool
                        {
                            Id = Worlds.Id(30),
                            Name = "Lamp",
                            Quantity = 2,
                        },
                    ],
                    ["couch"]
                )
                .Select(fault => fault.Field),
        ];

    [Fact]
    public void A_sound_service_has_no_fault() =>
        FaultsOf(Fifty(PriceForm.Fixed, 1) with { Room = new RoomRule(new HashSet<string> { "couch" }) }).ShouldBeEmpty();

    [Fact]
    public void Own_lengths_and_equipment_are_checked_against_what_there_is()
    {
        Service service = Fifty(PriceForm.Fixed, 1) with
        {
            Phases = [new Phase(20, [0], [new EquipmentNeed(Worlds.Id(30), 3)]), new Phase(25, [], []), new Phase(15, [0], [])],
        };
        FaultsOf(service with { Terms = new Dictionary<Guid, PractitionerTerms> { [_ana] = new(Minutes: 40) } })
            .ShouldBe(["phases[0].equipment[0].units", "terms[0].minutes"]);
        FaultsOf(
                service with
                {
                    Phases = [new Phase(20, [0], [new EquipmentNeed(Worlds.Id(30), 2)])],
                    Terms = new Dictionary<Guid, PractitionerTerms> { [Worlds.Id(11)] = new() },
                }
            )
            .ShouldBe(["terms[0].practitionerId"]);
    }

    [Fact]
    public void Prerequisites_may_not_go_round_in_a_circle_of_any_length()
    {
        Service Link(int number, int before) =>
            Fifty(PriceForm.Fixed, 1) with
            {
                Id = Worlds.Id(number),
                Name = $"S{number}",
                Prerequisite = new Prerequisite(Worlds.Id(before), 1, 10),
            };
        Service last = Fifty(PriceForm.Fixed, 1) with { Id = Worlds.Id(43) };
        FaultsOf(Link(40, 41), Link(41, 42), Link(42, 43), last).ShouldBeEmpty();
        FaultsOf(Link(40, 41), Link(41, 42), Link(42, 40), last).ShouldBe(["prerequisite.serviceId"]);
        // A circle among others must not make the check go round for ever.
        FaultsOf(Link(40, 41), Link(41, 42), Link(42, 41), last).ShouldBe(["prerequisite.serviceId"]);
    }

    [Fact]
    public void Shifts_of_a_day_do_not_overlap_and_keep_their_breaks_inside()
    {
        Guid here = Worlds.Id(1);
        Shift Of(Stretch during, params Stretch[] breaks) => new(here, during, [.. breaks.Select(stretch => new Break(stretch, "Lunch"))]);
        string[] Faults(params Shift[] shifts) => [.. ShiftCheck.Of(shifts, i => $"[{i}].").Select(fault => fault.Field)];
        Faults(Of(Stretch.Between(9, 0, 12, 0)), Of(Stretch.Between(12, 0, 24, 0))).ShouldBeEmpty();
        Faults(Of(Stretch.Between(9, 0, 12, 5)), Of(Stretch.Between(12, 0, 15, 0))).ShouldBe(["[1].from"]);
        Faults(Of(Stretch.Between(9, 0, 17, 0), Stretch.Between(8, 0, 9, 30))).ShouldBe(["[0].breaks[0].from"]);
        Faults(Of(Stretch.Between(9, 0, 17, 0), Stretch.Between(12, 0, 13, 0), Stretch.Between(12, 30, 13, 30)))
            .ShouldBe(["[0].breaks[1].from"]);
    }
}
