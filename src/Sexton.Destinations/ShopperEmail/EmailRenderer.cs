using System.Net;
using System.Reflection;
using HandlebarsDotNet;
using MimeKit;
using Sexton.Core.Facts;
using Sexton.Core.Pricing;
using Sexton.Core.Projections;
using Sexton.Core.Register;
using Sexton.Core.Values;

namespace Sexton.Destinations.ShopperEmail;

/// <summary>Renders the e-mail to the shopper: one message with a text part and an HTML part that say the same.</summary>
internal sealed class EmailRenderer
{
    private readonly EmailSettings _settings;
    private readonly HandlebarsTemplate<object, object> _html;
    private readonly HandlebarsTemplate<object, object> _text;

    public EmailRenderer(EmailSettings settings)
    {
        _settings = settings;
        _html = Compile("html.hbs", escape: true, static text => string.Join("<br>", text.Split('\n').Select(WebUtility.HtmlEncode)));
        // A further line of an answer is indented deeper than its label, so that the reader can tell the two apart.
        _text = Compile("text.hbs", escape: false, static text => text.Replace("\n", "\n    ", StringComparison.Ordinal));
    }

    public byte[] Render(SentOrder order, int sequence)
    {
        var content = order.Content;
        var prices = new PriceWords(content.Prices.Currency, content.Language);
        var subject = $"Your order {order.Number} at {_settings.ShopName}";
        var numbers = order.Projection.Entries.Select(static (e, i) => (e.Slot, i)).ToDictionary(static n => n.Slot, static n => n.i + 1);
        var view = new
        {
            language = content.Language,
            subject,
            shop = _settings.ShopName,
            number = order.Number,
            link = _settings.LinkTo(order.Id),
            rows = order
                .PriceRows.Select(row => new
                {
                    quantity = row.Quantity,
                    label = row.UnitId is { } unit
                        ? $"{row.Label}, {content.Lines[order.LineNumbers[row.LineId!] - 1].NameOf(unit)}"
                        : row.Label,
                    extra = row.Kind != PriceRowKind.Goods,
                    sum = prices.Amount(row.SumMinor),
                })
                .ToArray(),
            taxes = content
                .Prices.Taxes.Select(tax => new { rate = prices.Share(tax.RatePpm), sum = prices.Amount(tax.TaxMinor) })
                .ToArray(),
            included = content.Prices.IncludeTax,
            total = prices.Amount(content.Prices.TotalMinor),
            lines = content
                .Lines.Select(line => new
                {
                    position = order.LineNumbers[line.Id],
                    name = line.ProductName,
                    quantity = line.Quantity,
                    entries = View(order.Projection.Of(line.Id), order, numbers),
                    units = line
                        .Units.Select(
                            (unit, i) =>
                                new
                                {
                                    ordinal = i + 1,
                                    name = line.NameOf(unit),
                                    entries = View(order.Projection.Of(line.Id, unit), order, numbers),
                                }
                        )
                        .Where(static u => u.entries.Length > 0)
                        .ToArray(),
                })
                .ToArray(),
            details = View(order.Projection.Of(null), order, numbers),
        };

        var message = new MimeMessage
        {
            Subject = subject,
            Date = order.PlacedAt,
            MessageId = $"{order.Id:N}.{sequence}@{_settings.From.Domain}",
            Body = new BodyBuilder { TextBody = _text(view), HtmlBody = _html(view) }.ToMessageBody(),
        };
        message.From.Add(_settings.From);
        var recipient = new MailboxAddress(content.TextOf(BuiltInFields.Name), content.TextOf(BuiltInFields.Email));
        message.To.Add(recipient);
        message.Prepare(EncodingConstraint.SevenBit);
        PlainNames.EncodeRecipient(message, recipient);

        using var bytes = new MemoryStream();
        message.WriteTo(Format, bytes);
        return bytes.ToArray();
    }

    /// <summary>The line ends of SMTP.</summary>
    public static FormatOptions Format { get; } = new() { NewLineFormat = NewLineFormat.Dos };

    // The number of an entry is its mark in the text part.
    private object[] View(IEnumerable<Entry> entries, SentOrder order, Dictionary<SlotId, int> numbers) =>
        [
            .. entries.Select(e => new
            {
                slot = e.Slot.ToString(),
                number = numbers[e.Slot],
                name = e.Name,
                text = e.Text,
                files = e
                    .Files.Select(f => new
                    {
                        name = f.Name,
                        size = FileValue.SizeText(f.Size),
                        link = FileLink.Write(_settings.LinkToFile(order.Id, f.Sha256), f),
                    })
                    .ToArray(),
            }),
        ];

    private static HandlebarsTemplate<object, object> Compile(string name, bool escape, Func<string, string> lines)
    {
        var handlebars = Handlebars.Create(new HandlebarsConfiguration { NoEscape = !escape });
        handlebars.RegisterHelper("lines", (writer, _, arguments) => writer.WriteSafeString(lines(arguments[0]?.ToString() ?? "")));
        using var source = new StreamReader(
            Assembly.GetExecutingAssembly().GetManifestResourceStream($"Sexton.Destinations.ShopperEmail.{name}")!
        );
        return handlebars.Compile(source.ReadToEnd());
    }
}
