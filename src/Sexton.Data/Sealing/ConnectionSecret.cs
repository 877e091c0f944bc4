using System.Diagnostics.CodeAnalysis;
using System.Text;

namespace Sexton.Data.Sealing;

/// <summary>The secrets of connections, wrapped by the key of the installation: a copy of the database alone opens none.</summary>
public static class ConnectionSecret
{
    private const string Purpose = "sexton connection 1";

    /// <summary>Wraps a secret.</summary>
    public static byte[] Wrap(string secret, KeyVault vault) => vault.Wrap(Encoding.UTF8.GetBytes(secret), Purpose);

    /// <summary>Opens a secret.</summary>
    public static string Open(byte[] wrapped, KeyVault vault) => Encoding.UTF8.GetString(vault.Unwrap(wrapped, Purpose));

    /// <summary>Wraps a secret by the key that is in force now; null for none.</summary>
    [return: NotNullIfNotNull(nameof(wrapped))]
    public static byte[]? Rewrap(byte[]? wrapped, KeyVault vault) =>
        wrapped is null ? null : vault.Wrap(vault.Unwrap(wrapped, Purpose), Purpose);
}
