using MailKit;
using MailKit.Net.Smtp;
using MailKit.Security;
using MimeKit;
using Sexton.Destinations.Email;

namespace Sexton.Server.Settings;

/// <summary>Sends the shop's own plain messages: links to sign in, and calls for whoever answers for something.</summary>
internal sealed class ShopMail(ShopSettings settings, MailConnection mail)
{
    /// <summary>The sender of the shop's e-mail, as it is now.</summary>
    public MailboxAddress Sender => new(settings.Now.SenderName, settings.Now.SenderAddress);

    /// <summary>Sends a message.</summary>
    /// <param name="to">The address of whoever gets it.</param>
    /// <param name="subject">Its subject.</param>
    /// <param name="text">What it says.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>False where the mail server did not take it.</returns>
    public async Task<bool> TrySendAsync(string to, string subject, string text, CancellationToken cancel)
    {
        using var message = new MimeMessage();
        message.From.Add(Sender);
        message.To.Add(MailboxAddress.Parse(to));
        message.Subject = subject;
        message.Body = new TextPart("plain") { Text = text };
        using var client = new SmtpClient { Timeout = (int)mail.TimeOut.TotalMilliseconds };
        try
        {
            await mail.OpenAsync(client, cancel);
            await client.SendAsync(message, cancel);
            await client.DisconnectAsync(quit: true, cancel);
            return true;
        }
        catch (Exception e)
            when (e
                    is IOException
                        or System.Net.Sockets.SocketException
                        or ProtocolException
                        or CommandException
                        or TimeoutException
                        or SslHandshakeException
                        or AuthenticationException
                        or NotSupportedException
            )
        {
            return false;
        }
    }
}
