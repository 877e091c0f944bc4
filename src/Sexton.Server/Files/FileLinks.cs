using Sexton.Server.Common;

namespace Sexton.Server.Files;

/// <summary>
/// Signed links to one file of an order, for a system that is not a person and cannot sign in: the order and the SHA-256 of the file. Such a link
/// opens this file and nothing else, until it runs out.
/// </summary>
internal sealed class FileLinks(SextonOptions options, TimeProvider clock)
{
    private readonly TextSigner _signer = new(options, clock, "sexton file link 1");

    /// <summary>The address of a file of an order.</summary>
    public string LinkTo(Guid order, string sha256) =>
        new Uri(options.PublicUrl, "/api/shop/v1/files/for/" + _signer.SignFor(options.FileLinkDays, $"{order:N}.{sha256}")).ToString();

    /// <summary>The order and hash of a token, or null when it was not signed here.</summary>
    public (Guid Order, string Sha256)? Read(string token) =>
        _signer.Read(token)?.Split('.') is [var id, var sha256] && Guid.TryParseExact(id, "N", out var order) ? (order, sha256) : null;
}
