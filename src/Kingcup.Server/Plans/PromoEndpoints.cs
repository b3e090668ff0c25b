using System.ComponentModel.DataAnnotations;
using Kingcup.Core.Plans;
using Kingcup.Server.Api;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Plans;

/// <summary>A promo code.</summary>
public sealed record PromoDocument
{
    /// <summary>The greatest sum, in minor units.</summary>
    private const long MostMoney = 100_000_000;

    /// <summary>Identity; given by the server.</summary>
    public required Guid? Id { get; init; }

    /// <summary>What the client types: 3 to 24 letters, digits and hyphens; capitals and spaces do not matter.</summary>
    [MaxLength(Promos.LongestTyped)]
    public required string? Code { get; init; }

    /// <summary>How it takes off.</summary>
    public required PromoKind Kind { get; init; }

    /// <summary>1 to 100 percent, or minor units of a fixed sum.</summary>
    public required long Value { get; init; }

    /// <summary>The services it holds for; empty for all.</summary>
    public required IReadOnlyList<Guid>? ServiceIds { get; init; }

    /// <summary>The first date of a visit it holds for; null for any.</summary>
    public LocalDate? From { get; init; }

    /// <summary>The last such date; null for any.</summary>
    public LocalDate? Until { get; init; }

    /// <summary>The last date on which it can be used; null for ever.</summary>
    public LocalDate? BookBy { get; init; }

    /// <summary>Whether it was ended; visits booked with it keep their price.</summary>
    public bool IsEnded { get; init; }

    /// <summary>To be sent as If-Match with a change.</summary>
    public long Version { get; init; }

    internal static PromoDocument Of(ListedPromo listed) =>
        new()
        {
            Id = listed.Promo.Id,
            Code = listed.Promo.Code,
            Kind = listed.Promo.Kind,
            Value = listed.Promo.Value,
            ServiceIds = [.. listed.Promo.Services.Order()],
            From = listed.Promo.From,
            Until = listed.Promo.Until,
            BookBy = listed.Promo.BookBy,
            IsEnded = listed.Promo.IsEnded,
            Version = listed.Version,
        };

    internal ListedPromo Check(Checks checks, Setup setup, Guid id)
    {
        checks.Limits(this);
        string code = Promo.Normal(Code ?? "");
        IReadOnlyList<Guid> services = ServiceIds ?? [];
        checks.Require(
            Promo.CanBeCode(code),
            "code",
            $"Enter {Promo.Shortest} to {Promo.Longest} letters from A to Z, digits or hyphens."
        );
        checks.Require(
            setup.Parts.Promos.All(other => other.Promo.Id == id || other.Promo.Code != code),
            "code",
            "There is such a code already. Choose another."
        );
        if (Kind == PromoKind.Percent) checks.Require(Value is >= 1 and <= 100, "value", "Enter 1 to 100 percent.");
        else checks.Require(Value is >= 1 and <= MostMoney, "value", "Enter an amount above nothing.");
        checks.Require(services.All(service => setup.ServiceOf(service) is not null), "serviceIds", "There is no such service.");
        bool isInOrder = From is not { } from || Until is not { } until || from <= until;
        checks.Require(isInOrder, "until", "Choose a date that is not before the first.");
        return new ListedPromo(
            new Promo
            {
                Id = id,
                Code = code,
                Kind = Kind,
                Value = Value,
                Services = services.ToHashSet(),
                From = From,
                Until = Until,
                BookBy = BookBy,
                IsEnded = IsEnded,
            }
        );
    }
}

/// <summary>How often a promo code was used.</summary>
/// <param name="PromoId">The code.</param>
/// <param name="Visits">How many visits that stand cost less by it.</param>
public sealed record PromoUse(Guid PromoId, int Visits);

/// <summary>Promo codes.</summary>
internal static class PromoEndpoints
{
    private static readonly SetupList<PromoDocument, ListedPromo> _promos = new()
    {
        Kind = "promo",
        NotThere = "There is no such promo code.",
        All = setup => setup.Parts.Promos,
        IdOf = promo => promo.Promo.Id,
        VersionOf = promo => promo.Version,
        Tell = (_, promo) => PromoDocument.Of(promo),
        Check = (request, checks, change, id, _) => Task.FromResult(request.Check(checks, change.Setup, id)),
        Save = (change, promo) => change.Writer.SaveAsync(promo),
    };

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/setup").RequireAuthorization(Rights.EditSetup).WithTags("Plans").Problems();
        _promos.Map(
            group,
            "/promos",
            "Promo codes by code, those that were ended last.",
            "Adds a promo code.",
            "Changes a promo code, or ends it; what was booked with it stays as agreed."
        );
        group.MapGet("/promos/uses", UsesAsync).WithSummary("How many visits that stand cost less by each promo code.");
    }

    private static async Task<Ok<PromoUse[]>> UsesAsync(Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        IReadOnlyDictionary<Guid, int> uses = await PromoStore.UsesAsync(connection);
        return TypedResults.Ok(uses.Select(use => new PromoUse(use.Key, use.Value)).ToArray());
    }
}
