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
        foreach ((int i, ImportColumn one) in all.Index())
        {
            checks.Require(ImportFields.Of(kind).Any(field => field.Name == one.Field), $"columns[{i}].field", "There is no such field.");
            checks.Require(
                one.Column is null || (one.Column >= 0 && one.Column < columns),
                $"columns[{i}].column",
                "The file has no such column."
            );
            checks.Require((one.Always?.Length ?? 0) <= 1000, $"columns[{i}].always", "1000 characters at the most.");
            checks.Require(all.Take(i).All(other => other.Field != one.Field), $"columns[{i}].field", "This field is there twice.");
        }

        foreach (ImportField field in ImportFields.Of(kind).Where(one => one.IsNeeded))
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
        bool Says(string field) => all.Any(one => one.Field == field && (one.Column is not null || !string.IsNullOrWhiteSpace(one.Always)));
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
/// <param name="Id">Identity.</param>
/// <param name="Kind">What its rows are.</param>
/// <param name="State">How far it has come.</param>
/// <param name="FileName">Name of the file.</param>
/// <param name="By">Who uploaded it.</param>
/// <param name="At">When.</param>
/// <param name="Encoding">Its encoding, as found or said.</param>
/// <param name="Heads">Heads of its columns.</param>
/// <param name="Rows">Rows below them.</param>
/// <param name="RowsDone">Rows looked at so far, while it is checked or taken over.</param>
/// <param name="Good">Rows that can be taken.</param>
/// <param name="Bad">Rows that cannot.</param>
/// <param name="Known">Rows whose subject is there already; they are passed over.</param>
/// <param name="Added">Rows taken over.</param>
/// <param name="Made">Names of what is made beside the rows, such as categories.</param>
/// <param name="Kept">Rows that stayed when it was undone, because something rests on them.</param>
/// <param name="Error">Why it failed, or null.</param>
/// <param name="CanUndo">Whether it can be taken back.</param>
/// <param name="HasFile">Whether the file is still kept, so that it can be checked again.</param>
/// <param name="Mapping">Which column says what, as chosen last or as it seems.</param>
/// <param name="Fields">The fields there are; only when one import is asked for.</param>
/// <param name="Sample">The first rows; only when one import is asked for and the file is still kept.</param>
public sealed record ImportAnswer(
    Guid Id,
    ImportKind Kind,
    ImportState State,
    string FileName,
    string By,
    Instant At,
    string Encoding,
    IReadOnlyList<string> Heads,
    int Rows,
    int RowsDone,
    int Good,
    int Bad,
    int Known,
    int Added,
    IReadOnlyList<string> Made,
    int Kept,
    string? Error,
    bool CanUndo,
    bool HasFile,
    ImportMapping? Mapping = null,
    IReadOnlyList<ImportFieldAnswer>? Fields = null,
    IReadOnlyList<IReadOnlyList<string>>? Sample = null
)
{
    internal static ImportAnswer Of(ImportRow row) =>
        new(
            row.Id,
            KindOf(row),
            Enum.Parse<ImportState>(row.State),
            row.FileName,
            row.Actor,
            row.At,
            row.Encoding,
            row.Heads,
            row.Rows,
            row.RowsDone,
            row.Good,
            row.Bad,
            row.Known,
            row.Added,
            row.Made,
            row.Kept,
            row.Error,
            row.State == nameof(ImportState.Imported) && row.Added > 0,
            row.HasFile
        );

    internal static ImportKind KindOf(ImportRow row) => Enum.Parse<ImportKind>(row.Kind, ignoreCase: true);
}
