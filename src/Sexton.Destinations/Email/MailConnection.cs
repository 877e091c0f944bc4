using System.Net.Security;
using System.Security.Cryptography.X509Certificates;
using MailKit.Net.Smtp;
using MailKit.Security;

namespace Sexton.Destinations.Email;

/// <summary>How a connection to the mail server is kept from being read.</summary>
public enum MailSecurity
{
    /// <summary>Not at all: for a server on this machine.</summary>
    None,

    /// <summary>By TLS from the first byte (RFC 8314, section 3.3).</summary>
    Tls,

    /// <summary>By TLS after STARTTLS (RFC 3207); nothing is sent where the server does not offer it.</summary>
    StartTls,
}

/// <summary>Where e-mail is handed over.</summary>
/// <param name="Host">The SMTP server.</param>
/// <param name="Port">Its port.</param>
/// <param name="TimeOut">How long one command may take.</param>
public sealed record MailConnection(string Host, int Port, TimeSpan TimeOut)
{
    /// <summary>How it is kept from being read.</summary>
    public MailSecurity Security { get; init; }

    /// <summary>Who signs in (RFC 4954); "" for nobody.</summary>
    public string User { get; init; } = "";

    /// <summary>The password. It is sent over a connection that nobody can read, and over no other.</summary>
    public string Password { get; init; } = "";

    /// <summary>The certificates that may have signed the server's, where it is not signed by an authority that this machine trusts; null for those.</summary>
    public X509Certificate2Collection? Authorities { get; init; }

    /// <summary>Connects and signs in.</summary>
    /// <param name="client">A client that is not connected.</param>
    /// <param name="cancel">Cancels.</param>
    /// <exception cref="SslHandshakeException">The server shows no certificate that is trusted.</exception>
    /// <exception cref="AuthenticationException">The server does not take user and password.</exception>
    /// <exception cref="NotSupportedException">The server offers no TLS, or there would be a password on a connection that can be read.</exception>
    public async Task OpenAsync(SmtpClient client, CancellationToken cancel)
    {
        if (User.Length > 0 && Security == MailSecurity.None)
        {
            throw new NotSupportedException("a password is sent over TLS only. Set the security of the connection to Tls or StartTls.");
        }

        if (Authorities is not null)
        {
            client.ServerCertificateValidationCallback = (_, certificate, _, errors) => IsTrusted(certificate, errors);
        }

        var security = Security switch
        {
            MailSecurity.Tls => SecureSocketOptions.SslOnConnect,
            MailSecurity.StartTls => SecureSocketOptions.StartTls,
            _ => SecureSocketOptions.None,
        };
        await client.ConnectAsync(Host, Port, security, cancel);
        if (User.Length > 0)
        {
            await client.AuthenticateAsync(User, Password, cancel);
        }
    }

    // The name must fit, and the chain must end at one of the authorities that were named.
    private bool IsTrusted(X509Certificate? certificate, SslPolicyErrors errors)
    {
        if (certificate is null || errors.HasFlag(SslPolicyErrors.RemoteCertificateNameMismatch))
        {
            return false;
        }

        using var chain = new X509Chain();
        chain.ChainPolicy.TrustMode = X509ChainTrustMode.CustomRootTrust;
        chain.ChainPolicy.CustomTrustStore.AddRange(Authorities!);
        chain.ChainPolicy.RevocationMode = X509RevocationMode.NoCheck;
        using var shown = new X509Certificate2(certificate);
        return chain.Build(shown);
    }
}
