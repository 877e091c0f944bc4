using System.Net.Security;
using System.Text;

namespace Sexton.StandIns.Mail;

/// <summary>
/// One SMTP session (RFC 5321): EHLO, MAIL, RCPT, DATA with transparency (4.5.2), RSET, NOOP, QUIT; STARTTLS (RFC 3207) and AUTH PLAIN (RFC 4616) where they are
/// demanded. One recipient or many, no relaying.
/// </summary>
internal sealed class SmtpSession(Mailbox mailbox, SmtpAccess access, Stream connection) : IAsyncDisposable
{
    private Stream _stream = connection;
    private StreamReader _in = Reader(connection);
    private bool _isPrivate;
    private bool _isKnown;
    private string? _from;
    private readonly List<string> _to = [];

    public async Task RunAsync(CancellationToken stop)
    {
        if (access.Security == SmtpSecurity.Tls)
        {
            await BecomePrivateAsync(stop);
        }

        await SayAsync("220 standin.example ready", stop);
        while (await _in.ReadLineAsync(stop) is { } line)
        {
            var verb = line.Split(' ', 2)[0].ToUpperInvariant();
            switch (verb)
            {
                case "EHLO":
                    await SayAsync("250-standin.example\r\n" + Offers() + "250-SIZE 10485760\r\n250 8BITMIME", stop);
                    break;
                case "STARTTLS" when access.Security == SmtpSecurity.StartTls && !_isPrivate:
                    await SayAsync("220 Go on in private", stop);
                    await BecomePrivateAsync(stop);
                    break;
                case "AUTH" when access.User.Length > 0 && IsPrivateEnough:
                    _isKnown = access.Knows(line);
                    await SayAsync(_isKnown ? "235 Welcome" : "535 Not known here", stop);
                    break;
                case "HELO" or "NOOP":
                    await SayAsync("250 OK", stop);
                    break;
                case "RSET":
                    (_from, _) = (null, 0);
                    _to.Clear();
                    await SayAsync("250 OK", stop);
                    break;
                case "MAIL" when !IsPrivateEnough:
                    await SayAsync("530 Must issue a STARTTLS command first", stop);
                    break;
                case "MAIL" when access.User.Length > 0 && !_isKnown:
                    await SayAsync("530 Authentication required", stop);
                    break;
                case "MAIL":
                    _from = AddressIn(line);
                    await SayAsync("250 OK", stop);
                    break;
                case "RCPT":
                    await RecipientAsync(line, stop);
                    break;
                case "DATA":
                    if (!await DataAsync(stop))
                    {
                        return;
                    }

                    break;
                case "QUIT":
                    await SayAsync("221 Bye", stop);
                    return;
                default:
                    await SayAsync("502 Not known here", stop);
                    break;
            }
        }
    }

    public ValueTask DisposeAsync() => _stream.DisposeAsync();

    private bool IsPrivateEnough => access.Security == SmtpSecurity.None || _isPrivate;

    private string Offers() =>
        (access.Security == SmtpSecurity.StartTls && !_isPrivate ? "250-STARTTLS\r\n" : "")
        + (access.User.Length > 0 && IsPrivateEnough ? "250-AUTH PLAIN\r\n" : "");

    // What was said in the clear before counts for nothing any more (RFC 3207, section 4.2).
    private async Task BecomePrivateAsync(CancellationToken stop)
    {
        var tls = new SslStream(_stream);
        await tls.AuthenticateAsServerAsync(new SslServerAuthenticationOptions { ServerCertificate = access.Certificate }, stop);
        (_stream, _in, _isPrivate, _from) = (tls, Reader(tls), true, null);
        _to.Clear();
    }

    // Latin-1 keeps every octet as it is: a message is bytes, not text.
    private static StreamReader Reader(Stream stream) => new(stream, Encoding.Latin1);

    private async Task RecipientAsync(string line, CancellationToken stop)
    {
        var address = AddressIn(line);
        // A mailbox that never exists, for trying out refusals (the domain is reserved by RFC 2606).
        if (address.StartsWith("nobody@", StringComparison.OrdinalIgnoreCase) || mailbox.Dial.Refuses())
        {
            await SayAsync("550 No such mailbox", stop);
            return;
        }

        _to.Add(address);
        await SayAsync("250 OK", stop);
    }

    // False when the connection is to be dropped without an acknowledgement.
    private async Task<bool> DataAsync(CancellationToken stop)
    {
        if (_from is null || _to.Count == 0)
        {
            await SayAsync("503 MAIL and RCPT first", stop);
            return true;
        }

        await SayAsync("354 Go on", stop);
        var data = new StringBuilder();
        while (true)
        {
            // A sender that goes away before the final dot has sent nothing (RFC 5321, 4.1.1.4).
            if (await _in.ReadLineAsync(stop) is not { } line)
            {
                return false;
            }

            if (line == ".")
            {
                break;
            }

            data.Append(line.StartsWith('.') ? line[1..] : line).Append("\r\n");
        }

        if (mailbox.Dial.Fails())
        {
            await SayAsync("451 The dial is set to errors", stop);
            return true;
        }

        var number = mailbox.Take(_from, _to, Encoding.Latin1.GetBytes(data.ToString()));
        await Task.Delay(mailbox.Dial.Now.SlowMs, stop);
        if (mailbox.Dial.Loses())
        {
            return false;
        }

        await SayAsync($"250 Taken as {number}", stop);
        if (mailbox.Dial.Returns())
        {
            mailbox.Return(_from, _to);
        }

        return true;
    }

    private static string AddressIn(string line)
    {
        var (open, close) = (line.IndexOf('<', StringComparison.Ordinal), line.IndexOf('>', StringComparison.Ordinal));
        return open >= 0 && close > open ? line[(open + 1)..close] : "";
    }

    private async Task SayAsync(string reply, CancellationToken stop)
    {
        await _stream.WriteAsync(Encoding.ASCII.GetBytes(reply + "\r\n"), stop);
        await _stream.FlushAsync(stop);
    }
}
