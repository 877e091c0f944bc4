using System.Globalization;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using MimeKit;
using Sexton.Core.Facts;
using Sexton.Core.Projections;

namespace Sexton.Destinations.ShopperEmail;

/// <summary>Finds the slots in the bytes of an e-mail. Shares nothing with the renderer but the slot ids and the names of the entries.</summary>
internal static class EmailReader
{
    private const string Details = "Your details";

    /// <summary>The texts of the HTML part: of each element with a data-slot. A slot that stands twice counts as not there.</summary>
    public static IReadOnlyDictionary<SlotId, string> ReadHtml(byte[] message)
    {
        var html = Parse(message).HtmlBody;
        return html is null
            ? new Dictionary<SlotId, string>()
            : new HtmlParser()
                .ParseDocument(html)
                .QuerySelectorAll("[data-slot]")
                .GroupBy(e => e.GetAttribute("data-slot")!, StringComparer.Ordinal)
                .Where(g => g.Count() == 1)
                .ToDictionary(g => SlotId.Parse(g.Key), g => FilesIn(g.Single()) ?? TextOf(g.Single()));
    }

    /// <summary>
    /// The texts of the text part. An entry is a line "  NAME: TEXT" under "Item N: …", "Item N.M: …" for the M-th
    /// one of it, or "Your details"; further lines of the text
    /// are indented by four. Of entries with equal names under one heading, the first in the text is the first in the projection.
    /// </summary>
    public static IReadOnlyDictionary<SlotId, string> ReadText(byte[] message, SentOrder order)
    {
        var sections = Sections(Parse(message).TextBody ?? "");
        var found = new Dictionary<SlotId, string>();
        foreach (var entry in order.Projection.Entries)
        {
            var section = sections.GetValueOrDefault(HeadingOf(entry, order), []);
            var label = entry.Name + ": ";
            var at = section.FindIndex(line => line.StartsWith(label, StringComparison.Ordinal));
            if (at >= 0)
            {
                var text = section[at][label.Length..];
                found[entry.Slot] = entry.Files.IsEmpty ? text : FilesIn(text);
                section.RemoveAt(at);
            }
        }

        return found;
    }

    private static MimeMessage Parse(byte[] message)
    {
        using var stream = new MemoryStream(message);
        return MimeMessage.Load(stream);
    }

    private static string TextOf(INode node) =>
        node switch
        {
            IElement { LocalName: "br" } => "\n",
            IText text => text.Data,
            _ => string.Concat(node.ChildNodes.Select(TextOf)),
        };

    // An answer of files is links that each say which file they are; null for any other.
    private static string? FilesIn(IElement element)
    {
        var files = element.QuerySelectorAll("a[href]").Select(static a => FileLink.Read(a.TextContent, a.GetAttribute("href")!)).ToList();
        return files.Count == 0 || files.Contains(null) ? null : Entry.ProofOf(files!);
    }

    // A line each: "NAME (SIZE) LINK".
    private static string FilesIn(string text) =>
        string.Join(
            '\n',
            text.Split('\n')
                .Select(static line =>
                {
                    var (link, size) = (line.LastIndexOf(' '), line.LastIndexOf(" (", StringComparison.Ordinal));
                    return size > 0 && link > size && FileLink.Read(line[..size], line[(link + 1)..]) is { } file ? file.ToString() : line;
                })
        );

    private static string HeadingOf(Entry entry, SentOrder order)
    {
        if (entry.LineId is null)
        {
            return Details;
        }

        var number = order.LineNumbers[entry.LineId];
        return entry.UnitId is null
            ? string.Create(CultureInfo.InvariantCulture, $"Item {number}")
            : string.Create(
                CultureInfo.InvariantCulture,
                $"Item {number}.{order.Content.Lines[number - 1].Units.IndexOf(entry.UnitId) + 1}"
            );
    }

    // The entries by the words of their heading before its colon.
    private static Dictionary<string, List<string>> Sections(string body)
    {
        var sections = new Dictionary<string, List<string>>(StringComparer.Ordinal);
        List<string>? current = null;
        foreach (var line in body.Replace("\r\n", "\n", StringComparison.Ordinal).Split('\n'))
        {
            if (line.StartsWith("    ", StringComparison.Ordinal) && current is { Count: > 0 })
            {
                current[^1] += "\n" + line[4..];
            }
            else if (line.StartsWith("  ", StringComparison.Ordinal))
            {
                current?.Add(line[2..]);
            }
            else if (HeadingIn(line) is { } heading)
            {
                sections[heading] = current = [];
            }
            else if (line.Length > 0)
            {
                current = null;
            }
        }

        return sections;
    }

    private static string? HeadingIn(string line)
    {
        var colon = line.IndexOf(':', StringComparison.Ordinal);
        return line == Details ? Details
            : line.StartsWith("Item ", StringComparison.Ordinal) && colon > 5 ? line[..colon]
            : null;
    }
}
