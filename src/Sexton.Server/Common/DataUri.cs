namespace Sexton.Server.Common;

/// <summary>Data within an address (RFC 2397).</summary>
internal static class DataUri
{
    /// <summary>Bytes as such an address.</summary>
    public static string Of(string mediaType, byte[] bytes) => $"data:{mediaType};base64,{Convert.ToBase64String(bytes)}";
}
