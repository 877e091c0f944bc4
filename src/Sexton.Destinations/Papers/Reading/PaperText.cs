using UglyToad.PdfPig;
using UglyToad.PdfPig.Tokens;

namespace Sexton.Destinations.Papers.Reading;

/// <summary>An answer as it stands on a paper.</summary>
/// <param name="Text">Its text, line by line.</param>
/// <param name="Spots">Where it stands.</param>
/// <param name="Boxes">How many of its characters are printed as a box, since no font has a letter for them.</param>
/// <param name="Unreadable">How many of its letters nothing says the character of.</param>
public sealed record PrintedAnswer(string Text, IReadOnlyList<PageSpot> Spots, int Boxes, int Unreadable);

/// <summary>
/// Reads the answers in a PDF by its structure (ISO 32000-1, 14.7): each element whose language names a line of an answer has the marked contents that this line
/// is painted by, in the order in which they are read. A line that stands twice stands in no one place, and is not there.
/// </summary>
public sealed class PaperText
{
    private readonly PdfDocument _document;
    private readonly Dictionary<long, int> _pages = [];
    private readonly Dictionary<int, PageTexts> _texts = [];
    private readonly List<(int Number, int Line, MarkedText Text)> _lines = [];

    private PaperText(PdfDocument document)
    {
        _document = document;
        document.AddPageFactory<PageTexts, PageReader>();
        var catalog = document.Structure.Catalog.CatalogDictionary;
        ListPages(catalog.Data["Pages"]);
        if (catalog.Data.TryGetValue("StructTreeRoot", out var root))
        {
            Walk(root, null, null);
        }
    }

    /// <summary>The answers of a PDF, by their number.</summary>
    /// <param name="pdf">The file.</param>
    public static IReadOnlyDictionary<int, PrintedAnswer> Read(byte[] pdf)
    {
        try
        {
            using var document = PdfDocument.Open(pdf);
            return new PaperText(document).Answers();
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            // Whatever is wrong with it, a file that is no good PDF has no answers.
            return new Dictionary<int, PrintedAnswer>();
        }
    }

    private Dictionary<int, PrintedAnswer> Answers() =>
        _lines
            .GroupBy(static l => l.Number)
            .Where(static g => g.DistinctBy(static l => l.Line).Count() == g.Count())
            .ToDictionary(static g => g.Key, static g => Answer(g.ToDictionary(static l => l.Line, static l => l.Text)));

    // A line that is not there is empty: nothing is painted of it.
    private static PrintedAnswer Answer(Dictionary<int, MarkedText> lines) =>
        new(
            string.Join(
                '\n',
                Enumerable.Range(0, lines.Keys.Max() + 1).Select(i => lines.TryGetValue(i, out var line) ? line.Text.ToString() : "")
            ),
            [.. lines.Values.SelectMany(static l => l.Lines())],
            lines.Values.Sum(static l => l.Boxes),
            lines.Values.Sum(static l => l.Unreadable)
        );

    private void ListPages(IToken token)
    {
        if (Get(token) is not DictionaryToken node)
        {
            return;
        }

        if (node.Data.TryGetValue("Kids", out var kids))
        {
            foreach (var kid in ((ArrayToken)Get(kids)).Data)
            {
                ListPages(kid);
            }
        }
        else if (token is IndirectReferenceToken reference)
        {
            _pages[reference.Data.ObjectNumber] = _pages.Count + 1;
        }
    }

    private void Walk(IToken token, long? page, MarkedText? line)
    {
        switch (Get(token))
        {
            case ArrayToken all:
                foreach (var one in all.Data)
                {
                    Walk(one, page, line);
                }

                break;
            case NumericToken number when page is { } on && line is not null:
                Take(on, number.Int, line);
                break;
            // A marked content on another page than the element's own (ISO 32000-1, 14.7.4.2).
            case DictionaryToken reference when line is not null && reference.Data.TryGetValue("MCID", out var id):
                Take(PageOf(reference, page) ?? 0, ((NumericToken)id).Int, line);
                break;
            case DictionaryToken element when element.Data.TryGetValue("K", out var kids):
                WalkInto(element, kids, page, line);
                break;
        }
    }

    private void WalkInto(DictionaryToken element, IToken kids, long? page, MarkedText? line)
    {
        page = PageOf(element, page);
        var language = element.Data.TryGetValue("Lang", out var said) && Get(said) is StringToken text ? text.Data : "";
        if (line is not null && SlotMarks.IsTab(language))
        {
            line.Text.Append('\t');
            return;
        }

        if (SlotMarks.Read(language) is { } mark)
        {
            line = new MarkedText();
            _lines.Add((mark.Number, mark.Line, line));
        }

        Walk(kids, page, line);
    }

    private static long? PageOf(DictionaryToken element, long? around) =>
        element.Data.TryGetValue("Pg", out var on) && on is IndirectReferenceToken reference ? reference.Data.ObjectNumber : around;

    private void Take(long page, int id, MarkedText line)
    {
        if (!_pages.TryGetValue(page, out var number))
        {
            return;
        }

        var texts = _texts.TryGetValue(number, out var read) ? read : _texts[number] = _document.GetPage<PageTexts>(number);
        if (texts.Texts.TryGetValue(id, out var marked))
        {
            line.Text.Append(marked.Text);
            line.Spots.AddRange(marked.Spots);
            line.Boxes += marked.Boxes;
            line.Unreadable += marked.Unreadable;
        }
    }

    private IToken Get(IToken token) =>
        token is IndirectReferenceToken reference ? _document.Structure.GetObject(reference.Data).Data : token;
}
