using System.ComponentModel.DataAnnotations;
using Kingcup.Core.Money;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Server.Business;
using Kingcup.Storage;
using NodaTime;

namespace Kingcup.Server.Money;

/// <summary>A rule of what clients give when they book.</summary>
public sealed record GuaranteeDocument
{
    private const int MostNoShows = 20,
        MostMonths = 60;

    /// <summary>The greatest sum, in minor units.</summary>
    private const long MostMoney = 100_000_000;

    /// <summary>Identity; given by the server.</summary>
    public required Guid? Id { get; init; }

    /// <summary>What it is set at: a service, a category or a location.</summary>
    public required GuaranteePlace Place { get; init; }

    /// <summary>Which service, category or location.</summary>
    public required Guid PlaceId { get; init; }

    /// <summary>For new clients only.</summary>
    public bool OnlyNew { get; init; }

    /// <summary>For whoever did not come at least so many times, 1 to 20; null for whoever.</summary>
    public int? NoShows { get; init; }

    /// <summary>In how many months those are counted.</summary>
    [Range(1, MostMonths)]
    public int Months { get; init; } = 12;

    /// <summary>For visits that cost at least so much, in minor units; null for any.</summary>
    public long? FromPrice { get; init; }

    /// <summary>For visits that begin on these days; empty for any.</summary>
    public IReadOnlyList<Weekday>? Weekdays { get; init; }

    /// <summary>For visits that begin in this part of the day; null for any.</summary>
    public StretchDocument? Hours { get; init; }

    /// <summary>What is asked for.</summary>
    public required GuaranteeKind Demand { get; init; }

    /// <summary>Minor units of a fixed amount, 1 to 100 of a percentage; 0 otherwise.</summary>
    public long Value { get; init; }

    /// <summary>To be sent as If-Match with a change.</summary>
    public long Version { get; init; }

    internal static GuaranteeDocument Of(ListedGuarantee listed)
    {
        (GuaranteePlace place, GuaranteeCondition condition, GuaranteeDemand demand) = listed.Rule;
        return new GuaranteeDocument
        {
            Id = listed.Id,
            Place = place,
            PlaceId = listed.PlaceId,
            OnlyNew = condition.OnlyNew,
            NoShows = condition.NoShows,
            Months = condition.Months,
            FromPrice = condition.FromPrice,
            Weekdays = [.. condition.Weekdays.Order().Select(day => (Weekday)day)],
            Hours = condition.Hours is { } hours ? StretchDocument.Of(hours) : null,
            Demand = demand.Kind,
            Value = demand.Value,
            Version = listed.Version,
        };
    }

    /// <summary>Whether a demand says how much as it has to.</summary>
    internal static void CheckValue(Checks checks, GuaranteeKind demand, long value, string field)
    {
        switch (demand)
        {
            case GuaranteeKind.Fixed:
                checks.Require(value is >= 1 and <= MostMoney, field, "Enter an amount above nothing.");
                break;
            case GuaranteeKind.Percent:
                checks.Require(value is >= 1 and <= 100, field, "Enter 1 to 100 percent.");
                break;
        }
    }

    /// <summary>How much a demand is of; nothing where that has no meaning.</summary>
    internal static long ValueOf(GuaranteeKind demand, long value) =>
        demand is GuaranteeKind.Fixed or GuaranteeKind.Percent ? value : 0;

    internal ListedGuarantee Check(Checks checks, Setup setup, Guid id, int order)
    {
        checks.Limits(this);
        bool isThere = Place switch
        {
            GuaranteePlace.Service => setup.ServiceOf(PlaceId) is not null,
            GuaranteePlace.Category => setup.Categories.Any(category => category.Category.Id == PlaceId),
            GuaranteePlace.Location => setup.HouseOf(PlaceId) is not null,
            _ => false,
        };
        checks.Require(isThere, "placeId", "There is no such service, category or location.");
        checks.Require(NoShows is null or (>= 1 and <= MostNoShows), "noShows", $"1 to {MostNoShows}, or nothing.");
        checks.Require(FromPrice is null or (>= 1 and <= MostMoney), "fromPrice", "Enter a price above nothing, or leave it empty.");
        checks.Require(
            Hours is not { } hours || hours.Stretch.IsValid,
            "hours",
            "Enter a part of the day, from and until, in steps of five minutes."
        );
        checks.Require(
            (Weekdays ?? []).All(Enum.IsDefined) && (Weekdays ?? []).Distinct().Count() == (Weekdays ?? []).Count,
            "weekdays",
            "Name each day once."
        );
        CheckValue(checks, Demand, Value, "value");
        return new ListedGuarantee(
            id,
            PlaceId,
            new GuaranteeRule(
                Place,
                new GuaranteeCondition
                {
                    OnlyNew = OnlyNew,
                    NoShows = NoShows,
                    Months = Months,
                    FromPrice = FromPrice,
                    Weekdays = (Weekdays ?? []).Select(day => (IsoDayOfWeek)day).ToHashSet(),
                    Hours = Hours?.Stretch,
                },
                new GuaranteeDemand(Demand, ValueOf(Demand, Value))
            ),
            order
        );
    }
}

