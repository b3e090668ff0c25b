using Kingcup.Core.Exchange;
using NodaTime;

namespace Kingcup.Storage;

/// <summary>How far an import has come.</summary>
public enum ImportState
{
    /// <summary>The file is here; nobody has said which column is what.</summary>
    Uploaded,

    /// <summary>Its rows are being checked.</summary>
    Checking,

    /// <summary>Its rows were checked; nothing is kept of them yet.</summary>
    Checked,

    /// <summary>Its rows are being taken over.</summary>
    Importing,

    /// <summary>Its rows are kept.</summary>
    Imported,

    /// <summary>It is being taken back.</summary>
    Undoing,

    /// <summary>It was taken back.</summary>
    Undone,

    /// <summary>It could not be done; nothing was kept.</summary>
    Failed,
}

/// <summary>A file of rows on its way in.</summary>
public sealed class ImportRow
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; }

    /// <summary>What its rows are, as <see cref="ImportKind"/> in lower case.</summary>
    public string Kind { get; init; } = "";

    /// <summary>Name of the file.</summary>
    public string FileName { get; init; } = "";

    /// <summary>Who uploaded it.</summary>
    public string Actor { get; init; } = "";

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>Rows below the heads.</summary>
    public int Rows { get; init; }

    /// <summary>How far it has come, as <see cref="ImportState"/>.</summary>
    public string State { get; init; } = nameof(ImportState.Uploaded);

    /// <summary>Name of its encoding.</summary>
    public string Encoding { get; init; } = "";

    /// <summary>What stands between two cells.</summary>
    public string Delimiter { get; init; } = ",";

    /// <summary>Heads of its columns.</summary>
    public string[] Heads { get; init; } = [];

    /// <summary>Which column says what (JSON), or null.</summary>
    public string? Mapping { get; init; }

    /// <summary>Rows looked at so far.</summary>
    public int RowsDone { get; init; }

    /// <summary>Rows that can be taken.</summary>
    public int Good { get; init; }

    /// <summary>Rows that cannot.</summary>
    public int Bad { get; init; }

    /// <summary>Rows whose subject is there already.</summary>
    public int Known { get; init; }

    /// <summary>Rows taken over.</summary>
    public int Added { get; init; }

    /// <summary>Names of what is made beside the rows.</summary>
    public string[] Made { get; init; } = [];

    /// <summary>What stayed when it was undone.</summary>
    public int Kept { get; init; }

    /// <summary>Whether bad rows are passed over.</summary>
    public bool GoodRowsOnly { get; init; }

    /// <summary>Why it failed, or null.</summary>
    public string? Error { get; init; }

    /// <summary>Whether the file is still here.</summary>
    public bool HasFile { get; init; }
}

/// <summary>A row that is not taken, and why.</summary>
public sealed record ImportFault
{
    /// <summary>Counts the faults of an import, from 1.</summary>
    public int Place { get; init; }

    /// <summary>Line of the file the row begins on, from 1.</summary>
    public int Line { get; init; }

    /// <summary>Whether it is passed over because its subject is there already.</summary>
    public bool IsKnown { get; init; }

    /// <summary>Name of the field at fault, or null for the row.</summary>
    public string? Field { get; init; }

    /// <summary>What is wrong, and what to do.</summary>
    public string Message { get; init; } = "";

    /// <summary>The row as it stands in the file.</summary>
    public string[] Cells { get; init; } = [];
}
