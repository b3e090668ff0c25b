using System.Text;
using CsvHelper;
using Kingcup.Core.Exchange;
using Kingcup.Server.Api;
using UtfUnknown;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Exchange;

/// <summary>A row of a file.</summary>
/// <param name="Line">Line of the file it begins on, from 1.</param>
/// <param name="Cells">Its cells, without the blanks around them.</param>
internal sealed record CsvRow(int Line, string[] Cells);

/// <summary>What a file looks like before anyone has said what it means.</summary>
/// <param name="Encoding">Name of its encoding (IANA).</param>
/// <param name="Delimiter">What stands between two cells.</param>
/// <param name="Heads">Heads of its columns.</param>
/// <param name="Rows">Rows below them.</param>
internal sealed record CsvShape(string Encoding, string Delimiter, string[] Heads, int Rows);

/// <summary>Reads comma separated values (RFC 4180) as programs of several countries write them: other marks between cells, other
/// encodings.</summary>
internal static class CsvFile
{
    /// <summary>Largest file, in bytes.</summary>
    internal const int MostBytes = 64 * 1024 * 1024;

    private const int MostColumns = 200, MostRowBytes = 128 * 1024;

    static CsvFile() => Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);

    /// <summary>Most rows of a kind of file.</summary>
    internal static int MostRows(ImportKind kind) => kind switch { ImportKind.Clients => 200_000, ImportKind.Services => 2_000, _ => 500 };

    /// <summary>Looks through a file once.</summary>
    /// <param name="bytes">The file.</param>
    /// <param name="kind">What its rows are.</param>
    /// <param name="encoding">Its encoding where somebody has said so, or null to find it out.</param>
    /// <exception cref="Refused">It is no such file, holds nothing or too much.</exception>
    internal static CsvShape Look(byte[] bytes, ImportKind kind, string? encoding)
    {
        if (bytes.Length == 0)
            throw Refused.Invalid("file", "This file is empty. Choose one with a row of heads and a row for each entry.");
        if (bytes.AsSpan().StartsWith("PK\u0003\u0004"u8) || bytes.AsSpan().StartsWith<byte>([0xD0, 0xCF, 0x11, 0xE0]))
            throw Refused.Invalid("file", "This is a spreadsheet or an archive. Open it where it comes from and save it as CSV first.");
        string name = encoding is null ? EncodingOf(bytes) : Known(encoding);
        using CsvReader reader = Open(bytes, name, null);
        string[] heads = [];
        int rows = 0, most = MostRows(kind);
        foreach (CsvRow row in Rows(reader))
        {
            if (heads.Length == 0)
            {
                if (row.Cells.Length > MostColumns)
                    throw Refused.Invalid("file", $"This file has more than {MostColumns} columns. Leave out those that are not needed.");
                heads =
                [
                    .. row.Cells.Select(
                        (head, i) =>
                            head.Length == 0 ? Say($"Column {i + 1}").ToString()
                            : head.Length > 120 ? head[..120]
                            : head
                    ),
                ];
            }
            else if (++rows > most)
            {
                throw Refused.Invalid(
                    "file",
                    $"This file has more than {most} rows. "
                        + $"Part it into several files; what came with an earlier one is passed over."
                );
            }
        }

        if (rows == 0)
            throw Refused.Invalid("file", "This file has heads at the most and no rows below them. Choose one with a row for each entry.");
        return new CsvShape(name, reader.Separator.ToString(), heads, rows);
    }

    /// <summary>The rows of a file, the heads first.</summary>
    /// <exception cref="Refused">A row cannot be read.</exception>
    internal static IEnumerable<CsvRow> Rows(byte[] bytes, string encoding, string delimiter)
    {
        using CsvReader reader = Open(bytes, encoding, delimiter[0]);
        foreach (CsvRow row in Rows(reader)) yield return row;
    }

    private static IEnumerable<CsvRow> Rows(CsvReader reader)
    {
        int last = 0;
        while (true)
        {
            try
            {
                if (!reader.Read()) yield break;
            }
            catch (CsvFormatException)
            {
                throw Refused.Invalid(
                    "file",
                    $"The row behind line {last} is longer than {MostRowBytes / 1024} kB. A quotation mark may be opened there "
                        + $"and not closed."
                );
            }

            last = (int)reader.LineNumber;
            string[] cells = new string[reader.FieldCount];
            for (int i = 0; i < cells.Length; i++) cells[i] = FieldText.Cell(reader.GetString(i));
            if (cells.Any(cell => cell.Length > 0)) yield return new CsvRow(last, cells);
        }
    }

    private static CsvReader Open(byte[] bytes, string encoding, char? separator) => CsvReader.Create(
        new StreamReader(new MemoryStream(bytes, writable: false), Encoding.GetEncoding(encoding), detectEncodingFromByteOrderMarks: true),
        new CsvReaderOptions { Separator = separator, HasHeader = false, MaxRecordSize = MostRowBytes, TrackLineNumbers = true },
        leaveOpen: false);

    /// <summary>UTF-8 when the bytes can be nothing else; otherwise the likeliest, or the one western programs write.</summary>
    private static string EncodingOf(byte[] bytes)
    {
        if (bytes.AsSpan().StartsWith<byte>([0xFF, 0xFE])) return "utf-16";
        if (bytes.AsSpan().StartsWith<byte>([0xFE, 0xFF])) return "utf-16BE";
        if (bytes.AsSpan().Contains((byte)0)) throw Refused.Invalid("file", "This is not a text file. Choose a CSV file.");
        try
        {
            new UTF8Encoding(false, throwOnInvalidBytes: true).GetCharCount(bytes);
            return "utf-8";
        }
        catch (DecoderFallbackException)
        {
            DetectionDetail? found = CharsetDetector.DetectFromBytes(bytes.Length > 1_000_000 ? bytes[..1_000_000] : bytes).Detected;
            // What calls itself Latin-1 is in truth the code page of western Windows, which has all of it and more.
            return found is { Confidence: > 0.5f, Encoding: { } likely } && likely.WebName is not ("iso-8859-1" or "us-ascii")
                ? likely.WebName
                : "windows-1252";
        }
    }

    private static string Known(string encoding)
    {
        try
        {
            return Encoding.GetEncoding(encoding).WebName;
        }
        catch (ArgumentException)
        {
            throw Refused.Invalid("encoding", "There is no such encoding. Try 'utf-8' or 'windows-1252'.");
        }
    }
}
