using System.Net;
using System.Net.Sockets;
using System.Text;

namespace Sexton.StandIns.Mail;

/// <summary>
/// A small SMTP server (RFC 5321): EHLO, MAIL, RCPT, DATA with transparency (4.5.2), RSET, NOOP, QUIT. One recipient or many, no relaying.
/// </summary>
public sealed class SmtpListener(Mailbox mailbox, ILogger<SmtpListener> log, IConfiguration configuration) : BackgroundService
{
    private readonly TcpListener _listener = new(IPAddress.Loopback, configuration.GetValue("SmtpPort", 5082));

    /// <inheritdoc/>
    public override Task StartAsync(CancellationToken cancellationToken)
    {
        _listener.Start();
        return base.StartAsync(cancellationToken);
    }

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            var client = await _listener.AcceptTcpClientAsync(stoppingToken);
            _ = ServeAsync(client, stoppingToken);
        }
    }

    private async Task ServeAsync(TcpClient client, CancellationToken stop)
    {
        using var owned = client;
        try
        {
            if (!mailbox.Dial.Now.Down)
            {
                client.NoDelay = true;
                await using var stream = client.GetStream();
                await new Session(mailbox, stream).RunAsync(stop);
            }
        }
        catch (Exception e) when (e is IOException or SocketException or OperationCanceledException)
        {
            log.LogDebug(e, "An SMTP session ended early.");
        }
    }

    private sealed class Session(Mailbox mailbox, Stream stream)
    {
        // Latin-1 keeps every octet as it is: a message is bytes, not text.
        private readonly StreamReader _in = new(stream, Encoding.Latin1);
        private string? _from;
        private readonly List<string> _to = [];

        public async Task RunAsync(CancellationToken stop)
        {
            await SayAsync("220 standin.example ready", stop);
            while (await _in.ReadLineAsync(stop) is { } line)
            {
                var verb = line.Split(' ', 2)[0].ToUpperInvariant();
                switch (verb)
                {
                    case "EHLO":
                        await SayAsync("250-standin.example\r\n250-SIZE 10485760\r\n250 8BITMIME", stop);
                        break;
                    case "HELO" or "NOOP":
                        await SayAsync("250 OK", stop);
                        break;
                    case "RSET":
                        (_from, _) = (null, 0);
                        _to.Clear();
                        await SayAsync("250 OK", stop);
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

        private async Task RecipientAsync(string line, CancellationToken stop)
        {
            var address = AddressIn(line);
            // A mailbox that never exists, for trying out refusals (the domain is reserved by RFC 2606).
            if (address.StartsWith("nobody@", StringComparison.OrdinalIgnoreCase))
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
            return true;
        }

        private static string AddressIn(string line)
        {
            var (open, close) = (line.IndexOf('<', StringComparison.Ordinal), line.IndexOf('>', StringComparison.Ordinal));
            return open >= 0 && close > open ? line[(open + 1)..close] : "";
        }

        private async Task SayAsync(string reply, CancellationToken stop)
        {
            await stream.WriteAsync(Encoding.ASCII.GetBytes(reply + "\r\n"), stop);
            await stream.FlushAsync(stop);
        }
    }
}