/// <summary>What cancelling costs from some hours before the start.</summary>
/// <param name="Hours">At least so many hours before, 1 to 720.</param>
/// <param name="Percent">Percent of the price, 0 to 100.</param>
/// <param name="LosesCredit">Whether a credit of a package is used up.</param>
public sealed record TierDocument(int Hours, int Percent, bool LosesCredit = false);

/// <summary>What cancelling and not coming costs at a location. What was booked before it is changed keeps the old one.</summary>
public sealed record PolicyDocument
{
    private const int MostTiers = 10,
        MostHours = 720,
        MostMoves = 20;

    /// <summary>What it costs from how many hours before.</summary>
    public required IReadOnlyList<TierDocument>? Tiers { get; init; }

    /// <summary>Percent of the price later than that.</summary>
    [Range(0, 100)]
    public required int BelowPercent { get; init; }

    /// <summary>Whether a credit of a package is used up then.</summary>
    public bool BelowLosesCredit { get; init; }

    /// <summary>Percent of the price of whoever does not come.</summary>
    [Range(0, 100)]
    public required int NoShowPercent { get; init; }

    /// <summary>Whether a credit of a package is used up then.</summary>
    public bool NoShowLosesCredit { get; init; }

    /// <summary>Until how many hours before a visit is moved free of charge.</summary>
    [Range(0, MostHours)]
    public int MoveNoticeHours { get; init; }

    /// <summary>How many times; null for any.</summary>
    public int? FreeMoves { get; init; }

    /// <summary>Version of the location, to be sent as If-Match with a change.</summary>
    public long Version { get; init; }

    internal static PolicyDocument Of(Setup setup, Guid locationId)
    {
        CancellationPolicy policy = setup.PolicyOf(locationId)?.Policy ?? CancellationPolicy.None;
        return new PolicyDocument
        {
            Tiers = [.. policy.Tiers.Select(tier => new TierDocument(tier.Hours, tier.Percent, tier.LosesCredit))],
            BelowPercent = policy.Below.Percent,
            BelowLosesCredit = policy.Below.LosesCredit,
            NoShowPercent = policy.NoShow.Percent,
            NoShowLosesCredit = policy.NoShow.LosesCredit,
            MoveNoticeHours = policy.MoveNoticeHours,
            FreeMoves = policy.FreeMoves,
            Version = setup.Locations.First(listed => listed.Location.Id == locationId).Version,
        };
    }

    internal CancellationPolicy Check(Checks checks)
    {
        checks.Limits(this);
        IReadOnlyList<TierDocument> tiers = Tiers ?? [];
        checks.Require(tiers.Count <= MostTiers, "tiers", $"{MostTiers} steps at the most.");
        foreach ((int i, TierDocument tier) in tiers.Index())
        {
            checks.Require(tier.Hours is >= 1 and <= MostHours, $"tiers[{i}].hours", $"1 to {MostHours} hours.");
            checks.Require(tier.Percent is >= 0 and <= 100, $"tiers[{i}].percent", "0 to 100 percent.");
            checks.Require(
                tiers.Take(i).All(earlier => earlier.Hours != tier.Hours),
                $"tiers[{i}].hours",
                "Two steps begin at the same hour. Change one, or take it out."
            );
        }

        checks.Require(FreeMoves is null or (>= 0 and <= MostMoves), "freeMoves", $"0 to {MostMoves}, or nothing for any number.");
        return new CancellationPolicy
        {
            Tiers = [.. tiers.Select(tier => new CancellationTier(tier.Hours, tier.Percent, tier.LosesCredit))],
            Below = new CancellationTier(0, BelowPercent, BelowLosesCredit),
            NoShow = new CancellationTier(0, NoShowPercent, NoShowLosesCredit),
            MoveNoticeHours = MoveNoticeHours,
            FreeMoves = FreeMoves,
        };
    }
}

