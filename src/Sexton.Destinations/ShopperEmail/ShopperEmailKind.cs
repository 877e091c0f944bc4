using System.Net.Sockets;
using System.Text;
using MailKit;
using MailKit.Net.Smtp;
using MailKit.Security;
using MimeKit;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Core.Types.Settings;

namespace Sexton.Destinations.ShopperEmail;

/// <summary>
/// The e-mail to the shopper, by SMTP (RFC 5321). SMTP cannot tell doubles apart, and a lost acknowledgement leaves it open
/// whether the message was taken.
/// </summary>
public sealed class ShopperEmailKind(EmailSettings settings, MailConnection connection) : DeliveredKind
{
    /// <summary>The names of the two parts.</summary>
    public const string HtmlPart = "html",
        TextPart = "text";

    private readonly EmailRenderer _renderer = new(settings);

    /// <inheritdoc/>
    public override string Key => "shopper_email";

    /// <inheritdoc/>
    public override string Name => "To the shopper";

    /// <inheritdoc/>
    public override string Phrase => "the shopper’s e-mail";

    /// <inheritdoc/>
    public override DestinationFamily Family => Families.Messages;

    /// <inheritdoc/>
    public override Audience Audience => Audience.Shopper;

    /// <inheritdoc/>
    public override Evidence Ceiling => Evidence.Included;

    /// <inheritdoc/>
    public override bool ShowsPrices => true;

    /// <inheritdoc/>
    public override bool IsThereAtFirst => true;

    /// <inheritdoc/>
    public override bool TellsDoublesApart => false;

    /// <inheritdoc/>
    public override Capacity CapacityOf(SettingReader settings) => new();

    /// <inheritdoc/>
    public override byte[] Render(SentOrder order, int sequence) => _renderer.Render(order, sequence);

    /// <inheritdoc/>
    public override async Task<SendResult> SendAsync(
        BoundDestination to,
        byte[] artefact,
        string key,
        Func<Task> handingOver,
        CancellationToken cancel
    )
    {
        using var stream = new MemoryStream(artefact);
        using var message = await MimeMessage.LoadAsync(stream, cancel);
        using var client = new SmtpClient { Timeout = (int)connection.TimeOut.TotalMilliseconds };
        try
        {
            await connection.OpenAsync(client, cancel);
        }
        catch (Exception e) when (e is SslHandshakeException or AuthenticationException or NotSupportedException)
        {
            return new SendResult(SendOutcome.NotTaken, $"The mail server and this one do not agree on how to connect: {e.Message}");
        }
        catch (Exception e) when (e is SocketException or IOException or ProtocolException or CommandException or TimeoutException)
        {
            return new SendResult(SendOutcome.NotTaken, $"The mail server did not answer: {e.Message}");
        }

        await handingOver();
        try
        {
            var reply = await client.SendAsync(EmailRenderer.Format, message, cancel);
            await client.DisconnectAsync(quit: true, cancel);
            return new SendResult(SendOutcome.Taken, $"Handed over: {reply}", reply, artefact);
        }
        catch (ServiceNotAuthenticatedException e)
        {
            // Nothing is wrong with the message: it goes as soon as the connection is mended.
            return new SendResult(SendOutcome.NotTaken, $"The mail server wants us to sign in: {e.Message}");
        }
        catch (SmtpCommandException e) when ((int)e.StatusCode >= 500)
        {
            return new SendResult(SendOutcome.Refused, $"The mail server refused it: {e.Message}", null, artefact);
        }
        catch (SmtpCommandException e)
        {
            return new SendResult(SendOutcome.NotTaken, $"The mail server does not take it now: {e.Message}");
        }
        catch (Exception e) when (e is SocketException or IOException or ProtocolException or TimeoutException)
        {
            return new SendResult(SendOutcome.Lost, $"Handed over, but the acknowledgement was lost: {e.Message}", null, artefact);
        }
    }

    /// <inheritdoc/>
    public override IEnumerable<SlotFinding> ReadBack(byte[] artefact, SentOrder order) =>
        SlotFinding
            .Judge(order.Projection, HtmlPart, EmailReader.ReadHtml(artefact), Ceiling)
            .Concat(SlotFinding.Judge(order.Projection, TextPart, EmailReader.ReadText(artefact, order.Projection), Ceiling));

    /// <inheritdoc/>
    public override IReadOnlyList<ArtefactPart> PartsOf(byte[] artefact, Projection sent, string slot)
    {
        var (html, text) = EmailReader.Bodies(artefact);
        return
        [
            new(HtmlPart, PartForm.Html, html),
            new(TextPart, PartForm.Plain, text, EmailReader.LinesOf(text, sent, slot)),
            new("as sent", PartForm.Bytes, Encoding.UTF8.GetString(artefact)),
        ];
    }
}
