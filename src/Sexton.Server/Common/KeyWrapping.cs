using System.Text;
using System.Xml.Linq;
using Microsoft.AspNetCore.DataProtection.XmlEncryption;
using Microsoft.EntityFrameworkCore;
using Sexton.Data;
using Sexton.Data.Sealing;

namespace Sexton.Server.Common;

/// <summary>Wraps the keys of sessions and forms that lie in the database, so that a copy of the database alone opens nothing.</summary>
/// <param name="vault">Gives the vault; asked only when a key is wrapped, since describing the API needs none.</param>
internal sealed class KeyWrapper(Func<KeyVault> vault) : IXmlEncryptor
{
    internal const string Purpose = "sexton key ring 1";

    private const string Element = "wrapped";

    /// <inheritdoc/>
    public EncryptedXmlInfo Encrypt(XElement plaintextElement) =>
        new(
            new XElement(Element, Wrap(vault(), Encoding.UTF8.GetBytes(plaintextElement.ToString(SaveOptions.DisableFormatting)))),
            typeof(KeyUnwrapper)
        );

    /// <summary>Wraps the keys that are there by the key that is in force now.</summary>
    public static async Task RewrapAsync(SextonDb db, KeyVault vault, CancellationToken cancel)
    {
        foreach (var row in await db.DataProtectionKeys.ToListAsync(cancel))
        {
            var xml = XElement.Parse(row.Xml!);
            foreach (var wrapped in xml.Descendants(Element).ToList())
            {
                wrapped.Value = Wrap(vault, vault.Unwrap(Convert.FromBase64String(wrapped.Value), Purpose));
            }

            row.Xml = xml.ToString(SaveOptions.DisableFormatting);
        }

        await db.SaveChangesAsync(cancel);
    }

    private static string Wrap(KeyVault vault, byte[] bytes) => Convert.ToBase64String(vault.Wrap(bytes, Purpose));
}

/// <summary>Opens what <see cref="KeyWrapper"/> wrapped.</summary>
internal sealed class KeyUnwrapper(IServiceProvider services) : IXmlDecryptor
{
    /// <inheritdoc/>
    public XElement Decrypt(XElement encryptedElement) =>
        XElement.Parse(
            Encoding.UTF8.GetString(
                services.GetRequiredService<KeyVault>().Unwrap(Convert.FromBase64String(encryptedElement.Value), KeyWrapper.Purpose)
            )
        );
}
