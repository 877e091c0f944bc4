namespace Sexton.Server.Files;

/// <summary>SHA-256 hashes as answers and addresses write them: 64 lower-case hexadecimal digits.</summary>
internal static class HashText
{
    /// <summary>The text of a hash.</summary>
    public static string Of(byte[] sha256) => Convert.ToHexStringLower(sha256);

    /// <summary>The bytes of a text; none for what is no hash, which no file has.</summary>
    public static byte[] Bytes(string text) => text.Length == 64 && text.All(char.IsAsciiHexDigitLower) ? Convert.FromHexString(text) : [];
}
