using System.Text;
using Sexton.Core.Projections;

namespace Sexton.Destinations;

/// <summary>
/// The remark of an order, a line or a piece of it: a text where answers that are too long for their notes go on, each on a line "KEY: REST"; further lines of one are
/// indented by two. Of what stands with the order though it is about a line, the key is that of its slot.
/// </summary>
internal static class Remark
{
    private const string Further = "  ";

    /// <summary>What goes on of some entries; "" for nothing.</summary>
    public static string Write(IEnumerable<Entry> entries) =>
        string.Join(
            '\n',
            entries
                .Where(static e => e.Rest is not null)
                .Select(static e => $"{KeyOf(e)}: {e.Rest!.Replace("\n", "\n" + Further, StringComparison.Ordinal)}")
        );

    /// <summary>Under which key it stands what goes on of an entry.</summary>
    public static string KeyOf(Entry entry) => entry.WithOrder ? entry.Slot.ToString() : entry.Field;

    /// <summary>What goes on by that key; one that stands there twice cannot be told apart, and is not there.</summary>
    public static IReadOnlyDictionary<string, string> Read(string remark)
    {
        var found = new List<(string Key, StringBuilder Text)>();
        foreach (var line in remark.Split('\n'))
        {
            if (line.StartsWith(Further, StringComparison.Ordinal) && found.Count > 0)
            {
                found[^1].Text.Append('\n').Append(line.AsSpan(Further.Length));
            }
            else if (line.IndexOf(": ", StringComparison.Ordinal) is > 0 and var end)
            {
                found.Add((line[..end], new StringBuilder(line[(end + 2)..])));
            }
        }

        return found
            .GroupBy(static f => f.Key, StringComparer.Ordinal)
            .Where(static g => g.Count() == 1)
            .ToDictionary(static g => g.Key, static g => g.Single().Text.ToString(), StringComparer.Ordinal);
    }
}
