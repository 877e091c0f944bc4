using System.Globalization;
using System.Text;
using AngleSharp.Html.Parser;
using HandlebarsDotNet;
using QRCoder;
using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Projections;
using Sexton.Core.Types.Settings;

namespace Sexton.Destinations.Papers;

/// <summary>Renders papers as HTML: one document, with its style in it, in which each line of an answer is marked.</summary>
internal sealed class PaperRenderer
{
    private readonly PaperSettings _settings;
    private readonly HandlebarsTemplate<object, object> _template;

    public PaperRenderer(PaperSettings settings, string template)
    {
        _settings = settings;
        var handlebars = Handlebars.Create();
        handlebars.RegisterHelper(
            "lines",
            static (writer, _, arguments) => writer.WriteSafeString(EmbeddedText.Lines(arguments[0]?.ToString() ?? ""))
        );
        handlebars.RegisterTemplate("answers", EmbeddedText.Read("Papers.answers.hbs"));
        handlebars.RegisterTemplate("letterhead", EmbeddedText.Read("Papers.letterhead.hbs"));
        handlebars.RegisterTemplate("head", EmbeddedText.Read("Papers.head.hbs"));
        _template = handlebars.Compile(EmbeddedText.Read(template));
    }

    /// <summary>The encoding of what is rendered.</summary>
    public static Encoding Encoding { get; } = new UTF8Encoding(encoderShouldEmitUTF8Identifier: false);

    /// <summary>What the answers of a rendered paper are called there, by their number.</summary>
    public static IReadOnlyDictionary<int, string> NamesIn(byte[] rendered) =>
        new HtmlParser()
            .ParseDocument(Encoding.GetString(rendered))
            .QuerySelectorAll("[data-number]")
            .ToDictionary(
                static e => int.Parse(e.GetAttribute("data-number")!, CultureInfo.InvariantCulture),
                static e => e.GetAttribute("data-name") ?? ""
            );

    public byte[] Render(SentOrder order, PaperKind kind)
    {
        var (places, settings) = (NamedPlaces.Of(order, _settings.ShopName), order.To.Settings);
        var language = order.To.LanguageOf(order.Content.Language);
        string Say(string setting) => NamedPlaces.Fill(settings.Wording(setting).In(language), places);
        var extras = kind.ExtrasOf(order);
        var answers = new Answers(order, language, settings.Is(PaperKind.WithoutEmpty) ? null : Say(PaperKind.Empty));
        var cut = new Answers(order, language, null);

        // Large stands what belongs to the very part that the paper is of; with anything else it stays where it is.
        string[] LargeWith(Level level) => extras.Large is { } large && level == LevelOf(order.Part) ? [large] : [];
        var showsPrices = extras.Prices && order.ShowsPrices;
        return Encoding.GetBytes(
            _template(
                new
                {
                    language,
                    direction = CultureInfo.GetCultureInfo(language).TextInfo.IsRightToLeft ? "rtl" : "ltr",
                    style = StyleOf(settings),
                    shop = _settings.ShopName,
                    letterhead = settings.Text(PaperKind.Letterhead) == PaperKind.Plain ? null : _settings.Letterhead(),
                    heading = Say(PaperKind.Heading),
                    sentences = Say(PaperKind.Sentences),
                    ending = Say(PaperKind.Ending),
                    invoice = extras.Invoice,
                    whole = answers.Of(null, null, without: [.. extras.Foot, .. LargeWith(Level.Order), .. extras.Invoice?.Buyer ?? []]),
                    buyer = cut.Of(null, null, only: [.. extras.Invoice?.BuyerNames ?? []]),
                    buyerNumbers = cut.Of(null, null, only: [.. extras.Invoice?.BuyerNumbers ?? []]),
                    // Nothing is cut off where nothing was said.
                    foot = cut.Of(null, null, only: [.. extras.Foot]),
                    large = answers.Of(order.Part, only: LargeWith(LevelOf(order.Part))),
                    lines = order
                        .Lines.Select(line => new
                        {
                            quantity = line.Quantity,
                            name = line.ProductName,
                            code = extras.Codes ? order.ItemCodeOf(line) : null,
                            rows = extras.Invoice?.RowsOf(line.Id) ?? [],
                            answers = answers.Of(line.Id, null, without: LargeWith(Level.Line)),
                            units = UnitsOf(order.Part, line)
                                .Select(unit => new
                                {
                                    name = line.NameOf(unit, language),
                                    answers = answers.Of(line.Id, unit, without: LargeWith(Level.Unit)),
                                })
                                .Where(static u => u.answers.Length > 0)
                                .ToArray(),
                        })
                        .ToArray(),
                    prices = showsPrices ? WrittenPrices.Of(order, language) : null,
                    code = extras.Code,
                    drawn = extras.Code is { } code ? Drawn(code) : null,
                }
            )
        );
    }

