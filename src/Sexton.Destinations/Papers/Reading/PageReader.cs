using System.Text;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Content;
using UglyToad.PdfPig.Core;
using UglyToad.PdfPig.Filters;
using UglyToad.PdfPig.Geometry;
using UglyToad.PdfPig.Graphics;
using UglyToad.PdfPig.Graphics.Operations;
using UglyToad.PdfPig.Outline.Destinations;
using UglyToad.PdfPig.Parser;
using UglyToad.PdfPig.PdfFonts;
using UglyToad.PdfPig.Tokenization.Scanner;
using UglyToad.PdfPig.Tokens;

namespace Sexton.Destinations.Papers.Reading;

/// <summary>The marked contents of a page, by their number.</summary>
/// <param name="Texts">The texts.</param>
internal sealed record PageTexts(IReadOnlyDictionary<int, MarkedText> Texts);

/// <summary>Reads pages for their marked contents; PdfPig makes it.</summary>
internal sealed class PageReader(
    IPdfTokenScanner scanner,
    IResourceStore resources,
    ILookupFilterProvider filters,
    IPageContentParser parser,
    ParsingOptions options
) : BasePageFactory<PageTexts>(scanner, resources, filters, parser, options)
{
    protected override PageTexts ProcessPage(
        int pageNumber,
        DictionaryToken dictionary,
        NamedDestinations namedDestinations,
        MediaBox mediaBox,
        CropBox cropBox,
        UserSpaceUnit userSpaceUnit,
        PageRotationDegrees rotation,
        TransformationMatrix initialMatrix,
        IReadOnlyList<IGraphicsStateOperation> operations
    ) =>
        new Content(
            pageNumber,
            mediaBox.Bounds.Height,
            FontsIn(dictionary),
            ResourceStore,
            PdfScanner,
            PageContentParser,
            FilterProvider,
            cropBox,
            userSpaceUnit,
            rotation,
            initialMatrix,
            ParsingOptions
        ).Process(pageNumber, operations);

    // The names of the fonts of a page that say which characters their letters are (ISO 32000-1, 9.10).
    private HashSet<string> FontsIn(DictionaryToken page) =>
        Within(page, "Resources") is { } resources && Within(resources, "Font") is { } fonts
            ? [.. fonts.Data.Keys.Where(name => Within(fonts, name)?.Data.ContainsKey("ToUnicode") == true)]
            : [];

    private DictionaryToken? Within(DictionaryToken dictionary, string name) =>
        dictionary.Data.TryGetValue(name, out var token)
            ? (token is IndirectReferenceToken reference ? PdfScanner.Get(reference.Data)?.Data : token) as DictionaryToken
            : null;

    // Walks through the operators of a page; nothing but text and its marks is looked at.
    private sealed class Content(
        int pageNumber,
        double height,
        HashSet<string> readable,
        IResourceStore resources,
        IPdfTokenScanner scanner,
        IPageContentParser parser,
        ILookupFilterProvider filters,
        CropBox cropBox,
        UserSpaceUnit unit,
        PageRotationDegrees rotation,
        TransformationMatrix initialMatrix,
        ParsingOptions options
    ) : BaseStreamProcessor<PageTexts>(pageNumber, resources, scanner, parser, filters, cropBox, unit, rotation, initialMatrix, options)
    {
        // Above and below the line on which letters stand, of the size of the font: common practice, enough for a mark.
        private const double Above = 0.85,
            Below = 0.25;

        private readonly Dictionary<int, MarkedText> _texts = [];
        private readonly Stack<Open> _open = new();
        private bool _isReadable;

        public override PageTexts Process(int pageNumberCurrent, IReadOnlyList<IGraphicsStateOperation> operations)
        {
            CloneAllStates();
            ProcessOperations(operations);
            return new PageTexts(_texts);
        }

        public override void BeginMarkedContent(NameToken name, NameToken? propertyDictionaryName, DictionaryToken? properties) =>
            _open.Push(
                new Open(
                    properties is not null && properties.TryGet(NameToken.Mcid, out var id) ? (id as NumericToken)?.Int : null,
                    name.Data == "ReversedChars",
                    properties is not null && properties.TryGet(NameToken.ActualText, out var actual) ? TextIn(actual) : null
                )
            );

        public override void EndMarkedContent()
        {
            var done = _open.Pop();
            var text = done.Text;
            if (done.Id is { } id)
            {
                var marked = _texts.TryGetValue(id, out var before) ? before : _texts[id] = new MarkedText();
                marked.Text.Append(text);
                marked.Spots.AddRange(done.Spots);
                marked.Boxes += done.Boxes;
                marked.Unreadable += done.Unreadable;
            }
            else if (_open.TryPeek(out var around))
            {
                around.Add(text, done);
            }
        }

        public override void SetFontAndSize(NameToken font, double size)
        {
            _isReadable = readable.Contains(font.Data);
            base.SetFontAndSize(font, size);
        }

        public override void RenderGlyph(
            IFont font,
            CurrentGraphicsState currentState,
            double fontSize,
            double pointSize,
            int code,
            string? unicode,
            long currentOffset,
            in TransformationMatrix renderingMatrix,
            in TransformationMatrix textMatrix,
            in TransformationMatrix transformationMatrix,
            CharacterBoundingBox characterBoundingBox
        )
        {
            if (!_open.TryPeek(out var open))
            {
                return;
            }

            var (rendering, text, transformation) = (renderingMatrix, textMatrix, transformationMatrix);
            PdfPoint At(double x) => transformation.Transform(text.Transform(rendering.Transform(new PdfPoint(x, 0))));
            var (from, to) = (At(0), At(characterBoundingBox.Width));
            // The glyph 0 of a font is what stands for those that it has not (ISO/IEC 14496-22, "glyf").
            open.Add(
                _isReadable ? unicode : null,
                code == 0,
                new PageSpot(
                    PageNumber - 1,
                    Math.Min(from.X, to.X),
                    height - from.Y - (Above * pointSize),
                    Math.Abs(to.X - from.X),
                    (Above + Below) * pointSize
                )
            );
        }

        protected override void RenderXObjectImage(XObjectContentRecord xObjectContentRecord) { }

        public override void BeginSubpath() { }

        public override PdfPoint? CloseSubpath() => null;

        public override void StrokePath(bool close) { }

        public override void FillPath(FillingRule fillingRule, bool close) { }

        public override void FillStrokePath(FillingRule fillingRule, bool close) { }

        public override void MoveTo(double x, double y) { }

        public override void BezierCurveTo(double x2, double y2, double x3, double y3) { }

        public override void BezierCurveTo(double x1, double y1, double x2, double y2, double x3, double y3) { }

        public override void LineTo(double x, double y) { }

        public override void Rectangle(double x, double y, double width, double height) { }

        public override void EndPath() { }

        public override void ClosePath() { }

        public override void ModifyClippingIntersect(FillingRule clippingRule) { }

        protected override void ClipToRectangle(PdfRectangle rectangle, FillingRule clippingRule) { }

        protected override void RenderInlineImage(InlineImage inlineImage) { }

        public override void PaintShading(NameToken name) { }

        private static string? TextIn(IToken token) =>
            token switch
            {
                StringToken text => text.Data,
                HexToken hex when hex.Bytes.ToArray() is [0xFE, 0xFF, .. var rest] => Encoding.BigEndianUnicode.GetString(rest),
                HexToken hex => hex.Data,
                _ => null,
            };

        // A marked content that has begun.
        private sealed class Open(int? id, bool isReversed, string? actual)
        {
            private readonly List<string> _pieces = [];

            public int? Id => id;

            public List<PageSpot> Spots { get; } = [];

            public int Boxes { get; private set; }

            public int Unreadable { get; private set; }

            // What is said of the whole goes before what its letters say; what runs from right to left is painted from its end.
            public string Text => actual ?? string.Concat(isReversed ? _pieces.AsEnumerable().Reverse() : _pieces);

            public void Add(string? character, bool isBox, PageSpot spot)
            {
                _pieces.Add(character ?? "\uFFFD");
                Boxes += isBox ? 1 : 0;
                Unreadable += character is null && actual is null ? 1 : 0;
                Cover(spot);
            }

            public void Add(string text, Open within)
            {
                _pieces.Add(text);
                Boxes += within.Boxes;
                Unreadable += within.Unreadable;
                within.Spots.ForEach(Cover);
            }

            private void Cover(PageSpot spot)
            {
                if (Spots.Count > 0 && Spots[^1] is var last && Math.Abs(last.Y - spot.Y) < 1 && last.Page == spot.Page)
                {
                    var (left, right) = (Math.Min(last.X, spot.X), Math.Max(last.X + last.Width, spot.X + spot.Width));
                    Spots[^1] = last with { X = left, Width = right - left };
                }
                else
                {
                    Spots.Add(spot);
                }
            }
        }
    }
}
