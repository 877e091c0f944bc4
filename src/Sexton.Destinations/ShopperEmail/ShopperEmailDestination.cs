using System.Net.Sockets;
using MailKit;
using MailKit.Net.Smtp;
using MailKit.Security;
using MimeKit;
using Sexton.Core.Routing;
using Sexton.Core.Trail;

namespace Sexton.Destinations.ShopperEmail;

/// <summary>
/// The e-mail to the shopper, by SMTP (RFC 5321). SMTP cannot tell doubles apart, and a lost acknowledgement leaves it open
/// whether the message was taken.
/// </summary>
public sealed class ShopperEmailDestination(EmailSettings settings) : IDeliveredDestination
{
    /// <summary>The names of the two parts.</summary>
    public const string HtmlPart = "html",
        TextPart = "text";

    private readonly EmailRenderer _renderer = new(settings);

    /// <inheritdoc/>
    public string Key => DestinationIndex.ShopperEmail;

    /// <inheritdoc/>
    public bool TellsDoublesApart => false;

    /// <inheritdoc/>
    public byte[] Render(SentOrder order, int sequence) => _renderer.Render(order, sequence);

    /// <inheritdoc/>
    public async Task<SendResult> SendAsync(byte[] artefact, string key, Func<Task> handingOver, CancellationToken cancel)
    {
        using var stream = new MemoryStream(artefact);
        using var message = await MimeMessage.LoadAsync(stream, cancel);
        using var client = new SmtpClient { Timeout = (int)settings.TimeOut.TotalMilliseconds };
        try
        {
            await client.ConnectAsync(settings.Host, settings.Port, SecureSocketOptions.None, cancel);
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
    public IEnumerable<SlotFinding> ReadBack(byte[] artefact, SentOrder order) =>
        SlotFinding
            .Judge(order.Projection, HtmlPart, EmailReader.ReadHtml(artefact), Evidence.Included)
            .Concat(SlotFinding.Judge(order.Projection, TextPart, EmailReader.ReadText(artefact, order), Evidence.Included));
}
