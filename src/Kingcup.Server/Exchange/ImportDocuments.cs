using Kingcup.Core.Exchange;
using Kingcup.Server.Api;
using Kingcup.Storage;
using NodaTime;

namespace Kingcup.Server.Exchange;

/// <summary>A field a row may say something about.</summary>
/// <param name="Name">Its name, for the mapping.</param>
/// <param name="Label">What people call it.</param>
/// <param name="About">How it is to be written.</param>
/// <param name="IsNeeded">Whether no row can do without it.</param>
public sealed record ImportFieldAnswer(string Name, string Label, string About, bool IsNeeded);

/// <summary>Where the value of a field comes from: a column of the file, or the same words for every row.</summary>
/// <param name="Field">Name of the field.</param>
/// <param name="Column">Index of the column, from 0; null for none.</param>
/// <param name="Always">What every row says where it has no column, or its cell is empty.</param>
public sealed record ImportColumn(string Field, int? Column = null, string? Always = null);

/// <summary>Which column says what.</summary>
/// <param name="Columns">One for each field that is said.</param>
public sealed record ImportMapping(IReadOnlyList<ImportColumn>? Columns)
{
    /// <summary>Checks the mapping for a file.</summary>
    /// <exception cref="Refused">It cannot be used.</exception>
    internal void Check(ImportKind kind, int columns)
    {
        Checks checks = new();
        IReadOnlyList<ImportColumn> all = Columns ?? [];
        foreach ((int i, ImportColumn column) in all.Index())
        {
            checks.Require(
                ImportFields.Of(kind).Any(field => field.Name == column.Field),
                $"columns[{i}].field",
                "There is no such field."
            );
            checks.Require(
                column.Column is null || (column.Column >= 0 && column.Column < columns),
                $"columns[{i}].column",
                "The file has no such column."
            );
            checks.Require((column.Always?.Length ?? 0) <= 1000, $"columns[{i}].always", "1000 characters at the most.");
            checks.Require(all.Take(i).All(other => other.Field != column.Field), $"columns[{i}].field", "This field is there twice.");
        }

        foreach (ImportField field in ImportFields.Of(kind).Where(import => import.IsNeeded))
            checks.Require(Says(field.Name), field.Name, $"Choose the column that says: {field.Label}.");
        if (kind == ImportKind.Clients)
            checks.Require(
                Says("wholeName") || (Says("givenName") && Says("familyName")),
                "givenName",
                "Choose the columns of the given and the family name, or the one of the whole name."
            );
        if (kind == ImportKind.Services)
        {
            checks.Require(Says("phases") || Says("minutes"), "minutes", "Choose the column of the minutes, or the one of the phases.");
            checks.Require(
                Says("practitioners") || Says("qualifications"),
                "practitioners",
                "Say who may do the services: a column, or 'everyone' for all rows."
            );
        }

        checks.Done();
        bool Says(string field) =>
            all.Any(import => import.Field == field && (import.Column is not null || !string.IsNullOrWhiteSpace(import.Always)));
    }
}

/// <summary>How the letters of a file are to be read.</summary>
/// <param name="Encoding">Name of the encoding (IANA), such as "utf-8" or "windows-1252".</param>
public sealed record ImportEncodingRequest(string? Encoding);

/// <summary>How an import is to be made.</summary>
/// <param name="GoodRowsOnly">Whether rows that cannot be taken are passed over; otherwise one such row stops all.</param>
public sealed record ImportRunRequest(bool GoodRowsOnly = false);

/// <summary>A row that is not taken.</summary>
/// <param name="Place">Counts them, from 1; ask for what comes after the last one seen.</param>
/// <param name="Line">Line of the file it begins on, from 1.</param>
/// <param name="IsKnown">Whether it is passed over because its subject is there already, not because anything is wrong.</param>
/// <param name="Field">The field at fault, as people call it, or null for the row.</param>
/// <param name="Value">What the file says there.</param>
/// <param name="Message">What is wrong, and what to do.</param>
public sealed record ImportFaultAnswer(int Place, int Line, bool IsKnown, string? Field, string? Value, string Message);

/// <summary>An import.</summary>
public sealed record ImportAnswer
{
    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>What its rows are.</summary>
    public required ImportKind Kind { get; init; }

    /// <summary>How far it has come.</summary>
    public required ImportState State { get; init; }

    /// <summary>Name of the file.</summary>
    public required string FileName { get; init; }

    /// <summary>Who uploaded it.</summary>
    public required string By { get; init; }

    /// <summary>When.</summary>
    public required Instant At { get; init; }

    /// <summary>Its encoding, as found or said.</summary>
    public required string Encoding { get; init; }

    /// <summary>Heads of its columns.</summary>
    public required IReadOnlyList<string> Heads { get; init; }

    /// <summary>Rows below them.</summary>
    public required int Rows { get; init; }

    /// <summary>Rows looked at so far, while it is checked or taken over.</summary>
    public required int RowsDone { get; init; }

    /// <summary>Rows that can be taken.</summary>
    public required int Good { get; init; }

    /// <summary>Rows that cannot.</summary>
    public required int Bad { get; init; }

    /// <summary>Rows whose subject is there already; they are passed over.</summary>
    public required int Known { get; init; }

    /// <summary>Rows taken over.</summary>
    public required int Added { get; init; }

    /// <summary>Names of what is made beside the rows, such as categories.</summary>
    public required IReadOnlyList<string> Made { get; init; }

    /// <summary>Rows that stayed when it was undone, because something rests on them.</summary>
    public required int Kept { get; init; }

    /// <summary>Why it failed, or null.</summary>
    public required string? Error { get; init; }

    /// <summary>Whether it can be taken back.</summary>
    public required bool CanUndo { get; init; }

    /// <summary>Whether the file is still kept, so that it can be checked again.</summary>
    public required bool HasFile { get; init; }

    /// <summary>Which column says what, as chosen last or as it seems.</summary>
    public ImportMapping? Mapping { get; init; }

    /// <summary>The fields there are; only when one import is asked for.</summary>
    public IReadOnlyList<ImportFieldAnswer>? Fields { get; init; }

    /// <summary>The first rows; only when one import is asked for and the file is still kept.</summary>
    public IReadOnlyList<IReadOnlyList<string>>? Sample { get; init; }

    internal static ImportAnswer Of(ImportRow row) =>
        new()
        {
            Id = row.Id,
            Kind = KindOf(row),
            State = Enum.Parse<ImportState>(row.State),
            FileName = row.FileName,
            By = row.Actor,
            At = row.At,
            Encoding = row.Encoding,
            Heads = row.Heads,
            Rows = row.Rows,
            RowsDone = row.RowsDone,
            Good = row.Good,
            Bad = row.Bad,
            Known = row.Known,
            Added = row.Added,
            Made = row.Made,
            Kept = row.Kept,
            Error = row.Error,
            CanUndo = row.State == nameof(ImportState.Imported) && row.Added > 0,
            HasFile = row.HasFile,
        };

    internal static ImportKind KindOf(ImportRow row) => Enum.Parse<ImportKind>(row.Kind, ignoreCase: true);
}
