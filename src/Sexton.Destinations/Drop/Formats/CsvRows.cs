using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;
using Sexton.Core.Facts;

namespace Sexton.Destinations.Drop.Formats;

/// <summary>The rows of a file of comma-separated values, with where they stand in it.</summary>
internal static class CsvRows
{
    /// <summary>The positions of the columns that are always there.</summary>
    public const int Kind = 0,
        Order = 1,
        Line = 3,
        Piece = 4,
        Amount = 8,
        Tax = 9;

    /// <summary>The columns that are always there.</summary>
    public static readonly string[] Columns =
    [
        "row",
        "order",
        "placed_at",
        "line",
        "piece",
        "item",
        "description",
        "quantity",
        "amount",
        "tax",
        "currency",
    ];

    /// <summary>How it is written and read: as RFC 4180 says, with lines that end in CR LF.</summary>
    public static readonly CsvConfiguration Configuration = new(CultureInfo.InvariantCulture)
    {
        NewLine = "\r\n",
        HasHeaderRecord = false,
        IgnoreBlankLines = false,
        DetectColumnCountChanges = false,

        // A line end of whatever kind, so that no reader takes it for the end of the record.
        ShouldQuote = static a =>
            a.Field is { Length: > 0 } field && (field.AsSpan().ContainsAny(",\"\r\n") || field[0] == ' ' || field[^1] == ' '),
    };

    /// <summary>What a row says that it is about.</summary>
    public static string KindOf(Level level) =>
        level switch
        {
            Level.Order => "order",
            Level.Line => "line",
            _ => "piece",
        };

    /// <summary>The rows of some bytes, the names of the columns first; none where they are no such file.</summary>
    public static IReadOnlyList<CsvRow> Of(byte[] file)
    {
        try
        {
            using var text = new StringReader(new UTF8Encoding(false, throwOnInvalidBytes: true).GetString(file));
            using var parser = new CsvParser(text, Configuration);
            var (rows, line) = (new List<CsvRow>(), 0);
            while (parser.Read())
            {
                var lines = parser.RawRecord.Count(static c => c == '\n');
                rows.Add(new CsvRow([.. parser.Record!], parser.RawRecord, line, lines));
                line += lines;
            }

            return rows;
        }
        catch (Exception e) when (e is CsvHelperException or DecoderFallbackException)
        {
            return [];
        }
    }
}

/// <summary>A row.</summary>
/// <param name="Cells">Its cells.</param>
/// <param name="Raw">It as it stands there, with its end.</param>
/// <param name="FirstLine">The line of the file on which it begins, from 0.</param>
/// <param name="Lines">Over how many lines it goes.</param>
internal sealed record CsvRow(IReadOnlyList<string> Cells, string Raw, int FirstLine, int Lines)
{
    /// <summary>A cell; "" where the row is too short.</summary>
    public string Cell(int column) => column < Cells.Count ? Cells[column] : "";
}
