namespace Kingcup.Core.Clients;

/// <summary>
/// Two records of one person become one, and can be taken apart again. One record is kept; the other is put aside whole, so that
/// nothing of it is ever lost, and of each field somebody chooses which of the two holds.
/// </summary>
public static class Merging
{
    private static readonly IReadOnlyList<ClientField> _fields = Enum.GetValues<ClientField>();

    /// <summary>The fields in which two records differ.</summary>
    public static IReadOnlyList<ClientField> Differing(ClientFacts kept, ClientFacts gone) =>
        [.. _fields.Where(field => !Equals(Value(kept, field), Value(gone, field)))];

    /// <summary>
    /// Which fields to take over when nobody says otherwise: those that the kept record leaves empty. Whoever was barred from booking
    /// online under either name stays barred.
    /// </summary>
    public static IReadOnlyList<ClientField> Proposed(ClientFacts kept, ClientFacts gone) =>
        [
            .. Differing(kept, gone)
                .Where(field => field == ClientField.MayBookOnline ? !gone.MayBookOnline : IsEmpty(Value(kept, field))),
        ];

    /// <summary>The record both become.</summary>
    /// <param name="kept">The record that is kept.</param>
    /// <param name="gone">The record that is put aside.</param>
    /// <param name="fromGone">The fields taken over from it.</param>
    public static ClientFacts Merged(ClientFacts kept, ClientFacts gone, IEnumerable<ClientField> fromGone) =>
        fromGone.Aggregate(kept, (facts, field) => With(facts, field, gone));

    /// <summary>The kept record when both are taken apart: as it was before, except for what has been changed since.</summary>
    /// <param name="before">The kept record before the two were merged.</param>
    /// <param name="merged">What both became.</param>
    /// <param name="now">How it stands now.</param>
    public static ClientFacts TakenApart(ClientFacts before, ClientFacts merged, ClientFacts now) =>
        _fields.Where(field => Equals(Value(now, field), Value(merged, field)))
            .Aggregate(now, (facts, field) => With(facts, field, before));

    private static bool IsEmpty(object? value) => value is null || Equals(value, Preferences.None);

    private static object? Value(ClientFacts facts, ClientField field) => field switch
    {
        ClientField.Name => (facts.GivenName, facts.FamilyName),
        ClientField.Email => facts.Email,
        ClientField.Phone => facts.Phone,
        ClientField.Born => facts.Born,
        ClientField.Alert => facts.Alert,
        ClientField.Source => facts.Source,
        ClientField.Preferences => facts.Preferences,
        ClientField.MayBookOnline => facts.MayBookOnline,
        _ => throw new ArgumentOutOfRangeException(nameof(field), field, null),
    };

    private static ClientFacts With(ClientFacts facts, ClientField field, ClientFacts from) => field switch
    {
        ClientField.Name => facts with { GivenName = from.GivenName, FamilyName = from.FamilyName },
        ClientField.Email => facts with { Email = from.Email },
        ClientField.Phone => facts with { Phone = from.Phone },
        ClientField.Born => facts with { Born = from.Born },
        ClientField.Alert => facts with { Alert = from.Alert },
        ClientField.Source => facts with { Source = from.Source },
        ClientField.Preferences => facts with { Preferences = from.Preferences },
        ClientField.MayBookOnline => facts with { MayBookOnline = from.MayBookOnline },
        _ => throw new ArgumentOutOfRangeException(nameof(field), field, null),
    };
}
