using Kingcup.Core.Money;
using Kingcup.Core.Plans;
using Kingcup.Storage;
using NodaTime;

namespace Kingcup.Demo;

/// <summary>What clients of the demo business give when they book, and what it costs them to stay away.</summary>
internal static class DemoMoney
{
    internal static async Task WriteAsync(SetupTransaction transaction, Instant now)
    {
        Guid mill = DemoBusiness.Id("location Mill Street");
        (GuaranteePlace Place, Guid Id, GuaranteeCondition Condition, GuaranteeDemand Demand)[] rules =
        [
            (GuaranteePlace.Location, mill, GuaranteeCondition.Everyone, new(GuaranteeKind.Nothing)),
            (
                GuaranteePlace.Service,
                DemoBusiness.Id("service Nail surgery 60"),
                GuaranteeCondition.Everyone,
                new(GuaranteeKind.Fixed, 4000)
            ),
            (
                GuaranteePlace.Service,
                DemoBusiness.Id("service Lymph drainage 50"),
                GuaranteeCondition.Everyone with
                {
                    OnlyNew = true,
                },
                new(GuaranteeKind.Percent, 30)
            ),
            (GuaranteePlace.Service, DemoBusiness.Id("service Prenatal 60"), GuaranteeCondition.Everyone, new(GuaranteeKind.Card)),
        ];
        for (int i = 0; i < rules.Length; i++)
        {
            (GuaranteePlace place, Guid id, GuaranteeCondition condition, GuaranteeDemand demand) = rules[i];
            await transaction.Writer.SaveAsync(
                new ListedGuarantee(DemoBusiness.Id($"guarantee {i}"), id, new GuaranteeRule(place, condition, demand), i + 1)
            );
        }

        Guid[] massages =
        [
            .. new[] { "Deep tissue 60", "Deep tissue 90", "Back and shoulders 30", "Hot stones 75" }.Select(name =>
                DemoBusiness.Id($"service {name}")
            ),
        ];
        Promo[] promos =
        [
            Code("LAKE10", PromoKind.Percent, 10) with { Services = massages.ToHashSet(), Until = new LocalDate(2027, 6, 30) },
            Code("HELLO5", PromoKind.Fixed, 500) with { BookBy = new LocalDate(2027, 12, 31) },
            Code("WINTER15", PromoKind.Percent, 15) with { Until = new LocalDate(2027, 2, 28), IsEnded = true },
        ];
        foreach (Promo promo in promos)
            await transaction.Writer.SaveAsync(new ListedPromo(promo));

        await transaction.Writer.SavePolicyAsync(
            mill,
            new CancellationPolicy
            {
                Tiers = [new(48, 0), new(24, 50, LosesCredit: true)],
                Below = new(0, 100, LosesCredit: true),
                NoShow = new(0, 100, LosesCredit: true),
                MoveNoticeHours = 24,
                FreeMoves = 2,
            },
            now
        );
    }

    private static Promo Code(string code, PromoKind kind, long value) =>
        new()
        {
            Id = DemoBusiness.Id($"promo {code}"),
            Code = code,
            Kind = kind,
            Value = value,
        };
}
