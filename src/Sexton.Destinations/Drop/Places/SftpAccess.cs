namespace Sexton.Destinations.Drop.Places;

/// <summary>How an SFTP server is reached.</summary>
/// <param name="Host">Its name or address, already found to be one that may be reached.</param>
/// <param name="Port">Its port.</param>
/// <param name="User">Who signs in there.</param>
/// <param name="Folder">The folder there to begin in, as the server takes it; "" for that of the user.</param>
/// <param name="Secrets">Passwords or private keys (PEM), the newest first; the ones after it are tried where it is refused.</param>
/// <param name="HostKey">The fingerprint of its host key, as SHA-256 in base 64; null to trust none.</param>
public sealed record SftpAccess(string Host, int Port, string User, string Folder, IReadOnlyList<string> Secrets, string? HostKey);