    private static IEnumerable<string> UnitsOf(OrderPart part, OrderLine line) => part.UnitId.Length > 0 ? [part.UnitId] : line.Units;

    private static Level LevelOf(OrderPart part) =>
        part.UnitId.Length > 0 ? Level.Unit
        : part.LineId.Length > 0 ? Level.Line
        : Level.Order;

    private static string StyleOf(SettingReader settings)
    {
        var (sheet, size) = (Sheet.Of(settings), settings.Whole(PaperKind.TypeSize)!.Value);
        var family = settings.Text(PaperKind.Typeface) == PaperKind.Serif ? "'Noto Serif', serif" : "'Noto Sans', sans-serif";
        return string.Create(
                CultureInfo.InvariantCulture,
                $$"""
                @page { size: {{sheet.Css}}; margin: {{sheet.MarginMm}}mm; }
                :root { font: {{size}}pt/1.35 {{family}}; --room: {{sheet.HeightMm - (2 * sheet.MarginMm)}}mm; --width: {{sheet.WidthMm
                    - (2 * sheet.MarginMm)}}mm; }

                """
            ) + EmbeddedText.Read("Papers.paper.css");
    }

    private static string Drawn(string code)
    {
        using var data = QRCodeGenerator.GenerateQrCode(code, QRCodeGenerator.ECCLevel.M);
        using var drawing = new PngByteQRCode(data);
        return Convert.ToBase64String(drawing.GetGraphic(8));
    }

    // A question that ends in a sign of its own needs none.
    private static string Colon(string name) => name.Length > 0 && char.IsPunctuation(name[^1]) ? "" : ":";

    // The answers of a place, marked, and what was left empty there.
    private sealed class Answers(SentOrder order, string language, string? empty)
    {
        private readonly IReadOnlyDictionary<SlotId, int> _numbers = order.Projection.Numbers;

        public object[] Of(OrderPart part, string[] only) =>
            Of(part.LineId.Length > 0 ? part.LineId : null, part.UnitId.Length > 0 ? part.UnitId : null, only);

        public object[] Of(string? lineId, string? unitId, string[]? only = null, string[]? without = null)
        {
            bool Is(Entry e) =>
                e.StandsWith
                    == (
                        lineId is null ? Level.Order
                        : unitId is null ? Level.Line
                        : Level.Unit
                    )
                && (lineId is null || (e.LineId == lineId && e.UnitId == unitId))
                && only?.Contains(e.Field) != false
                && without?.Contains(e.Field) != true;
            return
            [
                .. order
                    .Projection.Entries.Where(Is)
                    // What is looked for stands in the order in which it is looked for.
                    .OrderBy(e => only is null ? 0 : Array.IndexOf(only, e.Field))
                    .Select(e => new
                    {
                        number = _numbers[e.Slot],
                        name = e.Name,
                        colon = Colon(e.Name),
                        // Of a file name, size and hash stand there, by which it is told apart.
                        text = MarkedHtml.Lines(e.Files.IsEmpty ? e.Text : e.Proof, language, _numbers[e.Slot]),
                        files = !e.Files.IsEmpty,
                        pictures = e.Files.Select(f => order.Pictures.GetValueOrDefault(f.Sha256)).OfType<string>().ToArray(),
                        empty = (string?)null,
                    }),
                .. empty is null
                    ? []
                    : order
                        .LeftEmpty.Where(Is)
                        .Select(e => new
                        {
                            number = 0,
                            name = e.Name,
                            colon = Colon(e.Name),
                            text = "",
                            files = false,
                            pictures = Array.Empty<string>(),
                            empty = (string?)empty,
                        }),
            ];
        }
    }
}