/// <summary>A made-up client and visit that the rules are tried on.</summary>
public sealed record GuaranteeTryRequest
{
    /// <summary>Where.</summary>
    public required Guid LocationId { get; init; }

    /// <summary>What is booked, in order.</summary>
    public required IReadOnlyList<LineRequest>? Lines { get; init; }

    /// <summary>When it begins, by the clock of the location.</summary>
    public required LocalDateTime Start { get; init; }

    /// <summary>Whether the client is new.</summary>
    public bool IsNew { get; init; }

    /// <summary>How often they did not come of late, 0 to 20.</summary>
    [Range(0, 20)]
    public int NoShows { get; init; }

    /// <summary>The cancellation policy as it stands on a screen, not saved yet; null for the one that holds.</summary>
    public PolicyDocument? Policy { get; init; }
}

/// <summary>What cancelling costs in a stretch of time.</summary>
public sealed record CancellationStepAnswer
{
    /// <summary>From when on, by the clock of the location; null for from booking on.</summary>
    public required LocalDateTime? From { get; init; }

    /// <summary>Until when, by the clock of the location; that moment still belongs to it.</summary>
    public required LocalDateTime? Until { get; init; }

    /// <summary>What it costs.</summary>
    public required FeeAnswer Fee { get; init; }
}

/// <summary>What cancelling or not coming costs, and where it comes from.</summary>
public sealed record FeeAnswer
{
    /// <summary>The fee.</summary>
    public required MoneyAnswer Fee { get; init; }

    /// <summary>What is kept of the deposit.</summary>
    public required MoneyAnswer FromDeposit { get; init; }

    /// <summary>What is taken from the card on file.</summary>
    public required MoneyAnswer FromCard { get; init; }

    /// <summary>What stays owed.</summary>
    public required MoneyAnswer Owed { get; init; }

    /// <summary>What of the deposit goes back the way it came.</summary>
    public required MoneyAnswer Refund { get; init; }

    /// <summary>What of that goes back to a card.</summary>
    public required MoneyAnswer RefundToCard { get; init; }

    /// <summary>What of that is given back in cash, at the desk.</summary>
    public required MoneyAnswer RefundInCash { get; init; }

    /// <summary>Whether a credit of a package is used up.</summary>
    public required bool LosesCredit { get; init; }

    /// <summary>A fee of a visit whose deposit came as it did.</summary>
    internal static FeeAnswer Of((CancellationFee Fee, VisitMoney Money) found, string currency) =>
        Of(found.Fee, currency, Deposits.InCash(found.Money.Back(found.Fee.Refund)));

    /// <summary>A fee where the deposit would come by card.</summary>
    internal static FeeAnswer Of(CancellationFee fee, string currency, long inCash = 0)
    {
        MoneyAnswer In(long amount) => new(amount, currency);
        return new FeeAnswer
        {
            Fee = In(fee.Fee),
            FromDeposit = In(fee.FromDeposit),
            FromCard = In(fee.FromCard),
            Owed = In(fee.Owed),
            Refund = In(fee.Refund),
            RefundToCard = In(fee.Refund - inCash),
            RefundInCash = In(inCash),
            LosesCredit = fee.LosesCredit,
        };
    }
}

/// <summary>What a made-up visit would ask of a made-up client.</summary>
public sealed record GuaranteeTryAnswer
{
    /// <summary>What it costs.</summary>
    public required MoneyAnswer Price { get; init; }

    /// <summary>What is taken when it is booked.</summary>
    public required MoneyAnswer Deposit { get; init; }

    /// <summary>What is left to pay.</summary>
    public required MoneyAnswer Rest { get; init; }

    /// <summary>Whether a card has to be on file.</summary>
    public required bool NeedsCard { get; init; }

    /// <summary>For each line the rule that decides it, or null.</summary>
    public required IReadOnlyList<Guid?> RuleIds { get; init; }

    /// <summary>Why, in words.</summary>
    public required IReadOnlyList<string> Because { get; init; }

    /// <summary>What cancelling costs from booking to the start.</summary>
    public required IReadOnlyList<CancellationStepAnswer> Steps { get; init; }

    /// <summary>What it costs not to come.</summary>
    public required FeeAnswer NoShow { get; init; }

    /// <summary>The policy as the client reads it.</summary>
    public required IReadOnlyList<string> Clients { get; init; }
}
