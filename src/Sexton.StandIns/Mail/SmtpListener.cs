using System.Net;
using System.Net.Sockets;
using System.Security.Authentication;

namespace Sexton.StandIns.Mail;

/// <summary>A small SMTP server, one session for each connection.</summary>
public sealed class SmtpListener(Mailbox mailbox, ILogger<SmtpListener> log, IConfiguration configuration) : BackgroundService
{
    private readonly SmtpAccess _access = SmtpAccess.Of(configuration);
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
        try
        {
            while (!stoppingToken.IsCancellationRequested)
            {
                var client = await _listener.AcceptTcpClientAsync(stoppingToken);
                _ = ServeAsync(client, stoppingToken);
            }
        }
        catch (OperationCanceledException)
        {
            // It is told to stop, which is no failure.
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
                await using var session = new SmtpSession(mailbox, _access, client.GetStream());
                await session.RunAsync(stop);
            }
        }
        catch (Exception e) when (e is IOException or SocketException or AuthenticationException or OperationCanceledException)
        {
            log.LogDebug(e, "An SMTP session ended early.");
        }
    }
}
