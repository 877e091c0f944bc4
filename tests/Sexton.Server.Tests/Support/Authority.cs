using System.Net;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;

namespace Sexton.Server.Tests.Support;

/// <summary>An authority made up for a test, which signs certificates for servers on this machine.</summary>
internal sealed class Authority : IDisposable
{
    private readonly DirectoryInfo _folder = Directory.CreateTempSubdirectory("sexton-authority-");
    private readonly ECDsa _key = ECDsa.Create(ECCurve.NamedCurves.nistP256);

    public Authority()
    {
        var request = new CertificateRequest("CN=Made up for a test", _key, HashAlgorithmName.SHA256);
        request.CertificateExtensions.Add(new X509BasicConstraintsExtension(true, false, 0, true));
        request.CertificateExtensions.Add(new X509KeyUsageExtension(X509KeyUsageFlags.KeyCertSign, true));
        Certificate = request.CreateSelfSigned(DateTimeOffset.UtcNow.AddHours(-1), DateTimeOffset.UtcNow.AddHours(2));
        File = Path.Combine(_folder.FullName, "authority.pem");
        System.IO.File.WriteAllText(File, Certificate.ExportCertificatePem());
    }

    /// <summary>Its own certificate.</summary>
    public X509Certificate2 Certificate { get; }

    /// <summary>The file of its own certificate (PEM).</summary>
    public string File { get; }

    /// <summary>The file of a certificate and its key (PKCS #12) for a server that is reached under an address.</summary>
    public string CertificateFor(string address)
    {
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        var request = new CertificateRequest("CN=A server", key, HashAlgorithmName.SHA256);
        var names = new SubjectAlternativeNameBuilder();
        names.AddIpAddress(IPAddress.Parse(address));
        request.CertificateExtensions.Add(names.Build());
        using var signed = request
            .Create(
                Certificate,
                DateTimeOffset.UtcNow.AddMinutes(-30),
                DateTimeOffset.UtcNow.AddHours(1),
                RandomNumberGenerator.GetBytes(8)
            )
            .CopyWithPrivateKey(key);
        var file = Path.Combine(_folder.FullName, Guid.NewGuid() + ".p12");
        System.IO.File.WriteAllBytes(file, signed.Export(X509ContentType.Pkcs12));
        return file;
    }

    public void Dispose()
    {
        Certificate.Dispose();
        _key.Dispose();
        _folder.Delete(recursive: true);
    }
}
