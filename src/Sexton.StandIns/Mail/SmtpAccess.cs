using System.Security.Cryptography.X509Certificates;
using System.Text;

namespace Sexton.StandIns.Mail;

/// <summary>What the mail server demands of a connection before it takes a message.</summary>
internal enum SmtpSecurity
{
    /// <summary>Nothing.</summary>
    None,

    /// <summary>TLS from the first byte.</summary>
    Tls,

    /// <summary>STARTTLS.</summary>
    StartTls,
}

/// <summary>Who may hand messages over, and how.</summary>
/// <param name="Security">How the connection must be kept from being read.</param>
/// <param name="Certificate">What the server shows of itself; null without TLS.</param>
/// <param name="User">Who must sign in; "" for nobody.</param>
/// <param name="Password">With which password.</param>
internal sealed record SmtpAccess(SmtpSecurity Security, X509Certificate2? Certificate, string User, string Password)
{
    /// <summary>As configured: "SmtpSecurity", "SmtpCertificate" (a file with certificate and key, PKCS #12), "SmtpUser", "SmtpPassword".</summary>
    public static SmtpAccess Of(IConfiguration configuration) =>
        new(
            configuration.GetValue("SmtpSecurity", SmtpSecurity.None),
            configuration["SmtpCertificate"] is { } file ? X509CertificateLoader.LoadPkcs12FromFile(file, null) : null,
            configuration["SmtpUser"] ?? "",
            configuration["SmtpPassword"] ?? ""
        );

    /// <summary>Whether a line "AUTH PLAIN ..." (RFC 4616) has user and password.</summary>
    public bool Knows(string line) =>
        line.Split(' ') is [_, var mechanism, var sent]
        && mechanism.Equals("PLAIN", StringComparison.OrdinalIgnoreCase)
        && sent == Convert.ToBase64String(Encoding.UTF8.GetBytes($"\0{User}\0{Password}"));
}
