using System.Globalization;
using System.Text;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using MimeKit;
using Sexton.Core.Facts;
using Sexton.Core.Projections;

namespace Sexton.Destinations.Email;

/// <summary>
/// Finds the slots in the bytes of an e-mail by their marks, whatever its language. Shares nothing with the renderer but the slot ids, and the numbers and names of the
/// entries.
/// </summary>
internal static class EmailReader
{
    /// <summary>The texts of the HTML part: of each element with a data-slot. A slot that stands twice counts as not there.</summary>
    public static IReadOnlyDictionary<SlotId, string> ReadHtml(byte[] message)
    {
        return new HtmlParser()
            .ParseDocument(Bodies(message).Html)
            .QuerySelectorAll("[data-slot]")
            .GroupBy(e => e.GetAttribute("data-slot")!, StringComparer.Ordinal)
            .Where(g => g.Count() == 1)
            .ToDictionary(g => SlotId.Parse(g.Key), g => FilesIn(g.Single()) ?? TextOf(g.Single()));
    }

    /// <summary>
    /// The texts of the text part. The N-th entry of the projection is a line "  N. NAME: TEXT"; further lines of the text are indented by four. A number that
    /// stands twice counts as not there.
    /// </summary>
    public static IReadOnlyDictionary<SlotId, string> ReadText(byte[] message, Projection sent)
    {
        var found = new Dictionary<SlotId, string>();
        var marked = Marked(Bodies(message).Text);
        foreach (var (entry, i) in sent.Entries.Select(static (e, i) => (e, i)))
        {
            var label = entry.Name + ": ";
            if (marked[i + 1].ToList() is [var only] && only.Text.StartsWith(label, StringComparison.Ordinal))
            {
                var text = only.Text[label.Length..];
                found[entry.Slot] = entry.Files.IsEmpty ? text : FilesIn(text);
            }
        }

        return found;
    }

    /// <summary>The lines of the text part, counted from 0, where a slot stands.</summary>
    public static IReadOnlyList<int> LinesOf(string text, Projection sent, string slot)
    {
        var number = sent.Entries.ToList().FindIndex(e => e.Slot.ToString() == slot) + 1;
        return [.. Marked(text)[number].SelectMany(static m => Enumerable.Range(m.From, m.Count))];
    }

    /// <summary>The HTML part and the text part; "" for one that is not there.</summary>
    public static (string Html, string Text) Bodies(byte[] message)
    {
        using var parsed = Parse(message);
        return (parsed.HtmlBody ?? "", (parsed.TextBody ?? "").Replace("\r\n", "\n", StringComparison.Ordinal));
    }

    /// <summary>The whole message as it went, without the bytes of what is attached to it.</summary>
    public static string AsSent(byte[] message)
    {
        using var parsed = Parse(message);
        if (!parsed.Attachments.Any())
        {
            return Encoding.UTF8.GetString(message);
        }

        foreach (var part in parsed.Attachments.OfType<MimePart>())
        {
            using var content = new MemoryStream();
            part.Content!.DecodeTo(content);
            var instead = string.Create(CultureInfo.InvariantCulture, $"[{content.Length} bytes]\r\n");
            part.Content = new MimeContent(new MemoryStream(Encoding.ASCII.GetBytes(instead)));
            part.ContentTransferEncoding = ContentEncoding.SevenBit;
        }

        using var bytes = new MemoryStream();
        parsed.WriteTo(bytes);
        return Encoding.UTF8.GetString(bytes.ToArray());
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

    // What stands behind each number, with its further lines, and where.
    private static ILookup<int, MarkedText> Marked(string body)
    {
        var found = new List<MarkedText>();
        MarkedText? current = null;
        foreach (var (line, i) in body.Split('\n').Select(static (l, i) => (l, i)))
        {
            if (current is not null && line.StartsWith("    ", StringComparison.Ordinal))
            {
                current = found[^1] = current with { Text = current.Text + "\n" + line[4..], Count = current.Count + 1 };
                continue;
            }

            current = NumberIn(line) is { } number
                ? new MarkedText(number, line[(line.IndexOf(". ", StringComparison.Ordinal) + 2)..], i, 1)
                : null;
            if (current is not null)
            {
                found.Add(current);
            }
        }

        return found.ToLookup(static m => m.Number);
    }

    private static int? NumberIn(string line)
    {
        var end = line.IndexOf(". ", StringComparison.Ordinal);
        return
            end > 2
            && line.StartsWith("  ", StringComparison.Ordinal)
            && int.TryParse(line.AsSpan(2, end - 2), NumberStyles.None, CultureInfo.InvariantCulture, out var number)
            ? number
            : null;
    }

    private sealed record MarkedText(int Number, string Text, int From, int Count);
}
