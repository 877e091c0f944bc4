using System.Security.Cryptography;

namespace Sexton.Data.Sealing;

/// <summary>
/// Makes the keys of orders, carts and files, and wraps them by a key from the environment. A copy of the database alone opens nothing, and what a destroyed
/// key sealed is gone.
/// </summary>
public sealed class KeyVault
{
    private const string Purpose = "sexton data key 1";

    private readonly DataKey _wrapping;
    private readonly DataKey? _before;

    /// <summary>Makes it.</summary>
    /// <param name="key">The key from the environment; 32 bytes.</param>
    /// <param name="before">The one before it, while keys that it wrapped are wrapped anew; null for none.</param>
    public KeyVault(byte[] key, byte[]? before = null) => (_wrapping, _before) = (Derived(key), before is null ? null : Derived(before));

    /// <summary>A new key, and its wrapped form.</summary>
    public (DataKey Key, byte[] Wrapped) Make()
    {
        var bytes = RandomNumberGenerator.GetBytes(DataKey.Size);
        return (new DataKey(bytes), Wrap(bytes, Purpose));
    }

    /// <summary>Opens a wrapped key.</summary>
    /// <exception cref="CryptographicException">It was wrapped by a key that is not known here.</exception>
    public DataKey Open(byte[] wrapped) => new(Unwrap(wrapped, Purpose));

    /// <summary>The same key wrapped by the key that is in force now.</summary>
    public byte[] Rewrap(byte[] wrapped) => Wrap(Unwrap(wrapped, Purpose), Purpose);

    /// <summary>Wraps the bytes of any other key.</summary>
    /// <param name="bytes">The bytes.</param>
    /// <param name="purpose">What the key is for.</param>
    public byte[] Wrap(byte[] bytes, string purpose) => _wrapping.Seal(bytes, purpose);

    /// <summary>Unwraps what was wrapped by the key in force or by the one before it.</summary>
    /// <exception cref="CryptographicException">It was wrapped by a key that is not known here.</exception>
    public byte[] Unwrap(byte[] wrapped, string purpose)
    {
        try
        {
            return _wrapping.Open(wrapped, purpose);
        }
        catch (CryptographicException) when (_before is not null)
        {
            return _before.Open(wrapped, purpose);
        }
    }

    private static DataKey Derived(byte[] key) =>
        new(HKDF.DeriveKey(HashAlgorithmName.SHA256, key, DataKey.Size, info: "sexton data keys 1"u8.ToArray()));
}
