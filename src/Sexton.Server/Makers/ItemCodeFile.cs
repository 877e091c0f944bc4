using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;
using Sexton.Server.Common;

namespace Sexton.Server.Makers;

/// <summary>A table of item codes as a file: CSV (RFC 4180) with a heading, the item code of the shop and the code there.</summary>
internal static class ItemCodeFile
{
    /// <summary>The greatest length of a code, in characters.</summary>
    public const int Longest = 100;

    private const string Item = "item code",
        There = "code there";

    private static readonly CsvConfiguration Written = new(CultureInfo.InvariantCulture) { NewLine = "\r\n" };
    private static readonly CsvConfiguration Taken = new(CultureInfo.InvariantCulture) { BadDataFound = null };

    /// <summary>Writes a table.</summary>
    public static byte[] Write(IEnumerable<KeyValuePair<string, string>> codes)
    {
        using var text = new StringWriter(CultureInfo.InvariantCulture);
        using (var csv = new CsvWriter(text, Written))
        {
            csv.WriteField(Item);
            csv.WriteField(There);
            csv.NextRecord();
            foreach (var (item, code) in codes.OrderBy(static c => c.Key, StringComparer.Ordinal))
            {
                csv.WriteField(item);
                csv.WriteField(code);
                csv.NextRecord();
            }
        }

        return Encoding.UTF8.GetBytes(text.ToString());
    }

    /// <summary>Reads a table. Further columns are passed over.</summary>
    /// <exception cref="ApiProblemException">A line is none; the message names it.</exception>
    public static Dictionary<string, string> Read(string text)
    {
        using var csv = new CsvReader(new StringReader(text.TrimStart('\ufeff')), Taken);
        if (!csv.Read() || !csv.ReadHeader() || Column(csv, Item) is not { } item || Column(csv, There) is not { } there)
        {
            throw Refused($"The first line must name the columns “{Item}” and “{There}”, separated by commas.");
        }

        var found = new Dictionary<string, string>(StringComparer.Ordinal);
        while (csv.Read())
        {
            var line = csv.Parser.RawRow;
            var (ours, theirs) = (Text(csv, item).Trim(), Text(csv, there).Trim());
            Check(ours, theirs, $"Line {line}: ");
            if (!found.TryAdd(ours, theirs))
            {
                throw Refused($"Line {line}: “{ours}” stands there twice.");
            }
        }

        return found;
    }

    /// <summary>Checks a match.</summary>
    /// <param name="item">The item code of the shop.</param>
    /// <param name="code">The code there; empty to take it out.</param>
    /// <param name="where">What the refusal begins with.</param>
    /// <exception cref="ApiProblemException">It is none.</exception>
    public static void Check(string item, string code, string where = "")
    {
        if (item.Length is 0 or > Longest || code.Length > Longest || (item + code).Any(char.IsControl))
        {
            throw Refused($"{where}A code has 1 to {Longest} characters, and is one line.");
        }
    }

    private static int? Column(CsvReader csv, string name) =>
        Array.FindIndex(csv.HeaderRecord!, h => string.Equals(h.Trim(), name, StringComparison.OrdinalIgnoreCase)) is >= 0 and var at
            ? at
            : null;

    private static string Text(CsvReader csv, int column) => csv.TryGetField<string>(column, out var text) ? text ?? "" : "";

    private static ApiProblemException Refused(string why) => ApiProblemException.Unprocessable("codes_refused", why);
}
