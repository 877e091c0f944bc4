using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;
using Sexton.Core.Projections;

namespace Sexton.Server.Common;

/// <summary>Tables as CSV (RFC 4180) that go out to a spreadsheet and come back from it.</summary>
internal static class CsvTable
{
    /// <summary>The media type.</summary>
    public const string MediaType = "text/csv";

    private static readonly CsvConfiguration Written = new(CultureInfo.InvariantCulture) { NewLine = "\r\n" };

    // What a spreadsheet of another country writes has semicolons between.
    private static readonly CsvConfiguration Taken = new(CultureInfo.InvariantCulture)
    {
        DetectDelimiter = true,
        DetectDelimiterValues = [",", ";", "\t"],
        BadDataFound = null,
    };

    /// <summary>Writes a table, with a byte order mark for spreadsheets. A cell that a spreadsheet would take for a formula has an apostrophe before it.</summary>
    public static async Task<byte[]> WriteAsync(IEnumerable<ImmutableArray<string>> rows)
    {
        using var bytes = new MemoryStream();
        await using (var text = new StreamWriter(bytes, new UTF8Encoding(encoderShouldEmitUTF8Identifier: true)))
        await using (var csv = new CsvWriter(text, Written))
        {
            foreach (var row in rows)
            {
                foreach (var cell in row)
                {
                    csv.WriteField(Fitting.Guarded(cell));
                }

                await csv.NextRecordAsync();
            }
        }

        return bytes.ToArray();
    }

    /// <summary>Reads a table, row by row.</summary>
    /// <param name="text">The table, without a byte order mark.</param>
    public static IEnumerable<ImmutableArray<string>> Read(TextReader text)
    {
        using var parser = new CsvParser(text, Taken);
        while (parser.Read())
        {
            yield return [.. parser.Record!.Select(Fitting.Unguarded)];
        }
    }
}
