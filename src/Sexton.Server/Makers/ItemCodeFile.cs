using System.Collections.Immutable;
using Sexton.Server.Common;

namespace Sexton.Server.Makers;

/// <summary>A table of item codes as a file: CSV (RFC 4180) with a heading, the item code of the shop and the code there.</summary>
internal static class ItemCodeFile
{
    /// <summary>The greatest length of a code, in characters.</summary>
    public const int Longest = 100;

    private const string Item = "item code",
        There = "code there";

    /// <summary>Writes a table.</summary>
    public static Task<byte[]> WriteAsync(IEnumerable<KeyValuePair<string, string>> codes) =>
        CsvTable.WriteAsync([
            [Item, There],
            .. codes.OrderBy(static c => c.Key, StringComparer.Ordinal).Select(static c => ImmutableArray.Create(c.Key, c.Value)),
        ]);

    /// <summary>Reads a table. Further columns are passed over.</summary>
    /// <exception cref="ApiProblemException">A line is none; the message names it.</exception>
    public static Dictionary<string, string> Read(string text)
    {
        using var rows = CsvTable.Read(new StringReader(text)).GetEnumerator();
        if (!rows.MoveNext() || Column(rows.Current, Item) is not { } item || Column(rows.Current, There) is not { } there)
        {
            throw Refused($"The first line must name the columns “{Item}” and “{There}”, separated by commas.");
        }

        var found = new Dictionary<string, string>(StringComparer.Ordinal);
        for (var line = 2; rows.MoveNext(); line++)
        {
            var (ours, theirs) = (Text(rows.Current, item).Trim(), Text(rows.Current, there).Trim());
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

    private static int? Column(ImmutableArray<string> names, string name) =>
        names.ToList().FindIndex(n => string.Equals(n.Trim(), name, StringComparison.OrdinalIgnoreCase)) is >= 0 and var at ? at : null;

    private static string Text(ImmutableArray<string> row, int column) => column < row.Length ? row[column] : "";

    private static ApiProblemException Refused(string why) => ApiProblemException.Unprocessable("codes_refused", why);
}
