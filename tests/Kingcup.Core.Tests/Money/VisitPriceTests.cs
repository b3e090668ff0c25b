using CsCheck;
using Kingcup.Core.Money;
using Kingcup.Core.Services;
using Kingcup.Core.Tests.Reference;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Money;

/// <summary>The price of a visit, part by part (rules, section 8).</summary>
public sealed class VisitPriceTests
{
    private static readonly Guid _ana = Worlds.Id(1),
        _ben = Worlds.Id(2),
        _cleo = Worlds.Id(3);
    private static readonly AddOn _oil = new()
    {
        Id = Worlds.Id(60),
        Name = "Hot oil",
        Price = 950,
        Minutes = 0,
        Limit = 3,
        Services = new Dictionary<Guid, bool>(),
    };

    private static Service Massage(long price, PriceForm form = PriceForm.Fixed, params (Guid Who, long Price)[] own) => new()
    {
        Id = Worlds.Id(40),
        Name = "Massage",
        Phases = [new Phase(60, [0], [])],
        Roles = [new StaffRule { Added = new HashSet<Guid> { _ana, _ben, _cleo } }],
        PriceForm = form,
        Price = price,
        Terms = own.ToDictionary(pair => pair.Who, pair => new PractitionerTerms(Price: pair.Price)),
    };

    private static LineToPrice Line(Service service, params Guid[] leads) => new(service, leads);

    [Fact]
    public void The_parts_say_where_a_price_comes_from_and_add_up_to_it()
    {
        PricedLine line = VisitPrice.Of(
            Line(Massage(8400, PriceForm.Fixed, (_ana, 9000)), _ana) with
            {
                AddOns = [(_oil, 2)],
                TaxBasisPoints = 1350,
            }
        );
        line.Parts.ShouldBe([new(PricePartKind.List, 8400), new(PricePartKind.Own, 600), new(PricePartKind.AddOn, 1900, _oil.Id)]);
        (line.OfService, line.OfAddOns, line.Total, line.IsFrom).ShouldBe((9000, 1900, 10900, false));
    }

    [Fact]
    public void An_hourly_price_says_what_the_hours_make_of_it_and_a_free_one_takes_it_all_off()
    {
        VisitPrice
            .Of(Line(Massage(6000, PriceForm.Hourly) with { Phases = [new Phase(90, [0], [])] }, _ana))
            .Parts.ShouldBe([new(PricePartKind.List, 6000), new(PricePartKind.Form, 3000)]);
        VisitPrice
            .Of(Line(Massage(6000, PriceForm.Free), _ana))
            .Parts.ShouldBe([new(PricePartKind.List, 6000), new(PricePartKind.Form, -6000)]);
    }

    // 84.00 with 13.5 % in it holds 9.99 (example 12a); 6.50 with 23 % holds 1.215…, which rounds half up.
    [Theory]
    [InlineData(8400, 1350, 999)]
    [InlineData(650, 2300, 122)]
    [InlineData(8400, 0, 0)]
    [InlineData(0, 1350, 0)]
    public void Tax_is_what_the_price_holds_of_it(long price, int basisPoints, long tax) =>
        VisitPrice.Of(Line(Massage(price), _ana) with { TaxBasisPoints = basisPoints }).Tax.ShouldBe(tax);

    [Fact]
    public void Where_it_is_open_who_comes_it_is_the_least_and_says_so_only_if_others_ask_more()
    {
        Service service = Massage(8400, PriceForm.Fixed, (_ana, 9000), (_ben, 8000));
        VisitPrice open = VisitPrice.Of([Line(service, _ana, _ben, _cleo)]);
        (open.Total, open.IsFrom).ShouldBe((8000, true));
        VisitPrice same = VisitPrice.Of([Line(Massage(8400), _ana, _ben)]);
        (same.Total, same.IsFrom).ShouldBe((8400, false));
        VisitPrice.Of([Line(Massage(8400, PriceForm.From), _ana)]).IsFrom.ShouldBeTrue();
        VisitPrice.Of([Line(service)]).Total.ShouldBe(8400);
    }

    [Fact]
    public void A_price_once_agreed_stays_unless_another_takes_the_line_and_add_ons_stay_then_too()
    {
        Service before = Massage(8400, PriceForm.Fixed, (_ana, 9000)), dearer = Massage(9900, PriceForm.Fixed, (_ana, 9000), (_ben, 11000));
        AddOn dearOil = _oil with { Price = 1200 };
        VisitPrice agreed = VisitPrice.Of([Line(before, _ana) with { AddOns = [(_oil, 1)] }, Line(before, _ben)]);
        VisitPrice fresh = VisitPrice.Of([Line(dearer, _ben) with { AddOns = [(dearOil, 1)] }, Line(dearer, _ben)]);
        HashSet<Guid> sameOil = [_oil.Id], none = [];
        VisitPrice after = VisitPrice.Laid(fresh, [(agreed.Lines[0], false, sameOil), (agreed.Lines[1], true, none)]);
        (after.Lines[0].OfService, after.Lines[0].OfAddOns).ShouldBe((11000, 950));
        (after.Lines[1].OfService, after.Lines[1].TaxBasisPoints).ShouldBe((8400, agreed.Lines[1].TaxBasisPoints));
        after.Total.ShouldBe(11000 + 950 + 8400);

        // More of an extra than before costs what it costs now, and so does a line that is new.
        VisitPrice more = VisitPrice.Of([Line(dearer, _ana) with { AddOns = [(dearOil, 2)] }, Line(dearer, _ben)]);
        VisitPrice changed = VisitPrice.Laid(more, [(agreed.Lines[0], true, none), null]);
        (changed.Lines[0].OfService, changed.Lines[0].OfAddOns, changed.Lines[1].Total).ShouldBe((9000, 2400, 11000));
    }

    [Fact]
    public void A_length_set_by_hand_counts_where_the_price_is_by_the_hour_and_nowhere_else()
    {
        Service hourly = Massage(6000, PriceForm.Hourly);
        VisitPrice.Of(Line(hourly, _ana) with { SetMinutes = 95 }).Total.ShouldBe(9500);
        VisitPrice.Of(Line(hourly) with { SetMinutes = 20 }).Total.ShouldBe(2000);
        VisitPrice.Of(Line(Massage(6000), _ana) with { SetMinutes = 95 }).Total.ShouldBe(6000);
    }

    [Fact]
    public void The_least_of_several_is_never_more_than_any_of_them()
    {
        Gen.Select(Gen.Long[0, 20_000], Gen.Long[0, 20_000].Array[1, 4], Gen.Enum<PriceForm>())
            .Sample(
                (list, own, form) =>
                {
                    Service service = Massage(list, form, [.. own.Select((price, i) => (Worlds.Id(70 + i), price))]);
                    Guid[] leads = [.. own.Select((_, i) => Worlds.Id(70 + i))];
                    long[] each = [.. leads.Select(lead => VisitPrice.Of(Line(service, lead)).Total)];
                    PricedLine open = VisitPrice.Of(Line(service, leads));
                    return open.Total == each.Min()
                        && open.Parts.Sum(part => part.Amount) == open.Total
                        && open.IsFrom == (form == PriceForm.From || each.Distinct().Count() > 1);
                }
            );
    }
}
