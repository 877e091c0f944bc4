using System.Security.Cryptography;
using System.Text.Json.Nodes;
using Sexton.StandIns.Common;

namespace Sexton.StandIns.BackOffice;

/// <summary>Where the back office keeps attached files, each under the SHA-256 of its bytes.</summary>
/// <param name="folder">The folder.</param>
internal sealed class FileCabinet(string folder) : IDisposable
{
    private readonly HttpClient _http = new() { Timeout = TimeSpan.FromSeconds(30) };

    /// <summary>
    /// Fetches a file by its link, and puts its own reckoning of size and hash in the place of what it was told. With the dial at "silently
    /// shortens" only the beginning is kept.
    /// </summary>
    /// <returns>Null, or why it could not be fetched.</returns>
    public async Task<string?> FetchAsync(JsonObject file, Dial dial)
    {
        byte[] bytes;
        try
        {
            bytes = await _http.GetByteArrayAsync(new Uri(file["link"]!.GetValue<string>()));
        }
        catch (Exception e) when (e is HttpRequestException or TaskCanceledException or UriFormatException)
        {
            return $"“{file["name"]}” could not be fetched: {e.Message}";
        }

        if (dial.Now.ShortensTo > 0 && bytes.Length > dial.Now.ShortensTo)
        {
            bytes = bytes[..dial.Now.ShortensTo];
        }

        var hash = Convert.ToHexStringLower(SHA256.HashData(bytes));
        Directory.CreateDirectory(folder);
        await File.WriteAllBytesAsync(Path.Combine(folder, hash), bytes);
        (file["size"], file["sha256"]) = (bytes.Length, hash);
        file.Remove("link");
        return null;
    }

    /// <summary>The path of a file, or null when none is kept under a hash.</summary>
    public string? Find(string sha256) =>
        sha256.Length == 64 && sha256.All(char.IsAsciiHexDigitLower) && File.Exists(Path.Combine(folder, sha256))
            ? Path.Combine(folder, sha256)
            : null;

    /// <inheritdoc/>
    public void Dispose() => _http.Dispose();
}
