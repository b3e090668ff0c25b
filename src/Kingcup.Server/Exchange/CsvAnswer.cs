using CsvHelper;

namespace Kingcup.Server.Exchange;

/// <summary>Answers with a CSV file, written as it is read.</summary>
internal static class CsvAnswer
{
    /// <summary>
    /// A file (RFC 4180, UTF-8 with a mark, so that spreadsheets read it right). Every cell is made harmless: none is taken for
    /// a formula, whatever it holds.
    /// </summary>
    internal static IResult Of(string name, Func<CsvWriter, Task> write) => Results.Stream(async stream =>
    {
        await using CsvWriter csv = CsvWriter.Create(stream, new CsvWriterOptions { WriteByteOrderMark = true }, leaveOpen: true);
        await write(csv);
        await csv.FlushAsync();
    }, "text/csv; charset=utf-8", name);

    /// <summary>Writes a row.</summary>
    internal static async Task RowAsync(CsvWriter csv, IEnumerable<string> cells) =>
        await csv.WriteRecordAsync([.. cells.Select(Core.Exchange.FieldText.Harmless)]);
}
