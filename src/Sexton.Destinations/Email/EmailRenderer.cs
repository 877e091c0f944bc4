using System.Globalization;
using HandlebarsDotNet;
using MimeKit;
using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Values;

namespace Sexton.Destinations.Email;

/// <summary>Renders e-mails: one message with a text part and an HTML part that say the same.</summary>
internal sealed class EmailRenderer
{
    private readonly EmailSettings _settings;
    private readonly HandlebarsTemplate<object, object> _html;
    private readonly HandlebarsTemplate<object, object> _text;

    public EmailRenderer(EmailSettings settings)
    {
        _settings = settings;
        _html = Compile("html.hbs", escape: true, EmbeddedText.Lines);
        // A further line of an answer is indented deeper than its label, so that the reader can tell the two apart.
        _text = Compile("text.hbs", escape: false, static text => text.Replace("\n", "\n    ", StringComparison.Ordinal));
    }

    public byte[] Render(SentOrder order, int sequence, EmailKind kind)
    {
        var (places, settings) = (NamedPlaces.Of(order, _settings.ShopName), order.To.Settings);
        string Say(string setting) => NamedPlaces.Fill(settings.Wording(setting).In(order.Content.Language), places);
        var subject = Say(EmailKind.Subject).Replace('\n', ' ');
        var view = ViewOf(order, kind, subject, Say);
        var message = new MimeMessage
        {
            Subject = subject,
            Date = order.PlacedAt,
            MessageId = $"{order.Id:N}.{order.Reference}.{sequence}@{_settings.IdDomain}",
            Body = BodyOf(_text(view), _html(view), order),
        };

        // Nobody is there to answer it by machine (RFC 3834, section 5).
        message.Headers.Add(HeaderId.AutoSubmitted, "auto-generated");
        message.From.Add(_settings.From());
        var recipients = order.TrialRecipients.IsEmpty
            ? kind.RecipientsOf(order).ToList()
            : [.. order.TrialRecipients.Select(static address => new MailboxAddress("", address))];
        message.To.AddRange(recipients);
        message.Prepare(EncodingConstraint.SevenBit);
        if (recipients is [var recipient])
        {
            PlainHeaders.EncodeRecipient(message, recipient);
        }

        PlainHeaders.EncodeSubject(message, subject);

        using var bytes = new MemoryStream();
        message.WriteTo(Format, bytes);
        return bytes.ToArray();
    }

    private static MimeEntity BodyOf(string text, string html, SentOrder order)
    {
        var body = new BodyBuilder { TextBody = text, HtmlBody = html };
        foreach (var paper in order.Papers)
        {
            if (paper.File is { } file)
            {
                body.Attachments.Add(paper.FileName, file, new ContentType("application", "pdf"));
            }
        }

        return body.ToMessageBody();
    }

    private object ViewOf(SentOrder order, EmailKind kind, string subject, Func<string, string> say)
    {
        var content = order.Content;
        var prices = WrittenPrices.Of(order, content.Language);
        var numbers = order.Projection.Numbers;
        var (link, forShopper) = (kind.LinkTo(order), kind.Audience == Audience.Shopper);
        string Word(string key, params ReadOnlySpan<string?> parts) => order.To.Settings.Shop.Say(key, content.Language, parts);
        return new
        {
            language = content.Language,
            subject,
            shop = _settings.ShopName,
            greeting = Spoken(say(EmailKind.Greeting)),
            heading = Spoken(say(EmailKind.Heading)),
            sentences = Spoken(say(EmailKind.Sentences)),
            ending = Spoken(say(EmailKind.Ending)),
            words = new
            {
                open = Word(forShopper ? "message.look_again" : "message.open_order"),
                order_at = Word(forShopper ? "message.order_at" : "message.staff_order_at", link),
                comes_to = Word("message.comes_to"),
                total = Word("price.total"),
                your_details = Word("shop.your_details"),
            },
            link,
            forshopper = forShopper,
            attached = Papers(PaperGoes.Attached, "message.attached"),
            linked = Papers(PaperGoes.Linked, "message.to_open"),
            late = Papers(PaperGoes.Late, "message.not_ready"),
            prices = kind.HasPrices(order.To.Settings) && order.ShowsPrices,
            rows = prices.Rows,
            // What it comes to is of the whole order, and stands only under all of its lines.
            whole = prices.Whole,
            taxes = prices.Taxes,
            included = prices.Included,
            total = prices.Total,
            lines = order
                .Lines.Where(line => kind.Audience != Audience.Recipient || order.Projection.Entries.Any(e => e.LineId == line.Id))
                .Select(line => new
                {
                    name = NameOf(line),
                    said = Word("message.item", Number(order.LineNumbers[line.Id]), NameOf(line)),
                    entries = View(order.Projection.Of(line.Id), order, numbers),
                    units = line
                        .Units.Select(
                            (unit, i) =>
                                new
                                {
                                    name = line.NameOf(unit, content.Language),
                                    said = Word(
                                        "message.item",
                                        $"{Number(order.LineNumbers[line.Id])}.{Number(i + 1)}",
                                        line.NameOf(unit, content.Language)
                                    ),
                                    entries = View(order.Projection.Of(line.Id, unit), order, numbers),
                                }
                        )
                        .Where(static u => u.entries.Length > 0)
                        .ToArray(),
                })
                .ToArray(),
            details = View(order.Projection.Of(null), order, numbers),
        };

        object[] Papers(PaperGoes how, string said) =>
            [
                .. order
                    .Papers.Where(p => p.Goes == how)
                    .Select(p => new
                    {
                        title = p.Title,
                        said = Word(said, p.Title, p.FileName),
                        link = p.Link,
                    }),
            ];

        string NameOf(OrderLine line) => order.Part.UnitId.Length > 0 ? line.ProductName : $"{line.Quantity} × {line.ProductName}";
    }

    private static string Number(int number) => number.ToString(CultureInfo.InvariantCulture);

    // No line of what is only said may look like one that an answer stands in.
    private static string Spoken(string text) => string.Join('\n', text.Split('\n').Select(static line => line.TrimStart()));

    /// <summary>The line ends of SMTP.</summary>
    public static FormatOptions Format { get; } = new() { NewLineFormat = NewLineFormat.Dos };

    // The number of an entry is its mark in the text part.
    private object[] View(IEnumerable<Entry> entries, SentOrder order, IReadOnlyDictionary<SlotId, int> numbers) =>
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
                        size = FileValue.SizeText(f.Size, order.Content.Language),
                        link = FileLink.Write(_settings.LinkToFile(order.Id, f.Sha256), f),
                    })
                    .ToArray(),
            }),
        ];

    private static HandlebarsTemplate<object, object> Compile(string name, bool escape, Func<string, string> lines)
    {
        var handlebars = Handlebars.Create(new HandlebarsConfiguration { NoEscape = !escape });
        handlebars.RegisterHelper("lines", (writer, _, arguments) => writer.WriteSafeString(lines(arguments[0]?.ToString() ?? "")));
        return handlebars.Compile(EmbeddedText.Read("Email." + name));
    }
}
