using CsCheck;
using Kingcup.Core.Business;
using Kingcup.Core.Services;
using Kingcup.Core.Tests.Reference;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Business;

/// <summary>
/// Where a rule comes from (rules, section 5): client, service, category, location, and what is usual; new and returning clients may have
/// values of their own at each place. The places are walked one by one here, as the page says it.
/// </summary>
public sealed class EffectiveRulesTests
{
    private static readonly Gen<int?> _some = Gen.Int[0, 90].Select(value => value > 45 ? (int?)null : value);
    private static readonly Gen<OnlineRules> _rules = Gen.Select(_some, _some, _some, _some, _some, _some, _some, _some)
        .Select((lead, newLead, days, newDays, move, newMove, cancel, newCancel) => new OnlineRules
        {
            LeadMinutes = lead * 5,
            NewLeadMinutes = newLead * 5,
            HorizonDays = days,
            NewHorizonDays = newDays,
            MoveNoticeHours = move,
            NewMoveNoticeHours = newMove,
            CancelNoticeHours = cancel,
            NewCancelNoticeHours = newCancel,
        });

    private static EffectiveRules Of(OnlineRules location, OnlineRules category, OnlineRules service, OnlineRules? client = null) =>
        new EffectiveRules(
            new Location { Id = Worlds.Id(1), Name = "Here", Zone = DateTimeZone.Utc, Opening = [], Online = location },
            new Category { Id = Worlds.Id(50), Name = "Skin", Online = category },
            new Service
            {
                Id = Worlds.Id(40),
                Name = "Facial",
                CategoryId = Worlds.Id(50),
                Phases = [new Phase(60, [0], [])],
                Roles = [new StaffRule()],
                Online = service,
            }
        ).For(client);

    /// <summary>The value of the most specific place that says anything to such a client.</summary>
    private static int Walked(IEnumerable<OnlineRules> places, bool isNew, Func<OnlineRules, int?> all, Func<OnlineRules, int?> ofNew)
    {
        foreach (OnlineRules place in places)
        {
            if (isNew && ofNew(place) is { } own) return own;
            if (all(place) is { } value) return value;
        }

        throw new InvalidOperationException("What is usual says something to everybody.");
    }

    [Fact]
    public void Every_rule_is_that_of_the_most_specific_place_that_sets_it_for_such_a_client() =>
        Gen.Select(_rules, _rules, _rules, _rules, Gen.Bool)
            .Sample(
                (location, category, service, client, isNew) =>
                {
                    EffectiveRules rules = Of(location, category, service, client);
                    OnlineRules[] places = [client, service, category, location, OnlineRules.Usual];
                    rules.Values.LeadMinutesFor(isNew).ShouldBe(Walked(places, isNew, own => own.LeadMinutes, own => own.NewLeadMinutes));
                    rules.Values.HorizonDaysFor(isNew).ShouldBe(Walked(places, isNew, own => own.HorizonDays, own => own.NewHorizonDays));
                    rules.Values.MoveNoticeHoursFor(isNew)
                        .ShouldBe(Walked(places, isNew, own => own.MoveNoticeHours, own => own.NewMoveNoticeHours));
                    rules.Values.CancelNoticeHoursFor(isNew)
                        .ShouldBe(Walked(places, isNew, own => own.CancelNoticeHours, own => own.NewCancelNoticeHours));
                },
                iter: 2000
            );

    [Fact]
    public void The_place_that_is_named_is_the_first_that_sets_it() =>
        Gen.Select(_rules, _rules, _rules, _rules)
            .Sample(
                (location, category, service, client) =>
                {
                    (RulePlace place, Guid? id) = Of(location, category, service, client).SourceOf(own => own.LeadMinutes is not null);
                    (RulePlace, Guid?) expected =
                        client.LeadMinutes is not null ? (RulePlace.Client, null)
                        : service.LeadMinutes is not null ? (RulePlace.Service, Worlds.Id(40))
                        : category.LeadMinutes is not null ? (RulePlace.Category, Worlds.Id(50))
                        : location.LeadMinutes is not null ? (RulePlace.Location, Worlds.Id(1))
                        : (RulePlace.Usual, null);
                    (place, id).ShouldBe(expected);
                },
                iter: 500
            );

    [Fact]
    public void A_place_that_sets_only_the_value_for_new_clients_leaves_the_others_to_the_wider_one()
    {
        EffectiveRules rules = Of(
            new OnlineRules { LeadMinutes = 120 },
            new OnlineRules(),
            new OnlineRules { NewLeadMinutes = 24 * 60 }
        );
        rules.Values.LeadMinutesFor(isNew: true).ShouldBe(24 * 60);
        rules.Values.LeadMinutesFor(isNew: false).ShouldBe(120);
    }

    [Fact]
    public void What_a_place_sets_for_everybody_holds_for_new_clients_there_whatever_a_wider_place_says_of_them()
    {
        EffectiveRules rules = Of(
            new OnlineRules { LeadMinutes = 120, NewLeadMinutes = 24 * 60 },
            new OnlineRules(),
            new OnlineRules { LeadMinutes = 30 }
        );
        rules.Values.LeadMinutesFor(isNew: true).ShouldBe(30);
        rules.Values.LeadMinutesFor(isNew: false).ShouldBe(30);
    }

    [Fact]
    public void Nothing_set_anywhere_is_what_is_usual()
    {
        OnlineRules values = Of(new OnlineRules(), new OnlineRules(), new OnlineRules()).Values;
        values.Grid.ShouldBe(OnlineRules.Usual.Grid);
        values.Gap.ShouldBe(OnlineRules.Usual.Gap);
        values.Choice.ShouldBe(OnlineRules.Usual.Choice);
        values.LeadMinutesFor(isNew: true).ShouldBe(OnlineRules.Usual.LeadMinutesFor(isNew: true));
        values.HorizonDaysFor(isNew: false).ShouldBe(OnlineRules.Usual.HorizonDaysFor(isNew: false));
    }
}
